<script setup lang="ts">
import { ref } from 'vue'
import { settingsOfDecision } from '@fogbath/core/baths'
import { MOST_DECISION_LETTERS, readDecision } from '@fogbath/core/formats'
import { type Bath } from '@fogbath/core/line'
import { decisionFile } from '@fogbath/core/look'
import { wordsOf } from '../../stores/errors'
import { textOf } from '../../components/textOf'
import { fileName, saveFile } from '../../components/save'
import { useBenchStore } from '../../stores/bench'

/** Decision lists as files: one is read into the settings, the settings are written as one. */
const props = defineProps<{ bath: Bath }>()
const bench = useBenchStore()
const input = ref<HTMLInputElement | null>(null)
const problem = ref('')

async function chosen(e: Event): Promise<void> {
  const field = e.target as HTMLInputElement
  const file = field.files?.[0]
  field.value = ''
  if (!file) return
  problem.value = ''
  try {
    bench.setSettings(props.bath.id, settingsOfDecision(readDecision(await textOf(file, MOST_DECISION_LETTERS))))
  } catch (error) {
    problem.value = `${file.name}: ${wordsOf(error)}`
  }
}

function write(): void {
  const name = bench.shot?.name ?? 'shot'
  saveFile(decisionFile(props.bath, name, 'cc'), 'text/xml', `${fileName(name)}.cc`)
}
</script>

<template>
  <div class="files">
    <button
      class="word"
      type="button"
      title="A .cc, .ccc or .cdl file; the first correction in it"
      @click="input?.click()"
    >
      read a decision list
    </button>
    <button class="word" type="button" title="These numbers as a .cc file" @click="write">write as .cc</button>
    <input ref="input" type="file" accept=".cc,.ccc,.cdl" hidden data-test="cdl" @change="chosen" />
    <p v-if="problem" class="warn" role="alert">{{ problem }}</p>
  </div>
</template>

<style scoped>
.files {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
}
</style>
