<script setup lang="ts">
import { encodingOfRow, refOf } from '../api/encodings'
import { useEventListener } from '@vueuse/core'
import { computed, ref } from 'vue'
import { encodingById, greyNumber } from '@fogbath/core/encodings'
import { straightView } from '@fogbath/core/film'
import { type Figure } from '@fogbath/core/readings'
import { shownIn } from '@fogbath/core/treat'
import { ChevronDown, ChevronRight } from '@vicons/tabler'
import { NDropdown } from 'naive-ui'
import HelpButton from '../components/HelpButton.vue'
import IconButton from '../components/IconButton.vue'
import ScopeNumbers from './ScopeNumbers.vue'
import { useBenchStore } from '../stores/bench'
import { useLookStore } from '../stores/look'
import type { ScopeKind, ScopeOf } from '../workers/protocol'
import type { Reading } from '../workers/readings'

/** Scope on top, figures in words below. The canvas is handed to the picture worker once. */
const props = defineProps<{
  figures: readonly Figure[]
  encoding: string
  card: number | null
  reading: Reading | null
}>()
const scope = defineModel<ScopeKind>('scope', { required: true })
const scopeOf = defineModel<ScopeOf>('scopeOf', { required: true })
const bench = useBenchStore()
const look = useLookStore()
const canvas = ref<HTMLCanvasElement | null>(null)
defineExpose({ canvas })

/** Where a display light lies on the scope, from the top. */
function topOf(light: number): number {
  return 1 - greyNumber(encodingById(shownIn(refOf(props.encoding))), light)
}
/** What the scope shows, which comes a little behind what is chosen. */
const drawn = computed(() => {
  if (!props.reading) return 'scope'
  const { scope: kind, scopeOf: of, two } = props.reading
  return two ? `${kind} of the other shot at the left and of this one's ${of}` : `${kind} of ${of}`
})
/** Where stops of the scene's light from mid grey lie, for footage of a camera. */
const stops = computed(() =>
  encodingOfRow(props.encoding).refers === 'scene'
    ? [-4, -3, -2, -1, 1, 2, 3].map((stop) => ({ stop, top: topOf(straightView(0.18 * 2 ** stop)) }))
    : [],
)
const lines = computed(() => [
  { label: '18 % grey', top: topOf(0.18), card: false },
  ...(props.card === null ? [] : [{ label: 'grey card', top: topOf(straightView(props.card)), card: true }]),
])

const kinds: readonly { key: ScopeKind; label: string }[] = [
  { key: 'waveform', label: 'Waveform' },
  { key: 'parade', label: 'Parade' },
  { key: 'vector', label: 'Vector' },
  { key: 'histogram', label: 'Histogram' },
]
const SOURCES: Record<ScopeOf, string> = { picture: 'picture', footage: 'footage', both: 'both' }
const sources = Object.entries(SOURCES).map(([key, label]) => ({ key, label }))

/** The scope over the left half of the window. */
const large = defineModel<boolean>('large', { required: true })
useEventListener(window, 'keydown', (e: KeyboardEvent) => {
  if (e.key === 'Escape') large.value = false
})

/** The most telling ones, which stand in two lines; the others behind a fold. */
const TELLING: readonly Figure['id'][] = [
  'grey',
  'own-skin',
  'skin',
  'black',
  'shadows',
  'highlights',
  'white',
  'skin-hue',
]
const IN_SIGHT = 4
const ordered = computed(() => [...props.figures].sort((a, b) => TELLING.indexOf(a.id) - TELLING.indexOf(b.id)))
const open = ref(false)
const inSight = computed(() => (open.value ? ordered.value : ordered.value.slice(0, IN_SIGHT)))
const folded = computed(() => ordered.value.slice(IN_SIGHT))
const advice = computed(() => ordered.value.find((f) => f.advice)?.advice ?? '')
</script>

<template>
  <section class="readings" aria-label="Readings">
    <div class="bar">
      <IconButton
        :icon="look.panel.readings ? ChevronDown : ChevronRight"
        name="Readings"
        :title="look.panel.readings ? 'Fold the readings' : 'Open the readings'"
        :pressed="look.panel.readings"
        @click="look.panel.readings = !look.panel.readings"
      />
      <button
        v-for="k in kinds"
        :key="k.key"
        class="word"
        type="button"
        :aria-pressed="scope === k.key"
        @click="scope = k.key"
      >
        {{ k.label }}
      </button>
      <span class="gap" />
      <NDropdown trigger="click" :options="sources" @select="(of: ScopeOf) => (scopeOf = of)">
        <button class="word" type="button" aria-label="The scope reads" title="What the scope reads">
          {{ SOURCES[scopeOf] }} ▾
        </button>
      </NDropdown>
      <HelpButton page="bench#readings" name="About readings" />
    </div>
    <div v-show="look.panel.readings">
      <div class="place">
        <div class="scope" :class="{ large }" title="Double click: large" @dblclick="large = !large">
          <canvas ref="canvas" width="390" height="104" role="img" :aria-label="drawn" />
          <ScopeNumbers :scope="scope" :lines="lines" :stops="stops" :large="large" />
          <button
            v-if="large"
            class="word close"
            type="button"
            title="Close (Esc, or a double click)"
            @click="large = false"
          >
            close
          </button>
        </div>
      </div>
      <div class="figures">
        <dl>
          <div v-for="f in inSight" :key="f.id" :title="f.advice ?? ''" :data-figure="f.id">
            <dt class="quiet">{{ f.label }}</dt>
            <dd class="mono" :class="{ warn: f.advice }">{{ f.advice ? '! ' : '' }}{{ f.text }}</dd>
          </div>
        </dl>
      </div>
      <div class="under">
        <p class="warn advice" :title="advice">{{ advice }}</p>
        <button
          v-if="bench.bath?.mask"
          class="word"
          type="button"
          :aria-pressed="bench.underMask"
          title="Scopes, shadows and highlights of what lies under the mask of the chosen bath"
          @click="bench.underMask = !bench.underMask"
        >
          only under the mask
        </button>
        <button
          v-if="folded.length > 0"
          class="word"
          :class="{ warn: !open && folded.some((f) => f.advice) }"
          type="button"
          :aria-expanded="open"
          :title="folded.map((f) => `${f.label} ${f.text}`).join('; ')"
          @click="open = !open"
        >
          {{ open ? 'fewer' : `${folded.length} more` }}
        </button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.readings {
  border-bottom: 1px solid var(--line);
  padding: 4px 14px;
}
.bar {
  align-items: center;
  display: flex;
  gap: 0 6px;
  height: 28px;
  white-space: nowrap;
}
.gap {
  flex: 1;
}
.place {
  height: 104px;
  margin: 2px 0 4px;
}
.scope {
  height: 100%;
  position: relative;
}
.scope canvas {
  display: block;
  height: 100%;
  width: 100%;
}
.scope.large {
  background: #141414;
  border: 1px solid var(--line);
  height: 56vh;
  left: 0;
  position: fixed;
  top: 44px;
  width: 50vw;
  z-index: 20;
}
.close {
  background: #141414;
  color: #ececec;
  position: absolute;
  right: 8px;
  top: 4px;
}
.figures dl {
  display: grid;
  gap: 0 14px;
  grid-auto-rows: 22px;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  margin: 0;
}
dl div {
  display: flex;
  gap: 4px;
  justify-content: space-between;
  white-space: nowrap;
}
dt {
  overflow: hidden;
  text-overflow: ellipsis;
}
dd {
  margin: 0;
}
/* Advice and choices have their room before they are there, so that no setting moves under the hand. */
.under {
  display: flex;
  gap: 10px;
  height: 24px;
  white-space: nowrap;
}
.advice {
  flex: 1;
  line-height: 24px;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
