<script setup lang="ts">
import { NSelect } from 'naive-ui'
import type { ChartName } from '@fogbath/core/charts'
import HelpButton from '../components/HelpButton.vue'
import { useBenchStore } from '../stores/bench'
import { useLookStore } from '../stores/look'
import { MASK_VIEWS, type MaskView } from '../workers/protocol'
import { shortcutOf } from './keys'
import type { CompareMode } from './useCompare'

/** Under the picture: what is compared, what is shown, how large, on which surround. */
const compare = defineModel<CompareMode>('compare', { required: true })
const zoom = defineModel<'fit' | 1 | 2 | 4>('zoom', { required: true })
const bench = useBenchStore()
const look = useLookStore()

const modes: readonly { key: CompareMode; label: string; title: string }[] = [
  { key: 'off', label: 'off', title: `Only the picture (hold ${shortcutOf('hold')[0]} to see the footage)` },
  {
    key: 'wipe',
    label: 'wipe',
    title: `Wipe: before at the left of an edge, after at its right (${shortcutOf('wipe')})`,
  },
  { key: 'pair', label: 'side by side', title: `Before left, after right (${shortcutOf('pair')})` },
]
const pressed = (key: CompareMode): boolean =>
  compare.value === key || (key === 'wipe' && compare.value === 'wipe-level')
const charts: readonly { key: ChartName; label: string }[] = [
  { key: 'ramp', label: 'ramp' },
  { key: 'wedge', label: 'wedge' },
  { key: 'patches', label: 'patches' },
]
/** Of either evenness. */
const showing = (key: ChartName): boolean => bench.chart === key || bench.chart?.startsWith(`${key}-`) === true
const VIEW_NAMES: Record<MaskView, string> = {
  white: 'white on black',
  over: 'colour over grey',
  within: 'grey elsewhere',
  outline: 'outline',
}
const views = MASK_VIEWS.map((value) => ({ value, label: VIEW_NAMES[value] }))
const zooms = ['fit', 1, 2, 4] as const
const surrounds = ['dark', 'mid', 'light'] as const
const nextSurround = (): void => {
  look.surround = surrounds[(surrounds.indexOf(look.surround) + 1) % surrounds.length]!
}
</script>

<template>
  <div class="bar" aria-label="Picture" role="group">
    <span class="quiet">Compare</span>
    <button
      v-for="m in modes"
      :key="m.key"
      class="word"
      type="button"
      :aria-pressed="pressed(m.key)"
      :title="m.title"
      @click="compare = m.key"
    >
      {{ m.label }}
    </button>
    <span class="quiet gap">Show</span>
    <button class="word" type="button" :aria-pressed="bench.chart === null" @click="bench.chart = null">shot</button>
    <button
      v-for="c in charts"
      :key="c.key"
      class="word"
      type="button"
      :aria-pressed="showing(c.key)"
      @click="bench.chart = c.key"
    >
      {{ c.label }}
    </button>
    <button
      class="word"
      type="button"
      :disabled="!bench.bath?.mask"
      :aria-pressed="bench.maskShown && Boolean(bench.bath?.mask)"
      :title="`The mask of the chosen bath, in black and white (${shortcutOf('mask')})`"
      @click="bench.maskShown = !bench.maskShown"
    >
      see mask
    </button>
    <NSelect
      v-if="bench.maskShown && bench.bath?.mask"
      v-model:value="bench.maskView"
      class="view"
      size="tiny"
      :options="views"
      aria-label="How the mask is seen"
    />
    <span class="right">
      <HelpButton page="bench#picture" name="About the picture" />
      <button
        class="word"
        type="button"
        :title="`Surround: ${look.surround}; click for another`"
        :aria-label="`Surround: ${look.surround}`"
        @click="nextSurround"
      >
        <span class="word-of">surround </span>{{ look.surround }}
      </button>
      <button
        v-for="z in zooms"
        :key="z"
        class="word"
        type="button"
        :aria-pressed="zoom === z"
        :title="z === 'fit' ? `Fit (${shortcutOf('zoom')})` : `${z * 100} %`"
        @click="zoom = z"
      >
        {{ z === 'fit' ? 'fit' : `${z * 100} %` }}
      </button>
    </span>
  </div>
</template>

<style scoped>
.view {
  width: 134px;
}
.bar {
  align-items: center;
  background: var(--ground);
  border-bottom: 1px solid var(--line);
  display: flex;
  flex: none;
  gap: 7px;
  height: 32px;
  overflow: hidden;
  padding: 0 12px;
  white-space: nowrap;
}
.gap {
  margin-left: 6px;
}
.right {
  display: flex;
  gap: 7px;
  margin-left: auto;
}
@media (max-width: 1180px) {
  .bar > .quiet,
  .word-of {
    display: none;
  }
}
</style>
