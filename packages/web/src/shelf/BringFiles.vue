<script setup lang="ts">
import { NButton, NCheckbox } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import type { LookedFile } from '@fogbath/contract'
import { wordsOf } from '../stores/errors'
import SheetDialog from '../components/SheetDialog.vue'
import type { RecipeFile } from './files'

/** What brought files hold, and what they are to the shelf, before anything is taken. */
const props = defineProps<{ files: readonly RecipeFile[] }>()
const emit = defineEmits<{ done: [taken: number]; close: [] }>()
const looked = shallowRef<readonly LookedFile[]>([])
const beside = ref<readonly string[]>([])
const problem = ref('')
const busy = ref(false)

watch(
  () => props.files,
  async (files) => {
    looked.value = []
    beside.value = []
    problem.value = ''
    if (files.length === 0) return
    busy.value = true
    try {
      looked.value = await api.previewFiles(files)
    } catch (error) {
      problem.value = wordsOf(error)
    } finally {
      busy.value = false
    }
  },
)

const versions = (n: number): string => `${n} ${n === 1 ? 'version' : 'versions'}`
const WORDS: Record<LookedFile['state'], (f: LookedFile) => string> = {
  new: (f) => `new, ${versions(f.versions)}`,
  same: () => 'is there already, the same',
  newer: (f) => `is there; brings ${versions(f.versions - f.own)} more`,
  older: (f) => `is there already, and further: version ${f.own}`,
  conflict: () => 'has gone another way than the one that is there',
  broken: (f) => f.problem ?? 'cannot be read',
}
const taken = (f: LookedFile): boolean =>
  f.state === 'new' || f.state === 'newer' || (f.state === 'conflict' && beside.value.includes(f.file))
const count = computed(() => looked.value.filter(taken).length)
const setBeside = (file: string, on: boolean): void =>
  void (beside.value = on ? [...beside.value, file] : beside.value.filter((f) => f !== file))

async function take(): Promise<void> {
  busy.value = true
  try {
    const wanted = looked.value.filter(taken).map(({ file }) => file)
    const files = props.files
      .filter(({ name }) => wanted.includes(name))
      .map((file) => ({ ...file, beside: beside.value.includes(file.name) }))
    emit('done', (await api.importFiles(files)).taken)
  } catch (error) {
    problem.value = wordsOf(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <SheetDialog :show="files.length > 0" title="Take recipes onto the shelf" :width="600" @update:show="emit('close')">
    <p v-if="problem" role="alert" class="warn">{{ problem }}</p>
    <ul>
      <li v-for="f in looked" :key="f.file">
        <b>{{ f.name ?? f.file }}</b>
        <span :class="f.state === 'broken' ? 'warn' : 'quiet'">{{ WORDS[f.state](f) }}</span>
        <NCheckbox
          v-if="f.state === 'conflict'"
          :checked="beside.includes(f.file)"
          @update:checked="(on: boolean) => setBeside(f.file, on)"
          >take it beside, as a recipe of its own</NCheckbox
        >
      </li>
    </ul>
    <p class="quiet">What is on the shelf is never changed by a file.</p>
    <NButton type="primary" :disabled="busy || count === 0" @click="take">{{
      count === 0 ? 'Nothing to take' : `Take ${count} ${count === 1 ? 'recipe' : 'recipes'}`
    }}</NButton>
  </SheetDialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 12px;
  max-height: 50vh;
  overflow-y: auto;
  padding: 0;
}
li {
  align-items: baseline;
  border-bottom: 1px solid var(--line);
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  padding: 5px 0;
}
.quiet {
  margin-bottom: 10px;
}
</style>
