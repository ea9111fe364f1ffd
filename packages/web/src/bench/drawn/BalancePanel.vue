<script setup lang="ts">
import { NButton } from 'naive-ui'
import { useDebounceFn } from '@vueuse/core'
import { computed, inject, ref, shallowRef, watch } from 'vue'
import { steady } from '../../stores/steady'
import { blackAt, exposureOfGrey, neutralAt, whiteAt, type BalanceSettings } from '@fogbath/core/baths'
import { luminance, type Triple } from '@fogbath/core/colour'
import { settingsOf, type Bath } from '@fogbath/core/line'
import { type Proposal } from '@fogbath/core/readings'
import { NOTHING } from '@fogbath/core/line'
import { report } from '../../stores/errors'
import { useBenchStore } from '../../stores/bench'
import type { Sampler } from '../../stores/bench/state'
import SampleButton from './SampleButton.vue'
import { SIDE } from './useIncoming'

/** What the balance bath can take from the picture: a neutral grey, black, white, a grey card, its levels. */
const props = defineProps<{ bath: Bath }>()
const bench = useBenchStore()
const side = inject(SIDE)!
/** What this frame asks for, and whether it is being offered. */
const proposal = shallowRef<Proposal | null>(null)
const offered = ref(false)
let run = 0
const settings = computed(() => settingsOf<BalanceSettings>(props.bath))
const set = (values: Partial<BalanceSettings>): void => bench.setSettings(props.bath.id, values)

type Taken = Parameters<Sampler['take']>
const neutral = ({ light }: Taken[0]): void => set({ ...neutralAt(light), way: 'kelvin' })
const black = ({ light }: Taken[0]): void => set(blackAt(settings.value, light))
const white = ({ light }: Taken[0]): void => set(whiteAt(settings.value, light))
function card({ light }: Taken[0], footage: Triple): void {
  set(exposureOfGrey(settings.value, light))
  bench.setMarks({ ...bench.marks, grey: Math.min(1e4, Math.max(1e-6, luminance(footage))) })
}

/** Levels are read before all baths. */
const question = steady(
  () => bench.order && { ...bench.order, order: { ...bench.order.order, preparation: [], recipe: NOTHING, after: [] } },
)
async function read(): Promise<void> {
  const mine = ++run
  if (!question.value) return
  const got = await side.proposal(question.value).catch((error: unknown) => {
    report(error)
    return null
  })
  if (mine === run) proposal.value = got
}
const READ_MS = 200
const rest = useDebounceFn(() => void read(), READ_MS)
watch(
  [question, () => props.bath.id],
  () => {
    offered.value = false
    void rest()
  },
  { immediate: true },
)

function take(): void {
  const { black, white } = proposal.value!
  set({ black, white })
  offered.value = false
}
const signed = (v: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(2)}`
</script>

<template>
  <div class="from">
    <SampleButton
      name="neutral"
      label="grey here"
      title="Click on something grey: the light of the scene is set so that it is; how bright it is stays"
      @take="neutral"
    />
    <SampleButton
      name="black"
      label="black here"
      title="Click on what should be black: its light is taken off"
      @take="black"
    />
    <SampleButton
      name="white"
      label="white here"
      title="Click on something white: the white level is set so that it is as bright as white paper"
      @take="white"
    />
    <SampleButton
      name="card"
      label="set a grey card to 18 %"
      title="Click on the card: the exposure is set, and the card marked on the waveform"
      @take="card"
    />
    <button
      class="word"
      type="button"
      :aria-pressed="offered"
      :disabled="!proposal"
      title="From the darkest and the lightest of this frame"
      @click="offered = !offered"
    >
      propose levels
    </button>
    <span v-if="proposal" class="quiet" title="Pixels with a channel at the upper end of the footage"
      >clipped in this frame <b class="mono">{{ (100 * proposal.clipped).toFixed(1) }} %</b></span
    >
    <div v-if="offered && proposal" class="proposal" role="status">
      <span
        >black <b class="mono">{{ proposal.black.toFixed(2) }} %</b>, white
        <b class="mono">{{ signed(proposal.white) }} stops</b></span
      >
      <NButton size="tiny" type="primary" @click="take">Take them</NButton>
      <NButton size="tiny" @click="offered = false">Leave them</NButton>
    </div>
  </div>
</template>

<style scoped>
.from {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
}
.proposal {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
}
</style>
