<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { NSlider } from 'naive-ui'
import { onMounted, ref, watch } from 'vue'

/** A slider whose handle has a name for screen readers, which takes Home, End and the page keys, and is dragged slowly with Shift. */
const props = withDefaults(
  defineProps<{ value: number; min: number; max: number; step: number; name: string; unit?: string }>(),
  {
    unit: '',
  },
)
const emit = defineEmits<{ change: [value: number]; reset: [] }>()
const root = ref<HTMLElement | null>(null)

function nameHandle(): void {
  const handle = root.value?.querySelector('[role="slider"]')
  handle?.setAttribute('aria-label', props.name)
  handle?.setAttribute('aria-valuetext', `${Math.round(props.value * 1000) / 1000} ${props.unit}`.trim())
}
onMounted(nameHandle)
watch([() => props.name, () => props.value, () => props.unit], nameHandle, { flush: 'post' })

const within = (value: number): number => Math.min(props.max, Math.max(props.min, value))

/** Share of the pointer's way that the value goes while Shift is held. */
const SLOW = 0.1
let slow: { readonly x: number; readonly value: number } | undefined

function press(e: MouseEvent): void {
  if (!e.shiftKey || e.button !== 0) return
  // The slider's own way of dragging would jump to the pointer.
  e.stopPropagation()
  e.preventDefault()
  slow = { x: e.clientX, value: props.value }
}
useEventListener(window, 'mousemove', (e: MouseEvent) => {
  if (!slow || !root.value) return
  const way = ((e.clientX - slow.x) / root.value.clientWidth) * (props.max - props.min) * SLOW
  const steps = Math.round((slow.value + way - props.min) / props.step)
  emit('change', within(Number((props.min + steps * props.step).toFixed(6))))
})
useEventListener(window, 'mouseup', () => (slow = undefined))

/** A page that is being scrolled past a slider does not move it. */
const STILL_MS = 400
let scrolled = 0
useEventListener(window, 'scroll', () => (scrolled = Date.now()), { capture: true, passive: true })

/** The wheel goes by hundredths of the range, by single steps with Shift. */
function wheel(e: WheelEvent): void {
  if (Date.now() - scrolled < STILL_MS || e.ctrlKey) return
  e.preventDefault()
  const way = e.deltaY || e.deltaX
  const step = e.shiftKey ? props.step : Math.max(props.step, (props.max - props.min) / 100)
  emit('change', within(Number((props.value - Math.sign(way) * step).toFixed(6))))
}

function key(e: KeyboardEvent): void {
  const page = Math.max(props.step, (props.max - props.min) / 10)
  const wanted = {
    Home: props.min,
    End: props.max,
    PageUp: props.value + page,
    PageDown: props.value - page,
  }[e.key]
  if (wanted === undefined) return
  e.preventDefault()
  e.stopPropagation()
  emit('change', within(wanted))
}
</script>

<template>
  <div ref="root" class="slider" @keydown="key" @mousedown.capture="press" @dblclick="emit('reset')" @wheel="wheel">
    <NSlider
      :value="value"
      :min="min"
      :max="max"
      :step="step"
      :tooltip="false"
      @update:value="(v: number | number[]) => emit('change', v as number)"
    />
  </div>
</template>

<style scoped>
.slider {
  flex: 1;
  min-width: 0;
}
</style>
