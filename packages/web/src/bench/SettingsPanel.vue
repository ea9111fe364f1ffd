<script setup lang="ts">
import { NInput, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import { applies, kindById, takesEither, type Control, type FieldTexts } from '@fogbath/core/baths'
import { LAY_MODES, layName, type LayMode } from '@fogbath/core/lay'
import { MOST_LETTERS, placeInLine } from '@fogbath/core/line'
import HelpButton from '../components/HelpButton.vue'
import NamedSlider from '../components/NamedSlider.vue'
import { useBenchStore } from '../stores/bench'
import DrawingStrip from './DrawingStrip.vue'
import { DRAWN } from './drawn'
import KeyButton from './KeyButton.vue'
import MaskPanel from './MaskPanel.vue'
import SettingRow from './SettingRow.vue'
import TabRow from './TabRow.vue'
import { useBathViews } from './useBathViews'

interface Field {
  readonly group: string
  readonly first?: boolean
  readonly control?: Control
  readonly only?: FieldTexts['only']
}

/** How the bath goes on the line, behind its own settings. */
const BLENDING = 'Blend'

/** Settings of the chosen bath: the few that matter first, the rest by group, its drawings, how it is laid. */
const bench = useBenchStore()
/** As it is in the frame that is looked at. */
const now = computed(() => bench.bathNow ?? bench.bath!)
const kind = computed(() => (bench.bath ? kindById(bench.bath.kind) : null))
const fields = computed(() =>
  Object.entries((kind.value?.schema.properties ?? {}) as Record<string, Field>).filter(
    ([, f]) => f.control !== 'drawn',
  ),
)
/** The strand that holds the bath. */
const holder = computed(() => {
  const at = bench.inLine[placeInLine({ baths: bench.inLine }, bench.chosen)]
  return at && at.id !== bench.chosen ? at : null
})
const drawing = computed(() => DRAWN[kind.value?.id ?? ''])
const groups = computed(() => ['Main', 'Mask', ...new Set(fields.value.map(([, f]) => f.group))])
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
/** So many rows stand in view at 1280 by 800; what matters first leaves room for others. */
const IN_VIEW = 12
const shown = computed(() => {
  const apply = fields.value.filter(([, f]) => applies(f, bench.bath?.settings ?? {}))
  if (group.value !== 'Main') return apply.filter(([, f]) => f.group === group.value)
  const first = apply.filter(([, f]) => f.first)
  return [...first, ...apply.filter(([, f]) => !f.first).slice(0, Math.max(0, IN_VIEW - first.length))]
})
const { views } = useBathViews()
const lays = LAY_MODES.map((value) => ({ value, label: layName(value) }))
/** The page about what is open. */
const help = computed(() => {
  if (group.value === 'Mask') return { page: 'bench#mask', name: 'About masks' }
  if (group.value === BLENDING) return { page: 'bench#settings', name: 'About settings and blending' }
  const { id, summary, label } = kind.value!
  return { page: `baths/${id}`, title: summary, name: `About ${label}` }
})
const how = computed(() => {
  const { lay, under, takes } = bench.bath!
  const taken = takesEither(kind.value!) ? takes : kind.value!.stretch === 'prepare' ? 'camera' : 'line'
  return `${layName(lay)}${under ? ', under the line' : ''}, takes the ${taken}`
})
const takes = [
  { value: 'camera', label: 'the camera’s light' },
  { value: 'line', label: 'the line so far' },
]
</script>

<template>
  <section v-if="bench.bath && kind" class="panel" aria-label="Settings">
    <div class="head">
      <button
        v-if="holder"
        class="word"
        type="button"
        :title="`Back to the strand ${holder.name || kindById(holder.kind).short}`"
        :aria-label="`Back to the strand ${holder.name || kindById(holder.kind).short}`"
        @click="bench.chosen = holder.id"
      >
        ←
      </button>
      <NInput
        class="rename"
        size="small"
        :value="bench.bath.name"
        :placeholder="kind.label"
        :maxlength="MOST_LETTERS.bath"
        :input-props="{ 'aria-label': 'Name of the bath' }"
        @update:value="(v: string) => bench.setBath(bench.bath!.id, { name: v })"
      />
      <button
        class="word how"
        type="button"
        :aria-pressed="group === BLENDING"
        :aria-label="`Blend mode: ${how}`"
        :title="`Blended: ${how}. Click to change it`"
        @click="group = group === BLENDING ? 'Main' : BLENDING"
      >
        {{ layName(bench.bath.lay) }}{{ bench.bath.under ? ', under' : '' }}
      </button>
      <NamedSlider
        class="strength"
        title="Strength of the bath, %"
        :value="now.strength"
        :min="0"
        :max="100"
        :step="1"
        unit="%"
        name="Strength of the bath"
        @change="(v) => bench.setBath(bench.bath!.id, { strength: v })"
        @reset="bench.setBath(bench.bath!.id, { strength: 100 })"
      />
      <span class="mono percent">{{ Math.round(now.strength) }} %</span>
      <KeyButton
        name="Strength of the bath"
        :lane="bench.bath.keys?.['strength']"
        @toggle="bench.toggleKey('strength')"
      />
      <HelpButton v-bind="help" />
    </div>
    <TabRow v-model="group" :names="groups" label="Groups of settings" />
    <DrawingStrip
      v-if="group !== 'Mask' && group !== BLENDING"
      :views="views"
      :open="bench.drawing"
      @open="bench.drawing = !bench.drawing"
    />
    <div v-if="group === BLENDING" class="rows">
      <label class="lay"
        ><span>Mode</span
        ><NSelect
          size="tiny"
          :value="bench.bath.lay"
          :options="lays"
          aria-label="Blend mode"
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
        :value="now.settings[name]"
        :lane="bench.bath.keys?.[name]"
        keyed
        @key="bench.toggleKey(name)"
        @change="(v) => bench.setSettings(bench.bath!.id, { [name]: v })"
      />
    </div>
  </section>
  <section v-else class="panel empty quiet" aria-label="Settings">
    <p>No bath is chosen. Click one in the line, or add one with <b>A</b>.</p>
  </section>
</template>

<style scoped>
.panel {
  padding: 4px 14px 16px;
}
.head {
  align-items: center;
  display: flex;
  gap: 8px;
  height: 40px;
}
.rename {
  flex: 1 1 110px;
  font-weight: 600;
  min-width: 0;
}
.how {
  max-width: 96px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.strength {
  flex: 0 1 92px;
}
.percent {
  flex: none;
  text-align: right;
  width: 44px;
}
.rows {
  padding-top: 4px;
}
.lay {
  align-items: center;
  display: grid;
  gap: 10px;
  grid-template-columns: 60px 1fr;
  height: 32px;
}
.lay .word {
  justify-self: start;
}
.empty {
  padding-top: 24px;
}
</style>
