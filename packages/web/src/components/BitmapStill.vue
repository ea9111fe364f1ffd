<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import type { Wanted } from '../workers/protocol'
import { steady } from '../stores/steady'
import { wordsOf } from '../stores/errors'

/** A small picture that a worker makes of a frame; made anew when what is wanted becomes something else. */
const props = defineProps<{
  wanted: Wanted
  name: string
  make: (wanted: Wanted) => Promise<ImageBitmap>
  /** Width to height on the page. */
  shape: string
}>()
const canvas = ref<HTMLCanvasElement | null>(null)
const problem = ref('')
let run = 0

async function draw(): Promise<void> {
  const mine = ++run
  try {
    const bitmap = await props.make(props.wanted)
    const { value: shown } = canvas
    if (shown) {
      ;[shown.width, shown.height] = [bitmap.width, bitmap.height]
      shown.getContext('2d')!.drawImage(bitmap, 0, 0)
    }
    bitmap.close()
    if (mine === run) problem.value = ''
  } catch (error) {
    if (mine === run) problem.value = wordsOf(error)
  }
}
onMounted(draw)
watch(
  steady(() => props.wanted),
  draw,
)
</script>

<template>
  <span class="still">
    <canvas ref="canvas" role="img" :aria-label="name" :style="{ aspectRatio: shape }" />
    <span v-if="problem" class="warn">{{ problem }}</span>
  </span>
</template>

<style scoped>
.still {
  background: var(--raised);
  display: block;
}
canvas {
  display: block;
  object-fit: contain;
  width: 100%;
}
</style>
