<script setup lang="ts">
import type { Render } from '@fogbath/contract'
import { framesASecond } from '@fogbath/core/numbers'
import { NButton } from 'naive-ui'
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import NamedSlider from '../components/NamedSlider.vue'
import SheetDialog from '../components/SheetDialog.vue'
import { stillEngine } from '../components/still'
import { wordsOf } from '../stores/errors'
import { playPlaces } from '../workers/play'
import { ofFile, ofFootage } from './renders'

/** What was rendered, as it stands in its file, with the footage at the left of an edge. */
const props = defineProps<{ render: Render }>()
const show = defineModel<boolean>('show', { required: true })

/** Pictures are made this wide. */
const WIDTH = 960
const canvas = ref<HTMLCanvasElement | null>(null)
const frame = ref(0)
/** Where the edge lies, per cent of the width. */
const edge = ref(0)
const playing = ref(false)
const problem = ref('')
const fps = shallowRef(24)
const last = computed(() => props.render.count - 1)
let run = 0

async function draw(at: number): Promise<void> {
  const mine = ++run
  try {
    const engine = stillEngine()
    const file = await engine.thumbnail(ofFile(props.render, at, WIDTH))
    const footage = edge.value > 0 ? await engine.thumbnail(ofFootage(props.render, at, WIDTH)) : null
    const { value: shown } = canvas
    if (mine !== run || !shown) return
    ;[shown.width, shown.height] = [file.width, file.height]
    const pen = shown.getContext('2d')!
    pen.drawImage(file, 0, 0)
    if (footage) wipe(pen, footage, shown)
    problem.value = ''
  } catch (error) {
    if (mine === run) problem.value = wordsOf(error)
  }
}

/** The footage up to the edge, in its own shape, black where it does not reach. */
function wipe(pen: CanvasRenderingContext2D, footage: ImageBitmap, { width, height }: HTMLCanvasElement): void {
  const scale = Math.min(width / footage.width, height / footage.height)
  const [w, h] = [footage.width * scale, footage.height * scale]
  const at = Math.round((width * edge.value) / 100)
  pen.save()
  pen.beginPath()
  pen.rect(0, 0, at, height)
  pen.clip()
  pen.fillRect(0, 0, at, height)
  pen.drawImage(footage, (width - w) / 2, (height - h) / 2, w, h)
  pen.restore()
  pen.fillStyle = '#fff'
  pen.fillRect(at - 1, 0, 2, height)
}

async function play(): Promise<void> {
  playing.value = true
  const from = frame.value >= last.value ? 0 : frame.value
  const placeAt = (seconds: number): number | null => {
    const at = from + Math.floor(seconds * fps.value)
    return at > last.value ? null : at
  }
  const seen = (at: number): Promise<void> => {
    frame.value = at
    return draw(at)
  }
  const going = (): boolean => playing.value && show.value
  const ended = await playPlaces<number>(placeAt, { going, show: seen, onFrame: () => undefined })
  // Frames that came too late were left out; the last one is not.
  if (ended && ended.last !== last.value) await seen(last.value)
  playing.value = false
}

watch(
  [show, () => props.render.id],
  async ([open]) => {
    if (!open) return
    ;[frame.value, playing.value] = [0, false]
    await draw(0)
    const { info } = await api.medium(props.render.pieces?.[0]?.mediumId ?? props.render.mediumId)
    fps.value = framesASecond(info.fps) || 24
  },
  { immediate: true },
)
onBeforeUnmount(() => (playing.value = false))
function go(to: number): void {
  playing.value = false
  frame.value = Math.min(last.value, Math.max(0, to))
  void draw(frame.value)
}
function wipeTo(to: number): void {
  edge.value = to
  if (!playing.value) void draw(frame.value)
}
</script>

<template>
  <SheetDialog v-model:show="show" :title="render.label" :width="1020">
    <canvas
      ref="canvas"
      width="960"
      height="540"
      role="img"
      :aria-label="`Frame ${frame} of ${render.label}`"
      :data-frame="frame"
    />
    <p v-if="problem" role="alert" class="warn">{{ problem }}</p>
    <div class="bar">
      <NButton size="small" class="play" @click="playing ? (playing = false) : play()">{{
        playing ? 'Stop' : 'Play'
      }}</NButton>
      <NamedSlider
        :value="frame"
        :min="0"
        :max="Math.max(1, last)"
        :step="1"
        name="Frame"
        @change="go"
        @reset="go(0)"
      />
      <span class="mono quiet number">{{ frame }} / {{ last }}</span>
    </div>
    <div class="bar">
      <span class="play">Footage</span>
      <NamedSlider
        :value="edge"
        :min="0"
        :max="100"
        :step="1"
        name="Footage at the left, per cent"
        @change="wipeTo"
        @reset="wipeTo(0)"
      />
      <span class="mono quiet number">{{ edge }} %</span>
    </div>
  </SheetDialog>
</template>

<style scoped>
canvas {
  background: #000;
  display: block;
  margin: 0 auto;
  max-height: 66vh;
  max-width: 100%;
}
.bar {
  align-items: center;
  display: grid;
  gap: 14px;
  grid-template-columns: 70px 1fr 100px;
  margin-top: 8px;
}
.number {
  text-align: right;
}
</style>
