<script setup lang="ts">
import { NModal } from 'naive-ui'

/**
 * A sheet over the page: one way of opening, naming and closing for all of them. One that cannot be closed comes without
 * being asked for, maybe while somebody types: its heading gets the focus, so that Enter decides nothing.
 */
withDefaults(defineProps<{ title: string; width: number; closable?: boolean }>(), { closable: true })
const show = defineModel<boolean>('show', { required: true })
</script>

<template>
  <NModal
    v-model:show="show"
    preset="card"
    class="sheet"
    role="dialog"
    aria-modal="true"
    :aria-label="title"
    :closable="false"
    :mask-closable="closable"
    :close-on-esc="closable"
    :style="{ width: `${width}px`, maxWidth: '95vw', maxHeight: '92vh', overflowY: 'auto' }"
  >
    <header>
      <h2 :tabindex="closable ? undefined : 0">{{ title }}</h2>
      <button v-if="closable" class="word" type="button" title="Close (Esc)" @click="show = false">close</button>
    </header>
    <slot />
  </NModal>
</template>

<style scoped>
header {
  align-items: center;
  display: flex;
  justify-content: space-between;
  margin-bottom: 10px;
}
</style>
