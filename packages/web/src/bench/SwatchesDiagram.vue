<script setup lang="ts">
import type { SwatchesView } from '@fogbath/core/baths'
import { onMounted, onUpdated, useTemplateRef } from 'vue'

/** Small pictures pixel for pixel, such as grain at some densities. */
const props = defineProps<{ view: SwatchesView }>()
const places = useTemplateRef<HTMLCanvasElement[]>('places')

function draw(): void {
  const { width, height, pictures } = props.view
  places.value?.forEach((canvas, n) => {
    const pen = canvas.getContext('2d')!
    const image = pen.createImageData(width, height)
    const { codes } = pictures[n]!
    for (let i = 0; i < width * height; i++) {
      for (let k = 0; k < 3; k++) image.data[4 * i + k] = Math.round(255 * codes[3 * i + k]!)
      image.data[4 * i + 3] = 255
    }
    pen.putImageData(image, 0, 0)
  })
}
onMounted(draw)
onUpdated(draw)
</script>

<template>
  <figure class="swatches">
    <figcaption class="quiet">{{ view.title }}</figcaption>
    <div v-for="picture in view.pictures" :key="picture.label">
      <canvas
        ref="places"
        :width="view.width"
        :height="view.height"
        role="img"
        :aria-label="`Grain, ${picture.label}`"
      />
      <span class="quiet">{{ picture.label }}</span>
    </div>
  </figure>
</template>

<style scoped>
.swatches {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  margin: 8px 0;
}
figcaption {
  flex: 0 0 100%;
  font-size: 13px;
}
div {
  display: grid;
  font-size: 13px;
  justify-items: center;
}
canvas {
  display: block;
  image-rendering: pixelated;
}
</style>
