<script setup lang="ts">
import { NInput, NSelect } from 'naive-ui'
import { refDebounced } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { LAY_MODES, kindById, placeInLine, takesEither, type Control, type LayMode } from '@fogbath/core'
import NamedSlider from '../components/NamedSlider.vue'
import { useBenchStore } from '../stores/bench'
import { BEHIND } from './behind'
import BathViews from './BathViews.vue'
import { DRAWN } from './drawn'
import MaskPanel from './MaskPanel.vue'
import SettingRow from './SettingRow.vue'

interface Field {
  readonly group: string
  readonly first?: boolean
  readonly control?: Control
}

/** Settings of the chosen bath: the few that matter first, the rest by group, its drawings, how it is laid. */
const bench = useBenchStore()
const kind = computed(() => (bench.bath ? kindById(bench.bath.kind) : null))
const fields = computed(() =>
  Object.entries((kind.value?.schema.properties ?? {}) as Record<string, Field>).filter(
    ([, f]) => f.control !== 'drawn',
  ),
)
/** The strand that holds the bath. */
const holder = computed(() => {
  const at = bench.recipe.baths[placeInLine(bench.recipe, bench.chosen)]
  return at && at.id !== bench.chosen ? at : null
})
const drawing = computed(() => DRAWN[kind.value?.id ?? ''])
const groups = computed(() => ['Main', ...new Set(fields.value.map(([, f]) => f.group)), 'Mask', 'Laying'])
const group = ref('Main')
watch(kind, () => (group.value = 'Main'))
/** The parts of the mask can be taken hold of on the picture while its settings are open. */
const parts = computed(() => (group.value === 'Mask' ? (bench.bath?.mask?.parts.length ?? 0) : 0))
watch([parts, group, () => bench.chosen, () => bench.trial?.id], ([count, ...where], [, ...before]) => {
  const elsewhere = where.some((w, i) => w !== before[i])
  if (count === 0) bench.part = null
  else bench.part = elsewhere ? 0 : Math.min(bench.part ?? 0, count - 1)
  if (elsewhere) bench.picking = false
  if (elsewhere) bench.sampler = null
})
const shown = computed(() =>
  fields.value.filter(([, f]) => (group.value === 'Main' ? f.first : f.group === group.value)),
)
const settled = refDebounced(
  computed(() => bench.bath),
  BEHIND.after,
  { maxWait: BEHIND.every },
)
/** The bath as it is drawn; another one at once. */
const drawn = computed(() => {
  const [late, now] = [settled.value, bench.bath]
  return late && late.id === now?.id && late.kind === now.kind ? late : now
})
const views = computed(() => (drawn.value ? kindById(drawn.value.kind).views(drawn.value.settings) : []))
/** The first view stands above the settings, unless the kind has a drawing of its own. */
const viewsAbove = computed(() => (drawing.value ? [] : views.value.slice(0, 1)))
const viewsBelow = computed(() => views.value.slice(viewsAbove.value.length))
const lays = LAY_MODES.map((value) => ({ value, label: value.replace('-', ' ') }))
const takes = [
  { value: 'camera', label: 'the camera’s light' },
  { value: 'line', label: 'the line so far' },
]

function drag(moves: { setting: string; by: number }[]): void {
  const bath = bench.bath!
  const changes = moves.map(({ setting, by }) => {
    const field = (kind.value!.schema.properties as Record<string, { minimum: number; maximum: number }>)[setting]!
    return [setting, Math.min(field.maximum, Math.max(field.minimum, Number(bath.settings[setting]) + by))] as const
  })
  bench.setSettings(bath.id, Object.fromEntries(changes))
}
</script>

<template>
  <section v-if="bench.bath && kind" class="panel" aria-label="Settings">
    <div class="title">
      <NInput
        class="rename"
        size="small"
        :value="bench.bath.name"
        :placeholder="kind.label"
        maxlength="60"
        :input-props="{ 'aria-label': 'Name of the bath' }"
        @update:value="(v: string) => bench.setBath(bench.bath!.id, { name: v })"
      />
      <span class="quiet how"
        >{{ bench.bath.lay }}{{ bench.bath.under ? ', under' : '' }} · takes
        {{ takesEither(kind) ? bench.bath.takes : kind.stretch === 'prepare' ? 'camera' : 'line' }}</span
      >
    </div>
    <button v-if="holder" class="word" type="button" @click="bench.chosen = holder.id">
      ← in the strand {{ holder.name || kindById(holder.kind).short }}
    </button>
    <div class="strength">
      <span>Strength</span>
      <NamedSlider
        :value="bench.bath.strength"
        :min="0"
        :max="100"
        :step="1"
        unit="%"
        name="Strength of the bath"
        @change="(v) => bench.setBath(bench.bath!.id, { strength: v })"
        @reset="bench.setBath(bench.bath!.id, { strength: 100 })"
      />
      <span class="mono">{{ Math.round(bench.bath.strength) }} %</span>
    </div>
    <BathViews v-if="group !== 'Mask'" :views="viewsAbove" @drag="drag" />
    <div class="tabs" role="group" aria-label="Groups of settings">
      <button v-for="g in groups" :key="g" class="word" type="button" :aria-pressed="g === group" @click="group = g">
        {{ g }}
      </button>
    </div>
    <div v-if="group === 'Laying'" class="rows">
      <label class="lay"
        ><span>Mode</span
        ><NSelect
          size="tiny"
          :value="bench.bath.lay"
          :options="lays"
          aria-label="Lay mode"
          @update:value="(v: LayMode) => bench.setBath(bench.bath!.id, { lay: v })"
      /></label>
      <div class="lay">
        <span>Order</span>
        <button class="word" type="button" @click="bench.setBath(bench.bath!.id, { under: !bench.bath!.under })">
          {{ bench.bath.under ? 'the line over this bath' : 'this bath over the line' }} — swap
        </button>
      </div>
      <label v-if="takesEither(kind)" class="lay"
        ><span>Takes</span
        ><NSelect
          size="tiny"
          :value="bench.bath.takes"
          :options="takes"
          aria-label="What the bath takes"
          @update:value="(v: 'camera' | 'line') => bench.setBath(bench.bath!.id, { takes: v })"
      /></label>
    </div>
    <MaskPanel v-else-if="group === 'Mask'" :bath="bench.bath" />
    <div v-else class="rows">
      <component :is="drawing" v-if="drawing && group === 'Main'" :bath="bench.bath" />
      <SettingRow
        v-for="[name, field] in shown"
        :key="name"
        :name="name"
        :field="field as never"
        :value="bench.bath.settings[name]"
        @change="(v) => bench.setSettings(bench.bath!.id, { [name]: v })"
      />
    </div>
    <BathViews v-if="group !== 'Mask'" :views="viewsBelow" @drag="drag" />
    <p class="quiet summary">{{ kind.summary }}</p>
  </section>
  <section v-else class="panel empty quiet" aria-label="Settings">
    <p>No bath is chosen. Click one in the line, or add one with <b>A</b>.</p>
  </section>
</template>

<style scoped>
.panel {
  padding: 10px 14px 20px;
}
.title {
  align-items: center;
  display: flex;
  gap: 8px;
}
.rename {
  flex: 1;
  font-weight: 600;
}
.how {
  font-size: 12px;
  white-space: nowrap;
}
.strength,
.lay {
  align-items: center;
  display: grid;
  gap: 10px;
  grid-template-columns: 60px 1fr 52px;
  height: 32px;
}
.lay {
  grid-template-columns: 60px 1fr;
}
.lay .word {
  justify-self: start;
}
.strength .mono {
  text-align: right;
}
.tabs {
  border-bottom: 1px solid var(--line);
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
  margin: 4px 0;
}
.summary {
  font-size: 13px;
  margin-top: 8px;
}
.empty {
  padding-top: 24px;
}
</style>
