<script setup lang="ts">
import { useIntersectionObserver } from '@vueuse/core'
import { ref, useTemplateRef } from 'vue'

/** A row of a long list: it is made when it comes near to what is seen, and stays from then on; until then its name stands there. */
defineProps<{
  name: string
  /** About as high as it will be, px. */
  height: number
}>()
const root = useTemplateRef('root')
const near = ref(false)
const { stop } = useIntersectionObserver(
  root,
  (entries) => {
    near.value = entries.some((e) => e.isIntersecting)
    if (near.value) stop()
  },
  { rootMargin: '600px' },
)
</script>

<template>
  <div ref="root" :style="near ? undefined : { minHeight: `${height}px` }">
    <slot v-if="near" />
    <template v-else>{{ name }}</template>
  </div>
</template>
