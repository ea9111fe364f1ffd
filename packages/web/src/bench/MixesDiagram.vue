<script setup lang="ts">
import type { MixesView } from '@fogbath/core/baths'

/** Each record as bars to both sides of zero: how much red, green and blue light it takes. */
defineProps<{ view: MixesView }>()
const HUES = ['#e0655a', '#5fae6b', '#6f92e8']
const NAMES = ['red', 'green', 'blue']
const CENTRE = 92
const UNIT = 80
</script>

<template>
  <figure class="mixes">
    <figcaption class="quiet">{{ view.title }}</figcaption>
    <svg
      :viewBox="`0 0 260 ${view.rows.length * 42}`"
      role="img"
      :aria-label="
        view.rows.map((r) => `${r.label}: ${r.mix.map((v, k) => `${NAMES[k]} ${v.toFixed(2)}`).join(', ')}`).join('; ')
      "
    >
      <g v-for="(row, i) in view.rows" :key="row.label" :transform="`translate(0 ${i * 42})`">
        <text x="0" y="24">{{ row.label }}</text>
        <line :x1="CENTRE" :x2="CENTRE" y1="2" y2="39" />
        <g v-for="(v, k) in row.mix" :key="k">
          <rect
            :x="v < 0 ? CENTRE + v * UNIT : CENTRE"
            :y="3 + k * 12.5"
            :width="Math.max(0.5, Math.abs(v) * UNIT)"
            height="9"
            :fill="HUES[k]!"
          />
          <text class="mono" x="226" :y="12 + k * 12.5">{{ v.toFixed(2) }}</text>
        </g>
      </g>
    </svg>
  </figure>
</template>

<style scoped>
.mixes {
  margin: 8px 0;
}
figcaption {
  font-size: 13px;
}
text {
  fill: var(--text);
  font-size: 13px;
}
.mono {
  font-size: 13px;
}
line {
  stroke: var(--quiet);
}
</style>
