<script setup lang="ts">
import { computed, ref } from 'vue'
import { placeOf, valueAt } from '@fogbath/core/keys'
import { useBenchStore } from '../stores/bench'
import type { ShownLane } from './useLanes'

/** A lane drawn over the shot's length: its curve, its keys, and the frame that is looked at. */
const props = defineProps<{ shown: ShownLane; chosen: number }>()
const emit = defineEmits<{ choose: [index: number]; move: [index: number, place: number]; remove: [index: number] }>()
const bench = useBenchStore()
const root = ref<HTMLElement | null>(null)
const last = computed(() => Math.max(1, bench.instant.length - 1))
const placeIn = (at: number): number => placeOf(at, props.shown.lane.times, bench.instant.length)
const across = (place: number): number => (100 * Math.min(last.value, Math.max(0, place))) / last.value

/** Places along the curve that is drawn. */
const STEPS = 160
const span = computed(() => {
  const values = props.shown.lane.keys.flatMap(({ value }) => (typeof value === 'number' ? [value] : []))
  const [low, high] = [Math.min(...values), Math.max(...values)]
  const margin = (high - low) * 0.1 || 1
  return { low: low - margin, high: high + margin }
})
const height = (value: unknown): number =>
  typeof value === 'number' ? 36 - (32 * (value - span.value.low)) / (span.value.high - span.value.low) : 20
const curve = computed(() =>
  Array.from({ length: STEPS + 1 }, (_, i) => {
    const place = (i / STEPS) * last.value
    return `${(1000 * i) / STEPS},${height(valueAt(props.shown.lane, place, { first: 0, length: last.value + 1 }))}`
  }).join(' '),
)

let held: number | null = null
function press(e: PointerEvent, index: number): void {
  if (e.button !== 0) return
  held = index
  ;(e.currentTarget as HTMLElement).setPointerCapture(e.pointerId)
  emit('choose', index)
}
function drag(e: PointerEvent): void {
  if (held === null) return
  const box = root.value!.getBoundingClientRect()
  const place = Math.round(((e.clientX - box.left) / box.width) * last.value)
  const { keys } = props.shown.lane
  // It goes up to its neighbours, so that none is lost on the way.
  const [before, behind] = [keys[held - 1], keys[held + 1]].map((key) => key && Math.round(placeIn(key.at)))
  const to = Math.min((behind ?? last.value + 1) - 1, Math.max((before ?? -1) + 1, place))
  if (to !== Math.round(placeIn(keys[held]!.at))) emit('move', held, to)
}
const STEP: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowDown: -10, ArrowUp: 10 }
function key(e: KeyboardEvent, index: number): void {
  const step = STEP[e.key]
  if (step) emit('move', index, Math.round(placeIn(props.shown.lane.keys[index]!.at)) + step)
  else if (e.key === 'Delete') emit('remove', index)
  else return
  e.preventDefault()
  e.stopPropagation()
}
const said = (value: unknown): string =>
  typeof value === 'number'
    ? `${Math.round(value * 100) / 100}${props.shown.unit ? ` ${props.shown.unit}` : ''}`
    : typeof value === 'string'
      ? value
      : 'a place'
</script>

<template>
  <div ref="root" class="strip">
    <svg viewBox="0 0 1000 40" preserveAspectRatio="none" aria-hidden="true">
      <polyline :points="curve" />
    </svg>
    <i class="now" :style="{ left: `${across(bench.frame - bench.instant.first)}%` }" />
    <button
      v-for="(k, i) in shown.lane.keys"
      :key="i"
      type="button"
      :class="{ chosen: i === chosen }"
      :style="{ left: `${across(placeIn(k.at))}%`, top: `${height(k.value)}px` }"
      :aria-label="`Key ${i + 1} of ${shown.title}: ${said(k.value)} in frame ${bench.instant.first + Math.round(placeIn(k.at))}`"
      :aria-pressed="i === chosen"
      title="Drag it along, or move it with the arrows; Delete takes it away"
      @pointerdown="press($event, i)"
      @pointermove="drag"
      @pointerup="held = null"
      @pointercancel="held = null"
      @click="emit('choose', i)"
      @keydown="key($event, i)"
    />
  </div>
</template>

<style scoped>
.strip {
  background: var(--sunk, rgb(0 0 0 / 25%));
  height: 40px;
  margin: 0 12px;
  position: relative;
  touch-action: none;
}
svg {
  height: 100%;
  width: 100%;
}
polyline {
  fill: none;
  stroke: var(--text);
  stroke-opacity: 0.6;
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
.now {
  background: var(--accent);
  bottom: 0;
  pointer-events: none;
  position: absolute;
  top: 0;
  width: 1px;
}
button {
  background: none;
  border: 0;
  cursor: ew-resize;
  height: 24px;
  padding: 0;
  position: absolute;
  transform: translate(-50%, -50%);
  width: 24px;
}
button::after {
  background: var(--ground);
  border: 2px solid var(--text);
  border-radius: 2px;
  content: '';
  height: 12px;
  left: 9px;
  position: absolute;
  top: 4px;
  width: 4px;
}
button.chosen::after {
  background: var(--accent);
  border-color: var(--accent);
}
</style>
