<script setup lang="ts">
import { computed, ref } from 'vue'
import { hueGradient } from './hues'

/** A hue from left to right and how much of it from the ground up: one puck says both. */
const props = defineProps<{ hue: number; amount: number; name: string; height?: number }>()
const emit = defineEmits<{ change: [hue: number, amount: number] }>()
const pad = ref<HTMLElement | null>(null)
let holding = false

const at = computed(() => ({ left: `${(props.hue / 360) * 100}%`, bottom: `${props.amount}%` }))
const ground = computed(() => ({
  background: `linear-gradient(0deg, var(--surround), transparent), ${hueGradient(40, 46)}`,
  height: `${props.height ?? 74}px`,
}))

function to(e: PointerEvent): void {
  const box = pad.value!.getBoundingClientRect()
  const share = (v: number): number => Math.min(1, Math.max(0, v))
  emit(
    'change',
    Math.round(360 * share((e.clientX - box.left) / box.width)),
    Math.round(100 * share(1 - (e.clientY - box.top) / box.height)),
  )
}
function press(e: PointerEvent): void {
  if (e.button !== 0) return
  holding = true
  pad.value!.setPointerCapture(e.pointerId)
  to(e)
}
function key(e: KeyboardEvent): void {
  const step = e.shiftKey ? 1 : 5
  const way = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[e.key]
  if (!way) return
  e.preventDefault()
  e.stopPropagation()
  emit('change', (props.hue + way[0]! + 360) % 360, Math.min(100, Math.max(0, props.amount + way[1]!)))
}
</script>

<template>
  <div
    ref="pad"
    class="pad"
    :style="ground"
    role="slider"
    tabindex="0"
    :aria-label="`${name}: hue and amount`"
    :aria-valuenow="amount"
    aria-valuemin="0"
    aria-valuemax="100"
    :aria-valuetext="`hue ${Math.round(hue)} degrees, amount ${Math.round(amount)} %`"
    @pointerdown="press"
    @pointermove="holding && to($event)"
    @pointerup="holding = false"
    @pointercancel="holding = false"
    @dblclick="emit('change', hue, 0)"
    @keydown="key"
  >
    <i :style="at" />
  </div>
</template>

<style scoped>
.pad {
  cursor: crosshair;
  position: relative;
  touch-action: none;
}
i {
  background: var(--panel);
  border: 2px solid var(--text);
  border-radius: 50%;
  height: 12px;
  margin: 0 0 -6px -6px;
  pointer-events: none;
  position: absolute;
  width: 12px;
}
</style>
