<script setup lang="ts">
import { computed } from 'vue'
import type { ToningView } from '@fogbath/core/baths'

/** From light (left) to dark (right): which share of the silver went to which compound. */
const props = defineProps<{ view: ToningView }>()
const WIDTH = 260
const HEIGHT = 84
const FILLS: Record<string, string> = {
  silver: '#8d8d8d',
  sulphide: '#9a6636',
  selenium: '#8a5560',
  gold: '#7a86b8',
  'iron-blue': '#2f5ea8',
  gilded: '#b5562f',
  copper: '#b4553b',
}

const areas = computed(() => {
  const count = props.view.densities.length
  const below = new Array<number>(count).fill(0)
  return props.view.bands.map((band) => {
    const x = (i: number): number => (i * WIDTH) / (count - 1)
    const lower = below.map((v, i) => [x(i), HEIGHT * (1 - v)] as const)
    band.shares.forEach((s, i) => (below[i] = below[i]! + s))
    const upper = below.map((v, i) => [x(i), HEIGHT * (1 - v)] as const)
    const points = [...lower, ...upper.reverse()].map((p) => p.map((v) => v.toFixed(1)).join()).join(' ')
    return { label: band.label, points, fill: FILLS[band.style] ?? '#777777' }
  })
})
</script>

<template>
  <figure class="toning">
    <figcaption class="quiet">{{ view.title }}</figcaption>
    <svg
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      role="img"
      :aria-label="`${view.title}: ${view.bands.map((b) => b.label).join(', ')}`"
      preserveAspectRatio="none"
    >
      <polygon v-for="a in areas" :key="a.label" :points="a.points" :fill="a.fill" />
    </svg>
    <div class="legend">
      <span class="quiet">light</span>
      <span v-for="a in areas" :key="a.label"><i :style="{ background: a.fill }" />{{ a.label }}</span>
      <span class="quiet">dark</span>
    </div>
  </figure>
</template>

<style scoped>
.toning {
  margin: 8px 0;
}
figcaption,
.legend {
  font-size: 13px;
}
svg {
  background: var(--ground);
  display: block;
  height: 84px;
  width: 100%;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  justify-content: space-between;
}
i {
  display: inline-block;
  height: 9px;
  margin-right: 4px;
  width: 9px;
}
</style>
