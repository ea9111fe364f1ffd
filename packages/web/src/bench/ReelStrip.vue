<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import type { useReel } from './useReel'
import { placeAt } from '../workers/reel'

/** The reel under the time line: its shots as wide as they are long, with their pictures; a click goes there. */
const props = defineProps<{ reel: ReturnType<typeof useReel>; pictureOf: (shotId: number) => string | null }>()
const emit = defineEmits<{ go: [shotId: number, frame: number] }>()
const root = useTemplateRef('root')

const whole = computed(() => props.reel.beginnings.value.at(-1) ?? 0)
const share = (seconds: number): string => `${whole.value > 0 ? (100 * seconds) / whole.value : 0}%`
const lengths = computed(() =>
  props.reel.shots.value.map((shot, i) => {
    const { beginnings } = props.reel
    return { shot, width: share(beginnings.value[i + 1]! - beginnings.value[i]!) }
  }),
)
const now = computed(() => props.reel.place.value?.index)
function go(e: MouseEvent, index: number): void {
  const { parts, beginnings, shots } = props.reel
  const { left, width } = root.value!.getBoundingClientRect()
  // A key has no place: it goes to where the shot begins.
  const seconds = e.detail === 0 ? beginnings.value[index]! : ((e.clientX - left) / width) * whole.value
  const place = placeAt(parts.value, beginnings.value, seconds)
  if (place) emit('go', shots.value[place.index]!.id, place.frame)
}
const clock = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`
</script>

<template>
  <div class="reel" role="group" aria-label="Reel">
    <div ref="root" class="shots">
      <button
        v-for="({ shot, width }, i) in lengths"
        :key="shot.id"
        type="button"
        :style="{ width, backgroundImage: pictureOf(shot.id) ? `url(${pictureOf(shot.id)})` : 'none' }"
        :aria-current="i === now"
        :aria-label="`${shot.name} in the reel`"
        :title="shot.name"
        @click="go($event, i)"
      />
      <i class="now" :style="{ left: share(reel.seconds.value) }" />
    </div>
    <span class="mono quiet" data-test="reel-time">{{ clock(reel.seconds.value) }} of {{ clock(whole) }}</span>
  </div>
</template>

<style scoped>
.reel {
  align-items: center;
  background: var(--ground);
  display: flex;
  flex: none;
  gap: 12px;
  padding: 0 12px 4px;
}
.shots {
  display: flex;
  flex: 1;
  height: 34px;
  position: relative;
}
button {
  background: var(--raised) center / cover;
  border: 0;
  border-bottom: 2px solid transparent;
  border-right: 1px solid var(--ground);
  cursor: pointer;
  min-width: 2px;
  padding: 0;
}
button[aria-current='true'] {
  border-bottom-color: var(--accent);
}
.now {
  border-left: 2px solid var(--text);
  bottom: -2px;
  pointer-events: none;
  position: absolute;
  top: -2px;
}
</style>
