<script setup lang="ts">
import { NInputNumber } from 'naive-ui'
import { computed } from 'vue'
import type { Bath } from '@fogbath/core/line'
import { useBenchStore } from '../../stores/bench'

/** The matrix as a table: a row for each channel that comes out, with what it adds up to. */
const props = defineProps<{ bath: Bath }>()
const bench = useBenchStore()
const CHANNELS = ['red', 'green', 'blue'] as const
type Channel = (typeof CHANNELS)[number]
const capital = (name: string): string => name[0]!.toUpperCase() + name.slice(1)
const value = (name: string): number => Number(props.bath.settings[name])
const set = (values: Record<string, number>): void => bench.setSettings(props.bath.id, values)

const mono = computed(() => props.bath.settings['output'] === 'mono')
interface Row {
  readonly label: string
  readonly fields: readonly string[]
  readonly offset: string | null
}
const rows = computed<Row[]>(() =>
  mono.value
    ? [{ label: 'grey', fields: ['monoRed', 'monoGreen', 'monoBlue'], offset: null }]
    : CHANNELS.map((to) => ({
        label: to,
        fields: CHANNELS.map((from) => `${to}From${capital(from)}`),
        offset: `${to}Offset`,
      })),
)
const sum = (row: Row): number => row.fields.reduce((total, f) => total + value(f), 0)

/** Two channels change places. */
function exchange(a: Channel, b: Channel): void {
  const row = (to: Channel): number[] => rows.value.find((r) => r.label === to)!.fields.map(value)
  const [ra, rb] = [row(a), row(b)]
  const put = (to: Channel, list: number[]) => CHANNELS.map((from, k) => [`${to}From${capital(from)}`, list[k]!])
  set(Object.fromEntries([...put(a, rb), ...put(b, ra)]))
}
const straight = (): void =>
  set(
    Object.fromEntries(
      CHANNELS.flatMap((to) => [
        ...CHANNELS.map((from) => [`${to}From${capital(from)}`, from === to ? 100 : 0]),
        [`${to}Offset`, 0],
      ]),
    ),
  )
</script>

<template>
  <div>
    <table>
      <thead>
        <tr>
          <th scope="col"><span class="sr-only">gives</span></th>
          <th v-for="c in CHANNELS" :key="c" scope="col">from {{ c }}</th>
          <th v-if="!mono" scope="col">offset</th>
          <th scope="col">sum</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.label">
          <th scope="row">{{ row.label }}</th>
          <td v-for="(f, k) in row.fields" :key="f">
            <NInputNumber
              size="tiny"
              :show-button="false"
              :min="-200"
              :max="200"
              :value="value(f)"
              :input-props="{ 'aria-label': `${row.label} from ${CHANNELS[k]}` }"
              @update:value="(v: number | null) => v !== null && set({ [f]: v })"
            />
          </td>
          <td v-if="row.offset">
            <NInputNumber
              size="tiny"
              :show-button="false"
              :min="-50"
              :max="50"
              :value="value(row.offset)"
              :disabled="Boolean(bath.settings['holdNeutrals'])"
              :input-props="{ 'aria-label': `${row.label}, offset` }"
              @update:value="(v: number | null) => v !== null && set({ [row.offset!]: v })"
            />
          </td>
          <td class="mono sum" :class="{ off: sum(row) !== 100 }">{{ sum(row) }} %</td>
        </tr>
      </tbody>
    </table>
    <div v-if="!mono" class="below">
      <span class="quiet">Exchange</span>
      <button class="word" type="button" @click="exchange('red', 'green')">red, green</button>
      <button class="word" type="button" @click="exchange('red', 'blue')">red, blue</button>
      <button class="word" type="button" @click="exchange('green', 'blue')">green, blue</button>
      <button class="word" type="button" @click="straight">make straight</button>
    </div>
  </div>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  color: var(--quiet);
  font-size: 13px;
  font-weight: 400;
  text-align: left;
}
td {
  padding: 2px 3px;
}
td :deep(input) {
  font-family: 'Spline Sans Mono', monospace;
  font-size: 13px;
  text-align: right;
}
.sum {
  text-align: right;
  white-space: nowrap;
}
.off {
  color: var(--accent);
}
.below {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
}
</style>
