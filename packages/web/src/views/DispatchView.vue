<script setup lang="ts">
import { deliveryFormat } from '@fogbath/core/delivery'
import { NButton, NProgress, useMessage } from 'naive-ui'
import { onBeforeUnmount, onMounted } from 'vue'
import { api } from '../api/client'
import { ROUTES, addressOf, type Render } from '@fogbath/contract'
import RenderStill from '../components/RenderStill.vue'
import TimeAgo from '../components/TimeAgo.vue'
import TopBar from '../components/TopBar.vue'
import { usePages } from '../components/usePages'
import { wordsOf } from '../stores/errors'
import { useShelfStore } from '../stores/shelf'

const { items: renders, more, problem, refresh, older, change, drop } = usePages(api.renders)
const message = useMessage()
const shelf = useShelfStore()
let events: EventSource | undefined
let left = false

onMounted(async () => {
  // Names of looks are told without the shelf as well.
  void shelf.load().catch(() => undefined)
  await refresh()
  if (left) return
  events = new EventSource(addressOf(ROUTES.renderEvents))
  events.onmessage = (e: MessageEvent<string>) => {
    const step = JSON.parse(e.data) as Pick<Render, 'id' | 'state' | 'done' | 'count' | 'left' | 'rate' | 'message'>
    const newest = renders.value?.[0]?.id ?? 0
    if (step.id > newest) void refresh()
    else change(step.id, step)
  }
  // After a break in the connection steps may have been missed.
  events.onopen = () => void refresh()
})
onBeforeUnmount(() => {
  left = true
  events?.close()
})

async function attempt(work: () => Promise<void>): Promise<void> {
  try {
    await work()
  } catch (error) {
    message.error(wordsOf(error))
    await refresh()
  }
}
const act = (r: Render, action: 'cancel' | 'retry') =>
  attempt(async () => change(r.id, await api.renderAction(r.id, action)))
const again = (r: Render) =>
  attempt(async () => {
    await api.renderAction(r.id, 'again')
    await refresh()
  })
const remove = (r: Render) =>
  attempt(async () => {
    await api.deleteRender(r.id)
    drop(r.id)
  })
const words: Record<Render['state'], string> = {
  waiting: 'waiting',
  running: 'rendering',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
}
/** Stills are numbered from the shot's first frame; the newest that is done is the one to look at. */
const frameOf = (r: Render): number => r.first + Math.min(r.count - 1, Math.max(0, r.done - 1))
function nameOf(id: Render['format']): string {
  const { label, ending, moving } = deliveryFormat(id)
  return `${label}, ${moving ? `.${ending}` : `.${ending} in a .zip`}`
}
const leftOf = (r: Render): string =>
  r.left === null ? '' : r.left < 90 ? `${r.left} s left` : `${Math.round(r.left / 60)} min left`
/** How far it is and how quickly it goes. */
const paceOf = (r: Render): string =>
  r.state !== 'running'
    ? ''
    : [`${r.done}/${r.count}`, r.rate === null ? '' : `${r.rate.toFixed(1)} fps`, leftOf(r)].filter(Boolean).join(' · ')
</script>

<template>
  <TopBar />
  <main class="page">
    <h1>Dispatch</h1>
    <p v-if="problem" role="alert" class="warn">
      {{ problem }} <button class="word" type="button" @click="refresh">Try again</button>
    </p>
    <p v-else-if="renders && renders.length === 0" class="quiet">
      Nothing has been rendered yet. On the bench, choose Render.
    </p>
    <article v-for="r in renders ?? []" :key="r.id" class="render" :data-render="r.id" :data-state="r.state">
      <RenderStill :render="r" :frame="frameOf(r)" />
      <div class="what">
        <h2>{{ r.label }}</h2>
        <p>{{ shelf.titleOf(r.recipe) }}</p>
        <p class="quiet">
          {{ nameOf(r.format) }} · {{ r.count }} frames · <TimeAgo :time="r.createdAt" /><span
            v-if="r.edition"
            title="What computed it; the same edition makes the same once more, to the bit"
          >
            · edition <span class="mono">{{ r.edition }}</span></span
          >
        </p>
        <p v-if="r.message" class="warn" role="alert">{{ r.message }}</p>
      </div>
      <div class="how">
        <NProgress
          v-if="r.state === 'running' || r.state === 'waiting'"
          :percentage="Math.round((100 * r.done) / Math.max(1, r.count))"
          :height="8"
          :show-indicator="false"
          :aria-label="`Progress of render ${r.id}`"
        />
        <p class="state">
          <span>{{ words[r.state] }}</span> <span class="mono quiet">{{ paceOf(r) }}</span>
        </p>
      </div>
      <div class="actions">
        <NButton
          v-if="r.state === 'done'"
          tag="a"
          size="small"
          type="primary"
          :href="addressOf(ROUTES.renderFile, { params: { id: r.id } })"
          download
          >Download</NButton
        >
        <NButton v-if="r.state === 'running' || r.state === 'waiting'" size="small" @click="act(r, 'cancel')"
          >Cancel</NButton
        >
        <button
          v-if="r.state === 'done'"
          class="word"
          type="button"
          :aria-label="`Make ${r.label} once more`"
          @click="again(r)"
        >
          once more
        </button>
        <NButton v-if="r.state === 'failed' || r.state === 'cancelled'" size="small" @click="act(r, 'retry')"
          >Try again</NButton
        >
        <button
          v-if="r.state !== 'running'"
          class="word"
          type="button"
          :aria-label="`Remove ${r.label}`"
          @click="remove(r)"
        >
          remove
        </button>
      </div>
    </article>
    <NButton v-if="more" class="older" @click="older">Older renders</NButton>
  </main>
</template>

<style scoped>
h1 {
  margin-bottom: 12px;
}
.render {
  align-items: center;
  border-top: 1px solid var(--line);
  display: grid;
  gap: 20px;
  grid-template-columns: 160px 1fr 260px 230px;
  padding: 12px 0;
}
.state {
  margin-top: 4px;
  white-space: nowrap;
}
.actions {
  align-items: center;
  display: flex;
  gap: 12px;
  justify-content: flex-end;
}
</style>
