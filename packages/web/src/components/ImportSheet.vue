<script setup lang="ts">
import { NButton, NProgress } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import type { BackupPreview, Import } from '@fogbath/contract'
import SheetDialog from './SheetDialog.vue'
import TimeAgo from './TimeAgo.vue'
import { wordsOf } from '../stores/errors'

/** A backup that was brought in: checked, looked at, then taken in or put away. The server goes on with it when this is closed. */
const props = defineProps<{ uploading?: number | null; failed?: string }>()
const start = defineModel<Import | null>('start', { required: true })
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ done: [] }>()

const found = shallowRef<Import | null>(null)
const problem = ref('')
const preview = computed(() => found.value?.preview)
const working = computed(() => found.value?.state === 'proving' || found.value?.state === 'taking')
const checked = computed(() => (found.value?.of ? Math.floor((100 * found.value.done) / found.value.of) : 0))
const EVERY_MS = 700
/** What is looked at next makes answers about the one before late. */
let run = 0

watch(start, (one) => {
  run++
  found.value = one
  problem.value = one?.state === 'waiting' ? (one.message ?? '') : ''
  if (one) void attempt(() => follow('proving', run))
})

/** Looks again and again until a state is over. */
async function follow(state: Import['state'], mine: number): Promise<void> {
  while (mine === run && found.value?.state === state) {
    await new Promise((done) => setTimeout(done, EVERY_MS))
    if (mine === run) found.value = await api.import(found.value.key)
  }
  if (mine === run && found.value?.message) throw new Error(found.value.message)
}

async function accept(): Promise<void> {
  const waiting = found.value
  if (!waiting?.preview) return
  const { taken, missing } = waiting.preview
  const mine = ++run
  await attempt(async () => {
    found.value = { ...waiting, state: 'taking' }
    found.value = await api.acceptImport(waiting.key, taken !== null, missing.length > 0)
    await follow('taking', mine)
    if (mine === run) close()
    emit('done')
  })
  // Refused: it can be taken in once what was wrong is mended.
  if (problem.value && found.value?.state === 'taking') found.value = waiting
}

async function attempt(work: () => Promise<void>): Promise<void> {
  problem.value = ''
  try {
    await work()
  } catch (error) {
    problem.value = wordsOf(error)
  }
}

function close(): void {
  run++
  ;[show.value, start.value, found.value] = [false, null, null]
}
async function putAway(): Promise<void> {
  const waiting = found.value
  close()
  // One that stays behind is swept away later.
  if (waiting) await api.dropImport(waiting.key).catch(() => undefined)
  emit('done')
}

/** What footage comes with a backup, and what of it is here. */
function footageOf({ brought, bytes, here }: BackupPreview['media']): string {
  const comes = brought
    ? `${counted(brought, 'file')} of footage with it (${(bytes / 1e6).toFixed(1)} MB)`
    : 'No footage comes with it'
  return here ? `${comes}; ${here} ${here === 1 ? 'is' : 'are'} here already.` : `${comes}.`
}
const counted = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`
const STATES = {
  new: 'new',
  same: 'here already',
  newer: 'versions are added',
  older: 'here in a later version',
  conflict: 'another of this origin is here; comes beside it',
} as const
const take = computed(() => {
  if (preview.value?.taken) return 'Take it in again'
  return preview.value?.missing.length ? 'Import it without that footage' : 'Import it'
})
const said = computed(() => props.failed || problem.value)
</script>

<template>
  <SheetDialog :show="show" title="Import" :width="560" @update:show="close">
    <NProgress v-if="uploading != null" :percentage="Math.round(100 * uploading)" aria-label="Importing the file" />
    <template v-if="working">
      <p class="quiet" role="status">
        {{ found?.state === 'taking' ? 'It is being imported.' : 'Every part of it is checked.' }} This goes on when you
        close it; Storage shows how far it is.
      </p>
      <NProgress v-if="found?.state === 'proving'" :percentage="checked" aria-label="Checking the backup" />
    </template>
    <p v-if="said" role="alert" class="warn">{{ said }}</p>
    <template v-if="preview">
      <ul>
        <li v-for="(p, i) in preview.productions" :key="i">
          {{ p.name }} <span class="quiet">{{ counted(p.shots, 'shot') }}, {{ counted(p.proofs, 'proof') }}</span>
          <span v-if="p.there" class="quiet"> · one of this name is here; both stay</span>
        </li>
      </ul>
      <p class="quiet">{{ footageOf(preview.media) }}</p>
      <ul v-if="preview.shelf.length + preview.masks.length" aria-label="For the shelf">
        <li v-for="(r, i) in [...preview.shelf, ...preview.masks]" :key="i">
          {{ r.name }} <span class="quiet">{{ STATES[r.state] }}</span>
        </li>
      </ul>
      <p v-if="preview.taken" class="warn">
        This backup was taken in already, <TimeAgo :time="preview.taken" />. Taken in again, its productions are there
        twice.
      </p>
      <p v-if="preview.missing.length" role="alert" class="warn">
        Footage that is neither in the file nor here: {{ preview.missing.join(', ') }}. Take it in first; or take this
        in, and its shots wait for their footage.
      </p>
      <div class="do">
        <NButton type="primary" :disabled="working" :loading="found?.state === 'taking'" @click="accept">{{
          take
        }}</NButton>
        <NButton :disabled="working" @click="putAway">Put it away</NButton>
      </div>
    </template>
  </SheetDialog>
</template>

<style scoped>
ul {
  margin: 0 0 10px;
  max-height: 30vh;
  overflow-y: auto;
  padding-left: 18px;
}
.do {
  display: flex;
  gap: 10px;
  margin-top: 14px;
}
</style>
