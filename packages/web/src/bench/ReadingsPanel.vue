<script setup lang="ts">
import { computed, ref } from 'vue'
import { displayCode, encodingById, straightView, type Figure } from '@fogbath/core'
import { ChevronDown, ChevronRight } from '@vicons/tabler'
import IconButton from '../components/IconButton.vue'
import { useBenchStore } from '../stores/bench'
import { useLookStore } from '../stores/look'
import type { ScopeKind, ScopeOf } from '../workers/protocol'

/** Scope on top, figures in words below. The canvas is handed to the picture worker once. */
const props = defineProps<{ figures: readonly Figure[]; encoding: string; card: number | null }>()
const scope = defineModel<ScopeKind>('scope', { required: true })
const scopeOf = defineModel<ScopeOf>('scopeOf', { required: true })
const bench = useBenchStore()
const look = useLookStore()
const canvas = ref<HTMLCanvasElement | null>(null)
defineExpose({ canvas })

/** Where a display light lies on the scope, from the top. */
function topOf(light: number): number {
  const { refers, transfer } = encodingById(props.encoding)
  return 1 - (refers === 'display' ? transfer.encode(light) : displayCode(light))
}
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
const sources: readonly ScopeOf[] = ['picture', 'footage', 'both']
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
      <button
        v-for="s in sources"
        :key="s"
        class="word"
        type="button"
        :aria-pressed="scopeOf === s"
        @click="scopeOf = s"
      >
        {{ s }}
      </button>
    </div>
    <div v-show="look.panel.readings">
      <div class="scope">
        <canvas ref="canvas" width="390" height="118" role="img" :aria-label="`${scope} of ${scopeOf}`" />
        <template v-if="scope === 'waveform' || scope === 'parade'">
          <span
            v-for="l in lines"
            :key="l.label"
            class="grey"
            :class="{ card: l.card }"
            :style="{ top: `calc(${100 * l.top}% + 1px)` }"
            >{{ l.label }}</span
          >
        </template>
      </div>
      <div class="figures">
        <dl>
          <div v-for="f in figures" :key="f.id" :title="f.advice ?? ''" :data-figure="f.id">
            <dt class="quiet">{{ f.label }}</dt>
            <dd class="mono" :class="{ warn: f.advice }">{{ f.advice ? '! ' : '' }}{{ f.text }}</dd>
          </div>
        </dl>
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
      </div>
    </div>
    <p class="warn advice">{{ figures.find((f) => f.advice)?.advice }}</p>
  </section>
</template>

<style scoped>
.readings {
  border-bottom: 1px solid var(--line);
  padding: 8px 14px 10px;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0 5px;
}
.gap {
  flex: 1;
}
.scope {
  margin: 6px 0 8px;
  position: relative;
}
canvas {
  display: block;
  height: 118px;
  width: 100%;
}
.grey {
  color: #ff8d62;
  font-size: 11px;
  position: absolute;
  right: 4px;
  text-shadow: 0 0 3px #000000;
}
.grey.card {
  color: #e8e8e8;
  left: 4px;
  right: auto;
}
/* Seven figures, a choice and a line of advice have their room before they are there, so that no setting moves under the hand. */
.figures {
  display: grid;
  gap: 1px 12px;
  grid-template: repeat(4, 22px) / minmax(0, 1.06fr) minmax(0, 1fr);
}
.figures .word {
  justify-self: start;
  padding: 0;
}
dl {
  display: contents;
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
.advice {
  font-size: 13px;
  line-height: 18px;
  margin-top: 6px;
  min-height: 18px;
}
</style>
