<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Shot } from '@fogbath/contract'
import type { ProbeMark } from '@fogbath/core/line'
import { useBenchStore } from '../stores/bench'
import { useLookStore } from '../stores/look'
import type { Compare } from '../workers/protocol'
import MaskHandles from './MaskHandles.vue'
import { useStagePointer } from './useStagePointer'

/** The picture on its neutral surround. Probes and the wipe's edge are all that is ever drawn over it. */
const props = defineProps<{
  zoom: 'fit' | 1 | 2 | 4
  compare: Compare
  playing: boolean
  /** The shot that is seen. */
  shown: Shot | null
  probes: readonly ProbeMark[]
  problem: string
  /** What is shown is not yet what was asked for. */
  late: boolean
  /** What is shown is all that was asked for. */
  settled: boolean
  wiping: boolean
  drawn: number
  /** What lies on either side of a comparison, in words; null without one. */
  sides: { readonly before: string; readonly after: string } | null
}>()
const wipeAt = defineModel<number>('wipeAt', { required: true })
const emit = defineEmits<{ probe: [u: number, v: number, reach: number | undefined]; bare: [] }>()
const bench = useBenchStore()
const look = useLookStore()
const stage = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
defineExpose({ stage, canvas })

const { width: room, height: headroom } = useElementSize(stage)
/** The picture's own size in pixels; both pictures of a pair. */
const own = computed(() => {
  const info = props.shown?.medium.info
  const chart = bench.chart && !bench.half
  const [width, height] = [info?.width ?? 16, chart ? ((info?.width ?? 16) * 9) / 16 : (info?.height ?? 9)]
  return { width: props.compare.mode === 'pair' ? 2 * width : width, height }
})
/** Size on the page. Set outright, so that places on the canvas are places in the picture. */
const size = computed(() => {
  const scale =
    props.zoom === 'fit'
      ? Math.min(room.value / own.value.width, headroom.value / own.value.height)
      : props.zoom / window.devicePixelRatio
  return { width: `${own.value.width * scale}px`, height: `${own.value.height * scale}px` }
})
const plain = computed(() => props.compare.mode === 'off' && !props.playing)
const upright = computed(() => props.compare.mode === 'wipe' && props.compare.upright)
/** Whether clicking on the picture measures it. */
const measuring = computed(() => plain.value && (!bench.chart || bench.half))

const { area, press, move, release } = useStagePointer({
  stage,
  canvas,
  zoomed: () => props.zoom !== 'fit',
  wiping: () => props.wiping,
  measuring: () => measuring.value,
  wipeTo: (u, v) => (wipeAt.value = upright.value ? u : v),
  measure: (u, v, reach) => emit('probe', u, v, reach),
})

const boxOf = (p: ProbeMark): Record<string, string> => {
  const aspect = (canvas.value?.width ?? 16) / (canvas.value?.height ?? 9)
  return {
    left: `${(p.u - p.reach) * 100}%`,
    top: `${(p.v - p.reach * aspect) * 100}%`,
    width: `${2 * p.reach * 100}%`,
    height: `${2 * p.reach * aspect * 100}%`,
  }
}
const nudge = (by: number): void => void (wipeAt.value = Math.min(1, Math.max(0, wipeAt.value + by)))
const tapped = computed(() =>
  bench.preview
    ? 'preview'
    : bench.tap === null
      ? ''
      : `as it leaves ${bench.tap === 0 ? 'the camera' : `bath ${bench.tap}`}`,
)
</script>

<template>
  <div
    ref="stage"
    :data-drawn="drawn"
    class="stage"
    :class="[
      { zoomed: zoom !== 'fit', coarse: zoom !== 'fit' && zoom > 1, picking: bench.picking || bench.sampler !== null },
      `surround-${look.surround}`,
    ]"
    @dblclick="emit('bare')"
  >
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <div class="frame" :style="size">
      <canvas
        ref="canvas"
        role="img"
        :aria-busy="!settled"
        :aria-label="`Frame ${bench.frame}, treated`"
        @pointerdown="press"
        @pointermove="move"
        @pointerup="release"
        @pointercancel="release"
      />
      <template v-if="measuring && bench.part === null">
        <i v-for="(p, i) in probes" :key="i" class="area" :style="boxOf(p)"><b class="mono">{{ i + 1 }}</b></i>
        <i v-if="area" class="area" :style="boxOf(area)" />
      </template>
      <MaskHandles v-if="measuring && bench.part !== null" :width="own.width" :height="own.height" />
      <i
        v-if="wiping && !playing"
        class="edge"
        :class="{ upright }"
        role="slider"
        tabindex="0"
        aria-label="Edge of the wipe"
        aria-valuemin="0"
        aria-valuemax="100"
        :aria-valuenow="Math.round(wipeAt * 100)"
        :style="upright ? { left: `${wipeAt * 100}%` } : { top: `${wipeAt * 100}%` }"
        @keydown.left.stop.prevent="nudge(-0.02)"
        @keydown.up.stop.prevent="nudge(-0.02)"
        @keydown.right.stop.prevent="nudge(0.02)"
        @keydown.down.stop.prevent="nudge(0.02)"
        ><b
      /></i>
      <template v-if="sides && !playing">
        <span class="side before">{{ sides.before }}</span>
        <span class="side" :class="wiping && !upright ? 'below' : 'after'">{{ sides.after }}</span>
      </template>
    </div>
    <span v-if="late && !problem" class="late" role="status">making the picture …</span>
    <span v-if="tapped" class="tapped">{{ tapped }}</span>
    <slot />
  </div>
</template>

<style scoped>
.stage {
  align-items: center;
  background: #3a3a3a;
  display: flex;
  flex: 1;
  justify-content: center;
  min-height: 0;
  overflow: hidden;
  padding: 8px;
  position: relative;
}
.surround-dark {
  background: #1a1a1a;
}
.surround-light {
  background: #8e8e8e;
}
.zoomed {
  align-items: flex-start;
  justify-content: flex-start;
  overflow: auto;
}
.zoomed canvas {
  cursor: grab;
}
.picking canvas {
  cursor: crosshair;
}
.coarse canvas {
  image-rendering: pixelated;
}
.frame {
  flex: none;
  position: relative;
}
canvas {
  display: block;
  height: 100%;
  touch-action: none;
  width: 100%;
}
.area {
  border: 1px solid #ffffff;
  box-shadow: 0 0 0 1px #000000;
  min-height: 9px;
  min-width: 9px;
  pointer-events: none;
  position: absolute;
}
.area b {
  color: #ffffff;
  font-style: normal;
  left: 100%;
  padding-left: 4px;
  position: absolute;
  text-shadow: 0 0 2px #000000;
  top: -4px;
}
/* One bright and one dark hairline, with a grip in the middle. */
.edge {
  border-bottom: 1px solid #000000;
  border-top: 1px solid #ffffff;
  cursor: row-resize;
  left: 0;
  pointer-events: none;
  position: absolute;
  width: 100%;
}
.edge.upright {
  border: 0;
  border-left: 1px solid #ffffff;
  border-right: 1px solid #000000;
  cursor: col-resize;
  height: 100%;
  top: 0;
  width: auto;
}
.edge b {
  background: #ffffff;
  border: 1px solid #000000;
  border-radius: 5px;
  height: 8px;
  left: 50%;
  position: absolute;
  top: -5px;
  transform: translateX(-50%);
  width: 34px;
}
.edge.upright b {
  height: 34px;
  left: -5px;
  top: 50%;
  transform: translateY(-50%);
  width: 8px;
}
.side {
  color: #ececec;
  left: 8px;
  pointer-events: none;
  position: absolute;
  text-shadow:
    0 0 3px #000000,
    0 0 3px #000000;
  top: 5px;
}
.side.after {
  left: auto;
  right: 8px;
}
.side.below {
  bottom: 5px;
  top: auto;
}
.tapped,
.late {
  background: #1a1a1a;
  bottom: 8px;
  color: #ececec;
  left: 8px;
  padding: 2px 8px;
  position: absolute;
}
.late {
  left: auto;
  right: 8px;
}
.problem {
  background: var(--panel);
  left: 50%;
  max-width: 70%;
  padding: 12px 16px;
  position: absolute;
  top: 40%;
  transform: translateX(-50%);
  z-index: 1;
}
</style>
