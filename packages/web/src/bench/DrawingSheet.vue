<script setup lang="ts">
import { X } from '@vicons/tabler'
import IconButton from '../components/IconButton.vue'
import { useBenchStore } from '../stores/bench'
import BathViews from './BathViews.vue'
import { useBathViews } from './useBathViews'

/** The drawings of the chosen bath, large, over the lower third of the picture. */
const bench = useBenchStore()
const { views, drag } = useBathViews()
</script>

<template>
  <section
    v-if="bench.drawing && views.length > 0"
    class="sheet"
    aria-label="Drawings"
    @pointerdown.stop
    @dblclick.stop
    @keydown.esc.stop="bench.drawing = false"
  >
    <div class="views"><BathViews :views="views" @drag="drag" /></div>
    <IconButton class="close" :icon="X" name="Close the drawings" @click="bench.drawing = false" />
  </section>
</template>

<style scoped>
.sheet {
  background: color-mix(in srgb, var(--panel) 94%, transparent);
  border-top: 1px solid var(--line);
  bottom: 0;
  height: 34%;
  left: 0;
  min-height: 190px;
  overflow: hidden;
  padding: 4px 40px 4px 12px;
  position: absolute;
  right: 0;
  z-index: 2;
}
.views {
  display: flex;
  gap: 20px;
  height: 100%;
  overflow: auto hidden;
}
.views > :deep(figure) {
  display: flex;
  flex: 1 0 300px;
  flex-direction: column;
  margin: 0;
}
.views :deep(.box) {
  flex: 1;
  height: auto;
  min-height: 0;
}
.close {
  position: absolute;
  right: 8px;
  top: 6px;
}
</style>
