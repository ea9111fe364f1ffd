<script setup lang="ts">
import { computed } from 'vue'
import { useLookStore } from '../stores/look'
import type { Painted, Painter } from '../workers/protocol'

/** Tells who draws the picture, and lets it be chosen. */
const props = defineProps<{ by: Painted }>()
const look = useLookStore()

const MEANS: Record<Painter, string> = {
  auto: 'whichever is quicker on this machine',
  graphics: 'graphics hardware wherever it can',
  processor: 'always the processor',
}
const label = computed(() => (look.painter === 'auto' ? props.by : `only ${look.painter}`))
const title = computed(
  () =>
    `Drawn by the ${props.by}. While something moves: ${MEANS[look.painter]}; at rest always the processor. Click for another`,
)
function next(): void {
  const painters = Object.keys(MEANS) as Painter[]
  look.painter = painters[(painters.indexOf(look.painter) + 1) % painters.length]!
}
</script>

<template>
  <button
    class="word painter"
    type="button"
    data-test="painter"
    :data-by="by"
    :title="title"
    :aria-label="`Drawn by: ${label}`"
    @click="next"
  >
    {{ label }}
  </button>
</template>

<style scoped>
.painter {
  min-width: 84px;
  text-align: left;
}
</style>
