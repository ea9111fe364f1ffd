<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { moveBath, placeInLine, type Bath } from '@fogbath/core'
import NamedSlider from '../components/NamedSlider.vue'
import TestStrip from '../components/TestStrip.vue'
import { useBenchStore } from '../stores/bench'
import type { BathChange, StripColours } from '../workers/protocol'
import { keyOf } from './keys'
import BathTile from './BathTile.vue'
import { roomForTiles } from './lineRoom'

/** The line: camera at the left, screen at the right, every bath with the strip that leaves it. */
defineProps<{ strips: readonly StripColours[]; changes: readonly (BathChange | null)[] }>()
const emit = defineEmits<{ add: [] }>()
const bench = useBenchStore()

const baths = computed({
  get: () => [...bench.recipe.baths],
  // Dragging hands back the whole list; only an order that keeps the stretches is taken.
  set: (list: Bath[]) => {
    const moved = list.findIndex((b, i) => b.id !== bench.recipe.baths[i]?.id)
    if (moved < 0) return
    const id = list[moved]!.id
    const from = bench.recipe.baths.findIndex((b) => b.id === id)
    const next =
      from > moved
        ? moveBath(bench.recipe, id, moved)
        : moveBath(
            bench.recipe,
            bench.recipe.baths[moved]!.id,
            list.findIndex((b) => b.id === bench.recipe.baths[moved]!.id),
          )
    bench.change(next)
  },
})
const root = ref<HTMLElement | null>(null)
const { width } = useElementSize(root)
/** What both ends and the padding take. */
const ENDS = 246
const rooms = computed(() =>
  roomForTiles(bench.recipe.baths.length, placeInLine(bench.recipe, bench.chosen), width.value - ENDS),
)
</script>

<template>
  <section ref="root" class="line" aria-label="Line">
    <div class="end">
      <button
        class="word"
        type="button"
        :aria-pressed="bench.tap === 0"
        title="Look at the picture before any bath"
        @click="bench.tap = bench.tap === 0 ? null : 0"
      >
        Camera
      </button>
      <div class="pipe" />
      <span class="quiet">footage</span>
      <TestStrip :colours="strips[0]" label="footage" />
    </div>
    <VueDraggable v-model="baths" class="baths" :animation="120" handle=".tray" ghost-class="ghost">
      <BathTile
        v-for="(bath, i) in baths"
        :key="bath.id"
        class="bath"
        :style="{ width: `${rooms[i]!.width}px` }"
        :folded="rooms[i]!.folded"
        :narrow="rooms[i]!.width < 116"
        :bath="bath"
        :index="i"
        :strip="strips[i + 1]"
        :change="changes[i] ?? null"
      />
    </VueDraggable>
    <div class="end">
      <button class="word add" type="button" :title="`Add a bath or a recipe (${keyOf('add')})`" @click="emit('add')">
        + add a bath
      </button>
      <div class="pipe whole" title="Strength of the whole line">
        <NamedSlider
          :value="bench.recipe.strength"
          :min="0"
          :max="100"
          :step="1"
          unit="%"
          name="Strength of the whole line"
          @change="(v) => bench.change({ ...bench.recipe, strength: v }, 'whole')"
          @reset="bench.change({ ...bench.recipe, strength: 100 }, 'whole')"
        />
        <span class="mono">{{ Math.round(bench.recipe.strength) }} %</span>
      </div>
      <span class="quiet">screen</span>
      <TestStrip :colours="strips[strips.length - 1]" label="screen" />
    </div>
  </section>
</template>

<style scoped>
.line {
  align-items: flex-start;
  background: var(--ground);
  border-top: 1px solid var(--line);
  display: flex;
  min-height: 152px;
  overflow-x: auto;
  padding: 8px 12px;
}
.baths {
  display: flex;
}
.bath,
.end {
  display: flex;
  flex: 0 0 auto;
  flex-direction: column;
  gap: 3px;
  padding: 0 6px;
  width: 126px;
}
.end {
  width: 96px;
}
.pipe {
  border-top: 2px solid var(--quiet);
  height: 43px;
  margin: 1px -6px 0;
}
.whole {
  align-items: center;
  display: flex;
  gap: 6px;
  padding-left: 10px;
  white-space: nowrap;
}
.end:last-child {
  flex: 1 0 150px;
  max-width: 520px;
}
.end .word {
  align-self: flex-start;
}
.end .quiet {
  font-size: 13px;
  height: 20px;
}
.add {
  color: var(--accent);
}
.ghost {
  opacity: 0.4;
}
</style>
