<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed, inject, shallowRef, watch } from 'vue'
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
const proposal = shallowRef<Proposal | null>(null)
const settings = computed(() => props.bath.settings as unknown as BalanceSettings)
const set = (values: Partial<BalanceSettings>): void => bench.setSettings(props.bath.id, values)
watch([() => bench.shot?.id, () => bench.frame, () => props.bath.id], () => (proposal.value = null))

type Taken = Parameters<Sampler['take']>
const neutral = ({ light }: Taken[0]): void => set(neutralAt(light))
function card({ light }: Taken[0], footage: Triple): void {
  set(exposureOfGrey(settings.value, light))
  bench.setMarks({ ...bench.marks, grey: Math.min(1e4, Math.max(1e-6, luminance(footage))) })
}

async function propose(): Promise<void> {
  const { shot, frame } = bench
  if (!shot) return
  proposal.value = await side.proposal({ source: sourceOf(shot), frame, trims: shot.trims }).catch((error: unknown) => {
    complain(error)
    return null
  })
}
function take(): void {
  const { black, white } = proposal.value!
  set({ black, white })
  proposal.value = null
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
      v-if="!proposal"
      class="word"
      type="button"
      title="From the darkest and the lightest of this frame"
      @click="propose"
    >
      propose levels
    </button>
    <div v-else class="proposal" role="status">
      <span
        >black <b class="mono">{{ proposal.black.toFixed(2) }} %</b>, white
        <b class="mono">{{ signed(proposal.white) }} stops</b>;
        <b class="mono">{{ (100 * proposal.clipped).toFixed(1) }} %</b> of the pixels are clipped</span
      >
      <NButton size="tiny" type="primary" @click="take">Take them</NButton>
      <NButton size="tiny" @click="proposal = null">Leave them</NButton>
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
