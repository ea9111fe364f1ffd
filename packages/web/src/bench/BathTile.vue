<script setup lang="ts">
import { NDropdown } from 'naive-ui'
import { computed } from 'vue'
import { kindById, moveBath, placeInLine, removeBath, type Bath } from '@fogbath/core'
import { ArrowBarToDown, ArrowBarToUp, Dots, Eye } from '@vicons/tabler'
import FamilyEmblem from '../components/FamilyEmblem.vue'
import IconButton from '../components/IconButton.vue'
import TestStrip from '../components/TestStrip.vue'
import { useBenchStore } from '../stores/bench'
import type { BathChange, StripColours } from '../workers/protocol'
import { keyOf } from './keys'
import MaskPicture from './MaskPicture.vue'
import { howOf, noteOf } from './tileWords'

/** One bath of the line: a tank that the film dips into, and the strip that leaves it. */
const props = defineProps<{
  bath: Bath
  index: number
  strip: StripColours | undefined
  /** What it does to the frame, or null while that is not known. */
  change: BathChange | null
  /** There is no room for more than its place in the line. */
  folded: boolean
  /** There is no room for its emblem beside the buttons. */
  narrow: boolean
}>()
const bench = useBenchStore()
const name = computed(() => props.bath.name || kindById(props.bath.kind).label)

/** It, or a bath of its strand, is the chosen one. */
const chosen = computed(() => placeInLine(bench.recipe, bench.chosen) === props.index)

const note = computed(() => noteOf(props.bath, props.change))
const how = computed(() => howOf(props.bath))

/** Ctrl marks further baths beside the chosen one. */
function choose(e: MouseEvent): void {
  const { id } = props.bath
  if (!e.ctrlKey && !e.metaKey) {
    bench.marked = []
    bench.chosen = id
  } else if (bench.marked.includes(id)) bench.marked = bench.marked.filter((m) => m !== id)
  else if (id !== bench.chosen) bench.marked = [...bench.marked, id]
}

// Settings make the bath another; its menu stays while these two do.
const [inLine, under] = [computed(() => props.bath.in), computed(() => props.bath.under)]
const menu = computed(() => [
  { key: 'in', label: inLine.value ? 'Lift out' : 'Put back' },
  { key: 'swap', label: under.value ? 'Lay it over the line' : 'Lay the line over it' },
  { key: 'duplicate', label: 'Duplicate' },
  { key: 'copy', label: 'Copy' },
  { key: 'left', label: 'Move left' },
  { key: 'right', label: 'Move right' },
  { key: 'remove', label: 'Remove' },
])

function act(key: string): void {
  const { bath, index } = props
  if (key === 'in') bench.setBath(bath.id, { in: !bath.in })
  if (key === 'swap') bench.setBath(bath.id, { under: !bath.under })
  if (key === 'duplicate') bench.duplicate(bath.id)
  if (key === 'copy') bench.clipboard = [bath]
  if (key === 'left') bench.change(moveBath(bench.recipe, bath.id, index - 1))
  if (key === 'right') bench.change(moveBath(bench.recipe, bath.id, index + 1))
  if (key === 'remove') bench.change(removeBath(bench.recipe, bath.id))
}
</script>

<template>
  <article
    class="bath"
    :class="{ chosen: chosen, marked: bench.marked.includes(bath.id), out: !bath.in, folded }"
    :data-bath="bath.id"
  >
    <div class="head">
      <FamilyEmblem v-if="folded || !narrow" :family="kindById(bath.kind).family" />
      <template v-if="!folded">
        <IconButton
          :icon="bath.in ? ArrowBarToUp : ArrowBarToDown"
          :name="`${name}: ${bath.in ? 'lift out' : 'put back'}`"
          :title="`${bath.in ? 'Lift this bath out' : 'Put this bath back'} (${keyOf('inOut')} for the chosen one)`"
          :pressed="!bath.in"
          @click="bench.setBath(bath.id, { in: !bath.in })"
        />
        <IconButton
          :icon="Eye"
          :name="`Tap after ${name}`"
          :title="`Tap: look at the picture as it leaves this bath (${keyOf('tap')} for the chosen one)`"
          :pressed="bench.tap === index + 1"
          @click="bench.tap = bench.tap === index + 1 ? null : index + 1"
        />
        <NDropdown trigger="click" :options="menu" @select="(key: string) => act(key)">
          <IconButton :icon="Dots" :name="`More for ${name}`" title="More: duplicate, copy, move, lay under, remove" />
        </NDropdown>
      </template>
    </div>
    <button
      class="tray"
      type="button"
      :aria-pressed="chosen || bench.marked.includes(bath.id)"
      :aria-label="`${index + 1}: ${name}, ${Math.round(bath.strength)} %`"
      :title="folded ? `${name}: click to open it` : undefined"
      @click="choose($event)"
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
      <span class="name" :title="name">{{ bath.name || kindById(bath.kind).short }}</span>
      <span v-if="how && !folded" class="how">{{ how }}</span>
      <MaskPicture v-if="bath.mask && change?.mask && !folded" class="mask" :picture="change.mask.picture" />
      <span v-if="!folded" class="mono strength">{{ Math.round(bath.strength) }}</span>
    </button>
    <TestStrip :colours="strip" :label="`after ${name}`" />
    <p v-if="note && !folded" class="note" :title="note">{{ note }}</p>
  </article>
</template>

<style scoped>
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
.mask {
  left: 14px;
  position: absolute;
  top: 10px;
}
.folded .head {
  justify-content: center;
}
.folded .name {
  font-size: 12px;
}
.note {
  color: var(--warn);
  font-size: 12px;
  line-height: 14px;
  max-height: 28px;
  overflow: hidden;
}
</style>
