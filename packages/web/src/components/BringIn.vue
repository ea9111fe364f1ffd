<script setup lang="ts">
import { NButton, NProgress } from 'naive-ui'
import { computed, ref, shallowRef } from 'vue'
import { api, uploadBackup } from '../api/client'
import type { BackupPreview } from '../api/types'
import SheetDialog from './SheetDialog.vue'
import { wordsOf } from './complain'

/** Brings a file in that was taken along, or a whole backup: looked at first, then taken in or put away. */
const emit = defineEmits<{ done: [] }>()
const picker = ref<HTMLInputElement | null>(null)
const open = ref(false)
const share = ref<number | null>(null)
const problem = ref('')
const found = shallowRef<{ key: string; preview: BackupPreview } | null>(null)
const working = ref(false)
const preview = computed(() => found.value?.preview)

async function bring(): Promise<void> {
  const file = picker.value?.files?.[0]
  if (!file) return
  picker.value!.value = ''
  ;[open.value, share.value, problem.value, found.value] = [true, 0, '', null]
  try {
    found.value = await uploadBackup(file, (done) => (share.value = done))
  } catch (error) {
    problem.value = wordsOf(error)
  } finally {
    share.value = null
  }
}

async function accept(): Promise<void> {
  const waiting = found.value
  if (!waiting) return
  working.value = true
  try {
    await api.acceptImport(waiting.key)
    found.value = null
    open.value = false
    emit('done')
  } catch (error) {
    problem.value = wordsOf(error)
  } finally {
    working.value = false
  }
}

async function putAway(): Promise<void> {
  const waiting = found.value
  ;[open.value, found.value] = [false, null]
  // One that stays behind is swept away later.
  if (waiting) await api.dropImport(waiting.key).catch(() => undefined)
}
/** What footage comes with a backup, and what of it is here. */
function footageOf({ brought, bytes, here }: BackupPreview['media']): string {
  const comes = brought
    ? `${counted(brought, 'file')} of footage with it (${(bytes / 1e6).toFixed(1)} MB)`
    : 'No footage comes with it'
  return here ? `${comes}; ${here} ${here === 1 ? 'is' : 'are'} here already.` : `${comes}.`
}
const counted = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`
</script>

<template>
  <button class="word" type="button" title="A production that was taken along, or a backup" @click="picker?.click()">
    bring in
  </button>
  <input
    ref="picker"
    type="file"
    accept=".zip,application/zip"
    class="picker"
    aria-label="Backup to bring in"
    tabindex="-1"
    @change="bring"
  />
  <SheetDialog :show="open" title="Bring in" :width="560" @update:show="putAway">
    <NProgress v-if="share !== null" :percentage="Math.round(100 * share)" aria-label="Bringing the file in" />
    <p v-if="share === 1" class="quiet">Every part of it is checked.</p>
    <p v-if="problem" role="alert" class="warn">{{ problem }}</p>
    <template v-if="preview">
      <ul>
        <li v-for="(p, i) in preview.productions" :key="i">
          {{ p.name }} <span class="quiet">{{ counted(p.shots, 'shot') }}, {{ counted(p.proofs, 'proof') }}</span>
          <span v-if="p.there" class="quiet"> · one of this name is here; both stay</span>
        </li>
      </ul>
      <p class="quiet">
        {{ footageOf(preview.media) }}
      </p>
      <p v-if="preview.missing.length" role="alert" class="warn">
        Footage that is neither in the file nor here: {{ preview.missing.join(', ') }}. Take it in first, or take the
        production along with its footage.
      </p>
      <div class="do">
        <NButton type="primary" :disabled="preview.missing.length > 0" :loading="working" @click="accept">
          Take it in
        </NButton>
        <NButton @click="putAway">Put it away</NButton>
      </div>
    </template>
  </SheetDialog>
</template>

<style scoped>
.picker {
  height: 1px;
  opacity: 0;
  position: absolute;
  width: 1px;
}
ul {
  margin: 0 0 10px;
  padding-left: 18px;
}
.do {
  display: flex;
  gap: 10px;
  margin-top: 14px;
}
</style>
