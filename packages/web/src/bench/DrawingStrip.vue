<script setup lang="ts">
import type { CurvesView, Drawing } from '@fogbath/core/baths'
import BathViews from './BathViews.vue'
import { CURVE_COLOURS } from './curveColours'

/** What a bath draws of itself, small and in one row; a click opens it large over the picture's lower third. */
defineProps<{ views: readonly Drawing[]; open: boolean }>()
defineEmits<{ open: [] }>()
const [WIDTH, HEIGHT] = [96, 40] as const
const COLOURS: Partial<Record<string, string>> = {
  accent: 'var(--accent)',
  ...CURVE_COLOURS,
  plain: 'var(--text)',
}

/** The lines of a drawing as those of a picture of its own size. */
function linesOf({ lines }: CurvesView): { label: string; colour: string; points: string }[] {
  const [xs, ys] = [0, 1].map((axis) => lines.flatMap((l) => l.points.map((p) => p[axis as 0 | 1])))
  const place = (v: number, all: readonly number[], length: number): number => {
    const [least, most] = [Math.min(...all), Math.max(...all)]
    return most > least ? (length * (v - least)) / (most - least) : length / 2
  }
  return lines.map(({ label, style, points }) => ({
    label,
    colour: COLOURS[style] ?? 'var(--quiet)',
    points: points
      .map(([x, y]) => `${place(x, xs!, WIDTH).toFixed(1)},${(HEIGHT - place(y, ys!, HEIGHT)).toFixed(1)}`)
      .join(' '),
  }))
}
</script>

<template>
  <button
    v-if="views.length > 0"
    class="drawings"
    type="button"
    :aria-expanded="open"
    aria-label="Drawings of the bath"
    :title="`${views.map((v) => v.title).join('; ')}: ${open ? 'close' : 'open large'}`"
    @click="$emit('open')"
  >
    <span v-for="view in views" :key="view.view + view.title" class="small" inert>
      <svg v-if="view.view === 'curves'" :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" preserveAspectRatio="none">
        <polyline v-for="l in linesOf(view)" :key="l.label" :points="l.points" :stroke="l.colour" />
      </svg>
      <BathViews v-else :views="[view]" />
    </span>
  </button>
</template>

<style scoped>
.drawings {
  background: none;
  border: 0;
  border-bottom: 1px solid var(--line);
  cursor: pointer;
  display: flex;
  gap: 8px;
  height: 56px;
  overflow: hidden;
  padding: 6px 0;
  width: 100%;
}
.drawings:hover {
  background: var(--ground);
}
.small {
  background: var(--ground);
  display: block;
  flex: 0 1 110px;
  height: 44px;
  min-width: 56px;
  overflow: hidden;
}
.small svg {
  display: block;
  height: 100%;
  width: 100%;
}
polyline {
  fill: none;
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
}
/* Of the others only the drawing itself. */
.small :deep(figure) {
  margin: 0;
}
.small :deep(figcaption),
.small :deep(.legend) {
  display: none;
}
</style>
