<script setup lang="ts">
import { NProgress } from 'naive-ui'
import { computed } from 'vue'
import type { Batch, BatchItem } from './batch'

/** Files on their way in: all together, each by itself, and what was refused with the reason. */
const props = defineProps<{ batch: Batch }>()

const STATES: Record<BatchItem['state'], string> = {
  waiting: 'waits',
  comparing: 'compared with what is here',
  sending: 'is sent',
  reading: 'is read',
  taken: 'taken in',
  known: 'here already: not sent again',
  back: 'found again',
  refused: 'not taken in',
  stopped: 'stopped',
}
const counts = computed(() => {
  const of = (...states: BatchItem['state'][]): number =>
    props.batch.items.filter((i) => states.includes(i.state)).length
  return [
    [of('taken'), 'taken in'],
    [of('back'), 'found again'],
    [of('known'), 'here already'],
    [of('refused'), 'not taken in'],
    [of('stopped'), 'stopped'],
    [of('waiting', 'comparing', 'sending', 'reading'), 'to come'],
  ]
    .filter(([count]) => count)
    .map(([count, text]) => `${count} ${text}`)
    .join(', ')
})
const share = computed(() => Math.round((100 * props.batch.sent) / Math.max(1, props.batch.bytes)))
const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(1)} MB`
/** While it goes on all of them; afterwards only what somebody has to see to. */
const shown = computed(() =>
  props.batch.over ? props.batch.items.filter(({ state }) => state === 'refused') : props.batch.items,
)
</script>

<template>
  <section v-if="batch.items.length" aria-label="Files on their way in">
    <div class="all">
      <span role="status">{{ counts }}</span>
      <template v-if="!batch.over">
        <span class="mono quiet">{{ megabytes(batch.sent) }} of {{ megabytes(batch.bytes) }}</span>
        <NProgress :percentage="share" :height="8" aria-label="All files" />
        <button class="word" type="button" @click="batch.stop()">stop</button>
      </template>
    </div>
    <ul v-if="shown.length">
      <li v-for="i in shown" :key="i.key">
        <span class="name">{{ i.name }}</span>
        <span v-if="i.state === 'refused'" class="warn" role="alert">Not taken in: {{ i.message }}</span>
        <template v-else>
          <span class="quiet">{{ STATES[i.state] }}</span>
          <progress
            v-if="i.state === 'sending'"
            :value="i.sent"
            :max="Math.max(1, i.bytes)"
            :aria-label="`${i.name}, sent`"
          />
        </template>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.all {
  align-items: center;
  display: flex;
  gap: 14px;
  margin: 8px 0;
  white-space: nowrap;
}
ul {
  margin: 0;
  max-height: 220px;
  overflow-y: auto;
  padding: 0;
}
li {
  align-items: baseline;
  display: grid;
  gap: 14px;
  grid-template-columns: 260px 1fr 180px;
  list-style: none;
  padding: 2px 0;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.warn {
  grid-column: 2 / -1;
}
progress {
  accent-color: var(--accent);
  width: 100%;
}
</style>
