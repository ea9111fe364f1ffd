<script setup lang="ts">
import { NSelect, NSlider } from 'naive-ui'
import { computed } from 'vue'
import { CHARTS } from '@fogbath/core'
import { useBenchStore } from '../stores/bench'

/** Under the picture: compare, source, zoom, transport. */
export type CompareMode = 'off' | 'wipe' | 'wipe-flat' | 'pair'
const compare = defineModel<CompareMode>('compare', { required: true })
const against = defineModel<string>('against', { required: true })
const zoom = defineModel<'fit' | 1 | 2 | 4>('zoom', { required: true })
const props = defineProps<{ playing: boolean; rate: number; took: number | null }>()
defineEmits<{ play: []; reference: [] }>()
const bench = useBenchStore()

const modes: readonly { key: CompareMode; label: string; title: string }[] = [
  { key: 'off', label: 'off', title: 'Only the picture (hold F for the footage)' },
  { key: 'wipe', label: 'wipe', title: 'Wipe with an upright edge (W)' },
  { key: 'wipe-flat', label: 'level', title: 'Wipe with a level edge' },
  { key: 'pair', label: 'pair', title: 'Side by side' },
]
const others = computed(() => [
  { value: 'footage', label: 'footage' },
  ...(bench.shot?.trials ?? [])
    .filter((t) => t.id !== bench.trial?.id)
    .map((t) => ({ value: `trial:${t.id}`, label: `trial ${t.name}` })),
  { value: 'reference', label: 'reference picture ...' },
])
const zooms = ['fit', 1, 2, 4] as const
const info = computed(() => bench.shot?.medium.info)
const fps = computed(() => {
  const [num, den] = (info.value?.fps ?? '24/1').split('/').map(Number) as [number, number]
  return num ? num / den : 24
})

/** hh:mm:ss:ff at the clip's nominal rate. */
const timecode = computed(() => {
  const base = Math.round(fps.value)
  const f = bench.frame
  const two = (v: number): string => String(v).padStart(2, '0')
  return [Math.floor(f / base / 3600), Math.floor(f / base / 60) % 60, Math.floor(f / base) % 60, f % base]
    .map(two)
    .join(':')
})
const speed = computed(() =>
  props.playing
    ? `${props.rate.toFixed(0)}/${fps.value.toFixed(0)} fps`
    : props.took === null
      ? ''
      : `${props.took.toFixed(0)} ms`,
)
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
    <span class="gap" />
    <button v-for="z in zooms" :key="z" class="word" type="button" :aria-pressed="zoom === z" @click="zoom = z">
      {{ z === 'fit' ? 'fit' : `${z * 100}` }}
    </button>
    <span class="mono quiet speed">{{ speed }}</span>
    <template v-if="info && info.frames > 1">
      <button
        class="word"
        type="button"
        :aria-label="playing ? 'Stop' : 'Play'"
        title="Play or stop (space)"
        @click="$emit('play')"
      >
        {{ playing ? '■' : '▶' }}
      </button>
      <NSlider
        v-model:value="bench.frame"
        class="frames"
        :min="bench.shot!.first"
        :max="bench.shot!.last"
        :step="1"
        :tooltip="false"
        aria-label="Frame"
      />
      <span class="mono">{{ timecode }}</span>
    </template>
  </div>
</template>

<style scoped>
.bar {
  align-items: center;
  background: var(--ground);
  display: flex;
  flex-wrap: wrap;
  gap: 2px 7px;
  min-height: 36px;
  padding: 2px 12px;
}
.gap {
  margin-left: 6px;
}
.against {
  width: 128px;
}
.speed {
  margin-left: auto;
  min-width: 52px;
  text-align: right;
}
.frames {
  width: 84px;
}
</style>
