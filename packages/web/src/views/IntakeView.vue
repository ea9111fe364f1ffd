<script setup lang="ts">
import { NButton, useMessage } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, type ShotValues } from '../api/client'
import type { Production, Shot } from '@fogbath/contract'
import NearRow from '../components/NearRow.vue'
import TopBar from '../components/TopBar.vue'
import CutsSheet from '../intake/CutsSheet.vue'
import EditSheet from '../intake/EditSheet.vue'
import EncodingsSheet from '../intake/EncodingsSheet.vue'
import IntakeShot from '../intake/IntakeShot.vue'
import ReadingSheet from '../intake/ReadingSheet.vue'
import TakeIn from '../intake/TakeIn.vue'
import WatchedFolder from '../intake/WatchedFolder.vue'
import { wordsOf } from '../stores/errors'

const route = useRoute()
const message = useMessage()
const production = shallowRef<Production | null>(null)
const problem = ref('')

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

/** Footage of some shots is not here. */
const gone = computed(() => production.value?.shots.some(({ medium }) => medium.state !== 'here') ?? false)

/** Runs a change whose failure is told, and shows what the server has then. */
async function act(work: () => Promise<unknown>): Promise<void> {
  try {
    await work()
  } catch (error) {
    message.error(wordsOf(error))
  }
  await load()
}
const change = (shot: Shot, values: ShotValues): Promise<void> =>
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

/** Shots that are read anew together, and those whose sheet is open. */
const chosen = ref<ReadonlySet<number>>(new Set())
const reading = ref<readonly number[]>([])
const read = computed(() => production.value?.shots.filter((s) => reading.value.includes(s.id)) ?? [])
const some = computed(() => production.value?.shots.filter((s) => chosen.value.has(s.id)).map((s) => s.id) ?? [])
function choose(shotId: number, on: boolean): void {
  const others = [...chosen.value].filter((other) => other !== shotId)
  chosen.value = new Set(on ? [...others, shotId] : others)
}
/** Each shot answers for itself. */
async function changeAll(changes: (readonly [Shot, ShotValues])[]): Promise<void> {
  for (const [shot, values] of changes)
    await api
      .changeShot(shot.id, { revision: shot.revision, ...values })
      .catch((error: unknown) => message.error(`${shot.name}: ${wordsOf(error)}`, { duration: 8000 }))
  await load()
}

const watching = ref(false)
const editing = ref(false)
/** The shot whose cuts are looked for, by its id. */
const cutting = ref<number | null>(null)
const cut = computed(() => production.value?.shots.find((s) => s.id === cutting.value) ?? null)
const encodings = ref(false)
</script>

<template>
  <TopBar><span v-if="production">{{ production.name }}</span></TopBar>
  <main class="page">
    <div class="head">
      <h1>Intake</h1>
      <span class="actions">
        <NButton v-if="some.length" @click="reading = some">Read {{ some.length }} chosen …</NButton>
        <NButton @click="editing = true">Take in an edit</NButton>
        <NButton @click="encodings = true">Encodings</NButton>
        <NButton @click="watching = true">From the watched folder</NButton>
      </span>
    </div>
    <p v-if="problem" role="alert" class="warn">
      {{ problem }} <button class="word" type="button" @click="load">Try again</button>
    </p>
    <TakeIn :production="id" :gone="gone" @taken="load" />
    <p v-if="production && production.shots.length === 0" class="quiet">No footage yet.</p>
    <NearRow v-for="(s, i) in production?.shots ?? []" :key="s.id" :name="s.name" :height="250">
      <IntakeShot
        :shot="s"
        :first="i === 0"
        :last="i === (production?.shots.length ?? 0) - 1"
        :chosen="chosen.has(s.id)"
        @update:chosen="(on: boolean) => choose(s.id, on)"
        @read="reading = [s.id]"
        @cuts="cutting = s.id"
        @change="(values) => change(s, values)"
        @move="(by) => move(s, by)"
        @remove="remove(s)"
      />
    </NearRow>
    <ReadingSheet
      :show="read.length > 0"
      :shots="read"
      @update:show="(open: boolean) => !open && (reading = [])"
      @change="changeAll"
    />
    <EncodingsSheet v-model:show="encodings" :shots="production?.shots ?? []" />
    <EditSheet v-model:show="editing" :production="id" :shots="production?.shots ?? []" @taken="load" />
    <CutsSheet :shot="cut" @close="cutting = null" @made="load" />
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
</style>
