<script setup lang="ts">
import { useIntersectionObserver } from '@vueuse/core'
import { ref, watch } from 'vue'
import FamilyEmblem from '../../components/FamilyEmblem.vue'
import type { Wanted } from '../../workers/protocol'
import type { Entry } from './entries'
import type { SmallPictures } from '../../components/pictures'

/** One entry of the board: what it makes of the frame, drawn when it comes into view. */
const props = defineProps<{
  entry: Entry
  wanted: Wanted | null
  pictures: SmallPictures
  first: boolean
  current: boolean
}>()
const emit = defineEmits<{ point: []; take: [] }>()
const root = ref<HTMLElement | null>(null)
const canvas = ref<HTMLCanvasElement | null>(null)
const seen = ref(false)
useIntersectionObserver(root, ([entry]) => (seen.value = entry?.isIntersecting ?? false), { rootMargin: '80px' })

async function draw(): Promise<void> {
  const { wanted } = props
  if (!seen.value || !wanted) return
  const picture = await props.pictures.get(wanted)
  if (!picture || wanted !== props.wanted || !canvas.value) return
  ;[canvas.value.width, canvas.value.height] = [picture.width, picture.height]
  canvas.value.getContext('2d')!.drawImage(picture, 0, 0)
}
watch([seen, () => props.wanted], () => void draw())
</script>

<template>
  <button
    ref="root"
    type="button"
    class="entry"
    :class="{ first }"
    :data-entry="entry.id"
    :data-type="entry.type"
    :tabindex="current ? 0 : -1"
    :title="entry.summary"
    @mouseenter="emit('point')"
    @focus="emit('point')"
    @click="emit('take')"
  >
    <canvas ref="canvas" width="16" height="9" aria-hidden="true" />
    <span class="label"><FamilyEmblem v-if="entry.type === 'bath'" :family="entry.emblem" /> {{ entry.label }}</span>
    <span class="quiet what"
      >{{ first ? 'Enter adds it · ' : ''
      }}{{ entry.type === 'recipe' ? 'whole look' : entry.family.toLowerCase() }}</span
    >
  </button>
</template>

<style scoped>
.entry {
  background: none;
  border: 0;
  color: var(--text);
  cursor: pointer;
  display: block;
  font: inherit;
  line-height: 1.15;
  min-width: 0;
  padding: 3px;
  text-align: left;
}
.entry:hover,
.entry:focus-visible,
.entry.first {
  background: var(--raised);
}
.entry.first {
  box-shadow: inset 0 -2px 0 var(--accent);
}
canvas {
  aspect-ratio: 16 / 9;
  background: var(--surround);
  display: block;
  margin-bottom: 3px;
  object-fit: contain;
  width: 100%;
}
.label {
  display: block;
}
.label svg {
  vertical-align: -2px;
}
.what {
  font-size: 13px;
}
</style>
