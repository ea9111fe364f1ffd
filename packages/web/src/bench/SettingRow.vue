<script setup lang="ts">
import { refAutoReset } from '@vueuse/core'
import { NInputNumber, NSelect, NSwitch } from 'naive-ui'
import { computed, ref } from 'vue'
import type { Control } from '@fogbath/core/baths'
import type { Lane } from '@fogbath/core/keys'
import ColourField from './drawn/ColourField.vue'
import SampleButton from './drawn/SampleButton.vue'
import { hueGradient } from './drawn/hues'
import NamedSlider from '../components/NamedSlider.vue'
import KeyButton from './KeyButton.vue'

/** One setting, drawn from its schema: a slider with its number, a switch, or a choice. */
interface Field {
  readonly type: string
  readonly title: string
  readonly description: string
  readonly default: unknown
  readonly minimum?: number
  readonly maximum?: number
  readonly unit?: string
  readonly step?: number
  readonly enum?: readonly string[]
  readonly labels?: readonly string[]
  readonly control?: Control
}
/** @prop keyed it can change over the shot @prop lane how it does */
const props = defineProps<{ name: string; field: Field; value: unknown; keyed?: boolean; lane?: Lane | undefined }>()
const emit = defineEmits<{ change: [value: unknown]; key: [] }>()

const changed = computed(() => props.value !== props.field.default)
const number = computed(() => Number(props.value))
const fine = computed(() => props.field.step ?? 0.01)
/** A dragged value snaps to the setting's own step; a typed one is taken as it is. */
const set = (value: number): void =>
  emit('change', Math.min(props.field.maximum ?? Infinity, Math.max(props.field.minimum ?? -Infinity, value)))

/** What was wrong with what was typed; it stands where the slider is for a while. */
const wrong = refAutoReset('', 5000)
const fieldKey = ref(0)
const parse = (text: string): number | null => {
  const value = Number(text.trim().replace(',', '.'))
  return text.trim() === '' || Number.isNaN(value) ? null : value
}
/** What is no number is said, and the field goes back to what it held. */
function typed(value: number | null): void {
  wrong.value = value === null ? `No number; it stays ${number.value}.` : ''
  if (value === null) fieldKey.value++
  else set(value)
}
/** A colour of the picture as it comes to the bath. */
function takeColour({ code }: { code: readonly number[] }): void {
  const digits = code.map((v) =>
    Math.round(255 * Math.min(1, Math.max(0, v)))
      .toString(16)
      .padStart(2, '0'),
  )
  emit('change', `#${digits.join('')}`)
}
/** Steps of a light's colour are even in mired, whatever its kelvin. */
const about = computed(() =>
  props.field.unit === 'K'
    ? `${props.field.description} ${Math.round(1e6 / number.value)} mired.`
    : props.field.description,
)
const options = computed(() =>
  (props.field.enum ?? []).map((value, i) => ({ value, label: props.field.labels?.[i] ?? value })),
)
</script>

<template>
  <div class="row" :title="about" :data-setting="name">
    <button
      class="dot"
      type="button"
      :disabled="!changed"
      :aria-label="`Reset ${field.title}`"
      :title="changed ? 'Back to the default' : ''"
      @click="emit('change', field.default)"
    >
      <i :class="{ on: changed }" />
    </button>
    <span class="title" @dblclick="emit('change', field.default)">{{ field.title }}</span>
    <template v-if="field.type === 'boolean'">
      <NSwitch
        size="small"
        :value="Boolean(value)"
        :aria-label="field.title"
        @update:value="(v: boolean) => emit('change', v)"
      />
    </template>
    <template v-else-if="field.enum">
      <NSelect
        size="tiny"
        class="wide"
        :value="String(value)"
        :options="options"
        :aria-label="field.title"
        @update:value="(v: string) => emit('change', v)"
      />
    </template>
    <div v-else-if="field.control === 'colour'" class="wide colour">
      <ColourField :name="field.title" :value="String(value)" @change="(v) => emit('change', v)" />
      <SampleButton
        :name="name"
        label="from the picture"
        title="Click on a colour of the picture, as it comes to this bath"
        @take="takeColour"
      />
      <KeyButton v-if="keyed" :name="field.title" :lane="lane" @toggle="emit('key')" />
    </div>
    <template v-else>
      <span v-if="wrong" class="warn" role="alert">{{ wrong }}</span>
      <NamedSlider
        v-else
        class="slider"
        :style="field.control === 'hue' ? { backgroundImage: hueGradient(50, 48) } : undefined"
        :value="number"
        :min="field.minimum ?? 0"
        :max="field.maximum ?? 100"
        :step="fine"
        :unit="field.unit ?? ''"
        :name="field.title"
        @change="set"
        @reset="emit('change', field.default)"
      />
      <NInputNumber
        :key="fieldKey"
        class="number"
        :update-value-on-input="false"
        :parse="parse"
        size="tiny"
        :value="number"
        :min="field.minimum ?? 0"
        :max="field.maximum ?? 100"
        :step="fine"
        :show-button="false"
        :input-props="{ 'aria-label': `${field.title}, number` }"
        @update:value="typed"
      />
      <span class="unit quiet">{{ field.unit ?? '' }}</span>
      <KeyButton v-if="keyed" :name="field.title" :lane="lane" @toggle="emit('key')" />
    </template>
  </div>
</template>

<style scoped>
.row {
  align-items: center;
  display: grid;
  gap: 8px;
  grid-template-columns: 12px 118px 1fr 58px 26px 18px;
  height: 30px;
}
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.wide {
  grid-column: 3 / -1;
}
.slider[style] {
  background-position: 50% 92%;
  background-repeat: no-repeat;
  background-size: 100% 3px;
}
.colour {
  align-items: center;
  display: flex;
  gap: 10px;
}
.dot {
  background: none;
  border: 0;
  height: 24px;
  margin-left: -8px;
  padding: 0 0 0 8px;
  width: 24px;
}
.dot i {
  border-radius: 50%;
  display: block;
  height: 6px;
  margin: 0 3px;
  width: 6px;
}
.dot i.on {
  background: var(--accent);
}
.number :deep(input) {
  font-family: 'Spline Sans Mono', monospace;
  font-size: 13px;
  text-align: right;
}
.unit {
  font-size: 13px;
}
</style>
