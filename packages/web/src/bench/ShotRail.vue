<script setup lang="ts">
import equal from 'fast-deep-equal'
import { NButton, useMessage } from 'naive-ui'
import { storeToRefs } from 'pinia'
import { computed, inject, onBeforeUnmount, ref, shallowReactive, watch } from 'vue'
import { useRouter } from 'vue-router'
import type { Shot } from '@fogbath/contract'
import { useBenchStore } from '../stores/bench'
import type { Wanted } from '../workers/protocol'
import HelpButton from '../components/HelpButton.vue'
import PrepareShots from './PrepareShots.vue'
import { SIDE } from './drawn/useIncoming'
import { frameOrder } from '../workers/order'
import { useShotSigns } from './useShotSigns'
import { wordsOf } from '../stores/errors'

/** The production's shots as treated pictures; several can be chosen and given the line. */
const emit = defineEmits<{ match: [shotId: number] }>()
const side = inject(SIDE)!
const bench = useBenchStore()
const router = useRouter()
const message = useMessage()
const { markedShots: marked } = storeToRefs(bench)
const pictures = shallowReactive(new Map<number, { wanted: Wanted; url: string }>())
let ended = false

const { trialOf, signs } = useShotSigns()

/** The telling frame of each shot through what it carries. A shot that is as it was keeps its picture. */
const wanted = computed<ReadonlyMap<number, Wanted>>(
  (before) =>
    new Map(
      bench.shots.map((s) => {
        const [now, old] = [{ ...frameOrder(s, trialOf(s)), width: 192 }, before?.get(s.id)]
        return [s.id, old && equal(now, old) ? old : now]
      }),
    ),
)

async function drawOne(id: number, of: Wanted): Promise<void> {
  if (pictures.get(id)?.wanted === of) return
  const bitmap = await side.thumbnail(of)
  const canvas = document.createElement('canvas')
  ;[canvas.width, canvas.height] = [bitmap.width, bitmap.height]
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0)
  pictures.set(id, { wanted: of, url: canvas.toDataURL('image/png') })
}

async function drawAll(): Promise<void> {
  for (const [id, of] of wanted.value) if (!ended) await drawOne(id, of).catch(() => undefined)
}
let timer: ReturnType<typeof setTimeout> | undefined
watch(
  wanted,
  () => {
    clearTimeout(timer)
    timer = setTimeout(() => void drawAll(), 500)
  },
  { immediate: true },
)
onBeforeUnmount(() => {
  ended = true
  clearTimeout(timer)
})

function choose(s: Shot, e: MouseEvent): void {
  if (e.ctrlKey || e.metaKey) {
    marked.value = marked.value.includes(s.id) ? marked.value.filter((id) => id !== s.id) : [...marked.value, s.id]
    return
  }
  if (e.shiftKey) {
    const ids = bench.shots.map((x) => x.id)
    const [from, to] = [ids.indexOf(bench.shot!.id), ids.indexOf(s.id)].sort((a, b) => a - b) as [number, number]
    marked.value = ids.slice(from, to + 1)
    return
  }
  marked.value = []
  void router.push(`/bench/${s.id}`)
}

const preparing = ref(false)
const targets = computed(() => bench.shots.filter((s) => marked.value.includes(s.id) && s.id !== bench.shot?.id))

/** Puts the look, or the chosen baths behind what is there, on the marked shots: one step of undo. */
async function put(what: 'look' | 'baths'): Promise<void> {
  const { recipe, baths } = bench
  const count = targets.value.length
  try {
    await (what === 'look' ? bench.putOn(targets.value, () => recipe) : bench.addBaths(targets.value, baths))
    message.success(`Put on ${count} ${count === 1 ? 'shot' : 'shots'}; undo takes it back.`)
  } catch (error) {
    message.error(wordsOf(error))
  }
  marked.value = []
}
</script>

<template>
  <section class="rail" aria-label="Shots">
    <PrepareShots v-model:show="preparing" :shots="targets" @done="marked = []" />
    <div class="shots">
      <button
        v-for="(s, i) in bench.shots"
        :key="s.id"
        type="button"
        class="shot"
        :class="{ marked: marked.includes(s.id) }"
        :aria-current="s.id === bench.shot?.id"
        :title="signs.get(s.id)!.title"
        @click="choose(s, $event)"
      >
        <img v-if="pictures.get(s.id)" :src="pictures.get(s.id)!.url" alt="" />
        <span v-else class="blank" />
        <span class="label"
          ><span class="mono">{{ String(i + 1).padStart(2, '0') }}</span> {{ s.name }}</span
        ><component :is="signs.get(s.id)!.icon" v-if="signs.get(s.id)!.icon" class="sign" aria-hidden="true" />
      </button>
      <button
        class="word"
        type="button"
        title="Mark all shots, to put a line on them; Ctrl and click marks one"
        @click="marked = bench.shots.map((s) => s.id)"
      >
        mark all
      </button>
      <HelpButton page="bench#shots" name="About shots" />
    </div>
    <div v-if="targets.length" class="do">
      <span>{{ targets.length }} marked</span>
      <NButton size="tiny" @click="put('look')">Put this look on them</NButton>
      <NButton v-if="bench.baths.length" size="tiny" @click="put('baths')">{{
        bench.baths.length === 1 ? 'Add the chosen bath' : `Add the ${bench.baths.length} chosen baths`
      }}</NButton>
      <NButton
        size="tiny"
        title="Black and white levels for each, proposed from its own frame"
        @click="preparing = true"
        >Propose their levels</NButton
      >
      <NButton v-if="targets.length === 1" size="tiny" @click="emit('match', targets[0]!.id)">Side by side</NButton>
      <button class="word" type="button" @click="marked = []">mark none</button>
    </div>
  </section>
</template>

<style scoped>
.rail {
  background: var(--ground);
  border-top: 1px solid var(--line);
  display: flex;
  flex: none;
  gap: 12px;
  height: 92px;
  padding: 8px 12px 0;
}
.shots {
  align-items: flex-start;
  display: flex;
  flex: 1;
  gap: 8px;
  min-width: 0;
  overflow: auto hidden;
  scrollbar-width: thin;
}
.shot {
  background: none;
  border: 2px solid transparent;
  color: var(--text);
  cursor: pointer;
  flex: 0 0 auto;
  font: inherit;
  font-size: 13px;
  padding: 0;
  position: relative;
  text-align: left;
  width: 104px;
}
.shot[aria-current='true'] {
  border-color: var(--accent);
}
.shot.marked {
  border-color: var(--text);
  border-style: dashed;
}
img,
.blank {
  background: var(--raised);
  display: block;
  height: 54px;
  object-fit: cover;
  width: 100%;
}
.label {
  display: block;
  line-height: 15px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.sign {
  background: rgb(0 0 0 / 70%);
  color: #ececec;
  height: 16px;
  padding: 2px;
  position: absolute;
  right: 2px;
  top: 2px;
  width: 16px;
}
.do {
  align-content: flex-start;
  align-items: center;
  display: flex;
  flex: 0 1 400px;
  flex-wrap: wrap;
  gap: 4px 8px;
}
</style>
