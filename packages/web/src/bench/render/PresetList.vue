<script setup lang="ts">
import type { KeptPreset } from '@fogbath/contract'
import { MOST_PRESET_NAME, readPreset, writePreset, type Delivery } from '@fogbath/core/delivery'
import equal from 'fast-deep-equal'
import { NButton, NInput, useMessage } from 'naive-ui'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { api } from '../../api/client'
import { fileName, saveFile } from '../../components/save'
import { wordsOf } from '../../stores/errors'
import { choicesOf, type Choice } from './presets'

/** Deliveries under a name: chosen, kept, changed, shared as files. */
const delivery = defineModel<Delivery>({ required: true })
const message = useMessage()
const kept = shallowRef<readonly KeptPreset[]>([])
const name = ref('')
const field = ref<HTMLInputElement | null>(null)
const choices = computed(() => choicesOf(kept.value))
const chosen = computed(() => choices.value.find((c) => equal(c.delivery, delivery.value)) ?? null)
/** The one that was chosen last, which what is set differs from by now. */
const last = ref<string | null>(null)
const changed = computed(() => choices.value.find((c) => c.key === last.value && c.kept && c !== chosen.value) ?? null)

async function act(work: () => Promise<unknown>): Promise<void> {
  try {
    await work()
    kept.value = await api.presets()
  } catch (error) {
    message.error(wordsOf(error))
  }
}
onMounted(() => act(async () => undefined))
function choose(c: Choice): void {
  delivery.value = { ...c.delivery }
  last.value = c.key
}
const keep = (): Promise<void> =>
  act(async () => {
    const { id } = await api.keepPreset(name.value.trim(), delivery.value)
    last.value = `own ${id}`
    name.value = ''
  })
const overwrite = ({ kept: row }: Choice): Promise<void> => act(() => api.changePreset(row!, delivery.value))
const remove = ({ kept: row }: Choice): Promise<void> => act(() => api.deletePreset(row!))
const share = (c: Choice): void => saveFile(writePreset(c), 'application/json', `${fileName(c.name)}.json`)
async function bring(e: Event): Promise<void> {
  const [file] = (e.target as HTMLInputElement).files ?? []
  ;(e.target as HTMLInputElement).value = ''
  if (!file) return
  await act(async () => {
    const preset = readPreset(await file.text(), file.name)
    await api.keepPreset(preset.name, preset.delivery)
    delivery.value = preset.delivery
  })
}
</script>

<template>
  <section aria-label="Presets">
    <ul>
      <li v-for="c in choices" :key="c.key">
        <button type="button" class="preset" :aria-pressed="c === chosen" @click="choose(c)">{{ c.name }}</button>
        <template v-if="c === chosen">
          <button class="word" type="button" :aria-label="`${c.name} as a file`" @click="share(c)">file</button>
          <button v-if="c.kept" class="word" type="button" :aria-label="`Delete ${c.name}`" @click="remove(c)">
            delete
          </button>
        </template>
      </li>
    </ul>
    <NButton v-if="changed" size="tiny" @click="overwrite(changed)">Change {{ changed.name }} to this</NButton>
    <form v-if="!chosen" class="keep" @submit.prevent="keep">
      <NInput
        v-model:value="name"
        size="tiny"
        :maxlength="MOST_PRESET_NAME"
        placeholder="Name"
        :input-props="{ 'aria-label': 'Name of a new preset' }"
      />
      <NButton size="tiny" attr-type="submit" :disabled="!name.trim()">Keep</NButton>
    </form>
    <button class="word" type="button" @click="field?.click()">from a file …</button>
    <input ref="field" type="file" accept=".json" hidden data-test="preset-file" @change="bring" />
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}
li {
  align-items: center;
  display: flex;
  gap: 10px;
}
.preset {
  background: none;
  border: 0;
  border-left: 3px solid transparent;
  color: var(--text);
  cursor: pointer;
  flex: 1;
  font: inherit;
  min-height: 30px;
  padding: 0 0 0 10px;
  text-align: left;
}
.preset[aria-pressed='true'] {
  border-left-color: var(--accent);
}
.keep {
  display: flex;
  gap: 6px;
  margin: 8px 0;
}
</style>
