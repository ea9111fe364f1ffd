<script setup lang="ts">
import { NDropdown, useMessage } from 'naive-ui'
import { computed } from 'vue'
import { kindById } from '@fogbath/core/baths'
import {
  PARTS,
  bathsOf,
  findBath,
  moveInLine,
  notIn,
  placeInLine,
  wholeLine,
  type Bath,
  type PartName,
} from '@fogbath/core/line'
import { ArrowBarToDown, ArrowBarToUp, Dots, Eye, Mask } from '@vicons/tabler'
import FamilyEmblem from '../components/FamilyEmblem.vue'
import IconButton from '../components/IconButton.vue'
import TestStrip from '../components/TestStrip.vue'
import { useBenchStore } from '../stores/bench'
import type { BathChange, StripColours } from '../workers/protocol'
import { shortcutOf } from './keys'
import MaskPicture from './MaskPicture.vue'
import { moveOver } from './moveOver'
import { howOf, noteOf } from './tileWords'

/** One bath of the line: a tank that the film dips into, and the strip that leaves it. */
const props = defineProps<{
  bath: Bath
  part: PartName
  /** Its place over all parts. */
  index: number
  strip: StripColours | undefined
  /** What it does to the frame, or null while that is not known. */
  change: BathChange | null
  /** There is room for its name, strength, on or off and a mask's mark alone. */
  compact: boolean
  /** There is no room for its emblem beside the buttons. */
  narrow: boolean
}>()
const bench = useBenchStore()
const message = useMessage()
const name = computed(() => props.bath.name || kindById(props.bath.kind).label)

/** It, or a bath of its strand, is the chosen one. */
const chosen = computed(() => placeInLine({ baths: bench.inLine }, bench.chosen) === props.index)

/** In the frame that is looked at. */
const strength = computed(() =>
  props.bath.keys
    ? (findBath({ baths: wholeLine(bench.lineNow) }, props.bath.id) ?? props.bath).strength
    : props.bath.strength,
)
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

const GIVE: Record<PartName, string> = {
  preparation: 'Give to this shot, before the look',
  look: 'Give to the look',
  after: 'Give to this shot, after the look',
}
/** The parts into which it may go over a joint. */
const overs = computed(() =>
  PARTS.filter((part) => part !== props.part && !notIn(part, props.bath)).map((key) => ({ key, label: GIVE[key] })),
)

// Settings make the bath another; its menu stays while these two do.
const [inLine, under] = [computed(() => props.bath.in), computed(() => props.bath.under)]
const menu = computed(() => [
  { key: 'in', label: inLine.value ? 'Lift out' : 'Put back' },
  { key: 'swap', label: under.value ? 'Lay it over the line' : 'Lay the line over it' },
  { key: 'duplicate', label: 'Duplicate' },
  { key: 'copy', label: 'Copy' },
  { key: 'left', label: 'Move left' },
  { key: 'right', label: 'Move right' },
  ...overs.value,
  { key: 'remove', label: 'Remove' },
])

function act(key: string): void {
  const { bath, part } = props
  const own = bathsOf(bench.line)[part]
  const at = own.findIndex((b) => b.id === bath.id)
  if (key === 'in') bench.setBath(bath.id, { in: !bath.in })
  if (key === 'swap') bench.setBath(bath.id, { under: !bath.under })
  if (key === 'duplicate') bench.duplicate(bath.id)
  if (key === 'copy') bench.clipboard = [bath]
  if (key === 'left') bench.changeLine(moveInLine(bench.line, bath.id, part, at - 1))
  if (key === 'right') bench.changeLine(moveInLine(bench.line, bath.id, part, at + 1))
  if (key === 'remove') bench.remove([bath.id])
  const to = PARTS.find((name) => name === key)
  // Into the look it goes to the end that it comes from.
  if (to) moveOver(bench, message, bath.id, to, part === 'preparation' ? 0 : bathsOf(bench.line)[to].length)
}
</script>

<template>
  <article
    class="bath"
    :class="{ chosen: chosen, marked: bench.marked.includes(bath.id), out: !bath.in, compact }"
    :data-bath="bath.id"
  >
    <div class="head">
      <FamilyEmblem v-if="!compact && !narrow" :family="kindById(bath.kind).family" />
      <IconButton
        :icon="bath.in ? ArrowBarToUp : ArrowBarToDown"
        :name="`${name}: ${bath.in ? 'lift out' : 'put back'}`"
        :title="`${bath.in ? 'Lift this bath out' : 'Put this bath back'} (${shortcutOf('inOut')} for the chosen one)`"
        :pressed="!bath.in"
        @click="bench.setBath(bath.id, { in: !bath.in })"
      />
      <template v-if="!compact">
        <IconButton
          :icon="Eye"
          :name="`Tap after ${name}`"
          :title="`Tap: look at the picture as it leaves this bath (${shortcutOf('tap')} for the chosen one)`"
          :pressed="bench.tap === index + 1"
          @click="bench.tap = bench.tap === index + 1 ? null : index + 1"
        />
        <NDropdown trigger="click" :options="menu" @select="(key: string) => act(key)">
          <IconButton :icon="Dots" :name="`More for ${name}`" title="More: duplicate, copy, move, lay under, remove" />
        </NDropdown>
      </template>
      <Mask v-else-if="bath.mask" class="masked" width="16" height="16" role="img" aria-label="Has a mask" />
    </div>
    <button
      class="tray"
      type="button"
      :aria-pressed="chosen || bench.marked.includes(bath.id)"
      :aria-label="`${index + 1}: ${name}, ${Math.round(strength)} %`"
      :title="compact ? `${name}: click to see it whole` : undefined"
      @click="choose($event)"
    >
      <svg viewBox="0 0 110 46" preserveAspectRatio="none" aria-hidden="true">
        <path class="tank" d="M10 9v28c0 4 3 7 7 7h76c4 0 7-3 7-7V9" />
        <path
          v-if="bath.in"
          class="liquid"
          :d="`M12 ${40 - 0.26 * strength}V37c0 3 2 5 5 5h76c3 0 5-2 5-5V${40 - 0.26 * strength}z`"
        />
        <path class="film" :d="bath.in ? 'M0 5h24c13 0 16 30 31 30S73 5 86 5h24' : 'M0 5h110'" />
      </svg>
      <span class="name" :title="name">{{ bath.name || kindById(bath.kind).short }}</span>
      <span v-if="how && !compact" class="how">{{ how }}</span>
      <MaskPicture v-if="bath.mask && change?.mask && !compact" class="mask" :picture="change.mask.picture" />
      <span class="mono strength">{{ Math.round(strength) }}</span>
    </button>
    <div class="after-it">
      <TestStrip :colours="strip" :label="`after ${name}`" />
      <p v-if="note" class="note" :title="note">{{ compact ? 'no change' : note }}</p>
    </div>
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
  font-size: 13px;
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
.compact .tray svg {
  margin: 0 -3px;
  width: calc(100% + 6px);
}
.compact .strength {
  right: 8px;
}
.compact .name {
  font-size: 13px;
}
.masked {
  color: var(--text);
}
.after-it {
  position: relative;
}
/* Over the strip, which is that of the bath before: nothing moves when it comes. */
.note {
  background: color-mix(in srgb, var(--ground) 88%, transparent);
  color: var(--text);
  font-size: 13px;
  inset: 0;
  line-height: 14px;
  overflow: hidden;
  padding: 0 2px;
  position: absolute;
}
</style>
