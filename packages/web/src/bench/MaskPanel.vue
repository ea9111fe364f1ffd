<script setup lang="ts">
import { NSelect, NSwitch } from 'naive-ui'
import { computed } from 'vue'
import { fieldsOf } from '@fogbath/core/baths'
import { type Bath } from '@fogbath/core/line'
import {
  JOINS,
  PART_SCHEMAS,
  changePart,
  maskFields,
  maskReads,
  newPart,
  unlinked,
  withPart,
  withoutPart,
  type Join,
  type Mask,
  type PartType,
} from '@fogbath/core/masks'
import { canFollow } from '@fogbath/core/tracking'
import { useBenchStore } from '../stores/bench'
import KeepMask from './KeepMask.vue'
import MaskPicks from './MaskPicks.vue'
import MaskSources from './MaskSources.vue'
import MaskTrack from './MaskTrack.vue'
import { PART_NAMES } from './maskNames'
import SettingRow from './SettingRow.vue'

/** What limits a bath: its parts one after the other, the settings of the chosen part, then those of the whole mask. */
const props = defineProps<{ bath: Bath }>()
const bench = useBenchStore()
const mask = computed(() => props.bath.mask)
const part = computed(() => (bench.part === null ? null : (mask.value?.parts[bench.part] ?? null)))

/** As it is in the frame that is looked at. */
const partNow = computed(() => bench.bathNow?.mask?.parts[bench.part ?? -1] ?? part.value)

const JOIN_NAMES: Record<Join, string> = { add: 'added', subtract: 'taken away', intersect: 'only within' }
const joins = JOINS.map((value) => ({ value, label: JOIN_NAMES[value] }))
type Field = Record<string, unknown> & { type: string }
const rows = computed(() =>
  part.value
    ? Object.entries(fieldsOf<Field>(PART_SCHEMAS[part.value.type])).filter(([, f]) => f.type !== 'array')
    : [],
)
const wholeRows = computed(() =>
  Object.entries(fieldsOf<Field>({ properties: maskFields })).filter(
    // Shapes read no picture.
    ([name]) => name !== 'reads' || (mask.value && maskReads({ ...mask.value, reads: 'line' }) !== null),
  ),
)

const put = (next: Mask | null, key = ''): void => bench.setMask(props.bath.id, next, key)

function add(type: PartType, settings?: Record<string, unknown>): void {
  const next = withPart(mask.value, newPart(type, settings))
  put(next)
  bench.part = next.parts.length - 1
  bench.picking = type === 'colour'
  bench.pickingAway = false
}
function remove(index: number): void {
  const next = withoutPart(mask.value!, index)
  bench.picking = false
  bench.part = next ? Math.min(bench.part ?? 0, next.parts.length - 1) : null
  put(next)
}
const setPart = (name: string, value: unknown): void => bench.setPartSettings(bench.part!, { [name]: value }, name)
const setWhole = (name: string, value: unknown): void => put({ ...mask.value!, [name]: value }, name)

function choose(index: number): void {
  bench.part = index
  bench.picking = false
}

function take(taken: Mask): void {
  put(taken)
  bench.part = 0
}
</script>

<template>
  <div class="mask">
    <p v-if="mask?.link" class="quiet">
      One with others of this line{{ mask.link.opposite ? ', as their opposite' : '' }}: a change of one changes all.
      <button class="word" type="button" @click="put(unlinked(mask))">let it be by itself</button>
    </p>
    <p v-if="!mask" class="quiet">The bath works on the whole picture. Limit it by</p>
    <ul v-else class="parts" aria-label="Parts of the mask">
      <li v-for="(p, i) in mask.parts" :key="i" :class="{ chosen: i === bench.part }">
        <button class="word name" type="button" :aria-pressed="i === bench.part" @click="choose(i)">
          {{ i + 1 }} {{ PART_NAMES[p.type] }}
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
    <MaskSources :bath="bath" @add="add" @take="take" />
    <div v-if="part" class="rows">
      <h3 class="quiet">{{ PART_NAMES[part.type] }}</h3>
      <MaskTrack v-if="canFollow(part)" :index="bench.part!" :part="part" />
      <MaskPicks
        v-if="part.type === 'colour'"
        :picks="part.settings.picks"
        :without="part.settings.without"
        @change="setPart"
      />
      <p v-if="part.type === 'outline'" class="quiet hint">
        Drag the points; a small one between two adds a point; Delete removes the one in focus.
      </p>
      <SettingRow
        v-for="[name, field] in rows"
        :key="name"
        :name="name"
        :field="field as never"
        :value="(partNow!.settings as Record<string, unknown>)[name]"
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
      <div class="whole">
        <KeepMask :mask="mask" />
        <button class="word" type="button" @click="((bench.part = null), put(null))">remove the mask</button>
      </div>
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
.whole {
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
</style>
