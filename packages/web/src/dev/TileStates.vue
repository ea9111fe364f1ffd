<script setup lang="ts">
import { computed } from 'vue'
import { NOTHING_AROUND, newBath, type Bath } from '@fogbath/core/line'
import BathTile from '../bench/BathTile.vue'
import { useBenchStore } from '../stores/bench'
import { stripsOf } from '../workers/strips'

/** Tiles of the line in the states that a line brings about; they act on the store, as on the bench. */
const print = newBath('colour-print', 'print')
const STATES: readonly { label: string; bath: Bath; compact?: boolean; narrow?: boolean; still?: boolean }[] = [
  { label: 'as it comes', bath: print },
  { label: 'lifted out', bath: { ...print, id: 'out', in: false } },
  { label: 'half strength', bath: { ...print, id: 'half', strength: 50 } },
  { label: 'laid in another mode, under', bath: { ...print, id: 'laid', lay: 'soft-light', under: true } },
  { label: 'with a long name of its own', bath: { ...print, id: 'long', name: 'Silver for the night scenes' } },
  { label: 'changes nothing', bath: newBath('contrast', 'idle', { amount: 0 }) },
  { label: 'changes nothing on this frame', bath: { ...print, id: 'same' }, still: true },
  { label: 'narrow', bath: { ...print, id: 'narrow' }, narrow: true },
  { label: 'compact', bath: { ...print, id: 'compact' }, compact: true },
]
const bench = useBenchStore()
bench.recipe = { ...bench.recipe, baths: STATES.map((s) => s.bath) }
bench.chosen = print.id
bench.marked = ['half']
const stripOf = (bath: Bath) =>
  stripsOf({ ...NOTHING_AROUND, recipe: { ...bench.recipe, baths: [bath] }, encoding: 'bt709' }).at(-1)
const strips = computed(() => bench.recipe.baths.map(stripOf))
const changeOf = ({ still }: { still?: boolean }) => ({ moved: still ? 0 : 0.2, mask: null })
</script>

<template>
  <div class="tiles">
    <figure v-for="(state, i) in STATES" :key="state.label" :style="{ width: state.compact ? '70px' : '128px' }">
      <BathTile
        :bath="bench.recipe.baths.find((b) => b.id === state.bath.id) ?? state.bath"
        part="look"
        :index="i"
        :strip="strips[i]"
        :change="changeOf(state)"
        :compact="state.compact ?? false"
        :narrow="state.narrow ?? false"
      />
      <figcaption class="quiet">{{ state.label }}</figcaption>
    </figure>
  </div>
</template>

<style scoped>
.tiles {
  align-items: start;
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
}
figure {
  margin: 0;
}
figure > :first-child {
  display: grid;
}
</style>
