<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { NDropdown } from 'naive-ui'
import { computed, ref } from 'vue'
import { TEXT, widthOf } from '../theme/text-width'

/** Words to choose one of, in one row; what does not fit stands behind 'more'. */
const props = defineProps<{ names: readonly string[]; label: string }>()
const chosen = defineModel<string>({ required: true })
const root = ref<HTMLElement | null>(null)
const { width } = useElementSize(root)
const GAP = 10

/** Texts are measured once the type has come; until then there is room for all. */
const typed = ref(false)
void document.fonts.ready.then(() => (typed.value = true))

/** As many as fit beside each other, with room for 'more' where not all do. */
const fitting = computed(() => {
  const widths = typed.value ? props.names.map((name) => widthOf(name, TEXT) + GAP) : props.names.map(() => 0)
  const all = widths.reduce((a, b) => a + b, 0)
  if (width.value === 0 || all <= width.value) return props.names.length
  let left = width.value - Math.max(...widths) - 20
  return widths.findIndex((w) => (left -= w) < 0)
})
const rest = computed(() => props.names.slice(fitting.value))
const hidden = computed(() => rest.value.includes(chosen.value))
const options = computed(() => rest.value.map((key) => ({ key, label: key })))
</script>

<template>
  <div ref="root" class="tabs" role="group" :aria-label="label">
    <button
      v-for="name in names.slice(0, fitting)"
      :key="name"
      class="word"
      type="button"
      :aria-pressed="name === chosen"
      @click="chosen = name"
    >
      {{ name }}
    </button>
    <NDropdown v-if="rest.length > 0" trigger="click" :options="options" @select="(name: string) => (chosen = name)">
      <button class="word more" type="button" :aria-pressed="hidden" :title="`More: ${rest.join(', ')}`">
        {{ hidden ? chosen : 'more' }} ▾
      </button>
    </NDropdown>
  </div>
</template>

<style scoped>
.tabs {
  align-items: center;
  border-bottom: 1px solid var(--line);
  display: flex;
  gap: 0 8px;
  height: 30px;
  overflow: hidden;
  white-space: nowrap;
}
.more {
  margin-left: auto;
}
</style>
