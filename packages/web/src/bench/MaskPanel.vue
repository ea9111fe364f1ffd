<script setup lang="ts">
import { NDropdown, NSelect, NSwitch } from 'naive-ui'
import { computed } from 'vue'
import {
  JOINS,
  MOST_PARTS,
  PART_SCHEMAS,
  PART_TYPES,
  changePart,
  changePartSettings,
  encodingById,
  kindById,
  labToBt709,
  maskFields,
  newPart,
  withPart,
  withoutPart,
  type Bath,
  type Join,
  type Mask,
  type PartType,
  type Triple,
} from '@fogbath/core'
import { useBenchStore } from '../stores/bench'
import SettingRow from './SettingRow.vue'

/** What limits a bath: its parts one after the other, the settings of the chosen part, then those of the whole mask. */
const props = defineProps<{ bath: Bath }>()
const bench = useBenchStore()
const mask = computed(() => props.bath.mask)
const part = computed(() => (bench.part === null ? null : (mask.value?.parts[bench.part] ?? null)))

const NAMES: Record<PartType, string> = {
  ellipse: 'Ellipse',
  rectangle: 'Rectangle',
  gradient: 'Gradient',
  outline: 'Outline',
  tone: 'Tones',
  colour: 'Colours',
}
const JOIN_NAMES: Record<Join, string> = { add: 'added', subtract: 'taken away', intersect: 'only within' }
const joins = JOINS.map((value) => ({ value, label: JOIN_NAMES[value] }))
type Field = Record<string, unknown> & { type: string }
const rows = computed(() =>
  part.value
    ? Object.entries(PART_SCHEMAS[part.value.type].properties as unknown as Record<string, Field>).filter(
        ([, f]) => f.type !== 'array',
      )
    : [],
)
const wholeRows = computed(() =>
  Object.entries(maskFields as unknown as Record<string, Field>).filter(
    // Shapes read no picture.
    ([name]) => name !== 'reads' || mask.value?.parts.some((p) => p.type === 'tone' || p.type === 'colour'),
  ),
)

const put = (next: Mask | null, key = ''): void => bench.setMask(props.bath.id, next, key)

function add(type: PartType): void {
  const next = withPart(mask.value, newPart(type))
  put(next)
  bench.part = next.parts.length - 1
  bench.picking = type === 'colour'
}
function remove(index: number): void {
  const next = withoutPart(mask.value!, index)
  bench.picking = false
  bench.part = next ? Math.min(bench.part ?? 0, next.parts.length - 1) : null
  put(next)
}
const setPart = (name: string, value: unknown): void =>
  put(changePartSettings(mask.value!, bench.part!, { [name]: value }), `${bench.part}/${name}`)
const setWhole = (name: string, value: unknown): void => put({ ...mask.value!, [name]: value }, name)

function choose(index: number): void {
  bench.part = index
  bench.picking = false
}

const cssOf = (lab: readonly number[]): string => {
  const { encode } = encodingById('srgb').transfer
  return `rgb(${labToBt709(lab as unknown as Triple).map((v) => Math.round(255 * encode(Math.min(1, Math.max(0, v)))))})`
}

/** Masks of other baths, to be used here as well, or turned round. */
const borrowed = computed(() =>
  bench.recipe.baths
    .filter((b) => b.mask && b.id !== props.bath.id)
    .flatMap((b) => {
      const name = b.name || kindById(b.kind).label
      return [
        { key: `same ${b.id}`, label: `as in ${name}` },
        { key: `opposite ${b.id}`, label: `the opposite of ${name}` },
      ]
    }),
)
function borrow(key: string): void {
  const [how, id] = key.split(' ')
  const theirs = bench.recipe.baths.find((b) => b.id === id)?.mask
  if (!theirs) return
  put(how === 'opposite' ? { ...theirs, invert: !theirs.invert } : theirs)
  bench.part = 0
}
</script>

<template>
  <div class="mask">
    <p v-if="!mask" class="quiet">The bath works on the whole picture. Limit it by</p>
    <ul v-else class="parts" aria-label="Parts of the mask">
      <li v-for="(p, i) in mask.parts" :key="i" :class="{ chosen: i === bench.part }">
        <button class="word name" type="button" :aria-pressed="i === bench.part" @click="choose(i)">
          {{ i + 1 }} {{ NAMES[p.type] }}
        </button>
        <NSelect
          v-if="i > 0 || p.join !== 'add'"
          size="tiny"
          :value="p.join"
          :options="joins"
          :aria-label="`How part ${i + 1} joins`"
          @update:value="(v: Join) => put(changePart(mask!, i, { join: v }))"
        />
        <span v-else />
        <label class="quiet"
          ><NSwitch
            size="small"
            :value="p.invert"
            :aria-label="`Invert part ${i + 1}`"
            @update:value="(v: boolean) => put(changePart(mask!, i, { invert: v }))"
          />
          inverted</label
        >
        <button class="word" type="button" :aria-label="`Remove part ${i + 1}`" title="Remove" @click="remove(i)">
          ×
        </button>
      </li>
    </ul>
    <div v-if="!mask || mask.parts.length < MOST_PARTS" class="add" role="group" aria-label="Add to the mask">
      <span v-if="mask" class="quiet">Add</span>
      <button v-for="t in PART_TYPES" :key="t" class="word" type="button" @click="add(t)">
        {{ NAMES[t].toLowerCase() }}
      </button>
      <NDropdown v-if="borrowed.length" trigger="click" :options="borrowed" @select="borrow">
        <button class="word" type="button">mask of another bath</button>
      </NDropdown>
    </div>
    <div v-if="part" class="rows">
      <h3 class="quiet">{{ NAMES[part.type] }}</h3>
      <div v-if="part.type === 'colour'" class="picks">
        <button
          class="word"
          type="button"
          :aria-pressed="bench.picking"
          title="Click on the picture, or drag an area, to pick its colour"
          @click="bench.picking = !bench.picking"
        >
          {{ bench.picking ? 'click on the picture …' : 'pick from the picture' }}
        </button>
        <button
          v-for="(lab, i) in part.settings.picks"
          :key="i"
          type="button"
          class="pick"
          :style="{ background: cssOf(lab) }"
          :aria-label="`Remove picked colour ${i + 1}`"
          title="Remove this colour"
          @click="
            setPart(
              'picks',
              part.settings.picks.filter((_, j) => j !== i),
            )
          "
        />
      </div>
      <p v-if="part.type === 'outline'" class="quiet hint">
        Drag the points; a small one between two adds a point; Delete removes the one in focus.
      </p>
      <SettingRow
        v-for="[name, field] in rows"
        :key="name"
        :name="name"
        :field="field as never"
        :value="(part.settings as Record<string, unknown>)[name]"
        @change="(v) => setPart(name, v)"
      />
    </div>
    <div v-if="mask" class="rows">
      <h3 class="quiet">Whole mask</h3>
      <SettingRow
        v-for="[name, field] in wholeRows"
        :key="name"
        :name="name"
        :field="field as never"
        :value="(mask as unknown as Record<string, unknown>)[name]"
        @change="(v) => setWhole(name, v)"
      />
      <button class="word" type="button" @click="((bench.part = null), put(null))">remove the mask</button>
    </div>
  </div>
</template>

<style scoped>
.parts {
  list-style: none;
  margin: 0;
  padding: 0;
}
.parts li {
  align-items: center;
  display: grid;
  gap: 10px;
  grid-template-columns: 1fr 110px auto 24px;
  height: 30px;
}
.name {
  justify-self: start;
}
.add,
.picks {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
}
h3 {
  font-size: 13px;
  font-weight: 400;
  margin-top: 6px;
}
.hint {
  font-size: 13px;
}
.pick {
  border: 1px solid var(--quiet);
  cursor: pointer;
  height: 24px;
  padding: 0;
  width: 24px;
}
</style>
