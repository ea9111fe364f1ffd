<script setup lang="ts">
import type { Shot } from '@fogbath/contract'
import { useMessage } from 'naive-ui'
import { watch } from 'vue'
import { loadEncodings, ownEncodings, removeEncoding } from '../api/encodings'
import SheetDialog from '../components/SheetDialog.vue'
import { wordsOf } from '../stores/errors'
import EncodingFiles from './EncodingFiles.vue'
import EncodingNumbers from './EncodingNumbers.vue'

/** Encodings of one's own: those that are kept, and two ways to bring others. */
defineProps<{ shots: readonly Shot[] }>()
const show = defineModel<boolean>('show', { required: true })
const message = useMessage()
const tell = (error: unknown): void => void message.error(wordsOf(error), { duration: 8000 })
watch(show, (open) => open && void loadEncodings().catch(tell), { immediate: true })
</script>

<template>
  <SheetDialog v-model:show="show" title="Encodings of your own" :width="760">
    <p v-if="ownEncodings.length === 0" class="quiet">
      None yet. A camera’s encoding comes by its maker’s files, or by the numbers that the maker publishes.
    </p>
    <ul v-else class="kept" aria-label="Kept encodings">
      <li v-for="{ definition: e, uses } in ownEncodings" :key="e.id">
        <b>{{ e.name }}</b>
        <span class="quiet">{{ e.from }}</span>
        <span class="quiet uses">{{ uses ? `${uses} in use` : 'not in use' }}</span>
        <button
          class="word"
          type="button"
          :disabled="uses > 0"
          :aria-label="`Remove ${e.name}`"
          :title="uses > 0 ? 'Shots, proofs or renders are taken for it' : 'Nothing is taken for it'"
          @click="removeEncoding(e.id).catch(tell)"
        >
          remove
        </button>
      </li>
    </ul>
    <EncodingFiles @fail="tell" />
    <EncodingNumbers :shots="shots" @fail="tell" />
  </SheetDialog>
</template>

<style scoped>
.kept {
  margin: 0;
  max-height: 180px;
  overflow-y: auto;
  padding: 0;
}
.kept li {
  align-items: baseline;
  display: grid;
  gap: 12px;
  grid-template-columns: 150px 1fr 84px 60px;
  list-style: none;
  padding: 3px 0;
}
.uses {
  text-align: right;
}
</style>
