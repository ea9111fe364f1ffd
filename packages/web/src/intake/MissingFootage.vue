<script setup lang="ts">
import { bytesOfStills, type Group } from '@fogbath/core/footage'
import { NButton, useMessage } from 'naive-ui'
import { ref } from 'vue'
import { api } from '../api/client'
import { wordsOf } from '../stores/errors'
import { filesOf } from './batch'
import { filesChosen, groupsOf, hashOf } from './bring'

/** Footage that is missing on the server is looked for: in a folder of this machine, or in the watched folder. */
const props = defineProps<{ production: number }>()
const emit = defineEmits<{ found: []; groups: [groups: Group<File>[]] }>()
const message = useMessage()
const field = ref<HTMLInputElement | null>(null)
const looking = ref(false)
/** As many bytes of a file's beginning as the server knows it by. */
const HEAD = 1e6

/** Files of the right length and beginning are brought, and stills that are as long together; the server proves them whole. */
async function lookIn(list: FileList): Promise<void> {
  const missing = await api.missing(props.production)
  const found: Group<File>[] = []
  for (const group of groupsOf(filesChosen(list))) {
    const size = bytesOfStills(filesOf(group))
    const alike = missing.filter((m) => m.size === size && Boolean(m.sequence) === (group.type === 'sequence'))
    if (alike.length === 0) continue
    const head = group.type === 'file' ? await hashOf(group.file.slice(0, HEAD)) : undefined
    if (alike.some((m) => m.head === undefined || head === undefined || m.head === head)) found.push(group)
  }
  if (found.length === 0)
    message.warning(`None of the ${list.length} files there is what is missing.`, { duration: 8000 })
  else emit('groups', found)
}
async function lookWatched(): Promise<void> {
  const { found, missing } = await api.findWatched(props.production)
  if (found.length > 0) message.success(`Found again: ${found.join(', ')}.`)
  if (missing.length > 0) message.warning(`Still missing: ${missing.join(', ')}.`, { duration: 8000 })
  emit('found')
}
async function look(work: () => Promise<void>): Promise<void> {
  looking.value = true
  await work().catch((error: unknown) => message.error(wordsOf(error), { duration: 8000 }))
  looking.value = false
}
const choose = (e: Event): void => {
  const { files } = e.target as HTMLInputElement
  if (files) void look(() => lookIn(files))
}
</script>

<template>
  <p class="missing warn" role="status">
    ! Footage of some shots is not on the server.
    <NButton size="small" :loading="looking" @click="field?.click()">Look in a folder</NButton>
    <NButton size="small" :loading="looking" @click="look(lookWatched)">Look in the watched folder</NButton>
    <input ref="field" type="file" webkitdirectory hidden data-test="missing" @change="choose" />
  </p>
</template>

<style scoped>
.missing {
  align-items: center;
  display: flex;
  gap: 12px;
}
</style>
