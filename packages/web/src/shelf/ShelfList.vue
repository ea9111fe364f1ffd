<script setup lang="ts">
import { useElementSize, useVirtualList } from '@vueuse/core'
import { computed, onUnmounted, ref, watch } from 'vue'
import { SmallPictures } from '../components/pictures'
import { startEngines } from '../workers/engine'
import { through } from '../workers/order'
import type { FrameOrder, Wanted } from '../workers/protocol'
import { rowsOf, type Group, type ShelfEntry, type Sought } from './entries'
import ShelfTile, { type TileAction } from './ShelfTile.vue'

/** Recipes as tiles under their headings; only rows in view are in the page, and pictures are made as they come into view. */
const props = defineProps<{
  groups: readonly Group[]
  shown: FrameOrder | null
  /** Width that the pictures have at least, CSS pixels. */
  size: number
  shares: boolean
  /** The shot that recipes are shown on, where it is one. */
  shotName: string | null
  /** What is looked for, and in which order. */
  sought: Sought
  /** Keys of those that are ticked. */
  beside: readonly string[]
}>()
const emit = defineEmits<{
  beside: [entry: ShelfEntry, on: boolean]
  favourite: [entry: ShelfEntry]
  act: [what: TileAction, entry: ShelfEntry]
}>()

const engines = startEngines(1)
const pictures = new SmallPictures(() => engines.picture)
onUnmounted(() => {
  pictures.end()
  engines.end()
})

const GAP = 12
/** Heights of a tile below its picture, and of a heading. */
const [TEXTS, HEAD] = [118, 40]
const measured = ref<HTMLElement | null>(null)
const { width } = useElementSize(measured)
const across = computed(() => Math.max(1, Math.floor((width.value + GAP) / (props.size + GAP))))
const rows = computed(() => rowsOf(props.groups, across.value))
const tileHeight = computed(() => (((width.value - GAP * (across.value - 1)) / across.value) * 9) / 16 + TEXTS)
const { list, containerProps, wrapperProps, scrollTo } = useVirtualList(rows, {
  itemHeight: (i) => (rows.value[i] && 'tiles' in rows.value[i] ? tileHeight.value : HEAD),
  overscan: 2,
})
// Another order or another search begins at the top; a favourite or a new version does not.
watch(
  () => props.sought,
  () => scrollTo(0),
)

/** What tiles show, the same object as long as it is the same. */
const wanted = computed(() => {
  const on = props.shown
  const all = new Map<string, Wanted>()
  if (on)
    for (const { list: entries } of props.groups)
      for (const { key, recipe } of entries) all.set(key, through(on, recipe, 384))
  return all
})
</script>

<template>
  <div v-bind="containerProps" class="scroll" tabindex="0" role="region" aria-label="Recipes">
    <div ref="measured" class="measure" />
    <div v-bind="wrapperProps">
      <template v-for="{ data: row, index } in list" :key="index">
        <h2 v-if="'title' in row" :style="{ height: `${HEAD}px` }">{{ row.title }}</h2>
        <div v-else class="tiles" :style="{ height: `${tileHeight}px`, '--across': across }">
          <ShelfTile
            v-for="entry in row.tiles"
            :key="entry.key"
            :entry="entry"
            :wanted="wanted.get(entry.key) ?? null"
            :pictures="pictures"
            :shares="shares"
            :shot-name="shotName"
            :beside="beside.includes(entry.key)"
            @beside="(on) => emit('beside', entry, on)"
            @favourite="emit('favourite', entry)"
            @act="(what) => emit('act', what, entry)"
          />
        </div>
      </template>
    </div>
    <slot />
  </div>
</template>

<style scoped>
.scroll {
  flex: 1;
  margin: 0 -8px;
  min-height: 0;
  padding: 0 8px;
}
.measure {
  height: 0;
}
h2 {
  line-height: 40px;
}
.tiles {
  display: grid;
  gap: 0 12px;
  grid-template-columns: repeat(var(--across), minmax(0, 1fr));
}
</style>
