<script setup lang="ts">
import type { Drawing } from '@fogbath/core/baths'
import CurvesChart from './CurvesChart.vue'
import MixesDiagram from './MixesDiagram.vue'
import PaletteDiagram from './PaletteDiagram.vue'
import SwatchesDiagram from './SwatchesDiagram.vue'
import ToningDiagram from './ToningDiagram.vue'

/** The drawings that a kind gives of itself. */
defineProps<{ views: readonly Drawing[] }>()
defineEmits<{ drag: [moves: { setting: string; by: number }[]] }>()
</script>

<template>
  <template v-for="view in views" :key="view.view + view.title">
    <CurvesChart v-if="view.view === 'curves'" :view="view" @drag="(m) => $emit('drag', m)" />
    <MixesDiagram v-else-if="view.view === 'mixes'" :view="view" />
    <ToningDiagram v-else-if="view.view === 'toning'" :view="view" />
    <SwatchesDiagram v-else-if="view.view === 'swatches'" :view="view" />
    <PaletteDiagram v-else :view="view" />
  </template>
</template>
