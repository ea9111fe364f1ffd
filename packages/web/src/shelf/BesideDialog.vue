<script setup lang="ts">
import { computed } from 'vue'
import SheetDialog from '../components/SheetDialog.vue'
import SmallStill from '../components/SmallStill.vue'
import { through } from '../workers/order'
import type { FrameOrder } from '../workers/protocol'
import type { ShelfEntry } from './entries'

/** Two to four recipes large, on the picture and on the wedge. */
const props = defineProps<{ entries: readonly ShelfEntry[]; shown: FrameOrder | null }>()
const show = defineModel<boolean>('show', { required: true })
const pictures = computed(() =>
  props.entries.map((entry) => {
    const { shown } = props
    const { recipe } = entry
    if (!shown) return { entry, onPicture: null, onWedge: null }
    const wedge: FrameOrder = { ...shown, source: { type: 'chart', chart: 'wedge' }, frame: 0 }
    return { entry, onPicture: through(shown, recipe, 960), onWedge: through(wedge, recipe, 480) }
  }),
)
</script>

<template>
  <SheetDialog v-model:show="show" title="Side by side" :width="1400">
    <div class="all" :class="{ two: entries.length <= 2 }">
      <section v-for="{ entry, onPicture, onWedge } in pictures" :key="entry.key" :aria-label="entry.name">
        <SmallStill v-if="onPicture" :wanted="onPicture" :name="`${entry.name} on the picture`" />
        <SmallStill v-if="onWedge" class="wedge" :wanted="onWedge" :name="`${entry.name} on the grey wedge`" />
        <h3>{{ entry.name }}</h3>
      </section>
    </div>
  </SheetDialog>
</template>

<style scoped>
.all {
  display: grid;
  gap: 10px 14px;
  grid-template-columns: 1fr 1fr;
}
.wedge {
  height: 40px;
  margin-top: 3px;
  overflow: hidden;
}
.wedge :deep(canvas) {
  aspect-ratio: auto;
  height: 40px;
  object-fit: fill;
}
h3 {
  font-size: 14px;
  margin: 3px 0 0;
}
</style>
