<script setup lang="ts">
import { computed, ref } from 'vue'
import { kindById } from '@fogbath/core'
import { useBenchStore } from '../stores/bench'
import type { useProbes } from './useProbes'

/** The simulated densitometer: what was measured at each place, after each bath. */
const props = defineProps<{ probes: ReturnType<typeof useProbes> }>()
const bench = useBenchStore()
const chosen = ref(0)
const reading = computed(
  () => props.probes.readings.value[Math.min(chosen.value, props.probes.readings.value.length - 1)],
)
const rows = computed(() => {
  const names = ['footage', ...bench.recipe.baths.map((b) => b.name || kindById(b.kind).label), 'screen']
  return (reading.value?.steps ?? []).map((step, i) => ({ name: names[i] ?? '', ...step }))
})
const three = (v: readonly number[], digits: number): string => v.map((x) => x.toFixed(digits)).join(' ')
</script>

<template>
  <section v-if="probes.places.value.length" class="probes" aria-label="Probes">
    <div class="bar">
      <span class="quiet">Probe</span>
      <button
        v-for="(_, i) in probes.places.value"
        :key="i"
        class="word"
        type="button"
        :aria-pressed="i === chosen"
        @click="chosen = i"
      >
        {{ i + 1 }}
      </button>
      <button class="word clear" type="button" @click="probes.clear">clear</button>
    </div>
    <table v-if="reading" class="mono">
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
          <td>{{ three(r.density, 2) }}</td>
          <td>{{ three(r.lab, 0) }}</td>
          <td>
            {{
              three(
                r.code.map((c) => c * 100),
                0,
              )
            }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="reading" class="mono quiet">scene light {{ three(reading.scene, 4) }}</p>
  </section>
</template>

<style scoped>
.probes {
  border-bottom: 1px solid var(--line);
  padding: 6px 14px 8px;
}
.bar {
  display: flex;
  gap: 10px;
}
.clear {
  margin-left: auto;
}
table {
  border-collapse: collapse;
  font-size: 11px;
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
  font-size: 11px;
}
</style>
