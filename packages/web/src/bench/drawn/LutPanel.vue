<script setup lang="ts">
import { NButton, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import { packLut, type PackedLut } from '@fogbath/core/baths'
import type { EncodingDefinition } from '@fogbath/core/encodings'
import { MOST_CUBE_LETTERS, readCube } from '@fogbath/core/formats'
import { type Bath } from '@fogbath/core/line'
import { ownEncodings } from '../../api/encodings'
import { wordsOf } from '../../stores/errors'
import { textOf } from '../../components/textOf'
import { useBenchStore } from '../../stores/bench'

/** The file of an input LUT: chosen or dropped. A file that is no good changes nothing. */
const props = defineProps<{ bath: Bath }>()
const bench = useBenchStore()
const input = ref<HTMLInputElement | null>(null)
const problem = ref('')
const over = ref(false)
const MOST_BYTES = 60e6
const NONE = 'none'
/** Encodings of one's own that count in place of the shipped ones; the one of a recipe from elsewhere is among them. */
const ends = computed(() =>
  (['ownTakes', 'ownGives'] as const).flatMap((setting) => {
    const chosen = props.bath.settings[setting] as EncodingDefinition | null
    const here = ownEncodings.value.map(({ definition }) => definition)
    const all = chosen && !here.some((e) => e.id === chosen.id) ? [chosen, ...here] : here
    if (all.length === 0) return []
    const options = [{ value: NONE, label: 'none: as set below' }, ...all.map((e) => ({ value: e.id, label: e.name }))]
    const label = setting === 'ownTakes' ? 'It takes, one of your own' : 'It gives, one of your own'
    return [{ setting, label, options, all, value: chosen?.id ?? NONE }]
  }),
)
function setOwn(setting: 'ownTakes' | 'ownGives', id: string): void {
  const chosen = ends.value.find((end) => end.setting === setting)?.all.find((e) => e.id === id)
  bench.setSettings(props.bath.id, { [setting]: chosen ?? null })
}
const lut = computed(() => props.bath.settings['lut'] as PackedLut | null)

async function bring(file: File | undefined): Promise<void> {
  if (!file) return
  problem.value = ''
  try {
    if (file.size > MOST_BYTES)
      throw new Error(
        `${file.name} has ${Math.round(file.size / 1e6)} MB; a .cube of at most ${MOST_BYTES / 1e6} MB can be read.`,
      )
    bench.setSettings(props.bath.id, { lut: packLut(readCube(await textOf(file, MOST_CUBE_LETTERS)), file.name) })
  } catch (error) {
    problem.value = `${file.name}: ${wordsOf(error)}`
  }
}
function chosen(e: Event): void {
  const field = e.target as HTMLInputElement
  void bring(field.files?.[0])
  field.value = ''
}
function dropped(e: DragEvent): void {
  over.value = false
  void bring(e.dataTransfer?.files[0])
}
</script>

<template>
  <div class="drop" :class="{ over }" @dragover.prevent="over = true" @dragleave="over = false" @drop.prevent="dropped">
    <p v-if="lut">
      <b>{{ lut.file }}</b> <span class="quiet">{{ lut.title }}</span>
      <span class="mono"> {{ lut.kind }}, {{ lut.size }} nodes{{ lut.kind === '3D' ? ' a side' : '' }}</span>
    </p>
    <p v-if="lut && lut.kind === '3D' && lut.size > 33" class="quiet">It is read at 33 places a side.</p>
    <p v-else-if="!lut" class="quiet">No file yet. Drop a .cube here, or choose one.</p>
    <NButton size="small" @click="input?.click()">{{ lut ? 'Other file' : 'Choose a .cube file' }}</NButton>
    <button v-if="lut" class="word" type="button" @click="bench.setSettings(bath.id, { lut: null })">
      take it out
    </button>
    <input ref="input" type="file" accept=".cube" hidden data-test="lut" @change="chosen" />
    <label v-for="end in ends" :key="end.setting"
      >{{ end.label }}
      <NSelect
        size="tiny"
        :value="end.value"
        :options="end.options"
        :aria-label="`${end.label}, own encoding`"
        @update:value="(id: string) => setOwn(end.setting, id)"
    /></label>
    <p v-if="problem" class="warn" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.drop {
  border: 1px dashed var(--line);
  display: grid;
  gap: 6px;
  justify-items: start;
  margin: 6px 0;
  padding: 10px;
}
label {
  align-items: center;
  display: grid;
  grid-template-columns: 150px 1fr;
  width: 100%;
}
.over {
  border-color: var(--accent);
}
</style>
