<script setup lang="ts">
import { NSelect } from 'naive-ui'
import { CHARTS } from '@fogbath/core'
import { useBenchStore } from '../stores/bench'
import { useLookStore } from '../stores/look'
import { keyOf } from './keys'
import type { CompareMode } from './useCompare'

/** Under the picture: what is compared, what is shown, how large, on which surround. */
const compare = defineModel<CompareMode>('compare', { required: true })
const against = defineModel<string>('against', { required: true })
const zoom = defineModel<'fit' | 1 | 2 | 4>('zoom', { required: true })
defineProps<{ others: { value: string; label: string }[] }>()
const bench = useBenchStore()
const look = useLookStore()

const modes: readonly { key: CompareMode; label: string; title: string }[] = [
  { key: 'off', label: 'off', title: `Only the picture (hold ${keyOf('hold')[0]} to see the footage)` },
  { key: 'wipe', label: 'wipe across', title: `Wipe with an upright edge (${keyOf('wipe')})` },
  { key: 'wipe-level', label: 'wipe down', title: 'Wipe with a level edge' },
  { key: 'pair', label: 'side by side', title: `Side by side (${keyOf('pair')})` },
]
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
      :aria-pressed="compare === m.key"
      :title="m.title"
      @click="compare = m.key"
    >
      {{ m.label }}
    </button>
    <NSelect
      v-if="compare !== 'off'"
      v-model:value="against"
      size="tiny"
      class="against"
      :options="others"
      :consistent-menu-width="false"
      aria-label="Compare with"
    />
    <span class="quiet gap">Show</span>
    <button class="word" type="button" :aria-pressed="bench.chart === null" @click="bench.chart = null">shot</button>
    <button
      v-for="c in CHARTS"
      :key="c"
      class="word"
      type="button"
      :aria-pressed="bench.chart === c"
      @click="bench.chart = c"
    >
      {{ c }}
    </button>
    <button
      v-if="bench.chart"
      class="word"
      type="button"
      :aria-pressed="bench.half"
      title="The shot in the left half, the chart in the right"
      @click="bench.half = !bench.half"
    >
      beside the shot
    </button>
    <button
      v-if="bench.bath?.mask"
      class="word"
      type="button"
      :aria-pressed="bench.maskShown"
      :title="`The mask of the chosen bath, in black and white (${keyOf('mask')})`"
      @click="bench.maskShown = !bench.maskShown"
    >
      see mask
    </button>
    <span class="right">
      <button
        class="word"
        type="button"
        :title="`Surround: ${look.surround}; click for another`"
        :aria-label="`Surround: ${look.surround}`"
        @click="nextSurround"
      >
        surround {{ look.surround }}
      </button>
      <button
        v-for="z in zooms"
        :key="z"
        class="word"
        type="button"
        :aria-pressed="zoom === z"
        :title="z === 'fit' ? `Fit (${keyOf('zoom')})` : `${z * 100} %`"
        @click="zoom = z"
      >
        {{ z === 'fit' ? 'fit' : `${z * 100} %` }}
      </button>
    </span>
  </div>
</template>

<style scoped>
.bar {
  align-items: center;
  background: var(--ground);
  border-bottom: 1px solid var(--line);
  display: flex;
  flex-wrap: wrap;
  gap: 2px 7px;
  min-height: 32px;
  padding: 1px 12px;
}
.gap {
  margin-left: 6px;
}
.right {
  display: flex;
  gap: 7px;
  margin-left: auto;
}
.against {
  width: 132px;
}
</style>
