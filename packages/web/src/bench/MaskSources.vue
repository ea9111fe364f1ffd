<script setup lang="ts">
import { NDropdown } from 'naive-ui'
import { computed, onMounted, ref } from 'vue'
import { kindById } from '@fogbath/core/baths'
import { type Bath } from '@fogbath/core/line'
import { MOST_PARTS, PART_TYPES, unlinked, type Mask, type PartType } from '@fogbath/core/masks'
import { useBenchStore } from '../stores/bench'
import { useMaskStore } from '../stores/masks'
import { PART_NAMES } from './maskNames'

/** What a mask is made from: a new part, the mask of another bath, or one from the shelf. */
const props = defineProps<{ bath: Bath }>()
/** Skin of all kinds lies between red and yellow, neither grey nor strong (common practice). */
const SKIN = {
  hueFrom: 25,
  hueTo: 75,
  hueSoft: 12,
  chromaFrom: 10,
  chromaTo: 50,
  chromaSoft: 6,
  lightFrom: 12,
  lightTo: 92,
  lightSoft: 8,
}
const emit = defineEmits<{ add: [type: PartType, settings?: Record<string, unknown>]; take: [mask: Mask] }>()
const bench = useBenchStore()
const masks = useMaskStore()

/** A mask can be made without the server; those kept are then not there. */
const unread = ref(false)
async function read(): Promise<void> {
  unread.value = await masks.load().then(
    () => false,
    () => true,
  )
}
onMounted(read)

/** Masks of other baths, to be used here as well, or turned round. */
const borrowed = computed(() =>
  bench.inLine
    .filter((b) => b.mask && b.id !== props.bath.id)
    .flatMap((b) => {
      const name = b.name || kindById(b.kind).label
      return [
        { key: `linked ${b.id}`, label: `one with ${name}` },
        { key: `against ${b.id}`, label: `the opposite of ${name}, one with it` },
        { key: `same ${b.id}`, label: `a copy of ${name}` },
        { key: `opposite ${b.id}`, label: `a copy of ${name}, opposite` },
      ]
    }),
)
function borrow(key: string): void {
  const [how, id] = key.split(' ')
  const theirs = bench.inLine.find((b) => b.id === id)?.mask
  if (!theirs) return
  if (how === 'linked' || how === 'against') bench.linkMask(props.bath.id, id!, how === 'against')
  else emit('take', unlinked(how === 'opposite' ? { ...theirs, invert: !theirs.invert } : theirs))
}

const kept = computed(() =>
  masks.there.flatMap(({ key, name }) => [
    { key: `same ${key}`, label: name },
    { key: `opposite ${key}`, label: `the opposite of ${name}` },
  ]),
)
function takeKept(choice: string): void {
  const [how, key] = choice.split(' ')
  const found = masks.there.find((row) => row.key === key)?.mask
  if (found) emit('take', unlinked(how === 'opposite' ? { ...found, invert: !found.invert } : found))
}
</script>

<template>
  <div class="add" role="group" aria-label="Add to the mask">
    <template v-if="!bath.mask || bath.mask.parts.length < MOST_PARTS">
      <span v-if="bath.mask" class="quiet">Add</span>
      <button v-for="t in PART_TYPES" :key="t" class="word" type="button" @click="emit('add', t)">
        {{ PART_NAMES[t].toLowerCase() }}
      </button>
      <button
        class="word"
        type="button"
        title="A range of hues in which skin lies, to begin with"
        @click="emit('add', 'range', SKIN)"
      >
        skin
      </button>
    </template>
    <NDropdown v-if="borrowed.length" trigger="click" :options="borrowed" @select="borrow">
      <button class="word" type="button">mask of another bath</button>
    </NDropdown>
    <NDropdown v-if="kept.length" trigger="click" scrollable :options="kept" @select="takeKept">
      <button class="word" type="button">kept mask</button>
    </NDropdown>
    <button v-if="unread" class="word" type="button" title="The server does not answer" @click="read">
      read kept masks again
    </button>
  </div>
</template>

<style scoped>
.add {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
}
</style>
