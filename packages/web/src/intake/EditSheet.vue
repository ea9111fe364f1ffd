<script setup lang="ts">
import type { EditList, EditPlan, Shot } from '@fogbath/contract'
import { NButton, NSelect, useMessage } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import SheetDialog from '../components/SheetDialog.vue'
import { wordsOf } from '../stores/errors'
import { Batch, filesOf } from './batch'
import BatchList from './BatchList.vue'
import { bringing, filesChosen, groupsOf } from './bring'
import EditEvents from './EditEvents.vue'
import { planInWords, wantedOf, watchedOf } from './edits'
import { RATE_CHOICES } from './readings'

/** An edit list is taken in: what it makes of the shots is seen before, and what is not found can be pointed to, now or later. */
const props = defineProps<{ production: number; shots: readonly Shot[] }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ taken: [] }>()
const message = useMessage()

const list = shallowRef<EditList | null>(null)
const plan = shallowRef<EditPlan | null>(null)
const removed = ref<ReadonlySet<number>>(new Set())
const problem = ref('')
const busy = ref(false)
const fps = ref('24/1')
const listField = ref<HTMLInputElement | null>(null)
const folderField = ref<HTMLInputElement | null>(null)
/** Names of files that were brought for this list already. */
let brought = new Set<string>()
const batch = new Batch(
  bringing(
    () => ({ production: props.production, asShots: false }),
    () => fps.value,
  ),
)

/** Runs work whose failure is shown in the sheet. */
async function act(work: () => Promise<unknown>): Promise<void> {
  busy.value = true
  problem.value = ''
  try {
    await work()
  } catch (error) {
    problem.value = wordsOf(error)
  }
  busy.value = false
}
async function look(): Promise<void> {
  plan.value = null
  if (list.value) plan.value = await api.planEdit(props.production, list.value)
}
const lookAt = (wanted: EditList): Promise<void> =>
  act(async () => {
    list.value = wanted
    brought = new Set()
    removed.value = new Set()
    await look()
  })
watch(show, async (open) => {
  if (!open) return
  await act(async () => {
    list.value = await api.editList(props.production)
    if (list.value) fps.value = list.value.fps
    await look()
  })
})
async function choose(e: Event): Promise<void> {
  const field = e.target as HTMLInputElement
  const [file] = field.files ?? []
  if (file) await lookAt({ name: file.name, fps: fps.value, content: await file.text() })
  field.value = ''
}
const setRate = (rate: string): void => {
  fps.value = rate
  if (list.value) void lookAt({ ...list.value, fps: rate })
}

const waiting = computed(() => plan.value?.events.filter((event) => event.range === null).length ?? 0)
const watched = computed(() => (plan.value ? watchedOf(plan.value) : []))

async function bringFolder(e: Event): Promise<void> {
  const field = e.target as HTMLInputElement
  const groups = groupsOf(filesChosen(field.files!))
  field.value = ''
  const wanted = wantedOf(plan.value!, groups, brought)
  if (wanted.length === 0) {
    message.warning('Nothing in this folder is called what the list asks for.', { duration: 8000 })
    return
  }
  for (const group of wanted) brought.add(filesOf(group)[0]!.name)
  await act(async () => {
    await batch.add(wanted)
    await look()
  })
}
const pickWatched = (): Promise<void> =>
  act(async () => {
    for (const paths of watched.value) await api.pick(props.production, paths, paths.length > 1, fps.value, false)
    await look()
  })

const words = computed(() => (plan.value ? planInWords(plan.value, removed.value.size) : ''))
const take = (): Promise<void> =>
  act(async () => {
    await api.takeEdit(props.production, list.value!, plan.value!.key, [...removed.value])
    message.success(`${list.value!.name} is taken in: ${words.value}.`)
    show.value = false
    emit('taken')
  })
</script>

<template>
  <SheetDialog v-model:show="show" title="Take in an edit" :width="980">
    <div class="choose">
      <NButton size="small" :type="list ? 'default' : 'primary'" @click="listField?.click()">{{
        list ? 'Another list' : 'Choose a list'
      }}</NButton>
      <input ref="listField" type="file" accept=".edl,.otio" hidden data-test="edit-list" @change="choose" />
      <label title="Frames a second of a list that says none itself (EDL), and of numbered stills"
        >Rate
        <NSelect
          :value="fps"
          size="small"
          class="rate"
          :options="RATE_CHOICES"
          aria-label="Frames a second of the list"
          @update:value="setRate"
      /></label>
      <span v-if="list" class="name">{{ list.name }}<template v-if="plan?.title"> · {{ plan.title }}</template></span>
      <span v-else class="quiet">CMX 3600 (.edl) or OpenTimelineIO (.otio)</span>
    </div>
    <p v-if="problem" role="alert" class="warn">{{ problem }}</p>
    <template v-if="plan">
      <details v-if="plan.left.length" class="left">
        <summary class="warn">{{ plan.left.length }} lines could not be read; the others are here</summary>
        <ul>
          <li v-for="text in plan.left" :key="text">{{ text }}</li>
        </ul>
      </details>
      <p v-if="waiting" class="wait warn" role="status">
        {{ waiting }} of {{ plan.events.length }} wait for footage.
        <NButton size="small" :disabled="busy" @click="folderField?.click()">Choose its folder</NButton>
        <NButton v-if="watched.length" size="small" :disabled="busy" @click="pickWatched"
          >Take {{ watched.length }} from the watched folder</NButton
        >
        <span class="quiet">Or later: the list stays with the production.</span>
        <input ref="folderField" type="file" webkitdirectory hidden data-test="edit-folder" @change="bringFolder" />
      </p>
      <BatchList :batch="batch" />
      <EditEvents v-model:removed="removed" :plan="plan" :shots="shots" />
      <div class="do">
        <span role="status">{{ words }}</span>
        <NButton type="primary" :loading="busy" @click="take">Take it in</NButton>
      </div>
    </template>
  </SheetDialog>
</template>

<style scoped>
.choose,
.wait,
.do {
  align-items: center;
  display: flex;
  gap: 14px;
}
.choose label {
  align-items: center;
  display: flex;
  gap: 8px;
}
.wait {
  margin-top: 10px;
}
.rate {
  width: 100px;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.left {
  margin-top: 8px;
}
.do {
  justify-content: flex-end;
  margin-top: 12px;
}
</style>
