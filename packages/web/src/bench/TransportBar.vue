<script setup lang="ts">
import { timecode } from '@fogbath/core'
import { PlayerPlay, PlayerStop, Repeat } from '@vicons/tabler'
import { computed } from 'vue'
import IconButton from '../components/IconButton.vue'
import NamedSlider from '../components/NamedSlider.vue'
import { useBenchStore } from '../stores/bench'
import type { PictureAnswer } from '../workers/protocol'
import { keyOf } from './keys'
import PainterButton from './PainterButton.vue'

/** Playing: frame, timecode, the part that is played, loop, and the speed that is reached. */
const props = defineProps<{ playing: boolean; rate: number; answer: PictureAnswer | null }>()
const loop = defineModel<boolean>('loop', { required: true })
const emit = defineEmits<{ play: []; from: []; to: []; all: [] }>()
const bench = useBenchStore()

const info = computed(() => bench.shot?.medium.info)
const moving = computed(() => (info.value?.frames ?? 1) > 1)
const fps = computed(() => {
  const [num, den] = (info.value?.fps ?? '24/1').split('/').map(Number) as [number, number]
  return num ? num / den : 24
})
const whole = computed(() => bench.range[0] === bench.shot?.first && bench.range[1] === bench.shot?.last)

const speed = computed(() =>
  props.playing
    ? `${props.rate.toFixed(0)}/${fps.value.toFixed(0)} fps`
    : props.answer
      ? `drawn in ${props.answer.took.toFixed(0)} ms`
      : '',
)
const speedMeans = computed(() =>
  props.playing ? 'Frames a second that are reached, of those the clip has' : 'From the question to the drawn picture',
)
const share = (frame: number): number => {
  const { first, last } = bench.shot!
  return last > first ? (100 * (frame - first)) / (last - first) : 0
}
</script>

<template>
  <div v-if="moving && bench.shot" class="bar" role="group" aria-label="Playing">
    <IconButton
      :icon="playing ? PlayerStop : PlayerPlay"
      :name="playing ? 'Stop' : 'Play'"
      :title="`Play or stop (${keyOf('play')})`"
      @click="emit('play')"
    />
    <div class="track">
      <i
        v-if="!whole"
        class="range"
        :style="{ left: `${share(bench.range[0])}%`, width: `${share(bench.range[1]) - share(bench.range[0])}%` }"
      />
      <NamedSlider
        :value="bench.frame"
        :min="bench.shot.first"
        :max="bench.shot.last"
        :step="1"
        name="Frame"
        @change="(v) => (bench.frame = v)"
      />
    </div>
    <button class="word" type="button" :title="`Play from this frame (${keyOf('rangeFrom')})`" @click="emit('from')">
      start here
    </button>
    <button class="word" type="button" :title="`Play up to this frame (${keyOf('rangeTo')})`" @click="emit('to')">
      end here
    </button>
    <button
      class="word"
      type="button"
      :aria-pressed="whole"
      :title="`Play the entire shot (${keyOf('rangeAll')})`"
      @click="emit('all')"
    >
      play entire shot
    </button>
    <IconButton
      :icon="Repeat"
      name="Loop"
      :title="`Begin again at the end (${keyOf('loop')})`"
      :pressed="loop"
      @click="loop = !loop"
    />
    <span class="mono">{{ timecode(bench.frame, info?.fps ?? '24') }}</span>
    <span class="mono quiet speed" data-test="speed" :title="speedMeans">{{ speed }}</span>
    <PainterButton :by="answer?.by ?? 'processor'" />
  </div>
  <div v-else class="bar" role="group" aria-label="Playing">
    <span class="quiet">a still picture</span><span class="mono quiet speed" data-test="speed">{{ speed }}</span>
    <PainterButton :by="answer?.by ?? 'processor'" />
  </div>
</template>

<style scoped>
.bar {
  align-items: center;
  background: var(--ground);
  display: flex;
  gap: 10px;
  height: 28px;
  padding: 0 12px;
}
.track {
  flex: 1;
  position: relative;
}
.range {
  background: var(--accent);
  height: 2px;
  position: absolute;
  top: 0;
}
.speed {
  min-width: 112px;
  text-align: right;
}
.bar > .quiet + .speed {
  margin-left: auto;
}
</style>
