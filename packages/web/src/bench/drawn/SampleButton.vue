<script setup lang="ts">
import { onBeforeUnmount } from 'vue'
import { ColorPicker } from '@vicons/tabler'
import { useBenchStore } from '../../stores/bench'
import type { Sampler } from '../../stores/bench/state'

/** Waits for a click on the picture and hands on what comes to the chosen bath there. */
const props = defineProps<{ name: string; label: string; title: string; again?: boolean }>()
const emit = defineEmits<{ take: Parameters<Sampler['take']> }>()
const bench = useBenchStore()

function toggle(): void {
  if (bench.sampler?.name === props.name) bench.sampler = null
  else
    bench.sampler = {
      name: props.name,
      take: (coming, footage) => {
        if (!props.again) bench.sampler = null
        emit('take', coming, footage)
      },
    }
}
onBeforeUnmount(() => {
  if (bench.sampler?.name === props.name) bench.sampler = null
})
</script>

<template>
  <button class="word pick" type="button" :aria-pressed="bench.sampler?.name === name" :title="title" @click="toggle">
    <ColorPicker width="14" height="14" aria-hidden="true" />
    {{ bench.sampler?.name === name ? 'click on the picture …' : label }}
  </button>
</template>

<style scoped>
.pick {
  align-items: center;
  display: inline-flex;
  gap: 4px;
}
</style>
