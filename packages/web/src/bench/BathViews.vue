<script setup lang="ts">
import { computed } from 'vue'
import type { Kind } from '@fogbath/core'
import CurvesChart from './CurvesChart.vue'
import MixesDiagram from './MixesDiagram.vue'
import PaletteDiagram from './PaletteDiagram.vue'
import ToningDiagram from './ToningDiagram.vue'

/** The drawings that a kind gives of itself. */
const props = defineProps<{ kind: Kind; settings: Readonly<Record<string, unknown>>; from?: number; count?: number }>()
defineEmits<{ drag: [moves: { setting: string; by: number }[]] }>()
const views = computed(() =>
  props.kind.views(props.settings).slice(props.from ?? 0, (props.from ?? 0) + (props.count ?? 10)),
)
</script>

<template>
  <template v-for="view in views" :key="view.view + view.title">
    <CurvesChart v-if="view.view === 'curves'" :view="view" @drag="(m) => $emit('drag', m)" />
    <MixesDiagram v-else-if="view.view === 'mixes'" :view="view" />
    <ToningDiagram v-else-if="view.view === 'toning'" :view="view" />
    <PaletteDiagram v-else :view="view" />
  </template>
</template>
