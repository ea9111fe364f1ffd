<script setup lang="ts">
import { NButton, useMessage } from 'naive-ui'
import { storeToRefs } from 'pinia'
import { computed, onBeforeUnmount, ref, shallowReactive } from 'vue'
import { watchEach } from '../components/watchEach'
import { useRouter } from 'vue-router'
import type { Shot } from '../api/types'
import { useBenchStore } from '../stores/bench'
import type { Engine } from '../workers/engine'
import PrepareShots from './PrepareShots.vue'
import { sourceOf } from './source'
import { useShotSigns } from './useShotSigns'
import { wordsOf } from '../components/complain'

/** The production's shots as treated pictures; several can be chosen and given the line. */
const props = defineProps<{ side: Engine }>()
const emit = defineEmits<{ match: [shotId: number] }>()
const bench = useBenchStore()
const router = useRouter()
const message = useMessage()
const { markedShots: marked } = storeToRefs(bench)
const pictures = shallowReactive(new Map<number, { key: string; url: string }>())
let ended = false

const { trialOf, signs } = useShotSigns()

async function drawOne(s: Shot): Promise<void> {
  const { recipe } = trialOf(s)
  const key = JSON.stringify([recipe.baths, recipe.strength, s.trims, s.still, s.encoding])
  if (pictures.get(s.id)?.key === key) return
  const bitmap = await props.side.thumbnail({ source: sourceOf(s), frame: s.still, width: 192, recipe, trims: s.trims })
  const canvas = document.createElement('canvas')
  ;[canvas.width, canvas.height] = [bitmap.width, bitmap.height]
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0)
  pictures.set(s.id, { key, url: canvas.toDataURL('image/png') })
}

async function drawAll(): Promise<void> {
  for (const s of bench.shots) if (!ended) await drawOne(s).catch(() => undefined)
}
let timer: ReturnType<typeof setTimeout> | undefined
watchEach(
  () => [bench.shots, bench.recipe, bench.shot?.trims],
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

/** Puts the whole line, or the chosen baths behind what is there, on the marked shots: one step of undo. */
async function put(what: 'line' | 'baths'): Promise<void> {
  const { recipe, baths } = bench
  const count = targets.value.length
  try {
    await bench.putOn(targets.value, what === 'line' ? () => recipe : bench.withBaths(baths))
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
    <div v-if="targets.length" class="do">
      <span>{{ targets.length }} marked</span>
      <NButton size="tiny" @click="put('line')">Put this line on them</NButton>
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
    </div>
  </section>
</template>

<style scoped>
.rail {
  background: var(--ground);
  border-top: 1px solid var(--line);
  flex: none;
  min-height: 88px;
  overflow: auto hidden;
  padding: 8px 12px 4px;
  position: relative;
}
.shots {
  align-items: flex-start;
  display: flex;
  gap: 8px;
}
.shot {
  background: none;
  border: 2px solid transparent;
  color: var(--text);
  cursor: pointer;
  flex: 0 0 auto;
  font: inherit;
  font-size: 12px;
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
  align-items: center;
  background: var(--panel);
  bottom: 4px;
  display: flex;
  gap: 8px;
  padding: 4px 8px;
  position: absolute;
  right: 12px;
  z-index: 1;
}
</style>
