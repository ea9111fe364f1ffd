<script setup lang="ts">
import { NButton, NCheckbox, NInput, NInputNumber, NProgress, NSelect, useMessage } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { ENCODINGS } from '@fogbath/core'
import { api, uploadFiles } from '../api/client'
import type { Production, Shot, TakenFile } from '../api/types'
import FootageStill from '../components/FootageStill.vue'
import SheetDialog from '../components/SheetDialog.vue'
import TopBar from '../components/TopBar.vue'

const route = useRoute()
const message = useMessage()
const production = shallowRef<Production | null>(null)
const problem = ref('')
const progress = ref<number | null>(null)
const refused = ref<TakenFile[]>([])
const over = ref(false)
const input = ref<HTMLInputElement | null>(null)
const encodings = ENCODINGS.map((e) => ({ value: e.id, label: e.label }))

const id = computed(() => Number(route.params['id']))
async function load(): Promise<void> {
  try {
    production.value = await api.production(id.value)
    problem.value = ''
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
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
    refused.value = [{ name: 'Upload', message: error instanceof Error ? error.message : String(error) }]
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

async function change(shot: Shot, values: Partial<Shot>): Promise<void> {
  try {
    await api.changeShot(shot.id, { revision: shot.revision, ...values })
  } catch (error) {
    message.error(error instanceof Error ? error.message : String(error))
  }
  await load()
}
/** Swaps a shot with its neighbour. */
async function move(shot: Shot, by: number): Promise<void> {
  const shots = production.value!.shots
  const other = shots[shots.indexOf(shot) + by]
  if (!other) return
  await api.changeShot(other.id, { revision: other.revision, position: shot.position })
  await change(shot, { position: other.position })
}
async function remove(shot: Shot): Promise<void> {
  try {
    await api.deleteShot(shot)
  } catch (error) {
    message.error(error instanceof Error ? error.message : String(error))
  }
  await load()
}

const watching = ref(false)
const watched = shallowRef<{ folder: string | null; files: { path: string; size: number }[] } | null>(null)
const picked = ref<string[]>([])
const asSequence = ref(false)
async function openWatched(): Promise<void> {
  picked.value = []
  watching.value = true
  watched.value = await api.watched().catch((e: unknown) => {
    message.error(e instanceof Error ? e.message : String(e))
    return null
  })
}
async function takePicked(): Promise<void> {
  try {
    await api.pick(id.value, [...picked.value].sort(), asSequence.value)
    watching.value = false
  } catch (error) {
    message.error(error instanceof Error ? error.message : String(error), { duration: 8000 })
  }
  await load()
}
const about = (s: Shot): string => {
  const i = s.medium.info
  const rate =
    i.kind === 'still'
      ? ''
      : `, ${i.frames} frames at ${(Number(i.fps.split('/')[0]) / Number(i.fps.split('/')[1] || 1)).toFixed(2).replace(/\.?0+$/, '')}`
  return `${i.width} × ${i.height}, ${i.bits} bit ${i.codec}${rate}`
}
</script>

<template>
  <TopBar
    ><span v-if="production">{{ production.name }}</span></TopBar
  >
  <main class="page">
    <div class="head">
      <h1>Intake</h1>
      <span class="actions">
        <NButton @click="openWatched">From the watched folder</NButton>
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
    <article v-for="(s, i) in production?.shots ?? []" :key="s.id" class="shot">
      <RouterLink :to="`/bench/${s.id}`" :aria-label="`${s.name} on the bench`"
        ><FootageStill :shot="s" :width="320"
      /></RouterLink>
      <div class="facts">
        <NInput
          size="small"
          :default-value="s.name"
          maxlength="120"
          :input-props="{ 'aria-label': 'Name of the shot' }"
          @change="(v: string) => v.trim() && change(s, { name: v.trim() })"
        />
        <p class="mono quiet">{{ s.medium.name }}<br />{{ about(s) }}</p>
        <p v-for="w in s.medium.info.warnings" :key="w" class="warn">! {{ w }}</p>
      </div>
      <div class="set">
        <label
          >Encoding
          <NSelect
            size="small"
            :value="s.encoding"
            :options="encodings"
            aria-label="Encoding"
            @update:value="(v: string) => change(s, { encoding: v })"
        /></label>
        <p class="quiet">
          {{ ENCODINGS.find((e) => e.id === s.encoding)?.help }}
          {{ s.encoding === s.medium.info.encoding ? '' : '(chosen by you)' }}
        </p>
        <div v-if="s.medium.info.frames > 1" class="range">
          <label
            >In
            <NInputNumber
              size="tiny"
              :value="s.first"
              :min="0"
              :max="s.last"
              :input-props="{ 'aria-label': 'First frame' }"
              @update:value="(v: number | null) => v !== null && change(s, { first: v })"
          /></label>
          <label
            >Out
            <NInputNumber
              size="tiny"
              :value="s.last"
              :min="s.first"
              :max="s.medium.info.frames - 1"
              :input-props="{ 'aria-label': 'Last frame' }"
              @update:value="(v: number | null) => v !== null && change(s, { last: v })"
          /></label>
          <label
            >Still
            <NInputNumber
              size="tiny"
              :value="s.still"
              :min="0"
              :max="s.medium.info.frames - 1"
              :input-props="{ 'aria-label': 'Telling frame' }"
              @update:value="(v: number | null) => v !== null && change(s, { still: v })"
          /></label>
        </div>
      </div>
      <div class="order">
        <RouterLink class="word" :to="`/bench/${s.id}`">bench</RouterLink>
        <button class="word" type="button" :disabled="i === 0" :aria-label="`Move ${s.name} up`" @click="move(s, -1)">
          up
        </button>
        <button
          class="word"
          type="button"
          :disabled="i === (production?.shots.length ?? 0) - 1"
          :aria-label="`Move ${s.name} down`"
          @click="move(s, 1)"
        >
          down
        </button>
        <button class="word" type="button" :aria-label="`Remove ${s.name}`" @click="remove(s)">remove</button>
      </div>
    </article>
    <SheetDialog v-model:show="watching" title="Watched folder" :width="620">
      <p class="quiet mono">{{ watched?.folder ?? '' }}</p>
      <p v-if="watched && watched.files.length === 0">The folder is empty. Copy footage there and open this again.</p>
      <div class="files">
        <NCheckbox
          v-for="f in watched?.files ?? []"
          :key="f.path"
          :checked="picked.includes(f.path)"
          @update:checked="(on: boolean) => (picked = on ? [...picked, f.path] : picked.filter((p) => p !== f.path))"
          >{{ f.path }} <span class="mono quiet">{{ (f.size / 1e6).toFixed(1) }} MB</span></NCheckbox
        >
      </div>
      <div class="actions">
        <button class="word" type="button" @click="picked = (watched?.files ?? []).map((f) => f.path)">all</button>
        <NCheckbox v-model:checked="asSequence">one numbered sequence, 24 a second</NCheckbox>
        <NButton type="primary" :disabled="picked.length === 0" @click="takePicked"
          >Take in {{ picked.length }}</NButton
        >
      </div>
    </SheetDialog>
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
.shot {
  border-bottom: 1px solid var(--line);
  display: grid;
  gap: 18px;
  grid-template-columns: 190px 1fr 330px 66px;
  padding: 14px 0;
}
.facts p,
.set p {
  font-size: 13px;
  margin-top: 4px;
}
.range {
  display: flex;
  gap: 10px;
  margin-top: 6px;
}
.range label {
  width: 104px;
}
.order {
  align-items: flex-start;
  display: flex;
  flex-direction: column;
}
.order .word {
  text-align: left;
}
.order a {
  text-decoration: none;
}
.files {
  display: flex;
  flex-direction: column;
  margin: 10px 0;
  max-height: 50vh;
  overflow-y: auto;
}
</style>
