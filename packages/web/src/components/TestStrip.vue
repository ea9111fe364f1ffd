<script setup lang="ts">
import { STRIP_WEDGE } from '@fogbath/core/charts'
import type { StripColours } from '../workers/protocol'

/** The grey wedge above, the colour patches below, as they leave a bath. */
defineProps<{ colours: StripColours | undefined; label: string }>()
const wedge = STRIP_WEDGE.length
const css = (c: readonly number[]): string => `rgb(${c.join(' ')})`
</script>

<template>
  <div class="strip" role="img" :aria-label="`Test strip: ${label}`">
    <template v-if="colours">
      <div class="row"><i v-for="(c, i) in colours.slice(0, wedge)" :key="i" :style="{ background: css(c) }" /></div>
      <div class="row"><i v-for="(c, i) in colours.slice(wedge)" :key="i" :style="{ background: css(c) }" /></div>
    </template>
  </div>
</template>

<style scoped>
.strip {
  background: #808080;
  display: grid;
  grid-template-rows: 17px 12px;
  width: 100%;
}
.row {
  display: flex;
}
.row i {
  flex: 1;
}
</style>
