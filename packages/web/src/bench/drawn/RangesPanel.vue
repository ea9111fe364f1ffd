<script setup lang="ts">
import { computed, ref } from 'vue'
import { RANGES, rangeShares, type Bath } from '@fogbath/core'
import { useBenchStore } from '../../stores/bench'
import HuePad from './HuePad.vue'

/** Each range of tone over its part of the wedge; the limits between them are dragged on it. */
const props = defineProps<{ bath: Bath }>()
const bench = useBenchStore()
type Settings = Parameters<typeof rangeShares>[0]
type RangeName = (typeof RANGES)[number]
const settings = computed(() => props.bath.settings as unknown as Settings)
const set = (values: Partial<Settings>): void => bench.setSettings(props.bath.id, values)
const LABELS: Record<RangeName, string> = { darks: 'Darks', mids: 'Mids', lights: 'Lights', all: 'All' }
const wedge = ref<HTMLElement | null>(null)
let held: 'darksEnd' | 'lightsBegin' | null = null
const GAP = 6

/** Columns as wide as their ranges, but never too narrow to be used. */
const columns = computed(() => {
  const { darksEnd: a, lightsBegin: b } = settings.value
  return [a, b - a, 100 - b].map((w) => `minmax(72px, ${Math.max(1, w)}fr)`).join(' ')
})
const colour = (name: RangeName, hue: number, amount: number): void =>
  set({ [`${name}Hue`]: hue, [`${name}Amount`]: amount } as Partial<Settings>)

/** Limits keep their order. */
function limit(which: 'darksEnd' | 'lightsBegin', value: number): void {
  const { darksEnd, lightsBegin } = settings.value
  const v = Math.round(value)
  if (which === 'darksEnd') set({ darksEnd: Math.min(lightsBegin - GAP, Math.max(2, v)) })
  else set({ lightsBegin: Math.max(darksEnd + GAP, Math.min(98, v)) })
}
function drag(e: PointerEvent): void {
  if (!held) return
  const box = wedge.value!.getBoundingClientRect()
  limit(held, (100 * (e.clientX - box.left)) / box.width)
}
function press(e: PointerEvent, which: 'darksEnd' | 'lightsBegin'): void {
  held = which
  ;(e.currentTarget as HTMLElement).setPointerCapture(e.pointerId)
}
function key(e: KeyboardEvent, which: 'darksEnd' | 'lightsBegin'): void {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key]
  if (!by) return
  e.preventDefault()
  e.stopPropagation()
  limit(which, settings.value[which] + by)
}
const LIMITS = [
  ['darksEnd', 'Where darks end'],
  ['lightsBegin', 'Where lights begin'],
] as const
</script>

<template>
  <div class="ranges">
    <div class="pads" :style="{ gridTemplateColumns: columns }">
      <div v-for="n in ['darks', 'mids', 'lights'] as const" :key="n">
        <span class="quiet">{{ LABELS[n] }}</span>
        <HuePad
          :hue="settings[`${n}Hue`]"
          :amount="settings[`${n}Amount`]"
          :name="LABELS[n]"
          @change="(h, a) => colour(n, h, a)"
        />
      </div>
    </div>
    <div ref="wedge" class="wedge">
      <button
        v-for="[which, title] in LIMITS"
        :key="which"
        class="limit"
        type="button"
        role="slider"
        :aria-label="title"
        :aria-valuenow="settings[which]"
        aria-valuemin="2"
        aria-valuemax="98"
        :title="`${title}: drag, or arrows`"
        :style="{ left: `${settings[which]}%` }"
        @pointerdown="press($event, which)"
        @pointermove="drag"
        @pointerup="held = null"
        @pointercancel="held = null"
        @keydown="key($event, which)"
      />
    </div>
    <span class="quiet">All</span>
    <HuePad
      :hue="settings.allHue"
      :amount="settings.allAmount"
      name="All"
      :height="40"
      @change="(h, a) => colour('all', h, a)"
    />
  </div>
</template>

<style scoped>
.pads {
  display: grid;
  gap: 4px;
}
.quiet {
  font-size: 12px;
}
.wedge {
  background: linear-gradient(90deg, #000, #fff);
  height: 14px;
  margin: 6px 0 12px;
  position: relative;
}
.limit {
  background: none;
  border: 0;
  cursor: ew-resize;
  height: 26px;
  margin-left: -12px;
  padding: 0;
  position: absolute;
  top: -6px;
  touch-action: none;
  width: 24px;
}
.limit::before {
  background: var(--accent);
  box-shadow: 0 0 0 1px var(--ground);
  content: '';
  height: 26px;
  left: 10px;
  position: absolute;
  top: 0;
  width: 4px;
}
</style>
