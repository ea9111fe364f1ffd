<script setup lang="ts">
import { computed } from 'vue'
import { useLookStore } from '../stores/look'
import type { Painted, Painter } from '../workers/protocol'

/** Tells who draws the picture, and lets it be chosen. */
const props = defineProps<{ by: Painted }>()
const look = useLookStore()

const MEANS: Record<Painter, string> = {
  auto: 'graphics hardware where it is quicker on this machine, or one table of the whole line where it shows the same',
  graphics: 'graphics hardware wherever it can',
  processor: 'always the processor',
}
const PAINTED: Record<Painted, string> = {
  graphics: 'graphics hardware',
  processor: 'the processor',
  table: 'one table of the whole line, tried against it on this picture',
}
const label = computed(() => (look.painter === 'auto' ? props.by : `only ${look.painter}`))
const title = computed(
  () =>
    `Drawn by ${PAINTED[props.by]}. While something moves: ${MEANS[look.painter]}; at rest always the processor. Click for another`,
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
