<script setup lang="ts">
import { NButton, NCheckbox, NSelect, useMessage } from 'naive-ui'
import { ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import SheetDialog from '../components/SheetDialog.vue'
import { wordsOf } from '../stores/errors'
import { RATE_CHOICES } from './readings'

/** Footage that lies in a folder of the server already, picked without uploading it. */
const props = defineProps<{ production: number }>()
const show = defineModel<boolean>('show', { required: true })
const emit = defineEmits<{ taken: [] }>()
const message = useMessage()

const fps = ref('24/1')
const watched = shallowRef<Awaited<ReturnType<typeof api.watched>> | null>(null)
const picked = ref<string[]>([])
const asSequence = ref(false)
watch(show, async (open) => {
  if (!open) return
  picked.value = []
  watched.value = await api.watched().catch((e: unknown) => {
    message.error(e instanceof Error ? e.message : String(e))
    return null
  })
})
async function takePicked(): Promise<void> {
  try {
    await api.pick(props.production, [...picked.value].sort(), asSequence.value, fps.value)
    show.value = false
  } catch (error) {
    message.error(wordsOf(error), { duration: 8000 })
  }
  emit('taken')
}
</script>

<template>
  <SheetDialog v-model:show="show" title="Watched folder" :width="620">
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
    <p v-if="watched?.left" class="warn" role="status">
      {{ watched.left.toLocaleString() }} more entries are not listed; move what you do not need elsewhere.
    </p>
    <div class="actions">
      <button class="word" type="button" @click="picked = (watched?.files ?? []).map((f) => f.path)">pick all</button>
      <NCheckbox v-model:checked="asSequence">one numbered sequence</NCheckbox>
      <NSelect
        v-if="asSequence"
        v-model:value="fps"
        size="small"
        class="rate"
        :options="RATE_CHOICES"
        aria-label="Frames a second"
      />
      <NButton type="primary" :disabled="picked.length === 0" @click="takePicked">Take in {{ picked.length }}</NButton>
    </div>
  </SheetDialog>
</template>

<style scoped>
.actions {
  align-items: center;
  display: flex;
  gap: 12px;
}
.rate {
  width: 140px;
}
.files {
  display: flex;
  flex-direction: column;
  margin: 10px 0;
  max-height: 50vh;
  overflow-y: auto;
}
</style>
