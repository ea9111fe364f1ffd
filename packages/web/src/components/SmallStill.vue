<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { Wanted } from '../workers/side'
import { drawStill } from './still'
import { watchEach } from './watchEach'
import { wordsOf } from './complain'

/** One frame, small; drawn anew when what is wanted becomes something else. */
const props = defineProps<{ wanted: Wanted; name: string }>()
const canvas = ref<HTMLCanvasElement | null>(null)
const problem = ref('')
let run = 0

async function draw(): Promise<void> {
  const mine = ++run
  try {
    await drawStill(canvas.value!, props.wanted)
    if (mine === run) problem.value = ''
  } catch (error) {
    if (mine === run) problem.value = wordsOf(error)
  }
}
onMounted(draw)
watchEach(() => [JSON.stringify(props.wanted)], draw)
</script>

<template>
  <span class="still">
    <canvas ref="canvas" role="img" :aria-label="name" />
    <span v-if="problem" class="warn">{{ problem }}</span>
  </span>
</template>

<style scoped>
.still {
  background: var(--raised);
  display: block;
}
canvas {
  aspect-ratio: 16 / 9;
  display: block;
  object-fit: contain;
  width: 100%;
}
</style>
