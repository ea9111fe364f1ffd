<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'

/** A mask as a small picture. */
const props = defineProps<{ picture: ImageBitmap }>()
const canvas = ref<HTMLCanvasElement | null>(null)

function draw(): void {
  const { picture } = props
  const target = canvas.value!
  target.width = picture.width
  target.height = picture.height
  target.getContext('2d')!.drawImage(picture, 0, 0)
}
onMounted(draw)
watch(() => props.picture, draw)
</script>

<template><canvas ref="canvas" class="picture" role="img" aria-label="Its mask" /></template>

<style scoped>
.picture {
  border: 1px solid var(--quiet);
  display: block;
  height: 18px;
  width: auto;
}
</style>
