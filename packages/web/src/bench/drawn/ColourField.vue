<script setup lang="ts">
import { NInput } from 'naive-ui'
import { ref, watch } from 'vue'

/** A colour, from the system's own picker or typed as its hexadecimal code values. What is no colour changes nothing. */
const props = defineProps<{ name: string; value: string }>()
const emit = defineEmits<{ change: [value: string] }>()
const typed = ref(props.value)
watch(
  () => props.value,
  (now) => (typed.value = now),
)
const HEX = /^#[0-9a-fA-F]{6}$/

function take(): void {
  const text = typed.value.trim()
  const whole = text.startsWith('#') ? text : `#${text}`
  if (HEX.test(whole)) emit('change', whole.toLowerCase())
}
const isColour = (): boolean => HEX.test(typed.value.trim()) || HEX.test(`#${typed.value.trim()}`)
</script>

<template>
  <span class="field">
    <input
      type="color"
      :value="value"
      :aria-label="name"
      @input="emit('change', ($event.target as HTMLInputElement).value)"
    />
    <NInput
      v-model:value="typed"
      class="hex"
      size="tiny"
      v-bind="isColour() ? {} : { status: 'error' }"
      :title="isColour() ? 'Six hexadecimal digits' : `${typed} is no colour; it must be of the form #rrggbb`"
      :input-props="{ 'aria-label': `${name}, #rrggbb`, 'aria-invalid': !isColour() }"
      @change="take"
      @keydown.enter="take"
    />
  </span>
</template>

<style scoped>
.field {
  align-items: center;
  display: flex;
  gap: 6px;
}
input[type='color'] {
  background: none;
  border: 1px solid var(--line);
  cursor: pointer;
  height: 24px;
  padding: 0;
  width: 34px;
}
.hex {
  width: 84px;
}
.hex :deep(input) {
  font-family: 'Spline Sans Mono', monospace;
  font-size: 13px;
}
</style>
