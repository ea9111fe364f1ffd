<script setup lang="ts">
import type { Shot } from '@fogbath/contract'
import { NOTHING } from '@fogbath/core/line'
import { usePointerSwipe } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'
import SmallStill from '../components/SmallStill.vue'
import { frameOrder } from '../workers/order'
import type { StripView } from './cuts'

/** Frames of a shot in a row, with its cuts as marks that are dragged, moved by arrow keys, and deleted. */
const props = defineProps<{ shot: Shot; view: StripView; marks: readonly number[] }>()
/** The frame that is looked at. */
const at = defineModel<number>('at', { required: true })
const emit = defineEmits<{ move: [from: number, to: number]; remove: [frame: number] }>()

const PICTURES = 12
const root = useTemplateRef('root')

const frames = computed(() =>
  Array.from({ length: PICTURES }, (_, i) => props.view.from + Math.floor(((i + 0.5) * props.view.count) / PICTURES)),
)
const wantedOf = (frame: number) => ({ ...frameOrder(props.shot, { recipe: NOTHING, after: [] }, frame), width: 160 })
const seen = computed(() =>
  props.marks.filter((frame) => frame >= props.view.from && frame < props.view.from + props.view.count),
)
const share = (frame: number): string => `${(100 * (frame - props.view.from)) / props.view.count}%`
function frameAt(x: number): number {
  const { left, width } = root.value!.getBoundingClientRect()
  const frame = Math.round(props.view.from + ((x - left) / width) * props.view.count)
  return Math.min(props.shot.last, Math.max(props.shot.first + 1, frame))
}

/** The mark that is dragged, by where it is now. */
const dragged = ref<number | null>(null)
usePointerSwipe(root, {
  threshold: 2,
  onSwipeStart: (e) => {
    const mark = (e.target as HTMLElement).closest<HTMLElement>('[data-cut]')
    dragged.value = mark ? Number(mark.dataset['cut']) : null
  },
  onSwipe: (e) => dragged.value !== null && moveTo(frameAt(e.clientX)),
  onSwipeEnd: () => (dragged.value = null),
})
function moveTo(frame: number): void {
  if (frame === dragged.value) return
  emit('move', dragged.value!, frame)
  dragged.value = at.value = frame
}

const STEPS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1 }
function key(e: KeyboardEvent, frame: number): void {
  const step = STEPS[e.key]
  if (step !== undefined) {
    const to = Math.min(props.shot.last, Math.max(props.shot.first + 1, frame + step * (e.shiftKey ? 10 : 1)))
    emit('move', frame, to)
    at.value = to
  } else if (e.key === 'Delete') emit('remove', frame)
  else return
  e.preventDefault()
}
</script>

<template>
  <div ref="root" class="strip" @click="(e) => (at = frameAt(e.clientX))">
    <SmallStill v-for="(f, i) in frames" :key="i" :wanted="wantedOf(f)" :name="`Frame ${f}`" />
    <i class="at" :style="{ left: share(at) }" />
    <button
      v-for="(m, i) in seen"
      :key="i"
      class="cut"
      :class="{ chosen: m === at }"
      type="button"
      :data-cut="m"
      :style="{ left: share(m) }"
      :aria-label="`Cut at frame ${m}`"
      title="Drag it, or move it with the arrow keys; Delete takes it away"
      @click.stop="at = m"
      @keydown="key($event, m)"
    />
  </div>
</template>

<style scoped>
.strip {
  cursor: pointer;
  display: grid;
  grid-template-columns: repeat(12, 1fr);
  margin: 14px 0 6px;
  position: relative;
  touch-action: pan-y;
  user-select: none;
}
.at {
  border-left: 1px dashed var(--text);
  bottom: -6px;
  pointer-events: none;
  position: absolute;
  top: -6px;
}
.cut {
  background: var(--accent);
  border: 0;
  bottom: -8px;
  cursor: ew-resize;
  margin-left: -2px;
  padding: 0;
  position: absolute;
  top: -8px;
  width: 4px;
}
.cut.chosen {
  outline: 2px solid var(--text);
}
/* Its target is wider than the mark. */
.cut::after {
  content: '';
  inset: 0 -10px;
  position: absolute;
}
</style>
