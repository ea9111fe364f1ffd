<script setup lang="ts">
import { computed } from 'vue'
import { useBenchStore } from '../stores/bench'
import { PART_NAMES } from './maskNames'

/** How much of a shape that is followed could be used, frame by frame, under the time line; and where it was lost. */
const bench = useBenchStore()
const part = computed(() => bench.bath?.mask?.parts[bench.part ?? -1] ?? null)
const track = computed(() => bench.shot?.tracks.find(({ id }) => id === part.value?.follows) ?? null)
const last = computed(() => Math.max(1, bench.instant.length - 1))
const across = (frame: number): number => (frame - bench.instant.first) / last.value
const curve = computed(() =>
  (track.value?.used ?? []).map((used, i) => `${1000 * across(track.value!.first + i)},${23 - 22 * used}`).join(' '),
)
const least = computed(() => Math.round(100 * Math.min(...(track.value?.used ?? [1]))))
</script>

<template>
  <section v-if="track && part" class="used" :aria-label="`Usable share of the ${PART_NAMES[part.type].toLowerCase()}`">
    <span class="quiet">{{ PART_NAMES[part.type] }}, followed</span>
    <div class="strip">
      <svg viewBox="0 0 1000 24" preserveAspectRatio="none" aria-hidden="true"><polyline :points="curve" /></svg>
      <i class="now" :style="{ left: `${100 * across(bench.frame)}%` }" />
      <button
        v-for="frame in track.lost"
        :key="frame"
        type="button"
        class="word lost"
        :style="{ left: `${100 * Math.min(0.85, across(frame))}%` }"
        :title="`Lost in frame ${frame}: follow it on from where it is seen again, or set it right by hand with keys`"
        @click="bench.frame = frame"
      >
        lost here
      </button>
    </div>
    <span class="quiet" title="How much of the shape could be used to find it again, frame by frame">
      {{ least }} % of it could be used at least
    </span>
  </section>
</template>

<style scoped>
.used {
  align-items: center;
  background: var(--ground);
  border-top: 1px solid var(--line);
  display: grid;
  flex: none;
  gap: 12px;
  grid-template-columns: 170px 1fr 290px;
  height: 30px;
  padding: 0 12px;
}
.quiet {
  font-size: 13px;
}
.strip {
  height: 24px;
  margin: 0 12px;
  position: relative;
}
svg {
  height: 100%;
  width: 100%;
}
polyline {
  fill: none;
  stroke: var(--text);
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
.now {
  background: var(--accent);
  bottom: 0;
  position: absolute;
  top: 0;
  width: 1px;
}
.lost {
  color: var(--warn);
  position: absolute;
  top: 0;
}
</style>
