<script setup lang="ts">
import { computed } from 'vue'
import { ARC, onArc } from './wedge'

/** The hues as a half circle about the top of a hill, with the one that it has; a click on the band takes one, and leaves the focus to the hill. */
const props = defineProps<{ hue: number }>()
const emit = defineEmits<{ hold: [e: PointerEvent] }>()
const STEP = 10
const rim = ARC.radius - ARC.band / 2

const point = (hue: number, radius: number): string => {
  const { x, y } = onArc(hue, radius)
  return `${x.toFixed(2)} ${y.toFixed(2)}`
}
/** Pieces lie a little over each other, so that no seam is seen. */
const pieces = Array.from({ length: 360 / STEP }, (_, i) => ({
  hue: (i + 0.5) * STEP,
  d: `M${point(i * STEP, rim)}A${rim} ${rim} 0 0 1 ${point(Math.min(360, (i + 1) * STEP + 1), rim)}`,
}))
const mark = computed(() => `M${point(props.hue, ARC.radius + 3)}L${point(props.hue, ARC.radius - ARC.band - 3)}`)
const whole = `M${point(0, rim)}A${rim} ${rim} 0 0 1 ${point(360, rim)}`
</script>

<template>
  <g class="arc" aria-hidden="true">
    <path class="ground" :d="`M${-ARC.radius - 4} 4A${ARC.radius + 4} ${ARC.radius + 4} 0 0 1 ${ARC.radius + 4} 4Z`" />
    <path
      v-for="piece in pieces"
      :key="piece.hue"
      :d="piece.d"
      :stroke="`hsl(${piece.hue} 55% 50%)`"
      :stroke-width="ARC.band"
    />
    <path class="mark under" :d="mark" />
    <path class="mark" :d="mark" />
    <path
      class="reach"
      :d="whole"
      :stroke-width="ARC.band + 8"
      @mousedown.prevent
      @pointerdown.stop="emit('hold', $event)"
    />
  </g>
</template>

<style scoped>
path {
  fill: none;
}
.ground {
  fill: color-mix(in srgb, var(--panel) 88%, transparent);
  pointer-events: none;
}
.mark {
  pointer-events: none;
  stroke: var(--text);
  stroke-width: 2;
}
.mark.under {
  stroke: var(--ground);
  stroke-width: 5;
}
.reach {
  cursor: crosshair;
  stroke: transparent;
}
</style>
