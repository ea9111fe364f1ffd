<script setup lang="ts">
import { NInput } from 'naive-ui'
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useBenchStore } from '../../stores/bench'
import { useShelfStore } from '../../stores/shelf'
import type { Engine } from '../../workers/engine'
import type { Wanted } from '../../workers/side'
import { sourceOf } from '../source'
import BoardTile from './BoardTile.vue'
import { findEntries, groupEntries, keyOfEntry, type Entry } from './entries'
import { SmallPictures } from '../../components/pictures'

/**
 * Everything that can be added, as small live pictures of the current frame, beside the big picture, which shows what is pointed at.
 * It is there only while one adds.
 */
const props = defineProps<{ side: Engine }>()
const emit = defineEmits<{ close: [] }>()
const bench = useBenchStore()
const shelf = useShelfStore()
const search = ref('')
const pointed = shallowRef<Entry | null>(null)
const root = ref<HTMLElement | null>(null)
const pictures = new SmallPictures(() => props.side)

const groups = computed(() => groupEntries(findEntries(search.value, shelf.there, shelf.favourites)))
const shown = computed(() => groups.value.flatMap((g) => g.list))
/** What Enter takes: the hit that stands on top. */
const first = computed(() => (search.value.trim() ? shown.value[0] : undefined))

/** What the tiles show, each made once for a line and a frame. */
const wanted = computed(() => {
  const { shot, recipe, chosen, frame } = bench
  if (!shot) return new Map<string, Wanted>()
  const rest = { source: sourceOf(shot), frame, width: 192, trims: shot.trims }
  return new Map(shown.value.map((e) => [keyOfEntry(e), { ...rest, recipe: e.show(recipe, chosen ?? undefined) }]))
})

function point(entry: Entry): void {
  pointed.value = entry
  bench.preview = entry.show(bench.recipe, bench.chosen ?? undefined)
}
/** While one types, the first hit is what is seen. */
watch(first, (entry) => entry && point(entry))

function take(entry: Entry): void {
  const before = new Set(bench.recipe.baths.map((b) => b.id))
  bench.preview = null
  const made = entry.make(bench.recipe, bench.chosen ?? undefined)
  bench.change(made)
  bench.chosen = (entry.type === 'bath' ? made.baths.find((b) => !before.has(b.id)) : made.baths[0])?.id ?? null
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
      placeholder="Search: silver, warm, curves ..."
      clearable
      :input-props="{ 'aria-label': 'Search; Enter adds the first hit, arrows go through the pictures' }"
      @keydown.enter.prevent="first && take(first)"
    />
    <p class="told" aria-live="polite">
      <template v-if="pointed">
        <b>{{ pointed.label }}.</b> {{ pointed.summary }}
        <span v-if="pointed.sampled" class="quiet">Shown with settings of an example; it is added neutral.</span>
        <span v-else-if="pointed.type === 'recipe'" class="quiet">Replaces the line; undo brings it back.</span>
      </template>
      <span v-else class="quiet">Point at a picture: the big one shows it at once.</span>
    </p>
    <div class="list">
      <button v-if="bench.clipboard.length" class="word" type="button" @click="paste">
        Paste {{ bench.clipboard.length === 1 ? 'the copied bath' : `${bench.clipboard.length} copied baths` }}
      </button>
      <section v-for="g in groups" :key="g.family" :aria-label="g.family">
        <h3>{{ g.family }}</h3>
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
h3 {
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
