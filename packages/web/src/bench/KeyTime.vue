<script setup lang="ts">
import { frameOf, timecode } from '@fogbath/core/numbers'
import { useMessage } from 'naive-ui'
import { computed } from 'vue'
import { useBenchStore } from '../stores/bench'
import { wordsOf } from '../stores/errors'

/** The time of a key as a timecode that can be typed. @prop place frames from the shot's start */
const props = defineProps<{ place: number }>()
const emit = defineEmits<{ change: [place: number] }>()
const bench = useBenchStore()
const message = useMessage()
const info = computed(() => bench.shot!.medium.info)
const frame = computed(() => bench.instant.first + Math.round(props.place))

function typed(e: Event): void {
  const field = e.target as HTMLInputElement
  try {
    emit('change', frameOf(field.value, frame.value, info.value.fps, info.value.timecode) - bench.instant.first)
  } catch (error) {
    message.error(wordsOf(error))
  }
  field.value = timecode(frame.value, info.value.fps, info.value.timecode)
}
</script>

<template>
  <input
    class="mono"
    aria-label="Time of the key"
    :value="timecode(frame, info.fps, info.timecode)"
    @change="typed"
    @keydown.stop
  />
</template>

<style scoped>
input {
  background: none;
  border: 1px solid var(--line);
  color: var(--text);
  height: 24px;
  padding: 0 4px;
  width: 96px;
}
</style>
