<script setup lang="ts">
import { NDropdown } from 'naive-ui'
import { computed } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { kindById, moveBath, removeBath, whyIdle, type Bath } from '@fogbath/core'
import FamilyEmblem from '../components/FamilyEmblem.vue'
import NamedSlider from '../components/NamedSlider.vue'
import TestStrip from '../components/TestStrip.vue'
import { useBenchStore } from '../stores/bench'
import type { StripColours } from '../workers/protocol'

/** The line: camera at the left, screen at the right, every bath with the strip that leaves it. */
const props = defineProps<{ strips: readonly StripColours[]; changes: readonly (number | null)[] }>()
const emit = defineEmits<{ add: [] }>()
const bench = useBenchStore()

const baths = computed({
  get: () => [...bench.recipe.baths],
  // Dragging hands back the whole list; only an order that keeps the stretches is taken.
  set: (list: Bath[]) => {
    const moved = list.findIndex((b, i) => b.id !== bench.recipe.baths[i]?.id)
    if (moved < 0) return
    const id = list[moved]!.id
    const from = bench.recipe.baths.findIndex((b) => b.id === id)
    const next =
      from > moved
        ? moveBath(bench.recipe, id, moved)
        : moveBath(
            bench.recipe,
            bench.recipe.baths[moved]!.id,
            list.findIndex((b) => b.id === bench.recipe.baths[moved]!.id),
          )
    bench.change(next)
  },
})

const nameOf = (bath: Bath): string => bath.name || kindById(bath.kind).label
/** Less than half a step of 8 bits is no change. */
const NOTHING = 0.5 / 255

/** A sentence when a bath leaves the frame as it found it. */
function idleNote(bath: Bath, index: number): string | null {
  const why = whyIdle(bath)
  if (why) return bath.in ? `Changes nothing here: ${why}.` : null
  const moved = props.changes[index]
  if (moved === null || moved === undefined || moved > NOTHING) return null
  if (bath.lay !== 'normal') return `Changes nothing here: laid in ${bath.lay} mode it leaves this frame as it is.`
  return 'Changes nothing here: it makes the same picture that is there.'
}

/** Ctrl marks further baths beside the chosen one. */
function choose(bath: Bath, e: MouseEvent): void {
  if (!e.ctrlKey && !e.metaKey) {
    bench.marked = []
    bench.chosen = bath.id
  } else if (bench.marked.includes(bath.id)) bench.marked = bench.marked.filter((id) => id !== bath.id)
  else if (bath.id !== bench.chosen) bench.marked = [...bench.marked, bath.id]
}

/** How a bath is laid and what it takes, where that is not the ordinary way. */
const howOf = (bath: Bath): string =>
  [
    bath.lay === 'normal' ? '' : bath.lay.replace('-', ' '),
    bath.under ? 'under' : '',
    bath.takes === 'line' && kindById(bath.kind).stretch === 'process' ? 'of the line' : '',
  ]
    .filter(Boolean)
    .join(', ')

const menuOf = (bath: Bath) => [
  { key: 'in', label: bath.in ? 'Lift out' : 'Put back' },
  { key: 'duplicate', label: 'Duplicate' },
  { key: 'copy', label: 'Copy' },
  { key: 'left', label: 'Move left' },
  { key: 'right', label: 'Move right' },
  { key: 'remove', label: 'Remove' },
]

function act(key: string, bath: Bath): void {
  const at = bench.recipe.baths.indexOf(bath)
  if (key === 'in') bench.setBath(bath.id, { in: !bath.in })
  if (key === 'duplicate') bench.duplicate(bath.id)
  if (key === 'copy') bench.clipboard = [bath]
  if (key === 'left') bench.change(moveBath(bench.recipe, bath.id, at - 1))
  if (key === 'right') bench.change(moveBath(bench.recipe, bath.id, at + 1))
  if (key === 'remove') bench.change(removeBath(bench.recipe, bath.id))
}
</script>

<template>
  <section class="line" aria-label="Line">
    <div class="end">
      <button
        class="word"
        type="button"
        :aria-pressed="bench.tap === 0"
        title="Look at the picture before any bath"
        @click="bench.tap = bench.tap === 0 ? null : 0"
      >
        Camera
      </button>
      <div class="pipe" />
      <span class="quiet">footage</span>
      <TestStrip :colours="strips[0]" label="footage" />
    </div>
    <VueDraggable v-model="baths" class="baths" :animation="120" handle=".tray" ghost-class="ghost">
      <article
        v-for="(bath, i) in baths"
        :key="bath.id"
        class="bath"
        :class="{ chosen: bath.id === bench.chosen, marked: bench.marked.includes(bath.id), out: !bath.in }"
        :data-bath="bath.id"
      >
        <div class="head">
          <FamilyEmblem :family="kindById(bath.kind).family" />
          <button
            class="word"
            type="button"
            :aria-pressed="bath.in"
            :title="bath.in ? 'Lift out' : 'Put back'"
            :aria-label="`${nameOf(bath)}: ${bath.in ? 'lift out' : 'put back'}`"
            @click="bench.setBath(bath.id, { in: !bath.in })"
          >
            {{ bath.in ? 'in' : 'out' }}
          </button>
          <button
            class="word"
            type="button"
            :aria-pressed="bench.tap === i + 1"
            :aria-label="`Tap after ${nameOf(bath)}`"
            title="Look at the picture as it leaves this bath"
            @click="bench.tap = bench.tap === i + 1 ? null : i + 1"
          >
            tap
          </button>
          <NDropdown trigger="click" :options="menuOf(bath)" @select="(key: string) => act(key, bath)">
            <button class="word" type="button" :aria-label="`More for ${nameOf(bath)}`">···</button>
          </NDropdown>
        </div>
        <button
          class="tray"
          type="button"
          :aria-pressed="bath.id === bench.chosen || bench.marked.includes(bath.id)"
          :aria-label="`${i + 1}: ${nameOf(bath)}, ${Math.round(bath.strength)} %`"
          @click="choose(bath, $event)"
        >
          <svg viewBox="0 0 110 46" preserveAspectRatio="none" aria-hidden="true">
            <path class="tank" d="M10 9v28c0 4 3 7 7 7h76c4 0 7-3 7-7V9" />
            <path
              v-if="bath.in"
              class="liquid"
              :d="`M12 ${40 - 0.26 * bath.strength}V37c0 3 2 5 5 5h76c3 0 5-2 5-5V${40 - 0.26 * bath.strength}z`"
            />
            <path class="film" :d="bath.in ? 'M0 5h24c13 0 16 30 31 30S73 5 86 5h24' : 'M0 5h110'" />
          </svg>
          <span class="name">{{ nameOf(bath) }}</span>
          <span v-if="bath.under || bath.lay !== 'normal' || bath.takes === 'line'" class="how">{{ howOf(bath) }}</span>
          <span class="mono strength">{{ Math.round(bath.strength) }}</span>
        </button>
        <TestStrip :colours="strips[i + 1]" :label="`after ${nameOf(bath)}`" />
        <p v-if="idleNote(bath, i)" class="note" :title="idleNote(bath, i) ?? ''">{{ idleNote(bath, i) }}</p>
      </article>
    </VueDraggable>
    <div class="end">
      <button class="word add" type="button" title="Add a bath (A)" @click="emit('add')">+ bath</button>
      <div class="pipe whole" title="Strength of the whole line">
        <NamedSlider
          :value="bench.recipe.strength"
          :min="0"
          :max="100"
          :step="1"
          unit="%"
          name="Strength of the whole line"
          @change="(v) => bench.change({ ...bench.recipe, strength: v }, 'whole')"
          @reset="bench.change({ ...bench.recipe, strength: 100 }, 'whole')"
        />
        <span class="mono">{{ Math.round(bench.recipe.strength) }} %</span>
      </div>
      <span class="quiet">screen</span>
      <TestStrip :colours="strips[strips.length - 1]" label="screen" />
    </div>
  </section>
</template>

<style scoped>
.line {
  align-items: flex-start;
  background: var(--ground);
  border-top: 1px solid var(--line);
  display: flex;
  height: 152px;
  overflow-x: auto;
  padding: 8px 12px;
}
.baths {
  display: flex;
}
.bath,
.end {
  display: flex;
  flex: 0 0 auto;
  flex-direction: column;
  gap: 3px;
  padding: 0 6px;
  width: 126px;
}
.end {
  width: 96px;
}
.head {
  align-items: center;
  color: var(--quiet);
  display: flex;
  gap: 5px;
  height: 24px;
}
.head > :last-child {
  margin-left: auto;
}
.pipe {
  border-top: 2px solid var(--quiet);
  height: 43px;
  margin: 1px -6px 0;
}
.whole {
  align-items: center;
  display: flex;
  gap: 6px;
  padding-left: 10px;
  white-space: nowrap;
}
.end:last-child {
  width: 150px;
}
.end .word {
  align-self: flex-start;
}
.end .quiet {
  font-size: 13px;
  height: 20px;
}
.add {
  color: var(--accent);
}
.tray {
  background: none;
  border: 0;
  color: var(--text);
  cursor: pointer;
  font: inherit;
  padding: 0;
  position: relative;
  text-align: left;
}
.tray svg {
  display: block;
  height: 46px;
  margin: 0 -6px;
  width: calc(100% + 12px);
}
.tank {
  fill: none;
  stroke: var(--line);
  stroke-width: 1.5;
}
.liquid {
  fill: var(--raised);
}
.film {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}
.chosen .tank {
  stroke: var(--accent);
  stroke-width: 2.5;
}
.marked .tank {
  stroke: var(--accent);
  stroke-dasharray: 4 3;
}
.how {
  color: var(--quiet);
  display: block;
  font-size: 11px;
  left: 14px;
  line-height: 12px;
  max-width: 84px;
  overflow: hidden;
  position: absolute;
  text-overflow: ellipsis;
  top: 29px;
  white-space: nowrap;
}
.chosen .name {
  border-bottom: 2px solid var(--accent);
}
.out .name,
.out .strength {
  color: var(--quiet);
  text-decoration: line-through;
}
.name {
  display: inline-block;
  height: 20px;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.strength {
  position: absolute;
  right: 14px;
  top: 10px;
}
.note {
  color: var(--warn);
  font-size: 12px;
  line-height: 14px;
  max-height: 28px;
  overflow: hidden;
}
.ghost {
  opacity: 0.4;
}
</style>
