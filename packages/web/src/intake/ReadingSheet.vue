<script setup lang="ts">
import type { Shot } from '@fogbath/contract'
import type { Reading } from '@fogbath/core/footage'
import { NButton, NSelect } from 'naive-ui'
import { computed, reactive, ref, watch } from 'vue'
import type { ShotValues } from '../api/client'
import { encodingChoices } from '../api/encodings'
import SheetDialog from '../components/SheetDialog.vue'
import LikelyEncodings from './LikelyEncodings.vue'
import { FILE, LEAVE, READING_SETTINGS, choicesOf, withChoice, type ReadingName } from './readings'

/** How one shot is read, or several at once. */
const props = defineProps<{ shots: readonly Shot[] }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ change: [changes: (readonly [Shot, ShotValues])[]] }>()

const one = computed(() => (props.shots.length === 1 ? props.shots[0]! : null))
const settings = computed(() =>
  READING_SETTINGS.filter(({ applies }) => props.shots.some(({ medium }) => applies(medium.info))),
)
const chosen = reactive(Object.fromEntries(READING_SETTINGS.map((s) => [s.name, LEAVE])) as Record<ReadingName, string>)
const encoding = ref(LEAVE)
/** One shot shows what is set for it; of several nothing is touched until it is chosen. */
function begin(): void {
  for (const { name } of READING_SETTINGS) chosen[name] = one.value ? String(one.value.reading[name] ?? FILE) : LEAVE
  encoding.value = LEAVE
}
watch([show, () => props.shots], ([open]) => open && begin(), { immediate: true })

const optionsOf = (name: ReadingName) => {
  const setting = READING_SETTINGS.find((s) => s.name === name)!
  return [
    ...(one.value ? [] : [{ value: LEAVE, label: 'leave as it is' }]),
    { value: FILE, label: 'as the file says' },
    ...choicesOf(setting, one.value?.medium.info ?? null),
  ]
}
const encodings = computed(() => [{ value: LEAVE, label: 'leave as it is' }, ...encodingChoices.value])

/** A setting that does not apply to a shot of several is left out for it. */
function readingOf(shot: Shot): Reading {
  return settings.value.reduce<Reading>((reading, { name, applies }) => {
    const value = chosen[name]
    return value === LEAVE || !applies(shot.medium.info) ? reading : withChoice(reading, name, value)
  }, shot.reading)
}
function apply(): void {
  emit(
    'change',
    props.shots.map((shot) => [
      shot,
      { reading: readingOf(shot), ...(encoding.value === LEAVE ? {} : { encoding: encoding.value }) },
    ]),
  )
  show.value = false
}
</script>

<template>
  <SheetDialog
    v-model:show="show"
    :title="one ? `How it is read: ${one.name}` : `How ${shots.length} shots are read`"
    :width="780"
  >
    <LikelyEncodings v-if="one" :shot="one" @choose="(v) => emit('change', [[one!, { encoding: v }]])" />
    <div class="rows">
      <label v-if="!one"
        ><span>Encoding</span>
        <NSelect
          v-model:value="encoding"
          size="small"
          filterable
          :options="encodings"
          :input-props="{ 'aria-label': 'Encoding of all' }"
      /></label>
      <label v-for="s in settings" :key="s.name"
        ><span>{{ s.label }}</span>
        <NSelect v-model:value="chosen[s.name]" size="small" :options="optionsOf(s.name)" :aria-label="s.label"
      /></label>
    </div>
    <p class="quiet">
      What is set here counts for {{ one ? 'this shot' : 'these shots' }} alone, on the bench and in renders from now
      on; the file is not touched.
    </p>
    <NButton type="primary" size="small" @click="apply">Apply</NButton>
  </SheetDialog>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 8px 24px;
  grid-template-columns: 1fr 1fr;
  margin: 14px 0;
}
.rows label {
  align-items: center;
  display: grid;
  grid-template-columns: 110px 1fr;
}
</style>
