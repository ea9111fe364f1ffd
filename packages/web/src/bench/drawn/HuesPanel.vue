<script setup lang="ts">
import { computed, ref } from 'vue'
import { HUE_CURVES, hueCurveOf, type HueCurve, type Points } from '@fogbath/core/baths'
import { codeChroma, codeLuma, turnOf } from '@fogbath/core/colour'
import { settingsOf, type Bath } from '@fogbath/core/line'
import { useBenchStore } from '../../stores/bench'
import type { Sampler } from '../../stores/bench/state'
import { hueGradient } from './hues'
import PointsField from './PointsField.vue'
import SampleButton from './SampleButton.vue'
import { useIncoming } from './useIncoming'

/** Curves over the hues that the picture has, over its light and its chroma. */
const props = defineProps<{ bath: Bath }>()
const bench = useBenchStore()
type Settings = Parameters<typeof hueCurveOf>[0]
const settings = computed(() => settingsOf<Settings>(props.bath))
const name = ref<HueCurve>('chromas')
const incoming = useIncoming(() => props.bath)
const LABELS: Record<HueCurve, readonly [label: string, says: string]> = {
  turns: ['turn', 'Hue by hue: up turns towards the next colour on the right, down towards the left'],
  chromas: ['saturation', 'Saturation by hue: up is fuller, down is paler'],
  lights: ['light', 'Light by hue: up is lighter, down is darker'],
  densities: ['density', 'Density by hue: up is darker the more colourful it is'],
  byLight: ['by light', 'Saturation by light: black at the left, white at the right'],
  byChroma: ['by saturation', 'Saturation by saturation: pale at the left, strong at the right'],
}
const circle = computed(() => name.value !== 'byLight' && name.value !== 'byChroma')
const points = computed<Points>(() => settings.value[name.value])
const curve = computed(() => hueCurveOf(settings.value, name.value))
const set = (list: Points, once = false): void => bench.setSettings(props.bath.id, { [name.value]: list }, once)
const bars = computed(() => {
  const key = { byLight: 'luma', byChroma: 'chroma' } as const
  const list = incoming.value?.[name.value in key ? key[name.value as keyof typeof key] : 'hues'] ?? []
  const step = 256 / Math.max(1, list.length)
  return list.map((v, i) => ({
    x: i * step,
    width: step + 0.3,
    height: 70 * v,
    hue: `hsl(${(360 * (i + 0.5)) / list.length} 55% 55%)`,
  }))
})
const isLevel = computed(() => points.value.every(([, y]) => y === 0))
const changed = (n: HueCurve): boolean => settings.value[n].some(([, y]) => y !== 0)

function take({ code: [r, g, b] }: Parameters<Sampler['take']>[0]): void {
  const at = circle.value ? turnOf(r, g, b) : name.value === 'byLight' ? codeLuma(r, g, b) : codeChroma(r, g, b)
  const x = Math.round(Math.min(1, Math.max(0, at)) * 1000) / 1000
  if (points.value.some((p) => Math.abs(p[0] - x) < 0.01)) return
  const y = Math.round(Math.min(1, Math.max(-1, curve.value(x))) * 1000) / 1000
  set(
    [...points.value, [x, y] as const].sort((p, q) => p[0] - q[0]),
    true,
  )
}
const level = (): void =>
  set(
    points.value.map(([x]) => [x, 0] as const),
    true,
  )
</script>

<template>
  <div>
    <div class="names" role="group" aria-label="Curve">
      <button
        v-for="n in HUE_CURVES"
        :key="n"
        class="word"
        type="button"
        :aria-pressed="n === name"
        :title="LABELS[n][1]"
        @click="name = n"
      >
        {{ LABELS[n][0] }}<span v-if="changed(n)" aria-label="changed"> •</span>
      </button>
    </div>
    <PointsField
      :points="points"
      :curve="curve"
      :range="[-1, 1]"
      :name="`curve ${LABELS[name][0]}`"
      :axes="[circle ? 'hue' : name === 'byLight' ? 'light' : 'saturation', 'change']"
      @change="set"
    >
      <rect
        v-for="(bar, i) in bars"
        :key="i"
        :x="bar.x"
        :y="160 - bar.height"
        :width="bar.width"
        :height="bar.height"
        :fill="circle ? bar.hue : 'var(--raised)'"
        :opacity="circle ? 0.55 : 1"
      />
      <path class="level" d="M0 80H256" />
    </PointsField>
    <div v-if="circle" class="strip" :style="{ background: hueGradient(60, 50) }" aria-hidden="true" />
    <p class="quiet says">{{ LABELS[name][1] }}.</p>
    <div class="below">
      <SampleButton
        name="hue"
        label="set a point at a colour"
        title="Click in the picture: the curve gets a point at that colour"
        again
        @take="take"
      />
      <button class="word" type="button" :disabled="isLevel" @click="level">make level</button>
    </div>
  </div>
</template>

<style scoped>
.names,
.below {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
}
.below {
  justify-content: space-between;
}
.level {
  fill: none;
  stroke: var(--quiet);
  stroke-dasharray: 3 3;
}
.strip {
  height: 7px;
  margin: 0 6px;
}
.says {
  font-size: 13px;
  line-height: 15px;
}
</style>
