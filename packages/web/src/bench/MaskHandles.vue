<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
import { useBenchStore } from '../stores/bench'
import { deleted, dragged, drawingOf, inserted, placesOf, type Handle } from './maskGeometry'

/** The shape of the chosen part, drawn over the picture and taken hold of there. */
const props = defineProps<{ width: number; height: number }>()
const bench = useBenchStore()
const root = ref<SVGSVGElement | null>(null)
const { width: shown } = useElementSize(root)

const tall = computed(() => (100 * props.height) / props.width)
/** As it is in the frame that is looked at. */
const part = computed(() => bench.bathNow?.mask?.parts[bench.part ?? -1] ?? null)
const places = computed(() => part.value && placesOf(part.value, tall.value))
const drawing = computed(() => (part.value ? drawingOf(part.value, tall.value) : null))
/** One pixel of the page. */
const pixel = computed(() => 100 / Math.max(1, shown.value))

function put(settings: Record<string, unknown>, key: string): void {
  const { part: index } = bench
  if (index !== null && Object.keys(settings).length > 0) bench.setPartSettings(index, settings, key)
}

let held: string | null = null
function place(e: PointerEvent): [number, number] {
  const box = root.value!.getBoundingClientRect()
  return [((e.clientX - box.left) / box.width) * 100, ((e.clientY - box.top) / box.height) * tall.value]
}
function press(e: PointerEvent, handle: Handle): void {
  if (e.button !== 0) return
  held = insert(handle)
  // The handle itself may be drawn anew while it is held; the drawing as a whole stays.
  root.value!.setPointerCapture(e.pointerId)
  void focus(held)
}
/** A handle between two points becomes a point. */
function insert(handle: Handle): string {
  const now = part.value
  if (handle.look !== 'insert' || now?.type !== 'outline') return handle.id
  const at = Number(handle.id.slice(1))
  put(inserted(now.settings, at, ...places.value!.drawn(handle.x, handle.y), tall.value), 'points')
  return `p${at + 1}`
}
function move(e: PointerEvent): void {
  if (held && part.value) put(dragged(part.value, held, ...places.value!.drawn(...place(e)), tall.value), held)
}
const focus = async (id: string): Promise<void> => {
  await nextTick()
  root.value?.querySelector<SVGElement>(`[data-handle="${id}"]`)?.focus()
}

const STEPS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
/** Arrows move a handle by half a per cent, with Shift by a tenth of that; Enter makes a point, Delete removes one. */
function key(e: KeyboardEvent, handle: Handle): void {
  const now = part.value
  const step = STEPS[e.key]
  if (!now) return
  if (step) {
    const far = e.shiftKey ? 0.05 : 0.5
    const to = places.value!.drawn(handle.x + far * step[0], handle.y + far * step[1])
    put(dragged(now, handle.id, ...to, tall.value), handle.id)
  } else if (e.key === 'Enter' && handle.look === 'insert') void focus(insert(handle))
  else if (e.key === 'Delete' && now.type === 'outline' && handle.id.startsWith('p'))
    put(deleted(now.settings, Number(handle.id.slice(1))), 'points')
  else return
  e.preventDefault()
  e.stopPropagation()
}
const RADIUS = { point: 6, edge: 5, insert: 4 } as const
</script>

<template>
  <svg
    ref="root"
    class="handles"
    :viewBox="`0 0 100 ${tall}`"
    @pointermove="move"
    @pointerup="held = null"
    @pointercancel="held = null"
  >
    <template v-if="drawing">
      <path class="under" :d="drawing.path" />
      <path class="over" :d="drawing.path" />
      <g
        v-for="h in drawing.handles"
        :key="h.id"
        tabindex="0"
        role="button"
        :aria-label="h.label"
        :data-handle="h.id"
        :class="h.look"
        :transform="`translate(${h.x} ${h.y}) scale(${pixel})`"
        @pointerdown.stop="press($event, h)"
        @mousedown.prevent
        @keydown="key($event, h)"
      >
        <title>{{ h.label }}</title>
        <circle r="12" class="reach" />
        <rect v-if="h.look === 'move'" x="-6" y="-6" width="12" height="12" />
        <path v-else-if="h.look === 'turn'" d="M-6 4a7 7 0 1 1 12 0" />
        <path v-else-if="h.look === 'edge'" d="M-4 -6L4 0L-4 6" />
        <circle v-else :r="RADIUS[h.look]" />
      </g>
    </template>
  </svg>
</template>

<style scoped>
.handles {
  height: 100%;
  inset: 0;
  overflow: visible;
  pointer-events: none;
  position: absolute;
  touch-action: none;
  width: 100%;
}
path.under,
path.over {
  fill: none;
  vector-effect: non-scaling-stroke;
}
.under {
  stroke: #000000;
  stroke-opacity: 0.7;
  stroke-width: 3;
}
.over {
  stroke: #ffffff;
  stroke-width: 1;
}
g {
  cursor: grab;
  fill: #1a1a1a;
  fill-opacity: 0.6;
  outline: none;
  pointer-events: all;
  stroke: #ffffff;
  stroke-width: 1.5;
}
g.move {
  cursor: move;
}
g.edge path,
g.turn path {
  fill: none;
  stroke-width: 2.5;
}
g.insert {
  fill: #ffffff;
  stroke: #1a1a1a;
  stroke-width: 1;
}
.reach {
  fill: transparent;
  stroke: none;
}
g:focus-visible .reach {
  stroke: var(--accent);
  stroke-width: 2.5;
}
</style>
