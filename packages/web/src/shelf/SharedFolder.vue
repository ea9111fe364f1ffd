<script setup lang="ts">
import { useIntervalFn } from '@vueuse/core'
import { computed, onMounted, shallowRef } from 'vue'
import { api } from '../api/client'
import type { SharedFiles } from '@fogbath/contract'
import { report } from '../stores/errors'
import type { RecipeFile } from './files'

/** What lies in the folder that a team shares: looked at again every few seconds. */
const emit = defineEmits<{ bring: [files: RecipeFile[]]; folder: [there: boolean] }>()
const EVERY = 8000
const shared = shallowRef<SharedFiles | null>(null)
async function look(): Promise<void> {
  // While the server is away the list stays as it was.
  const found = await api.sharedFiles().catch(() => null)
  if (!found) return
  shared.value = found
  emit('folder', found.folder !== null)
}
onMounted(look)
useIntervalFn(() => void (document.visibilityState === 'visible' && look()), EVERY)
defineExpose({ look })

const broken = computed(() => shared.value?.files.filter((f) => f.state === 'broken') ?? [])
/** What the shelf does not have, or not all of. */
const news = computed(
  () => shared.value?.files.filter((f) => f.state === 'new' || f.state === 'newer' || f.state === 'conflict') ?? [],
)
async function bring(): Promise<void> {
  try {
    const files = news.value.map(async ({ file }) => ({ name: file, text: JSON.stringify(await api.sharedFile(file)) }))
    emit('bring', await Promise.all(files))
  } catch (error) {
    report(error)
  }
}
</script>

<template>
  <section v-if="news.length || broken.length || shared?.left" aria-label="Shared folder" class="shared">
    <p v-if="news.length">
      <button class="word" type="button" :title="shared?.folder ?? ''" @click="bring">
        {{ news.length }} in the shared folder that the shelf does not have
      </button>
      <span class="quiet">{{ news.map((f) => f.name).join(', ') }}</span>
    </p>
    <p v-if="shared?.left" class="quiet">{{ shared.left }} more files there have not been read yet.</p>
    <p v-for="f in broken" :key="f.file" class="warn">{{ f.problem }}</p>
  </section>
</template>

<style scoped>
.shared {
  margin: 4px 0;
}
p {
  display: flex;
  gap: 10px;
}
.quiet {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
