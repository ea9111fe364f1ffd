<script setup lang="ts">
import { NButton } from 'naive-ui'
import { useDebounceFn } from '@vueuse/core'
import { computed, inject, ref, shallowRef } from 'vue'
import { watchEach } from '../../components/watchEach'
import {
  exposureOfGrey,
  luminance,
  neutralAt,
  type BalanceSettings,
  type Bath,
  type Proposal,
  type Triple,
} from '@fogbath/core'
import { complain } from '../../components/complain'
import { useBenchStore } from '../../stores/bench'
import type { Sampler } from '../../stores/bench/state'
import { sourceOf } from '../source'
import SampleButton from './SampleButton.vue'
import { SIDE } from './useIncoming'

/** What the balance bath can take from the picture: a neutral grey, a grey card, its levels. */
const props = defineProps<{ bath: Bath }>()
const bench = useBenchStore()
const side = inject(SIDE)!
/** What this frame asks for, and whether it is being offered. */
const proposal = shallowRef<Proposal | null>(null)
const offered = ref(false)
let run = 0
const settings = computed(() => props.bath.settings as unknown as BalanceSettings)
const set = (values: Partial<BalanceSettings>): void => bench.setSettings(props.bath.id, values)

type Taken = Parameters<Sampler['take']>
const neutral = ({ light }: Taken[0]): void => set(neutralAt(light))
function card({ light }: Taken[0], footage: Triple): void {
  set(exposureOfGrey(settings.value, light))
  bench.setMarks({ ...bench.marks, grey: Math.min(1e4, Math.max(1e-6, luminance(footage))) })
}

async function read(): Promise<void> {
  const { shot, frame } = bench
  const mine = ++run
  if (!shot) return
  const got = await side.proposal({ source: sourceOf(shot), frame, trims: shot.trims }).catch((error: unknown) => {
    complain(error)
    return null
  })
  if (mine === run) proposal.value = got
}
const READ_MS = 200
const rest = useDebounceFn(() => void read(), READ_MS)
// By value: a shot that comes back saved brings the same trims as a new object, and an offer must not be withdrawn for it.
watchEach(
  () => [bench.shot?.id, bench.frame, JSON.stringify(bench.shot?.trims), props.bath.id],
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
      label="make a grey neutral"
      title="Click on something grey: the light of the scene is set so that it is"
      @take="neutral"
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
