<script setup lang="ts">
import { NSlider } from 'naive-ui'
import { onMounted, ref } from 'vue'
import { watchEach } from './watchEach'

/** A slider whose handle has a name for screen readers, and which takes Home, End and the page keys as well. */
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
watchEach(() => [props.name, props.value, props.unit], nameHandle, { flush: 'post' })

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
  emit('change', Math.min(props.max, Math.max(props.min, wanted)))
}
</script>

<template>
  <div ref="root" class="slider" @keydown="key" @dblclick="emit('reset')">
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
