<script setup lang="ts">
import type { Component } from 'vue'

/** A button that shows an icon: its name is read out, its tooltip says what it does and with which key. */
defineProps<{
  icon: Component
  name: string
  /** Where it says more than the name. */
  title?: string
  /** Undefined for what is done once; otherwise whether it is on. */
  pressed?: boolean | undefined
  disabled?: boolean
}>()
const emit = defineEmits<{ click: [e: MouseEvent] }>()
</script>

<template>
  <button
    class="word icon"
    type="button"
    :aria-label="name"
    :aria-pressed="pressed"
    :title="title ?? name"
    :disabled="disabled"
    @click="emit('click', $event)"
  >
    <component :is="icon" width="16" height="16" aria-hidden="true" />
  </button>
</template>

<style scoped>
.icon {
  align-items: center;
  display: inline-flex;
  justify-content: center;
}
</style>
