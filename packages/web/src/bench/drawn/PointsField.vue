<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Points } from '@fogbath/core/baths'

/**
 * Points of a curve in a box: a click adds one, dragging moves it, a double click or Delete removes it, arrows move the one that has
 * the focus (Shift: finely). What is drawn behind stands in the slot, in a box of 256 by 160.
 */
const props = defineProps<{
  points: Points
  /** The curve as it works, over x from 0 to 1. */
  curve: (x: number) => number
  range: readonly [number, number]
  name: string
  /** What the axes are called, for the points' names. */
  axes: readonly [string, string]
}>()
const emit = defineEmits<{ change: [points: Points] }>()
/** Size of what is drawn behind. */
const [BEHIND_W, BEHIND_H] = [256, 160]
const H = 190
const MOST = 24
const GAP = 0.004
const box = ref<SVGSVGElement | null>(null)
const { width } = useElementSize(box)
/** A pixel is a pixel, so that points are round. */
const W = computed(() => Math.max(1, width.value))
const held = ref<number | null>(null)

const span = computed(() => props.range[1] - props.range[0])
const px = (x: number): number => x * W.value
const py = (y: number): number => H * (1 - (y - props.range[0]) / span.value)
const path = computed(() => {
  const at = Array.from({ length: 129 }, (_, i) => i / 128)
  return `M${at.map((x) => `${px(x).toFixed(2)} ${py(props.curve(x)).toFixed(2)}`).join('L')}`
})
const round = (v: number): number => Math.round(v * 1000) / 1000
const within = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v))

function placeOf(e: MouseEvent): [number, number] {
  const area = box.value!.getBoundingClientRect()
  const x = within((e.clientX - area.left) / area.width, 0, 1)
  const y = props.range[1] - within((e.clientY - area.top) / area.height, 0, 1) * span.value
  return [x, y]
}

/** A point keeps its place between its neighbours. */
function moved(i: number, x: number, y: number): Points {
  const low = (props.points[i - 1]?.[0] ?? -GAP) + GAP
  const high = (props.points[i + 1]?.[0] ?? 1 + GAP) - GAP
  const point = [round(within(x, low, high)), round(within(y, ...props.range))] as const
  return props.points.map((p, k) => (k === i ? point : p))
}

function press(e: PointerEvent): void {
  if (e.button !== 0) return
  const [x, y] = placeOf(e)
  const near = props.points.findIndex((p) => Math.hypot((p[0] - x) * W.value, ((p[1] - y) / span.value) * H) < 9)
  box.value!.setPointerCapture(e.pointerId)
  if (near >= 0) held.value = near
  else if (props.points.length < MOST && props.points.every((p) => Math.abs(p[0] - x) > GAP)) {
    const next = [...props.points, [round(x), round(y)] as const].sort((a, b) => a[0] - b[0])
    held.value = next.findIndex((p) => p[0] === round(x))
    emit('change', next)
  }
}

function drag(e: PointerEvent): void {
  if (held.value === null) return
  emit('change', moved(held.value, ...placeOf(e)))
}

const remove = (i: number): void => {
  if (props.points.length > 1)
    emit(
      'change',
      props.points.filter((_, k) => k !== i),
    )
}

function key(e: KeyboardEvent, i: number): void {
  const step = e.shiftKey ? 0.002 : 0.01
  const [x, y] = props.points[i]!
  const way = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[e.key]
  if (way) emit('change', moved(i, x + way[0]!, y + way[1]! * span.value))
  else if (e.key === 'Delete' || e.key === 'Backspace') remove(i)
  else return
  e.preventDefault()
  e.stopPropagation()
}
const told = (v: number): string => `${Math.round(v * 100)} %`
</script>

<template>
  <svg
    ref="box"
    class="points"
    :viewBox="`0 0 ${W} ${H}`"
    role="group"
    :aria-label="name"
    @pointerdown="press"
    @pointermove="drag"
    @pointerup="held = null"
    @pointercancel="held = null"
  >
    <rect class="ground" :width="W" :height="H" />
    <g :transform="`scale(${W / BEHIND_W} ${H / BEHIND_H})`">
      <slot />
      <path class="grid" d="M64 0V160M128 0V160M192 0V160M0 40H256M0 80H256M0 120H256" />
    </g>
    <path class="curve" :d="path" />
    <g
      v-for="([x, y], i) in points"
      :key="i"
      class="point"
      role="slider"
      tabindex="0"
      :aria-label="`Point ${i + 1} of ${name}`"
      :aria-valuenow="round(y)"
      :aria-valuemin="range[0]"
      :aria-valuemax="range[1]"
      :aria-valuetext="`${axes[0]} ${told(x)}, ${axes[1]} ${told(y)}`"
      @keydown="key($event, i)"
      @dblclick.stop="remove(i)"
    >
      <circle :cx="px(x)" :cy="py(y)" r="9" class="reach" />
      <circle :cx="px(x)" :cy="py(y)" r="3.6" />
    </g>
  </svg>
</template>

<style scoped>
.points {
  display: block;
  height: 190px;
  margin: 0 6px;
  overflow: visible;
  touch-action: none;
  width: calc(100% - 12px);
}
.ground {
  fill: var(--surround);
}
.grid {
  fill: none;
  stroke: var(--line);
  stroke-width: 0.6;
  vector-effect: non-scaling-stroke;
}
.curve {
  fill: none;
  stroke: var(--accent);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
.point {
  cursor: grab;
  outline-offset: 0;
}
.point circle {
  fill: var(--panel);
  stroke: var(--accent);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
.point .reach {
  fill: transparent;
  stroke: none;
}
.point:focus-visible circle:last-child {
  fill: var(--accent);
}
</style>
