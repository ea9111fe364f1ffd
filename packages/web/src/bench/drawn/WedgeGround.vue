<script setup lang="ts">
import { computed, useId } from 'vue'
import type { WedgeView } from '@fogbath/core/baths'
import { BASE, HEIGHTS, acrossAt, outline, type Ground } from './wedge'

/** What the toned wedge shows beneath its handles: hills, what they come to, names, the wedge as it comes and as it becomes. */
const props = defineProps<{
  view: WedgeView
  ground: Ground
  /** Of each hill, in per cent. */
  amounts: readonly number[]
}>()
const id = useId()
const at = (place: number): number => acrossAt(props.ground, place)
const css = (c: readonly number[]): string => `rgb(${c.map((v) => Math.round(255 * v)).join(' ')})`

/** Names stand over what belongs to each range, where there is room for them. */
const ROOM = 48
const names = computed(() => {
  const inner = props.view.limits.flatMap((l) => (l.bare ? [l.at - l.wide / 2, l.at + l.wide / 2] : [l.at]))
  const edges = [0, ...inner, 1].map((place) => at(Math.min(1, Math.max(0, place))))
  const ranges = props.view.hills.filter((h) => !h.whole).map((h) => h.label.toLowerCase())
  const labels = props.view.limits.some((l) => l.bare) ? [ranges[0]!, 'untouched', ranges[1]!] : ranges
  return labels
    .map((label, i) => ({ label, x: (edges[i]! + edges[i + 1]!) / 2, room: edges[i + 1]! - edges[i]! }))
    .filter(({ room }) => room > ROOM)
})
</script>

<template>
  <g>
    <defs>
      <linearGradient :id="`${id}t`" gradientUnits="userSpaceOnUse" :x1="at(0)" :x2="at(1)">
        <stop v-for="(c, i) in view.becomes" :key="i" :offset="i / (view.becomes.length - 1)" :stop-color="css(c)" />
      </linearGradient>
      <linearGradient :id="`${id}g`">
        <stop offset="0" stop-color="#000" />
        <stop offset="1" stop-color="#fff" />
      </linearGradient>
    </defs>
    <rect class="sky" :x="at(0)" :width="ground.width" :height="HEIGHTS.hills" />
    <path class="takes" :d="outline(ground, view.amounts)" :fill="`url(#${id}t)`" />
    <path
      v-for="(h, i) in view.hills"
      :key="h.label"
      class="hill"
      :class="{ whole: h.whole }"
      :d="
        outline(
          ground,
          h.shape.map((v) => (v * amounts[i]!) / 100),
        )
      "
    />
    <rect class="bar" :x="at(0)" :y="HEIGHTS.hills" :width="ground.width" :height="HEIGHTS.bar" />
    <text v-for="n in names" :key="n.label" :x="n.x" :y="HEIGHTS.hills + 15.5">{{ n.label }}</text>
    <rect :x="at(0)" :y="BASE" :width="ground.width" :height="HEIGHTS.comes" :fill="`url(#${id}g)`" />
    <rect :x="at(0)" :y="BASE + HEIGHTS.comes" :width="ground.width" :height="HEIGHTS.becomes" :fill="`url(#${id}t)`" />
  </g>
</template>

<style scoped>
.sky {
  fill: var(--surround);
}
.takes {
  stroke: var(--text);
  stroke-width: 1.4;
}
.hill {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 1;
}
.hill.whole {
  stroke-dasharray: 3 3;
}
.bar {
  fill: var(--raised);
}
text {
  fill: var(--text);
  font-size: 13px;
  pointer-events: none;
  text-anchor: middle;
}
</style>
