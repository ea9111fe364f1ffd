<script setup lang="ts">
import { notesInOrder } from '@fogbath/core/line'
import { timecode } from '@fogbath/core/numbers'
import { useStorage } from '@vueuse/core'
import { NButton, NInput } from 'naive-ui'
import { computed, ref } from 'vue'
import SheetDialog from '../components/SheetDialog.vue'
import TimeAgo from '../components/TimeAgo.vue'
import { useBenchStore } from '../stores/bench'

/** Notes on frames and on the whole shot. Who writes them is kept in the browser. */
const show = defineModel<boolean>('show', { required: true })
const bench = useBenchStore()
const author = useStorage('fogbath.author', '')
const text = ref('')
const notes = computed(() => notesInOrder(bench.marks))
const timeOf = (frame: number): string => {
  const { fps = '24', timecode: start } = bench.shot?.medium.info ?? {}
  return timecode(frame, fps, start)
}

function add(frame: number | null): void {
  if (!text.value.trim()) return
  bench.addNote(text.value.trim(), frame, author.value.trim())
  text.value = ''
}
function go(frame: number): void {
  bench.frame = frame
  show.value = false
}
</script>

<template>
  <SheetDialog v-model:show="show" title="Notes" :width="560">
    <NInput
      v-model:value="text"
      type="textarea"
      :maxlength="500"
      :autosize="{ minRows: 2, maxRows: 6 }"
      placeholder="What is to be remembered here"
      :input-props="{ 'aria-label': 'Note' }"
    />
    <div class="row">
      <NButton size="small" type="primary" :disabled="!text.trim()" @click="add(bench.frame)"
        >Note on this frame</NButton
      >
      <NButton size="small" :disabled="!text.trim()" @click="add(null)">On the whole shot</NButton>
      <NInput
        v-model:value="author"
        size="small"
        class="author"
        :maxlength="80"
        placeholder="Your name"
        :input-props="{ 'aria-label': 'Your name, under your notes' }"
      />
    </div>
    <ul aria-label="Notes of this shot">
      <li v-for="n in notes" :key="n.key">
        <button v-if="n.frame !== null" class="word mono" type="button" title="Go to this frame" @click="go(n.frame)">
          {{ timeOf(n.frame) }}
        </button>
        <span v-else class="quiet">shot</span>
        <span class="text">{{ n.text }}</span>
        <span class="quiet">{{ n.author }} <TimeAgo :time="n.time" /></span>
        <button class="word" type="button" :aria-label="`Remove the note ${n.text}`" @click="bench.removeNote(n.key)">
          remove
        </button>
      </li>
    </ul>
    <p v-if="notes.length === 0" class="quiet">No note yet. Those of a frame are marked on the scrub line.</p>
  </SheetDialog>
</template>

<style scoped>
.row {
  align-items: center;
  display: flex;
  gap: 10px;
  margin: 8px 0 12px;
}
.author {
  margin-left: auto;
  width: 160px;
}
ul {
  list-style: none;
  margin: 0;
  max-height: 46vh;
  overflow: auto;
  padding: 0;
}
li {
  align-items: baseline;
  border-top: 1px solid var(--line);
  display: grid;
  gap: 10px;
  grid-template-columns: 96px 1fr auto auto;
  padding: 4px 0;
}
.text {
  overflow-wrap: anywhere;
  white-space: pre-wrap;
}
</style>
