<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { watchEach } from './watchEach'
import type { Shot } from '../api/types'
import { drawFootage } from './still'

/** One frame of the footage, untreated and small. */
const props = defineProps<{ shot: Shot; width: number }>()
const canvas = ref<HTMLCanvasElement | null>(null)
const problem = ref('')

async function draw(): Promise<void> {
  try {
    await drawFootage(canvas.value!, props.shot, props.width)
    problem.value = ''
  } catch (error) {
    problem.value = error instanceof Error ? error.message : String(error)
  }
}
onMounted(draw)
watchEach(() => [props.shot.still, props.shot.encoding], draw)
</script>

<template>
  <span class="still">
    <canvas ref="canvas" role="img" :aria-label="`${shot.name}, untreated`" />
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
