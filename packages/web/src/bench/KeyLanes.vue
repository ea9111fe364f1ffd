<script setup lang="ts">
import { NInputNumber, NSelect } from 'naive-ui'
import { computed, ref, watch } from 'vue'
import {
  TIMES,
  WAYS,
  changeKey,
  countedBy,
  placeOf,
  timeAt,
  withoutKey,
  type Times,
  type Way,
} from '@fogbath/core/keys'
import { keyAt } from '@fogbath/core/line'
import { useBenchStore } from '../stores/bench'
import KeyStrip from './KeyStrip.vue'
import KeyTime from './KeyTime.vue'
import { useLanes } from './useLanes'

/** What changes over the shot, under its time line: one lane with its keys, and the key that is worked on. */
const bench = useBenchStore()
const lanes = useLanes()
const wanted = ref('')
const shown = computed(() => lanes.value.find((l) => l.id === wanted.value) ?? lanes.value[0])
const length = computed(() => bench.instant.length)

/** The key that is worked on, by its place. */
const at = ref<number | null>(null)
const index = computed(() => {
  const lane = shown.value?.lane
  if (!lane) return -1
  const there = lane.keys.findIndex((key) => key.at === at.value)
  // Where none is chosen, the one that stands in this frame.
  return there < 0 ? keyAt(lane, bench.instant) : there
})
const key = computed(() => shown.value?.lane.keys[index.value] ?? null)
watch(
  () => [bench.chosen, shown.value?.id],
  () => (at.value = null),
)

const TIME_NAMES: Record<Times, string> = {
  start: 'frames from the start',
  end: 'frames from the end',
  share: 'parts of the length',
}
const WAY_NAMES: Record<Way, string> = { straight: 'straight on', eased: 'eased', held: 'held' }
const options = <T extends string>(values: readonly T[], names: Record<T, string>) =>
  values.map((value) => ({ value, label: names[value] }))
const choices = computed(() => lanes.value.map(({ id, title }) => ({ value: id, label: title })))

/** Moves a key to a place in the shot, frames from its start. */
function move(which: number, place: number): void {
  const { lane, set } = shown.value!
  const to = timeAt(Math.min(length.value - 1, Math.max(0, place)), lane.times, length.value)
  set(changeKey(lane, which, { at: to }), 'move')
  at.value = to
}
function go(which: number): void {
  const { lane } = shown.value!
  const found = lane.keys[which]!
  at.value = found.at
  bench.frame = bench.instant.first + Math.round(placeOf(found.at, lane.times, length.value))
}
const remove = (which: number): void => shown.value!.set(withoutKey(shown.value!.lane, which))
function count(times: Times): void {
  const { lane, set } = shown.value!
  set(countedBy(lane, times, length.value))
  at.value = null
}
</script>

<template>
  <section v-if="shown && length > 1" class="lanes" aria-label="What changes over the shot">
    <div class="what">
      <NSelect
        v-if="lanes.length > 1"
        size="tiny"
        :value="shown.id"
        :options="choices"
        aria-label="Lane"
        @update:value="(v: string) => (wanted = v)"
      />
      <b v-else>{{ shown.title }}</b>
      <NSelect
        size="tiny"
        :value="shown.lane.times"
        :options="options(TIMES, TIME_NAMES)"
        aria-label="How its keys are counted"
        @update:value="count"
      />
    </div>
    <KeyStrip :shown="shown" :chosen="index" @choose="go" @move="move" @remove="remove" />
    <div class="key">
      <template v-if="key">
        <KeyTime :place="placeOf(key.at, shown.lane.times, length)" @change="(place) => move(index, place)" />
        <NInputNumber
          v-if="typeof key.value === 'number'"
          size="tiny"
          :value="key.value"
          :min="shown.minimum ?? -Infinity"
          :max="shown.maximum ?? Infinity"
          :show-button="false"
          :update-value-on-input="false"
          :input-props="{ 'aria-label': `Value of the key` }"
          @update:value="
            (value: number | null) => value !== null && shown!.set(changeKey(shown!.lane, index, { value }), 'value')
          "
        />
        <NSelect
          size="tiny"
          :value="key.way"
          :options="options(WAYS, WAY_NAMES)"
          aria-label="How it goes on to the next key"
          @update:value="(way: Way) => shown!.set(changeKey(shown!.lane, index, { way }))"
        />
        <button class="word" type="button" @click="remove(index)">remove</button>
      </template>
      <template v-else>
        <span class="quiet">Drag a key, or click it to type its time.</span>
        <button class="word" type="button" @click="shown.set(null)">no keys</button>
      </template>
    </div>
  </section>
</template>

<style scoped>
.lanes {
  align-items: center;
  background: var(--ground);
  border-top: 1px solid var(--line);
  display: grid;
  flex: none;
  gap: 12px;
  grid-template-columns: 170px 1fr 290px;
  height: 58px;
  padding: 0 12px;
}
.what {
  display: grid;
  gap: 4px;
}
.what b {
  font-weight: 600;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.key {
  align-items: center;
  display: grid;
  gap: 6px;
  grid-template-columns: 96px 1fr 92px auto;
}
.key > .quiet {
  font-size: 13px;
  grid-column: 1 / 4;
}
</style>
