<script setup lang="ts">
import { ref, shallowRef } from 'vue'
import { uploadBackup } from '../api/client'
import type { Import } from '@fogbath/contract'
import ImportSheet from './ImportSheet.vue'
import { wordsOf } from '../stores/errors'

/** Brings a file in that was taken along, or a whole backup. */
const emit = defineEmits<{ done: [] }>()
const picker = ref<HTMLInputElement | null>(null)
const open = ref(false)
const share = ref<number | null>(null)
const failed = ref('')
const found = shallowRef<Import | null>(null)

async function bring(): Promise<void> {
  const file = picker.value?.files?.[0]
  if (!file) return
  picker.value!.value = ''
  ;[open.value, share.value, failed.value, found.value] = [true, 0, '', null]
  try {
    found.value = await uploadBackup(file, (done) => (share.value = done))
  } catch (error) {
    failed.value = wordsOf(error)
  } finally {
    share.value = null
  }
}
</script>

<template>
  <button class="word" type="button" title="A production that was exported, or a backup" @click="picker?.click()">
    import
  </button>
  <input
    ref="picker"
    type="file"
    accept=".zip,application/zip"
    class="picker"
    aria-label="Backup to import"
    tabindex="-1"
    @change="bring"
  />
  <ImportSheet v-model:show="open" v-model:start="found" :uploading="share" :failed="failed" @done="emit('done')" />
</template>

<style scoped>
.picker {
  height: 1px;
  opacity: 0;
  position: absolute;
  width: 1px;
}
</style>
