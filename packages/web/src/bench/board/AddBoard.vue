<script setup lang="ts">
import { NButton, NInput } from 'naive-ui'
import { kindById } from '@fogbath/core/baths'
import { otherFootage, type Line } from '@fogbath/core/line'
import { useEventListener } from '@vueuse/core'
import { computed, inject, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { encodingOfRow } from '../../api/encodings'
import { useBenchStore } from '../../stores/bench'
import { useShelfStore } from '../../stores/shelf'
import { addedTo } from '../../stores/bench/edits'
import type { Wanted } from '../../workers/protocol'
import { SIDE } from '../drawn/useIncoming'
import BoardTile from './BoardTile.vue'
import { findEntries, groupEntries, inPlaceOf, keyOfEntry, processOf, type Entry } from './entries'
import { SmallPictures } from '../../components/pictures'

/**
 * Everything that can be added, as small live pictures of the current frame, beside the big picture, which shows what is pointed at.
 * It is there only while one adds.
 */
const emit = defineEmits<{ close: [] }>()
const side = inject(SIDE)!
const bench = useBenchStore()
const shelf = useShelfStore()
const search = ref('')
const pointed = shallowRef<Entry | null>(null)
const root = ref<HTMLElement | null>(null)
const pictures = new SmallPictures(() => side)

const found = computed(() => findEntries(search.value, shelf.there, shelf.favourites))
const parts = computed(() => groupEntries(found.value))
const shown = computed(() => parts.value.flatMap((part) => part.groups.flatMap((g) => g.list)))
/** What Enter takes: the hit that stands on top. */
const first = computed(() => (search.value.trim() ? shown.value[0] : undefined))

/** What the tiles show, each made once for a line and a frame. */
const wanted = computed(() => {
  const { order: now, line, chosen } = bench
  if (!now) return new Map<string, Wanted>()
  const small = (e: Entry): Wanted => ({
    ...now,
    width: 192,
    order: { ...now.order, ...e.show(line, chosen ?? undefined) },
  })
  return new Map(shown.value.map((e) => [keyOfEntry(e), small(e)]))
})

function point(entry: Entry): void {
  pointed.value = entry
  bench.preview = entry.show(bench.line, bench.chosen ?? undefined)
}
/** A recipe that was made on other footage. */
const warning = computed(() => {
  const { shot } = bench
  return pointed.value && shot && otherFootage(pointed.value, encodingOfRow(shot.encoding).refers)
})
/** While one types, the first hit is what is seen. */
watch(first, (entry) => entry && point(entry))

/** A process that is to be added to a line that has one already: it is asked how. */
const asked = shallowRef<Entry | null>(null)
const process = computed(() => processOf(bench.line, bench.chosen))
const processName = computed(() => process.value && (process.value.name || kindById(process.value.kind).label))

function take(entry: Entry): void {
  const prints = entry.type === 'bath' && kindById(entry.id).stretch === 'process'
  if (prints && process.value) asked.value = entry
  else put(entry, entry.make(bench.line, bench.chosen ?? undefined))
}
watch(asked, async (now) => {
  await nextTick()
  if (now) root.value?.querySelector<HTMLElement>('.answers button')?.focus()
  else focusSearch()
})
function put(entry: Entry, made: Line): void {
  const before = bench.line
  bench.preview = null
  bench.changeLine(made)
  bench.chosen = (entry.type === 'bath' ? addedTo(before, made) : made.recipe.baths[0]?.id) ?? null
  emit('close')
}

function paste(): void {
  bench.paste()
  emit('close')
}

/** Arrows go from tile to tile as they lie; from the search, down goes to the first. */
function move(e: KeyboardEvent): void {
  if (!['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'].includes(e.key)) return
  const tiles = [...root.value!.querySelectorAll<HTMLElement>('.entry')]
  const at = tiles.indexOf(document.activeElement as HTMLElement)
  if (at < 0 && e.key !== 'ArrowDown') return
  e.preventDefault()
  const next = at < 0 ? tiles[0] : neighbour(tiles, at, e.key)
  if (next) next.focus()
  else if (e.key === 'ArrowUp') focusSearch()
}

function neighbour(tiles: readonly HTMLElement[], at: number, key: string): HTMLElement | undefined {
  if (key === 'ArrowLeft') return tiles[at - 1] ?? tiles[at]
  if (key === 'ArrowRight') return tiles[at + 1] ?? tiles[at]
  const own = tiles[at]!.getBoundingClientRect()
  const down = key === 'ArrowDown'
  const beyond = tiles.filter((t) => {
    const { top } = t.getBoundingClientRect()
    return down ? top > own.top + own.height / 2 : top < own.top - own.height / 2
  })
  const far = (t: HTMLElement): number => {
    const box = t.getBoundingClientRect()
    return Math.abs(box.top - own.top) * 10 + Math.abs(box.left - own.left)
  }
  return beyond.sort((a, b) => far(a) - far(b))[0]
}

const focusSearch = (): void => root.value?.querySelector<HTMLInputElement>('.palette-search input')?.focus()
onMounted(async () => {
  await nextTick()
  focusSearch()
})
useEventListener(document, 'keydown', (e) => {
  if (e.key !== 'Escape') return
  e.stopPropagation()
  emit('close')
})
onBeforeUnmount(() => {
  bench.preview = null
  pictures.end()
})
</script>

<template>
  <section ref="root" class="board" role="dialog" aria-label="Add to the line" @keydown="move">
    <header>
      <h2>Add to the line</h2>
      <button class="word" type="button" title="Close (Esc)" @click="emit('close')">close</button>
    </header>
    <NInput
      v-model:value="search"
      class="palette-search"
      placeholder="Search: silver, warm, lift, sharpen ..."
      clearable
      :input-props="{ 'aria-label': 'Search; Enter adds the first hit, arrows go through the pictures' }"
      @keydown.enter.prevent="first && take(first)"
    />
    <p class="told" aria-live="polite">
      <template v-if="asked">
        The look has a process: {{ processName }}. {{ asked.label }} goes
        <span class="answers">
          <NButton size="small" type="primary" @click="put(asked, inPlaceOf(bench.line, process!, asked.id))"
            >in its place</NButton
          >
          <NButton size="small" @click="put(asked, asked.make(bench.line, bench.chosen ?? undefined))"
            >after it, as a second print</NButton
          >
          <button class="word" type="button" @click="asked = null">not now</button>
        </span>
      </template>
      <template v-else-if="pointed">
        <b>{{ pointed.label }}.</b> {{ pointed.summary }}
        <span v-if="pointed.sampled" class="quiet">Shown with settings of an example; it is added neutral.</span>
        <span v-else-if="warning" class="warn">{{ warning }}</span>
        <span v-else-if="pointed.type === 'recipe'" class="quiet">Replaces the line; undo brings it back.</span>
      </template>
      <span v-else class="quiet">Point at a picture: the big one shows it at once.</span>
    </p>
    <div class="list">
      <button v-if="bench.clipboard.length" class="word" type="button" @click="paste">
        Paste {{ bench.clipboard.length === 1 ? 'the copied bath' : `${bench.clipboard.length} copied baths` }}
      </button>
      <section v-for="part in parts" :key="part.title" :aria-label="part.title">
        <h3 class="part">{{ part.title }} <span class="quiet">{{ part.note }}</span></h3>
        <section v-for="g in part.groups" :key="g.family" :aria-label="g.family || part.title">
          <h4 v-if="g.family">{{ g.family }}</h4>
          <div class="tiles">
            <BoardTile
              v-for="e in g.list"
              :key="keyOfEntry(e)"
              :entry="e"
              :wanted="wanted.get(keyOfEntry(e)) ?? null"
              :pictures="pictures"
              :first="e === first"
              :current="e === (pointed ?? shown[0])"
              @point="point(e)"
              @take="take(e)"
            />
          </div>
        </section>
      </section>
      <p v-if="shown.length === 0" class="quiet">Nothing of that name. Try a word such as silver, tone or faded.</p>
    </div>
  </section>
</template>

<style scoped>
.board {
  display: flex;
  flex-direction: column;
  height: 100%;
  min-height: 0;
  padding: 10px 14px 0;
}
header {
  align-items: center;
  display: flex;
  justify-content: space-between;
  margin-bottom: 6px;
}
.told {
  height: 66px;
  margin: 6px 0;
  overflow: hidden;
}
.list {
  flex: 1;
  margin: 0 -6px;
  overflow-y: auto;
  padding: 0 6px 20px;
}
.part {
  font-size: 14px;
  margin: 14px 0 0;
}
.part span {
  font-weight: 400;
}
.answers {
  display: flex;
  gap: 10px;
  padding-top: 6px;
}
h4 {
  color: var(--quiet);
  font-size: 13px;
  font-weight: 400;
  margin: 10px 0 3px;
}
.tiles {
  align-items: start;
  display: grid;
  gap: 6px 4px;
  grid-template-columns: repeat(auto-fill, minmax(118px, 1fr));
}
</style>
