<script setup lang="ts">
import { KINDS, fieldsOf } from '@fogbath/core/baths'
import { ref } from 'vue'
import SettingRow from '../bench/SettingRow.vue'

/** One setting of every sort that kinds have, first as it comes, then changed. */
type Field = InstanceType<typeof SettingRow>['$props']['field']

const all = KINDS.flatMap((kind) => Object.entries(fieldsOf<Field>(kind.schema)))
const sortOf = ({ type, control, enum: choices }: Field): string => control ?? (choices ? 'choice' : type)
const ROWS = ['number', 'hue', 'choice', 'boolean', 'colour'].map((sort) => {
  const [name, field] = all.find(([, f]) => sortOf(f) === sort)!
  return { name, field }
})
const changedFrom = ({ type, default: value, maximum, enum: choices, control }: Field): unknown => {
  if (control === 'colour') return '#c86432'
  if (choices) return choices.at(-1)
  return type === 'boolean' ? !value : maximum
}
const values = ref(ROWS.flatMap(({ field }) => [field.default, changedFrom(field)]))
</script>

<template>
  <template v-for="(row, i) in ROWS" :key="row.name">
    <SettingRow
      v-for="k in 2"
      :key="k"
      :name="row.name"
      :field="row.field"
      :value="values[2 * i + k - 1]"
      @change="(v) => (values[2 * i + k - 1] = v)"
    />
  </template>
</template>
