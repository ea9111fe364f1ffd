<script setup lang="ts">
import type { PaletteView } from '@fogbath/core/baths'

/** The colours that a process can hold: its own swatches, and where they lie in a*, b*. */
defineProps<{ view: PaletteView }>()
const css = (c: readonly [number, number, number]): string => `rgb(${c.map((v) => Math.round(255 * v)).join(' ')})`
</script>

<template>
  <figure class="palette">
    <figcaption class="quiet">{{ view.title }}</figcaption>
    <div class="both">
      <div class="swatches" role="img" aria-label="Colours the process can make">
        <div v-for="(row, y) in view.swatches" :key="y">
          <i v-for="(c, x) in row" :key="x" :style="{ background: css(c) }" />
        </div>
      </div>
      <svg viewBox="-100 -100 200 200" role="img" aria-label="The same colours in a* (right) and b* (up)">
        <path d="M-100 0H100M0 -100V100" />
        <circle
          v-for="(p, i) in view.ab"
          :key="i"
          :cx="p[0]"
          :cy="-p[1]"
          r="2.6"
          :fill="css(view.swatches[Math.floor(i / view.swatches[0]!.length)]![i % view.swatches[0]!.length]!)"
        />
      </svg>
    </div>
  </figure>
</template>

<style scoped>
.palette {
  margin: 8px 0;
}
figcaption {
  font-size: 13px;
}
.both {
  display: grid;
  gap: 12px;
  grid-template-columns: 1fr 1fr;
}
.swatches {
  display: flex;
  flex-direction: column;
}
.swatches div {
  display: flex;
  flex: 1;
}
.swatches i {
  flex: 1;
}
svg {
  background: #2a2a2a;
}
path {
  stroke: #6a6a6a;
}
</style>
