<script setup lang="ts">
import { SRGB, labToBt709, triple } from '@fogbath/core/colour'
import { useBenchStore } from '../stores/bench'

/** The colours that a part of a mask looks for, and those that it leaves out, picked from the picture. CIE L*a*b* each. */
type Colours = readonly (readonly number[])[]
const props = defineProps<{ picks: Colours; without: Colours }>()
const emit = defineEmits<{ change: [list: 'picks' | 'without', colours: Colours] }>()
const bench = useBenchStore()

const cssOf = (lab: readonly number[]): string => {
  return `rgb(${labToBt709(triple(lab)).map((v) => Math.round(255 * SRGB.encode(Math.min(1, Math.max(0, v)))))})`
}
const remove = (list: 'picks' | 'without', index: number): void =>
  emit(
    'change',
    list,
    props[list].filter((_, i) => i !== index),
  )
const LISTS = [
  { list: 'picks', away: false, word: 'pick from the picture', what: 'picked colour' },
  { list: 'without', away: true, word: 'take away from it', what: 'colour that is taken away' },
] as const
const waits = (away: boolean): boolean => bench.picking && bench.pickingAway === away
function pick(away: boolean): void {
  bench.picking = !waits(away)
  bench.pickingAway = away
}
</script>

<template>
  <div v-for="{ list, away, word, what } in LISTS" :key="list" class="picks">
    <button
      class="word"
      type="button"
      :aria-pressed="waits(away)"
      title="Click on the picture, or drag an area, to pick its colour"
      @click="pick(away)"
    >
      {{ waits(away) ? 'click on the picture …' : word }}
    </button>
    <button
      v-for="(lab, i) in props[list]"
      :key="i"
      type="button"
      class="pick"
      :style="{ background: cssOf(lab) }"
      :aria-label="`Remove ${what} ${i + 1}`"
      title="Remove this colour"
      @click="remove(list, i)"
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
