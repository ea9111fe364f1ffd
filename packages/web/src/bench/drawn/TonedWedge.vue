<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Hill, WedgeLimit } from '@fogbath/core/baths'
import type { Bath } from '@fogbath/core/line'
import HueArc from './HueArc.vue'
import WedgeGround from './WedgeGround.vue'
import { useWedge } from './useWedge'
import { ARC, BASE, HEIGHT, HEIGHTS, acrossAt, heightAt, peakOf } from './wedge'

/**
 * The grey wedge and what the bath makes of it; over it how much colour each tone takes, in the colour that it becomes. Each range is
 * a hill with a drop on its top: up and down for the amount, sideways for the hue. The bar between has the limits.
 */
const props = defineProps<{ bath: Bath }>()
const box = ref<SVGSVGElement | null>(null)
const { width } = useElementSize(box)
/** Before it is laid out it is drawn as wide as it mostly is. */
const W = computed(() => width.value || 340)
const MARGIN = 2
/** Room at the left for a colour that all tones take. */
const GUTTER = 30
const ground = computed(() => {
  const left = view.value.hills.some((h) => h.whole) ? GUTTER : MARGIN
  return { left, width: W.value - left - MARGIN }
})
const { view, held, valueOf, rangeOf, set, hold, holdArc, drag, release, hillKey, limitKey } = useWedge(
  () => props.bath,
  ground,
)
const at = (place: number): number => acrossAt(ground.value, place)

const hills = computed(() =>
  view.value.hills.map((hill) => {
    const amount = valueOf(hill.amount) / 100
    const { place, height } = peakOf(hill)
    return {
      hill,
      x: hill.whole ? ground.value.left / 2 - 2 : at(place),
      y: heightAt(hill.whole ? amount : amount * height),
      hue: valueOf(hill.hue),
      amount: valueOf(hill.amount),
    }
  }),
)
const limits = computed(() =>
  view.value.limits.map((limit) => ({
    limit,
    x: at(limit.at),
    from: at(limit.at - limit.wide / 2),
    to: at(limit.at + limit.wide / 2),
    value: valueOf(limit.place.setting),
    told: `${valueOf(limit.place.setting)} %, ${limit.widthLabel} ${valueOf(limit.width.setting)} %`,
  })),
)
/** A limit between two ranges falls as one fades into the next; a range of its own has two edges. */
function limitPath({ limit, x, from, to }: { limit: WedgeLimit; x: number; from: number; to: number }): string {
  const [top, low] = [HEIGHTS.hills + 2, BASE - 2]
  return limit.bare
    ? `M${from} ${top}V${low}M${to} ${top}V${low}`
    : `M${from} ${top}C${x} ${top} ${x} ${low} ${to} ${low}`
}
/** At least as wide as a finger is sure of. */
const TARGET = 24

const open = ref<Hill | null>(null)
/** The half circle keeps within the drawing. */
const arc = computed(() => {
  const now = hills.value.find(({ hill }) => hill.label === open.value?.label)
  if (!now) return null
  const room = ARC.radius + 5
  return { ...now, cx: Math.min(W.value - room, Math.max(room, now.x)), cy: Math.max(room, now.y) }
})
function pressArc(e: PointerEvent): void {
  const { left, top } = box.value!.getBoundingClientRect()
  holdArc(e, arc.value!.hill, { x: left + arc.value!.cx, y: top + arc.value!.cy })
}
/** The drop has the focus as long as its hues are open; a click beside it closes them. */
function toggle(e: KeyboardEvent, hill: Hill): void {
  if (e.key === 'Escape' && open.value) open.value = null
  else if (e.key === 'Enter' || e.key === ' ') open.value = open.value ? null : hill
  else return hillKey(e, hill)
  e.preventDefault()
  e.stopPropagation()
}
const DROP = 'M0 -11C3.4 -5.4 6 -2.6 6 1A6 6 0 0 1 -6 1C-6 -2.6 -3.4 -5.4 0 -11Z'
</script>

<template>
  <svg
    ref="box"
    class="toned"
    :viewBox="`0 0 ${W} ${HEIGHT}`"
    :height="HEIGHT"
    role="group"
    :aria-label="view.title"
    @pointermove="drag"
    @pointerup="release"
    @pointercancel="release"
  >
    <WedgeGround :view="view" :ground="ground" :amounts="hills.map((h) => h.amount)" />
    <g v-if="ground.left === GUTTER">
      <path class="stem" :d="`M${ground.left / 2 - 2} 12V${HEIGHTS.hills}`" />
      <text :x="ground.left / 2 - 2" :y="BASE + 4">all</text>
    </g>
    <HueArc
      v-if="arc && (!held || held.way !== 'up')"
      :transform="`translate(${arc.cx} ${arc.cy})`"
      :hue="arc.hue"
      @hold="pressArc"
    />
    <g
      v-for="h in hills"
      :key="h.hill.label"
      class="drop"
      role="slider"
      tabindex="0"
      :transform="`translate(${h.x} ${h.y})`"
      :aria-label="`${h.hill.label}: amount and hue of the colour`"
      :aria-valuenow="h.amount"
      :aria-valuemin="0"
      :aria-valuemax="100"
      :aria-valuetext="`amount ${h.amount} %, hue ${h.hue} degrees`"
      @pointerdown="hold($event, h.hill)"
      @focus="open = h.hill"
      @blur="open = null"
      @dblclick="set(h.hill.amount, 0)"
      @keydown="toggle($event, h.hill)"
    >
      <title>
        {{ h.hill.label }}: up and down for the amount, sideways for the hue (arrows; Alt and arrows). Double click:
        none
      </title>
      <rect class="reach" x="-12" y="-14" width="24" height="24" />
      <path :d="DROP" :fill="`hsl(${h.hue} 55% 50%)`" />
    </g>
    <g
      v-for="l in limits"
      :key="l.limit.label"
      class="limit"
      role="slider"
      tabindex="0"
      :aria-label="`${l.limit.label}: place and ${l.limit.widthLabel}`"
      :aria-valuenow="l.value"
      :aria-valuemin="rangeOf(l.limit.place.setting).minimum"
      :aria-valuemax="rangeOf(l.limit.place.setting).maximum"
      :aria-valuetext="l.told"
      @pointerdown="hold($event, l.limit)"
      @keydown="limitKey($event, l.limit)"
    >
      <title>{{ l.limit.label }}: sideways to move it, up and down for the {{ l.limit.widthLabel }} (arrows)</title>
      <rect
        class="reach"
        :x="Math.min(l.from, l.x - TARGET / 2)"
        :y="HEIGHTS.hills - 1"
        :width="Math.max(l.to - l.from, TARGET)"
        :height="TARGET"
      />
      <path :d="limitPath(l)" />
    </g>
  </svg>
</template>

<style scoped>
.toned {
  display: block;
  margin: 2px 0 8px;
  touch-action: none;
  user-select: none;
  width: 100%;
}
text {
  fill: var(--text);
  font-size: 13px;
  pointer-events: none;
  text-anchor: middle;
}
.stem {
  stroke: var(--line);
  stroke-width: 2;
}
.reach {
  fill: transparent;
}
.drop {
  cursor: move;
}
.drop path {
  stroke: var(--text);
  stroke-width: 1.6;
}
.limit {
  cursor: ew-resize;
}
.limit path {
  fill: none;
  stroke: var(--text);
  stroke-width: 2;
}
.drop:focus-visible,
.limit:focus-visible {
  outline: none;
}
.drop:focus-visible .reach,
.limit:focus-visible .reach {
  stroke: var(--accent);
  stroke-width: 2;
}
</style>
