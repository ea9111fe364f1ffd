<script setup lang="ts">
import { frameOf, timecode } from '@fogbath/core/numbers'
import { useMessage } from 'naive-ui'
import { nextTick, ref } from 'vue'
import { useBenchStore } from '../stores/bench'
import { wordsOf } from '../stores/errors'

/** The frame's timecode; a click on it lets another one be typed. */
const props = defineProps<{ fps: string; start: string | undefined }>()
const bench = useBenchStore()
const message = useMessage()
const typed = ref<string | null>(null)
const field = ref<HTMLInputElement | null>(null)

async function begin(): Promise<void> {
  typed.value = timecode(bench.frame, props.fps, props.start)
  await nextTick()
  field.value?.select()
}
function end(): void {
  const { shot } = bench
  if (typed.value === null || !shot) return
  try {
    bench.frame = Math.min(shot.last, Math.max(shot.first, frameOf(typed.value, bench.frame, props.fps, props.start)))
  } catch (error) {
    message.error(wordsOf(error))
  }
  typed.value = null
}
</script>

<template>
  <input
    v-if="typed !== null"
    ref="field"
    v-model="typed"
    class="mono time"
    aria-label="Timecode"
    @keydown.enter="end"
    @keydown.esc.stop="typed = null"
    @blur="typed = null"
  />
  <button
    v-else
    class="word mono time"
    type="button"
    data-test="time"
    title="Timecode: click to type another, or +10, -10 frames"
    @click="begin"
  >
    {{ timecode(bench.frame, fps, start) }}
  </button>
</template>

<style scoped>
.time {
  background: none;
  border: 1px solid transparent;
  color: var(--text);
  height: 24px;
  padding: 0 2px;
  text-align: center;
  width: 96px;
}
input.time {
  border-color: var(--accent);
}
</style>
