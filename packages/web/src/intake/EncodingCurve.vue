<script setup lang="ts">
import type { Shot } from '@fogbath/contract'
import { definitionLight, type EncodingDefinition } from '@fogbath/core/encodings'
import { NSelect } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { FrameStore } from '../workers/frames'
import { sourceOf } from '../workers/order'

/** The curve of an encoding that is being typed, with the codes of a shot's frame under it: where its light comes to lie. */
const props = defineProps<{ definition: EncodingDefinition | null; shots: readonly Shot[] }>()

const [WIDE, HIGH, BINS] = [240, 120, 80]
/** From eight stops below mid grey to six above it. */
const [LEAST, MOST] = [-8, 6]
const path = computed(() => {
  if (!props.definition) return ''
  const light = definitionLight(props.definition)
  const out = new Float64Array(3) as Parameters<typeof light>[3]
  const points = Array.from({ length: 121 }, (_, i) => {
    light(i / 120, i / 120, i / 120, out)
    const stop = Math.min(MOST, Math.max(LEAST, Math.log2(Math.max(1e-9, out[1]) / 0.18)))
    return `${((i / 120) * WIDE).toFixed(1)} ${(HIGH * (1 - (stop - LEAST) / (MOST - LEAST))).toFixed(1)}`
  })
  return `M${points.join('L')}`
})
const grey = HIGH * (1 - -LEAST / (MOST - LEAST))

/** Footage of floats holds light and no codes. */
const coded = computed(() => props.shots.filter(({ medium }) => medium.state === 'here' && !medium.info.float))
const options = computed(() => coded.value.map((s) => ({ value: s.id, label: s.name })))
const under = ref<number | null>(null)
const shot = computed(() => coded.value.find((s) => s.id === under.value) ?? coded.value[0])
const frames = new FrameStore(10e6)
const counts = shallowRef<readonly number[]>([])
watch(
  shot,
  async (of) => {
    counts.value = []
    if (!of) return
    const made = await frames.get(sourceOf(of), of.still, 320).catch(() => null)
    if (made && of.id === shot.value?.id) counts.value = countsOf(made.data)
  },
  { immediate: true },
)
function countsOf(codes: Uint16Array): number[] {
  const found = new Array<number>(BINS).fill(0)
  for (const code of codes) found[Math.min(BINS - 1, Math.floor((code / 65536) * BINS))]!++
  return found
}
const bars = computed(() => {
  const top = Math.max(1, ...counts.value)
  const wide = WIDE / BINS
  return counts.value
    .map((n, i) => `M${(i * wide).toFixed(1)} ${HIGH}v${(-0.8 * HIGH * Math.sqrt(n / top)).toFixed(1)}h${wide}V${HIGH}`)
    .join('')
})
</script>

<template>
  <svg :viewBox="`0 0 ${WIDE} ${HIGH}`" role="img" aria-label="Stops of light over code values">
    <path class="codes" :d="bars" />
    <path class="grid" :d="`M0 ${grey}H${WIDE}M${WIDE / 2} 0V${HIGH}`" />
    <path class="curve" :d="path" />
  </svg>
  <p class="quiet">
    Stops from mid grey ({{ LEAST }} to {{ MOST }}) over codes 0 to 1<template v-if="shot"
      >, with the codes that a frame uses</template
    >
  </p>
  <NSelect
    v-if="shot"
    size="tiny"
    :value="shot.id"
    :options="options"
    aria-label="Shot whose codes lie under the curve"
    @update:value="(v: number) => (under = v)"
  />
</template>

<style scoped>
svg {
  background: var(--surround);
  display: block;
  width: 100%;
}
.codes {
  fill: var(--quiet);
  opacity: 0.55;
}
.grid {
  stroke: var(--line);
}
.curve {
  fill: none;
  stroke: var(--accent);
  stroke-width: 2;
}
</style>
