<script setup lang="ts">
import type { Shot } from '@fogbath/contract'
import { CUT_DEFAULTS } from '@fogbath/core/edits'
import { NOTHING } from '@fogbath/core/line'
import { timecode } from '@fogbath/core/numbers'
import { useDebounceFn, useIntervalFn } from '@vueuse/core'
import { NButton, NInputNumber, NProgress, useMessage } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import NamedSlider from '../components/NamedSlider.vue'
import SheetDialog from '../components/SheetDialog.vue'
import SmallStill from '../components/SmallStill.vue'
import { wordsOf } from '../stores/errors'
import { frameOrder } from '../workers/order'
import CutStrip from './CutStrip.vue'
import { NO_CUTS, cutMoved, foundAnew, marksOf, scrolledTo, withCut, withoutCut, zoomed, type StripView } from './cuts'

/** One long shot becomes several where the picture changes; what was found is corrected by hand. */
const props = defineProps<{ shot: Shot | null }>()
const emit = defineEmits<{ close: []; made: [] }>()
const message = useMessage()

const options = ref({ ...CUT_DEFAULTS })
const answer = shallowRef<Awaited<ReturnType<typeof api.cuts>> | null>(null)
const marks = shallowRef(NO_CUTS)
const view = shallowRef<StripView>({ from: 0, count: 1 })
const at = ref(1)
const problem = ref('')

const asking = useIntervalFn(() => void ask(), 400, { immediate: false })
async function ask(): Promise<void> {
  const { shot } = props
  if (!shot) return
  try {
    const got = await api.cuts(shot, options.value)
    if (shot.id !== props.shot?.id) return
    answer.value = got
    problem.value = got.message ?? ''
    if (got.state === 'looking') return
    const found = got.cuts.filter((frame) => frame > shot.first && frame <= shot.last)
    if (marks.value === NO_CUTS) at.value = found[0] ?? at.value
    marks.value = foundAnew(marks.value, found)
  } catch (error) {
    problem.value = wordsOf(error)
  }
  asking.pause()
}
watch(
  () => props.shot?.id,
  () => {
    const { shot } = props
    asking.pause()
    answer.value = null
    marks.value = NO_CUTS
    if (!shot) return
    view.value = { from: shot.first, count: shot.last - shot.first + 1 }
    at.value = shot.first + 1
    void ask()
    asking.resume()
  },
)
const askAgain = useDebounceFn(ask, 150)
function set(change: Partial<typeof options.value>): void {
  options.value = { ...options.value, ...change }
  void askAgain()
}
async function close(): Promise<void> {
  const { shot } = props
  if (shot && answer.value?.state === 'looking') await api.stopCuts(shot.mediumId).catch(() => undefined)
  emit('close')
}

const cuts = computed(() => marksOf(marks.value))
const isCut = computed(() => cuts.value.includes(at.value))
function next(direction: 1 | -1): void {
  const to =
    direction > 0 ? cuts.value.find((frame) => frame > at.value) : cuts.value.findLast((frame) => frame < at.value)
  if (to === undefined) return
  at.value = to
  if (to < view.value.from || to >= view.value.from + view.value.count)
    view.value = scrolledTo(to - (view.value.count >> 1), view.value.count, props.shot!)
}
const step = (by: number): void => {
  at.value = Math.min(props.shot!.last, Math.max(props.shot!.first + 1, at.value + by))
}
const zoom = (times: number): void => void (view.value = zoomed(view.value, times, at.value, props.shot!))
const toggle = (): void => void (marks.value = (isCut.value ? withoutCut : withCut)(marks.value, at.value))
const stillAt = (frame: number) => ({ ...frameOrder(props.shot!, { recipe: NOTHING, after: [] }, frame), width: 480 })
const timeOf = (frame: number): string =>
  `${frame} · ${timecode(frame, props.shot!.medium.info.fps, props.shot!.medium.info.timecode)}`

const making = ref(false)
async function make(): Promise<void> {
  making.value = true
  try {
    const { shots } = await api.splitShot(props.shot!, cuts.value)
    message.success(`${shots.length} shots are made of it.`)
    emit('made')
    emit('close')
  } catch (error) {
    problem.value = wordsOf(error)
  }
  making.value = false
}
</script>

<template>
  <SheetDialog :show="shot !== null" :title="`Cuts of ${shot?.name ?? ''}`" :width="1080" @update:show="close">
    <template v-if="shot">
      <p v-if="problem" role="alert" class="warn">{{ problem }}</p>
      <p v-if="answer?.state === 'looking'" class="looking" role="status">
        Looking for cuts: {{ answer.done }} of {{ answer.of }} frames
        <NProgress
          :percentage="Math.round((100 * answer.done) / answer.of)"
          :height="8"
          aria-label="Frames looked at"
        />
      </p>
      <div v-else class="options">
        <label title="How different two frames must be to be of two shots; changes are corrected by hand below and stay"
          >Threshold
          <NamedSlider
            class="slider"
            :value="options.threshold"
            :min="1"
            :max="40"
            :step="0.5"
            unit="%"
            name="Threshold"
            @change="(v) => set({ threshold: v })"
            @reset="set({ threshold: CUT_DEFAULTS.threshold })"
          />
          <span class="mono">{{ options.threshold }} %</span></label
        >
        <label title="Frames that a shot has at least"
          >Least length
          <NInputNumber
            size="tiny"
            class="least"
            :value="options.least"
            :min="1"
            :max="1000"
            :input-props="{ 'aria-label': 'Least length, frames' }"
            @update:value="(v: number | null) => v !== null && set({ least: v })"
        /></label>
        <span class="zoom">
          <button class="word" type="button" @click="zoom(0.5)">closer</button>
          <button class="word" type="button" @click="zoom(2)">wider</button>
        </span>
      </div>
      <CutStrip
        v-model:at="at"
        :shot="shot"
        :view="view"
        :marks="cuts"
        @move="(from, to) => (marks = cutMoved(marks, from, to))"
        @remove="(frame) => (marks = withoutCut(marks, frame))"
      />
      <NamedSlider
        v-if="view.count <= shot.last - shot.first"
        :value="view.from"
        :min="shot.first"
        :max="shot.last - view.count + 1"
        :step="1"
        name="First frame of the strip"
        @change="(v) => (view = scrolledTo(v, view.count, shot!))"
      />
      <div class="two">
        <figure>
          <SmallStill :wanted="stillAt(at - 1)" :name="`Frame ${at - 1}, the last before`" />
          <figcaption class="mono quiet">{{ timeOf(at - 1) }}</figcaption>
        </figure>
        <figure>
          <SmallStill :wanted="stillAt(at)" :name="`Frame ${at}, the first behind`" />
          <figcaption class="mono quiet">{{ timeOf(at) }}</figcaption>
        </figure>
        <div class="at">
          <button class="word" type="button" @click="next(-1)">the cut before</button>
          <button class="word" type="button" @click="next(1)">the next cut</button>
          <button class="word" type="button" @click="step(-1)">one frame back</button>
          <button class="word" type="button" @click="step(1)">one frame on</button>
          <NButton size="small" @click="toggle">{{ isCut ? 'No cut here' : 'A cut here' }}</NButton>
        </div>
      </div>
      <div class="do">
        <span role="status">{{ cuts.length }} {{ cuts.length === 1 ? 'cut' : 'cuts' }}</span>
        <span class="quiet">Each shot takes what this one carries.</span>
        <NButton type="primary" :disabled="cuts.length === 0" :loading="making" @click="make">{{
          cuts.length ? `Make ${cuts.length + 1} shots` : 'Make shots'
        }}</NButton>
      </div>
    </template>
  </SheetDialog>
</template>

<style scoped>
.options,
.options label,
.do,
.looking {
  align-items: center;
  display: flex;
  gap: 12px;
}
.options {
  gap: 28px;
}
.slider {
  width: 180px;
}
.least {
  width: 92px;
}
.zoom {
  display: flex;
  gap: 14px;
  margin-left: auto;
}
.two {
  display: grid;
  gap: 4px;
  grid-template-columns: 1fr 1fr 130px;
  margin-top: 12px;
}
figure {
  margin: 0;
}
.at {
  align-items: flex-start;
  display: flex;
  flex-direction: column;
  gap: 6px;
  padding-left: 12px;
}
.do {
  justify-content: flex-end;
  margin-top: 8px;
}
</style>
