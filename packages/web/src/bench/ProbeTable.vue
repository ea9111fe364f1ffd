<script setup lang="ts">
import { computed, ref } from 'vue'
import { kindById, sampleLine, type CurvesView } from '@fogbath/core/baths'
import { displayLight, luminance, three } from '@fogbath/core/colour'
import { plainSteps } from '@fogbath/core/line'
import { useBenchStore } from '../stores/bench'
import CurvesChart from './CurvesChart.vue'
import type { useProbes } from './useProbes'

/** The simulated densitometer: what was measured at each place, after each bath, and where it lies on the wedge's curve. */
const props = defineProps<{ probes: ReturnType<typeof useProbes> }>()
const bench = useBenchStore()
const chosen = ref(0)
const plotted = ref(false)
const index = computed(() => Math.min(chosen.value, props.probes.readings.value.length - 1))
const reading = computed(() => props.probes.readings.value[index.value])
const rows = computed(() => {
  const names = ['footage', ...bench.inLine.map((b) => b.name || kindById(b.kind).label), 'screen']
  return (reading.value?.steps ?? []).map((step, i) => ({ name: names[i] ?? '', ...step }))
})
const figures = (v: readonly number[], digits: number): string => v.map((x) => x.toFixed(digits)).join(' ')

const densityOf = (light: number): number => -Math.log10(Math.max(light, 1e-5))
const logOf = (light: number): number => Math.log10(Math.max(light, 1e-6) / 0.18)

/** Density on the screen against log exposure: the wedge as a line, each probe as a numbered point. */
const plot = computed<CurvesView>(() => {
  const steps = plainSteps(bench.lineNow.recipe, { around: bench.lineNow })
  const out = three()
  const wedge = (point: typeof steps.whole) => (x: number) => {
    const light = 0.18 * 10 ** x
    point(light, light, light, out)
    return densityOf(luminance([...out].map(displayLight)))
  }
  return {
    view: 'curves',
    title: 'Probes on the wedge',
    xTitle: 'log exposure of the scene, 0 = mid grey',
    yTitle: 'density on the screen',
    lines: [
      { label: 'footage', style: 'dashed', points: sampleLine(wedge(steps.footage), -2.5, 1.5) },
      { label: 'screen', style: 'accent', points: sampleLine(wedge(steps.whole), -2.5, 1.5) },
    ],
    marks: props.probes.readings.value.map((r, i) => ({
      label: String(i + 1),
      x: logOf(luminance(r.scene)),
      y: densityOf(luminance(r.steps[r.steps.length - 1]!.light)),
    })),
  }
})

const grey = computed(() => bench.marks.grey)
/** Stops that bring the marked card to 18 %. */
const correction = computed(() => (grey.value === null ? 0 : Math.log2(0.18 / grey.value)))
const expose = (): void =>
  bench.setBalance({ exposure: Math.min(8, Math.max(-8, Math.round(correction.value * 100) / 100)) })
</script>

<template>
  <section v-if="probes.places.value.length || grey !== null" class="probes" aria-label="Probes">
    <div class="bar">
      <span class="quiet">Probe</span>
      <button
        v-for="(_, i) in probes.places.value"
        :key="i"
        class="word"
        type="button"
        :aria-pressed="i === index"
        @click="chosen = i"
      >
        {{ i + 1 }}
      </button>
      <template v-if="reading">
        <button class="word end" type="button" :aria-pressed="plotted" @click="plotted = !plotted">plot</button>
        <button
          class="word"
          type="button"
          title="This place shows a grey card: mark its level on the waveform"
          @click="probes.markGrey(reading.scene)"
        >
          grey card
        </button>
        <button class="word" type="button" :aria-label="`Remove probe ${index + 1}`" @click="probes.remove(index)">
          remove
        </button>
        <button class="word" type="button" @click="probes.clear">clear</button>
      </template>
    </div>
    <table v-if="reading && !plotted" class="mono">
      <thead>
        <tr>
          <th>leaving</th>
          <th>density R G B</th>
          <th>L* a* b*</th>
          <th>code %</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in rows" :key="i">
          <th>{{ r.name }}</th>
          <td>{{ figures(r.density, 2) }}</td>
          <td>{{ figures(r.lab, 0) }}</td>
          <td>
            {{
              figures(
                r.code.map((c) => c * 100),
                0,
              )
            }}
          </td>
        </tr>
      </tbody>
    </table>
    <CurvesChart v-if="reading && plotted" :view="plot" />
    <p v-if="reading" class="mono quiet">scene light {{ figures(reading.scene, 4) }}</p>
    <p v-if="grey !== null" class="card">
      <span>Grey card at <b class="mono">{{ (grey * 100).toFixed(1) }} %</b></span>
      <button
        class="word"
        type="button"
        title="Set the exposure of the shot’s balance so that the card lies at 18 %"
        @click="expose"
      >
        expose by {{ correction >= 0 ? '+' : '−' }}{{ Math.abs(correction).toFixed(2) }} stop
      </button>
      <button class="word" type="button" aria-label="Forget the grey card" @click="probes.markGrey(null)">
        forget
      </button>
    </p>
  </section>
</template>

<style scoped>
.probes {
  border-bottom: 1px solid var(--line);
  padding: 6px 14px 8px;
}
.bar,
.card {
  display: flex;
  gap: 10px;
}
.end {
  margin-left: auto;
}
table {
  border-collapse: collapse;
  font-size: 13px;
  width: 100%;
}
th {
  font-weight: 400;
  max-width: 90px;
  overflow: hidden;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
}
thead th {
  color: var(--quiet);
}
td {
  white-space: pre;
}
p {
  font-size: 13px;
}
</style>
