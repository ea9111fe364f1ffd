<script setup lang="ts">
import { NCheckbox, NSelect } from 'naive-ui'
import { computed, ref } from 'vue'
import { allBaths } from '@fogbath/core/line'
import type { MaskPart } from '@fogbath/core/masks'
import { ALL_MOTIONS, canBeTracked, type Motion } from '@fogbath/core/tracking'
import NamedSlider from '../components/NamedSlider.vue'
import { useBenchStore } from '../stores/bench'
import { report } from '../stores/errors'
import { useTrackingStore, type TrackOrder } from '../stores/tracking'
import KeyButton from './KeyButton.vue'
import { PART_NAMES } from './maskNames'

/** How a part of a mask goes with the picture: followed through the shot, riding on another's track, moved by hand. */
const props = defineProps<{ index: number; part: MaskPart }>()
const bench = useBenchStore()
const tracking = useTrackingStore()

/** It always moves. */
const OTHERS = ALL_MOTIONS.filter((m) => m !== 'move')
const motions = ref<Motion[]>(['move', 'turn', 'scale'])
const tick = (motion: Motion, on: boolean): void =>
  void (motions.value = ALL_MOTIONS.filter((m) => (m === motion ? on : motions.value.includes(m))))

const track = computed(() => bench.shot?.tracks.find(({ id }) => id === props.part.follows) ?? null)
const going = computed(() => {
  const { now } = tracking
  return now && now.shot.id === bench.shot?.id ? now.seen : null
})
/** What is known of it, in words. */
const words = computed(() => {
  const { part } = props
  if (going.value)
    return going.value.state === 'waiting' ? 'waits for another' : `${going.value.done} of ${going.value.of} frames`
  if (!track.value) return part.follows ? 'not tracked on this shot yet' : ''
  const { first, corners, lost } = track.value
  const where = `tracked in frames ${first} to ${first + corners.length - 1}`
  return lost.length > 0 ? `${where}; lost in ${[...lost].sort((a, b) => a - b).join(' and ')}` : where
})

async function go(way: TrackOrder['way']): Promise<void> {
  try {
    await tracking.trackPart(props.index, { frame: bench.frame, motions: motions.value, way })
  } catch (error) {
    report(error)
  }
}

/** Other parts in the line that are tracked here. */
const others = computed(() => {
  const parts = allBaths({ baths: bench.inLine }).flatMap(({ mask }) => mask?.parts ?? [])
  const named = (bench.shot?.tracks ?? []).map(({ id }, i) => {
    const leader = parts.find((p) => p.follows === id && canBeTracked(p))
    return { value: id, label: `the track of ${leader ? PART_NAMES[leader.type].toLowerCase() : 'a shape'} ${i + 1}` }
  })
  return [{ value: '', label: 'nothing: it stays' }, ...named]
})
const smooth = (frames: number): void => {
  const { shot } = bench
  if (shot && track.value)
    bench.saveShot({ tracks: shot.tracks.map((t) => (t.id === track.value!.id ? { ...t, smooth: frames } : t)) })
}
</script>

<template>
  <div v-if="bench.instant.length > 1" class="track" role="group" aria-label="How it goes with the picture">
    <template v-if="canBeTracked(part)">
      <div class="line">
        <span class="title">Follow</span>
        <button class="word" type="button" :disabled="going !== null" @click="go('back')">← back</button>
        <button class="word" type="button" :disabled="going !== null" @click="go('both')">both ways</button>
        <button class="word" type="button" :disabled="going !== null" @click="go('forward')">forward →</button>
        <button v-if="going" class="word" type="button" @click="tracking.stop">stop</button>
      </div>
      <div class="line" role="group" aria-label="How it may change beside moving">
        <span class="title">It may</span>
        <NCheckbox
          v-for="m in OTHERS"
          :key="m"
          size="small"
          :checked="motions.includes(m)"
          @update:checked="(on: boolean) => tick(m, on)"
          >{{ m }}</NCheckbox
        >
      </div>
    </template>
    <p v-if="words" class="words" role="status" :class="{ warn: !going && (!track || track.lost.length > 0) }">
      {{ words }}
    </p>
    <div v-if="others.length > 1" class="line one">
      <span class="title">Goes with</span>
      <NSelect
        size="tiny"
        :value="track ? track.id : ''"
        :options="others"
        aria-label="What it goes with"
        @update:value="(id: string) => bench.ride(index, id || null)"
      />
    </div>
    <div v-if="track" class="line one">
      <span class="title">Smooth</span>
      <NamedSlider
        :value="track.smooth"
        :min="0"
        :max="12"
        :step="0.5"
        unit="frames"
        name="Smooth the track"
        @change="smooth"
        @reset="smooth(0)"
      />
      <span class="mono">{{ track.smooth }}</span>
    </div>
    <div class="line">
      <span class="title">By hand</span>
      <span class="quiet">{{
        part.moves ? `${part.moves.keys.length} keys; a drag sets one` : 'a key lets it move'
      }}</span>
      <KeyButton :name="PART_NAMES[part.type]" :lane="part.moves as never" @toggle="bench.togglePartKey(index)" />
    </div>
  </div>
</template>

<style scoped>
.track {
  border-bottom: 1px solid var(--line);
  margin-bottom: 4px;
  padding-bottom: 4px;
}
.line {
  align-items: center;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  min-height: 28px;
}
.one {
  flex-wrap: nowrap;
}
.one .title {
  flex: none;
}
.line > .quiet {
  flex: 1;
  font-size: 13px;
}
.title {
  width: 66px;
}
.words {
  font-size: 13px;
  margin: 2px 0;
}
</style>
