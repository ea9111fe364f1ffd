<script setup lang="ts">
import { SRGB, labToBt709, triple } from '@fogbath/core/colour'
import { useBenchStore } from '../stores/bench'

/** The colours that a part of a mask looks for, picked from the picture. CIE L*a*b* each. */
const props = defineProps<{ picks: readonly (readonly number[])[] }>()
const emit = defineEmits<{ change: [picks: readonly (readonly number[])[]] }>()
const bench = useBenchStore()

const cssOf = (lab: readonly number[]): string => {
  return `rgb(${labToBt709(triple(lab)).map((v) => Math.round(255 * SRGB.encode(Math.min(1, Math.max(0, v)))))})`
}
const remove = (index: number): void =>
  emit(
    'change',
    props.picks.filter((_, i) => i !== index),
  )
</script>

<template>
  <div class="picks">
    <button
      class="word"
      type="button"
      :aria-pressed="bench.picking"
      title="Click on the picture, or drag an area, to pick its colour"
      @click="bench.picking = !bench.picking"
    >
      {{ bench.picking ? 'click on the picture …' : 'pick from the picture' }}
    </button>
    <button
      v-for="(lab, i) in picks"
      :key="i"
      type="button"
      class="pick"
      :style="{ background: cssOf(lab) }"
      :aria-label="`Remove picked colour ${i + 1}`"
      title="Remove this colour"
      @click="remove(i)"
    />
  </div>
</template>

<style scoped>
.picks {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
}
.pick {
  border: 1px solid var(--quiet);
  cursor: pointer;
  height: 24px;
  padding: 0;
  width: 24px;
}
</style>
