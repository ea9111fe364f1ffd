<script setup lang="ts">
import { ROUTES, addressOf, type Render } from '@fogbath/contract'
import { NButton, NProgress } from 'naive-ui'
import { computed } from 'vue'
import TimeAgo from '../components/TimeAgo.vue'
import { useShelfStore } from '../stores/shelf'
import RenderStill from './RenderStill.vue'
import { formatInWords, isInLine, paceInWords } from './renders'

/** A render: what it is, how far it is, and what can be done with it. */
const props = defineProps<{ render: Render }>()
const emit = defineEmits<{ act: [action: 'cancel' | 'pause' | 'resume' | 'retry' | 'again']; remove: []; play: [] }>()
const shelf = useShelfStore()

const words: Record<Render['state'], string> = {
  waiting: 'waiting',
  running: 'rendering',
  paused: 'stands aside',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
}
/** The newest frame that is done is the one to look at. */
const frame = computed(() => Math.min(props.render.count - 1, Math.max(0, props.render.done - 1)))
const look = computed(() =>
  props.render.pieces ? `${props.render.pieces.length} shots as one file` : shelf.titleOf(props.render.recipe),
)
</script>

<template>
  <article class="render" :data-render="render.id" :data-state="render.state">
    <div class="lead"><slot /></div>
    <RenderStill :render="render" :frame="frame" />
    <div class="what">
      <h2>{{ render.label }}</h2>
      <p>{{ look }}</p>
      <p class="quiet">
        {{ formatInWords(render.format) }} · {{ render.count }} frames · <TimeAgo :time="render.createdAt" /><span
          v-if="render.edition"
          title="What computed it; the same edition makes the same once more, to the bit"
        >
          · edition <span class="mono">{{ render.edition }}</span></span
        >
      </p>
      <p v-if="render.message" class="warn" role="alert">{{ render.message }}</p>
    </div>
    <div class="how">
      <NProgress
        v-if="isInLine(render)"
        :percentage="Math.round((100 * render.done) / Math.max(1, render.count))"
        :height="8"
        :show-indicator="false"
        :aria-label="`Progress of render ${render.id}`"
      />
      <p class="state">
        <span>{{ words[render.state] }}</span> <span class="mono quiet">{{ paceInWords(render) }}</span>
      </p>
    </div>
    <div class="actions">
      <template v-if="render.state === 'done'">
        <NButton size="small" :aria-label="`Play ${render.label}`" @click="emit('play')">Play</NButton>
        <NButton
          tag="a"
          size="small"
          type="primary"
          :href="addressOf(ROUTES.renderFile, { params: { id: render.id } })"
          download
          >Download</NButton
        >
        <button class="word" type="button" :aria-label="`Make ${render.label} once more`" @click="emit('act', 'again')">
          once more
        </button>
      </template>
      <template v-else-if="isInLine(render)">
        <NButton v-if="render.state === 'paused'" size="small" @click="emit('act', 'resume')">Go on</NButton>
        <NButton v-else size="small" @click="emit('act', 'pause')">Stand aside</NButton>
        <NButton size="small" @click="emit('act', 'cancel')">Cancel</NButton>
      </template>
      <NButton v-else size="small" @click="emit('act', 'retry')">Try again</NButton>
      <button
        v-if="render.state !== 'running'"
        class="word"
        type="button"
        :aria-label="`Remove ${render.label}`"
        @click="emit('remove')"
      >
        remove
      </button>
    </div>
  </article>
</template>

<style scoped>
.render {
  align-items: center;
  background: var(--page);
  border-top: 1px solid var(--line);
  display: grid;
  gap: 16px;
  grid-template-columns: 24px 160px 1fr 240px 290px;
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
