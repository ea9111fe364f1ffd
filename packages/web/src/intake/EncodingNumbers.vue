<script setup lang="ts">
import type { Shot } from '@fogbath/contract'
import { NButton, NInput, NInputNumber, NSelect } from 'naive-ui'
import { encodingOfParameters, type EncodingDefinition, type EncodingParameters } from '@fogbath/core/encodings'
import { computed, reactive } from 'vue'
import { keepEncoding } from '../api/encodings'
import { wordsOf } from '../stores/errors'
import EncodingCurve from './EncodingCurve.vue'

/** An encoding by the numbers that a maker publishes, with its curve as they are typed. */
defineProps<{ shots: readonly Shot[] }>()
const emit = defineEmits<{ fail: [error: unknown] }>()
const KINDS = [
  { value: 'log', label: 'Log with a straight toe' },
  { value: 'gamma', label: 'A power' },
  { value: 'linear', label: 'None: numbers are light' },
]
const REFERS = [
  { value: 'scene', label: 'the light before the lens' },
  { value: 'display', label: 'a screen' },
]
/** The curve's numbers as the Common LUT Format calls them. */
const LOG = [
  ['base', 'Base'],
  ['logSideSlope', 'Log side, slope'],
  ['logSideOffset', 'Log side, offset'],
  ['linSideSlope', 'Linear side, slope'],
  ['linSideOffset', 'Linear side, offset'],
  ['linSideBreak', 'Straight below (light)'],
] as const
const CORNERS = [
  ['red', 'Red'],
  ['green', 'Green'],
  ['blue', 'Blue'],
  ['white', 'White'],
] as const

const form = reactive({
  name: '',
  refers: 'scene' as 'scene' | 'display',
  type: 'log' as 'log' | 'gamma' | 'linear',
  gamma: 2.4,
  log: {
    base: 10,
    logSideSlope: 0.25,
    logSideOffset: 0.39,
    linSideSlope: 5.5,
    linSideOffset: 0.05,
    linSideBreak: 0.01,
  },
  red: [0.68, 0.32] as [number, number],
  green: [0.265, 0.69] as [number, number],
  blue: [0.15, 0.06] as [number, number],
  white: [0.3127, 0.329] as [number, number],
})
const parameters = computed((): EncodingParameters => {
  const { name, refers, type, gamma, log, red, green, blue, white } = form
  const curve = { log: { type: 'log', ...log }, gamma: { type: 'gamma', gamma }, linear: { type: 'linear' } }[type]
  const primaries = { red, green, blue, white }
  return { name: name.trim() || 'Without a name', refers, curve, primaries } as EncodingParameters
})
const made = computed((): EncodingDefinition | string => {
  try {
    return encodingOfParameters(parameters.value)
  } catch (error) {
    return wordsOf(error)
  }
})
const fault = computed(() => (typeof made.value === 'string' ? made.value : ''))

async function keep(): Promise<void> {
  try {
    await keepEncoding(encodingOfParameters(parameters.value))
    form.name = ''
  } catch (error) {
    emit('fail', error)
  }
}
</script>

<template>
  <details aria-label="By numbers">
    <summary>By numbers</summary>
    <div class="both">
      <div class="fields">
        <label
          >Name
          <NInput
            v-model:value="form.name"
            size="tiny"
            :maxlength="80"
            placeholder=""
            :input-props="{ 'aria-label': 'Name of the encoding' }"
        /></label>
        <label
          >It refers to
          <NSelect v-model:value="form.refers" size="tiny" :options="REFERS" aria-label="What it refers to"
        /></label>
        <label>Curve <NSelect v-model:value="form.type" size="tiny" :options="KINDS" aria-label="Curve" /></label>
        <template v-if="form.type === 'log'">
          <label v-for="[field, title] in LOG" :key="field"
            >{{ title }}
            <NInputNumber
              v-model:value="form.log[field]"
              size="tiny"
              :show-button="false"
              :input-props="{ 'aria-label': title }"
          /></label>
        </template>
        <label v-else-if="form.type === 'gamma'"
          >Power
          <NInputNumber
            v-model:value="form.gamma"
            size="tiny"
            :show-button="false"
            :input-props="{ 'aria-label': 'Power' }"
        /></label>
        <label v-for="[corner, title] in CORNERS" :key="corner"
          >{{ title }}, x and y
          <span class="xy"
            ><NInputNumber
              v-for="k in [0, 1] as const"
              :key="k"
              v-model:value="form[corner][k]"
              size="tiny"
              :show-button="false"
              :input-props="{ 'aria-label': `${title}, ${k === 0 ? 'x' : 'y'}` }" /></span
        ></label>
      </div>
      <figure>
        <EncodingCurve :definition="typeof made === 'string' ? null : made" :shots="shots" />
        <p v-if="fault" class="warn" role="alert">{{ fault }}</p>
        <NButton size="small" type="primary" :disabled="!form.name.trim() || fault !== ''" @click="keep">Keep</NButton>
      </figure>
    </div>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
  font-weight: 600;
  line-height: 24px;
  margin: 14px 0 4px;
}
.both {
  display: grid;
  gap: 24px;
  grid-template-columns: 1fr 250px;
}
label {
  align-items: center;
  display: grid;
  gap: 8px;
  grid-template-columns: 150px 1fr;
  min-height: 28px;
}
.xy {
  display: flex;
  gap: 6px;
}
figure {
  margin: 0;
}
</style>
