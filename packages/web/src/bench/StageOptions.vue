<script setup lang="ts">
import { NSelect } from 'naive-ui'
import type { ChartName } from '@fogbath/core/charts'
import { useBenchStore } from '../stores/bench'
import type { CompareMode } from './useCompare'

/** What belongs to the way of looking that is on: over the picture's edge, so that the picture stays where it is. */
defineProps<{ others: { value: string; label: string }[] }>()
const compare = defineModel<CompareMode>('compare', { required: true })
const against = defineModel<string>('against', { required: true })
const bench = useBenchStore()

/** The same chart evenly in the other measure. */
const EVEN: Partial<Record<ChartName, { in: string; other: ChartName }>> = {
  ramp: { in: 'code values', other: 'ramp-stops' },
  'ramp-stops': { in: 'stops', other: 'ramp' },
  wedge: { in: 'stops', other: 'wedge-codes' },
  'wedge-codes': { in: 'code values', other: 'wedge' },
}
</script>

<template>
  <div
    v-if="compare !== 'off' || bench.chart"
    class="options"
    role="group"
    aria-label="Options of the picture"
    @pointerdown.stop
    @dblclick.stop
  >
    <template v-if="compare !== 'off'">
      <span class="quiet">with</span>
      <NSelect
        v-model:value="against"
        size="tiny"
        class="against"
        :options="others"
        :consistent-menu-width="false"
        aria-label="Compare with"
      />
      <template v-if="compare !== 'pair'">
        <button class="word" type="button" :aria-pressed="compare === 'wipe'" @click="compare = 'wipe'">
          upright edge
        </button>
        <button class="word" type="button" :aria-pressed="compare === 'wipe-level'" @click="compare = 'wipe-level'">
          level edge
        </button>
      </template>
    </template>
    <template v-if="bench.chart">
      <button
        class="word"
        type="button"
        :aria-pressed="bench.half"
        title="The shot in the left half, the chart in the right"
        @click="bench.half = !bench.half"
      >
        beside the shot
      </button>
      <button
        v-if="EVEN[bench.chart]"
        class="word"
        type="button"
        title="Click: evenly in the other measure"
        @click="bench.chart = EVEN[bench.chart]!.other"
      >
        even in {{ EVEN[bench.chart]!.in }}
      </button>
    </template>
  </div>
</template>

<style scoped>
.options {
  align-items: center;
  background: color-mix(in srgb, var(--panel) 92%, transparent);
  top: 0;
  display: flex;
  gap: 10px;
  left: 50%;
  padding: 2px 10px;
  position: absolute;
  transform: translateX(-50%);
  white-space: nowrap;
  z-index: 1;
}
.against {
  width: 150px;
}
</style>
