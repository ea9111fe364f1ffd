<script setup lang="ts">
import { NButton, NProgress, useMessage } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, uploadFiles } from '../api/client'
import type { Production, Shot, TakenFile } from '../api/types'
import TopBar from '../components/TopBar.vue'
import IntakeShot from '../intake/IntakeShot.vue'
import WatchedFolder from '../intake/WatchedFolder.vue'
import { wordsOf } from '../components/complain'

const route = useRoute()
const message = useMessage()
const production = shallowRef<Production | null>(null)
const problem = ref('')
const progress = ref<number | null>(null)
const refused = ref<TakenFile[]>([])
const over = ref(false)
const input = ref<HTMLInputElement | null>(null)

const id = computed(() => Number(route.params['id']))
async function load(): Promise<void> {
  try {
    production.value = await api.production(id.value)
    problem.value = ''
  } catch (error) {
    problem.value = wordsOf(error)
  }
}
watch(id, load, { immediate: true })

async function take(files: readonly File[]): Promise<void> {
  if (files.length === 0) return
  progress.value = 0
  refused.value = []
  try {
    const { files: results } = await uploadFiles(id.value, files, (share) => (progress.value = Math.round(share * 100)))
    refused.value = results.filter((r) => r.message)
  } catch (error) {
    refused.value = [{ name: 'Upload', message: wordsOf(error) }]
  }
  progress.value = null
  await load()
}
const drop = (e: DragEvent): void => {
  over.value = false
  void take([...(e.dataTransfer?.files ?? [])])
}
const pickFiles = (e: Event): void => {
  const field = e.target as HTMLInputElement
  void take([...(field.files ?? [])])
  field.value = ''
}

/** Runs a change whose failure is told, and shows what the server has then. */
async function act(work: () => Promise<unknown>): Promise<void> {
  try {
    await work()
  } catch (error) {
    message.error(wordsOf(error))
  }
  await load()
}
const change = (shot: Shot, values: Partial<Shot>): Promise<void> =>
  act(() => api.changeShot(shot.id, { revision: shot.revision, ...values }))
/** Swaps a shot with its neighbour. */
async function move(shot: Shot, by: number): Promise<void> {
  const ids = production.value!.shots.map((s) => s.id)
  const at = ids.indexOf(shot.id)
  const other = ids[at + by]
  if (other === undefined) return
  ;[ids[at], ids[at + by]] = [other, shot.id]
  await act(() => api.orderShots(id.value, ids))
}
const remove = (shot: Shot): Promise<void> => act(() => api.deleteShot(shot))

const watching = ref(false)
</script>

<template>
  <TopBar
    ><span v-if="production">{{ production.name }}</span></TopBar
  >
  <main class="page">
    <div class="head">
      <h1>Intake</h1>
      <span class="actions">
        <NButton @click="watching = true">From the watched folder</NButton>
        <NButton type="primary" @click="input?.click()">Choose files</NButton>
        <input ref="input" type="file" multiple hidden data-test="files" @change="pickFiles" />
      </span>
    </div>
    <p v-if="problem" role="alert" class="warn">
      {{ problem }} <button class="word" type="button" @click="load">Try again</button>
    </p>
    <div class="drop" :class="{ over }" @dragover.prevent="over = true" @dragleave="over = false" @drop.prevent="drop">
      <template v-if="progress === null">Drop clips, stills or image sequences here.</template>
      <template v-else
        >{{ progress < 100 ? 'Uploading' : 'Reading the footage' }}
        <NProgress :percentage="progress" :height="8" aria-label="Upload"
      /></template>
    </div>
    <ul v-if="refused.length" class="refused" role="alert">
      <li v-for="r in refused" :key="r.name"><b>Not taken in:</b> {{ r.message }}</li>
    </ul>
    <p v-if="production && production.shots.length === 0" class="quiet">No footage yet.</p>
    <IntakeShot
      v-for="(s, i) in production?.shots ?? []"
      :key="s.id"
      :shot="s"
      :first="i === 0"
      :last="i === (production?.shots.length ?? 0) - 1"
      @change="(values) => change(s, values)"
      @move="(by) => move(s, by)"
      @remove="remove(s)"
    />
    <WatchedFolder v-model:show="watching" :production="id" @taken="load" />
  </main>
</template>

<style scoped>
.head {
  align-items: center;
  display: flex;
  justify-content: space-between;
  margin-bottom: 12px;
}
.actions {
  align-items: center;
  display: flex;
  gap: 12px;
}
.drop {
  border: 1px dashed var(--quiet);
  color: var(--quiet);
  padding: 20px;
  text-align: center;
}
.drop.over {
  border-color: var(--accent);
  color: var(--text);
}
.refused {
  color: var(--warn);
  padding-left: 18px;
}
</style>
