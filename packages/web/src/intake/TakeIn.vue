<script setup lang="ts">
import type { Group } from '@fogbath/core/footage'
import { useThrottleFn } from '@vueuse/core'
import { NButton, NSelect } from 'naive-ui'
import { ref, watch } from 'vue'
import { Batch } from './batch'
import BatchList from './BatchList.vue'
import { bringing, filesChosen, filesDropped, groupsOf } from './bring'
import MissingFootage from './MissingFootage.vue'
import { RATE_CHOICES } from './readings'

/** Where files and folders are dropped or chosen, and how far they are. */
const props = defineProps<{ production: number; gone: boolean }>()
const emit = defineEmits<{ taken: [] }>()

const over = ref(false)
const files = ref<HTMLInputElement | null>(null)
const folder = ref<HTMLInputElement | null>(null)
/** Numbered stills become sequences of this rate; else each is a shot. */
const asSequences = ref(true)
const fps = ref('24/1')
const batch = new Batch(
  bringing(
    () => ({ production: props.production, asShots: true }),
    () => fps.value,
  ),
)
const refresh = useThrottleFn(() => emit('taken'), 2000, true)
watch(() => batch.items.filter((i) => i.state === 'taken' || i.state === 'known' || i.state === 'back').length, refresh)

type Found = { path: string; file: File }[]
async function take(found: Found | Promise<Found>): Promise<void> {
  const all = await found
  await bring(asSequences.value ? groupsOf(all) : all.map(({ file }) => ({ type: 'file', file })))
}
async function bring(groups: Group<File>[]): Promise<void> {
  await batch.add(groups)
  emit('taken')
}
function drop(e: DragEvent): void {
  over.value = false
  if (e.dataTransfer) void take(filesDropped(e.dataTransfer.items))
}
function choose(e: Event): void {
  const field = e.target as HTMLInputElement
  // The list empties with the field.
  const chosen = filesChosen(field.files!)
  field.value = ''
  void take(chosen)
}
</script>

<template>
  <div class="drop" :class="{ over }" @dragover.prevent="over = true" @dragleave="over = false" @drop.prevent="drop">
    <span>Drop clips, stills or folders of them here.</span>
    <NButton type="primary" size="small" @click="files?.click()">Choose files</NButton>
    <NButton size="small" @click="folder?.click()">Choose a folder</NButton>
    <input ref="files" type="file" multiple hidden data-test="files" @change="choose" />
    <input ref="folder" type="file" webkitdirectory hidden data-test="folder" @change="choose" />
    <label class="as"><input v-model="asSequences" type="checkbox" /> numbered stills are sequences</label>
    <NSelect
      v-model:value="fps"
      size="tiny"
      class="rate"
      :disabled="!asSequences"
      :options="RATE_CHOICES"
      aria-label="Frames a second of sequences"
    />
  </div>
  <BatchList :batch="batch" />
  <MissingFootage v-if="gone" :production="production" @found="emit('taken')" @groups="bring" />
</template>

<style scoped>
.drop {
  align-items: center;
  border: 1px dashed var(--quiet);
  color: var(--quiet);
  display: flex;
  gap: 14px;
  padding: 16px;
}
.drop.over {
  border-color: var(--accent);
  color: var(--text);
}
.as {
  align-items: center;
  display: flex;
  gap: 8px;
  margin-left: auto;
}
.as input {
  accent-color: var(--accent);
}
.rate {
  width: 130px;
}
</style>
