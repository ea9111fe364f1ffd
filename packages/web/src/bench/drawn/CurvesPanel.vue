<script setup lang="ts">
import { computed, ref } from 'vue'
import { CURVE_NAMES, curveOf, type CurveName, type Points } from '@fogbath/core/baths'
import { codeLuma } from '@fogbath/core/colour'
import { settingsOf, type Bath } from '@fogbath/core/line'
import { useBenchStore } from '../../stores/bench'
import type { Sampler } from '../../stores/bench/state'
import PointsField from './PointsField.vue'
import SampleButton from './SampleButton.vue'
import { useIncoming } from './useIncoming'

/** Curves over code values, the picture's own values behind them. */
const props = defineProps<{ bath: Bath }>()
const bench = useBenchStore()
type Settings = Parameters<typeof curveOf>[0]
const settings = computed(() => settingsOf<Settings>(props.bath))
const name = ref<CurveName>('master')
const incoming = useIncoming(() => props.bath)
const LABELS: Record<CurveName, string> = { master: 'All', red: 'Red', green: 'Green', blue: 'Blue', luma: 'Luma' }

const points = computed<Points>(() => settings.value[name.value])
const curve = computed(() => curveOf(settings.value, name.value))
const set = (list: Points, once = false): void => bench.setSettings(props.bath.id, { [name.value]: list }, once)
const bars = computed(() => {
  const list = incoming.value?.[name.value === 'master' ? 'luma' : name.value] ?? []
  const step = 256 / Math.max(1, list.length)
  return `M0 160${list.map((v, i) => `L${(i * step).toFixed(1)} ${(160 - 150 * v).toFixed(1)}H${((i + 1) * step).toFixed(1)}`).join('')}L256 160z`
})
/** The band of tones that is held, in the curves of single channels. */
const band = computed(() => {
  const s = settings.value
  if (!s.hold || name.value === 'master' || name.value === 'luma') return null
  return { x: 2.56 * (s.holdAt - s.holdWidth / 2), width: 2.56 * s.holdWidth }
})
const changed = (n: CurveName): boolean => settings.value[n].some(([x, y]) => x !== y)

/** A point on the curve at the tone that was clicked, to be moved from there. */
function take({ code: [r, g, b] }: Parameters<Sampler['take']>[0]): void {
  const tone = { master: codeLuma(r, g, b), luma: codeLuma(r, g, b), red: r, green: g, blue: b }[name.value]
  const x = Math.round(Math.min(1, Math.max(0, tone)) * 1000) / 1000
  if (points.value.some((p) => Math.abs(p[0] - x) < 0.01)) return
  const y = Math.round(Math.min(1, Math.max(0, curve.value(x))) * 1000) / 1000
  set(
    [...points.value, [x, y] as const].sort((p, q) => p[0] - q[0]),
    true,
  )
}
</script>

<template>
  <div class="curves">
    <div class="names" role="group" aria-label="Curve">
      <button v-for="n in CURVE_NAMES" :key="n" class="word" type="button" :aria-pressed="n === name" @click="name = n">
        {{ LABELS[n] }}<span v-if="changed(n)" aria-label="changed"> •</span>
      </button>
    </div>
    <PointsField
      :points="points"
      :curve="curve"
      :range="[0, 1]"
      :name="`curve ${LABELS[name]}`"
      :axes="['in', 'out']"
      @change="set"
    >
      <path class="bars" :d="bars" />
      <rect v-if="band" class="band" :x="band.x" :width="band.width" height="160" />
      <path class="diagonal" d="M0 160L256 0" />
    </PointsField>
    <div class="below">
      <SampleButton
        name="curve"
        label="set a point at a tone"
        title="Click in the picture: the curve gets a point at that tone"
        again
        @take="take"
      />
      <button
        class="word"
        type="button"
        :disabled="!changed(name) && points.length === 2"
        @click="
          set(
            [
              [0, 0],
              [1, 1],
            ],
            true,
          )
        "
      >
        make straight
      </button>
    </div>
  </div>
</template>

<style scoped>
.names,
.below {
  display: flex;
  gap: 10px;
}
.below {
  justify-content: space-between;
}
.bars {
  fill: var(--raised);
}
.band {
  fill: var(--accent);
  opacity: 0.16;
}
.diagonal {
  fill: none;
  stroke: var(--quiet);
  stroke-dasharray: 3 3;
  vector-effect: non-scaling-stroke;
}
</style>
