<script setup lang="ts">
import { framesASecond } from '@fogbath/core/numbers'
import { notesOf } from '@fogbath/core/line'
import { Movie, Note, PlayerPlay, PlayerStop, Repeat, Volume, Volume3 } from '@vicons/tabler'
import { computed } from 'vue'
import IconButton from '../components/IconButton.vue'
import NamedSlider from '../components/NamedSlider.vue'
import { useBenchStore } from '../stores/bench'
import { useLookStore } from '../stores/look'
import type { PictureAnswer } from '../workers/protocol'
import { shortcutOf } from './keys'
import PainterButton from './PainterButton.vue'
import TimeField from './TimeField.vue'

/** Playing: frame, timecode, the part that is played, loop, and the speed that is reached. */
const props = defineProps<{
  reel: boolean
  playing: boolean
  going: number
  rate: number
  answer: PictureAnswer | null
}>()
const loop = defineModel<boolean>('loop', { required: true })
const emit = defineEmits<{ reel: []; play: []; from: []; to: []; all: []; notes: [] }>()
const bench = useBenchStore()
const look = useLookStore()

const info = computed(() => bench.shot?.medium.info)
const moving = computed(() => (info.value?.frames ?? 1) > 1)
const fps = computed(() => framesASecond(info.value?.fps ?? '24') || 24)
const whole = computed(() => bench.range[0] === bench.shot?.first && bench.range[1] === bench.shot?.last)

const noted = computed(() => notesOf(bench.marks).filter(({ frame }) => frame !== null))

const speed = computed(() =>
  props.playing
    ? `${props.rate.toFixed(0)}/${fps.value.toFixed(0)} fps${props.going === 1 ? '' : ` ${props.going < 0 ? '−' : ''}${Math.abs(props.going)}×`}`
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
      :title="`Play or stop (${shortcutOf('play')}); backwards, stop, forwards: J K L`"
      @click="emit('play')"
    />
    <div class="track">
      <template v-if="!whole">
        <i class="bracket in" :style="{ left: `${share(bench.range[0])}%` }" />
        <i class="bracket out" :style="{ left: `${share(bench.range[1])}%` }" />
      </template>
      <button
        v-for="n in noted"
        :key="n.key"
        class="noted"
        type="button"
        :style="{ left: `${share(n.frame!)}%` }"
        :title="n.text"
        :aria-label="`Note: ${n.text}`"
        @click="bench.frame = n.frame!"
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
    <button
      class="word"
      type="button"
      :title="`In: play from this frame (${shortcutOf('rangeFrom')})`"
      @click="emit('from')"
    >
      in
    </button>
    <button
      class="word"
      type="button"
      :title="`Out: play up to this frame (${shortcutOf('rangeTo')})`"
      @click="emit('to')"
    >
      out
    </button>
    <button
      class="word"
      type="button"
      :aria-pressed="whole"
      :title="`Play the entire shot (${shortcutOf('rangeAll')})`"
      @click="emit('all')"
    >
      entire shot
    </button>
    <IconButton
      v-if="bench.shots.length > 1"
      :icon="Movie"
      name="Reel"
      :title="`All shots one after the other, as they are treated (${shortcutOf('reel')})`"
      :pressed="reel"
      @click="emit('reel')"
    />
    <IconButton
      :icon="Repeat"
      name="Loop"
      :title="`Begin again at the end (${shortcutOf('loop')})`"
      :pressed="loop"
      @click="loop = !loop"
    />
    <IconButton
      v-if="info?.sound"
      :icon="look.muted ? Volume3 : Volume"
      name="Sound"
      title="Sound while it plays forwards at its own rate: on or off"
      :pressed="!look.muted"
      @click="look.muted = !look.muted"
    />
    <IconButton
      :icon="Note"
      name="Notes"
      :title="`Notes on frames and on the shot (${shortcutOf('note')})`"
      :pressed="notesOf(bench.marks).length > 0"
      @click="emit('notes')"
    />
    <TimeField :fps="info?.fps ?? '24'" :start="info?.timecode" />
    <span class="mono quiet speed" data-test="speed" :title="speedMeans">{{ speed }}</span>
    <span
      v-if="answer?.proxy"
      class="mono proxy"
      role="status"
      title="A small copy of the footage, because that decodes slower than it plays. Renders are made of the footage itself; so is a picture wider than 1280 pixels"
      >proxy</span
    >
    <PainterButton :by="answer?.by ?? 'processor'" />
  </div>
  <div v-else class="bar" role="group" aria-label="Playing">
    <span class="quiet">a still picture<template v-if="info">, {{ info.width }} × {{ info.height }}</template></span
    ><span class="mono quiet speed" data-test="speed">{{ speed }}</span>
    <PainterButton :by="answer?.by ?? 'processor'" />
  </div>
</template>

<style scoped>
.bar {
  align-items: center;
  background: var(--ground);
  display: flex;
  flex: none;
  gap: 10px;
  height: 30px;
  overflow: hidden;
  padding: 0 12px;
  white-space: nowrap;
}
.track {
  flex: 1;
  min-width: 80px;
  position: relative;
}
/* The range that is played, as brackets on the scrub line. */
.bracket {
  border: 2px solid var(--accent);
  height: 18px;
  pointer-events: none;
  position: absolute;
  top: -2px;
  width: 6px;
}
.in {
  border-right: 0;
}
.out {
  border-left: 0;
  margin-left: -6px;
}
.noted {
  background: var(--text);
  border: 0;
  height: 8px;
  margin-left: -4px;
  padding: 0;
  position: absolute;
  top: -7px;
  transform: rotate(45deg);
  width: 8px;
  z-index: 1;
}
/* Its target is larger than the mark. */
.noted::after {
  content: '';
  inset: -8px;
  position: absolute;
}
.proxy {
  color: var(--warn);
}
.speed {
  min-width: 112px;
  text-align: right;
}
.bar > .quiet + .speed {
  margin-left: auto;
}
</style>
