<script setup lang="ts">
import {
  Chart,
  Legend,
  LineController,
  LineElement,
  LinearScale,
  PointElement,
  Tooltip,
  type ChartDataset,
} from 'chart.js'
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { CurvesView, Handle } from '@fogbath/core/baths'
import { CURVE_COLOURS } from './curveColours'
import { MONO, FONT, TOKENS } from '../theme/theme'
import { useLookStore } from '../stores/look'

Chart.register(LineController, LineElement, LinearScale, PointElement, Tooltip, Legend)

/** Characteristic curves or spectra, drawn with Chart.js; their handles can be dragged. */
const props = defineProps<{ view: CurvesView }>()
const emit = defineEmits<{ drag: [moves: { setting: string; by: number }[]] }>()
const canvas = ref<HTMLCanvasElement | null>(null)
const look = useLookStore()
interface Point {
  x: number
  y: number
}
const HANDLES = 'points to drag'
const MARKS = 'probes'
let chart: Chart<'line', Point[]> | undefined
let held: { handle: Handle; x: number; y: number } | undefined

const colours = (): Record<string, string> => {
  const t = TOKENS[look.theme]
  return {
    plain: t.text,
    faint: t.quiet,
    dashed: t.quiet,
    accent: t.accent,
    ...CURVE_COLOURS,
  }
}

function datasets() {
  const c = colours()
  const lines = props.view.lines.map((l) => ({
    label: l.label,
    data: l.points.map(([x, y]) => ({ x, y })),
    borderColor: c[l.style] ?? c['plain']!,
    borderDash: l.style === 'dashed' ? [5, 4] : [],
    borderWidth: l.style === 'accent' ? 2.2 : 1.5,
    pointRadius: 0,
    pointHitRadius: 0,
  }))
  const point = { borderDash: [], borderWidth: 0, pointHitRadius: 8, pointBorderWidth: 1.5, showLine: false }
  const colour = { borderColor: c['accent']!, pointBorderColor: c['accent']! }
  const sets: ChartDataset<'line', Point[]>[] = [...lines]
  if (props.view.handles?.length)
    sets.push({
      ...point,
      ...colour,
      label: HANDLES,
      pointRadius: 4,
      pointBackgroundColor: TOKENS[look.theme].panel,
      data: props.view.handles.map((h) => ({ x: h.x, y: h.y })),
    })
  if (props.view.marks?.length)
    sets.push({
      ...point,
      ...colour,
      label: MARKS,
      pointRadius: 3,
      pointBackgroundColor: c['accent']!,
      data: props.view.marks.map((m) => ({ x: m.x, y: m.y })),
    })
  return sets
}

/** Writes the labels of marked points beside them. */
const markLabels = {
  id: 'markLabels',
  afterDatasetsDraw(drawn: Chart): void {
    const { x, y } = drawn.scales
    const pen = drawn.ctx
    pen.fillStyle = TOKENS[look.theme].text
    pen.font = `13px ${MONO}`
    for (const m of props.view.marks ?? [])
      pen.fillText(m.label, x!.getPixelForValue(m.x) + 5, y!.getPixelForValue(m.y) - 4)
  },
}

function scaleOf(title: string) {
  const t = TOKENS[look.theme]
  return {
    type: 'linear' as const,
    title: { display: true, text: title, color: t.quiet, font: { family: FONT, size: 13 }, padding: 0 },
    ticks: { color: t.quiet, font: { family: MONO, size: 13 }, maxTicksLimit: 7 },
    grid: { color: t.line, lineWidth: 0.6 },
  }
}

/** Densities and shares stand on 0; what can lie below it does not. */
const negative = (): boolean => props.view.lines.some((l) => l.points.some(([, y]) => y < -1e-6))

function make(): void {
  chart?.destroy()
  chart = new Chart<'line', Point[]>(canvas.value!, {
    type: 'line',
    data: { datasets: datasets() },
    plugins: [markLabels],
    options: {
      animation: false,
      responsive: true,
      maintainAspectRatio: false,
      scales: {
        x: scaleOf(props.view.xTitle),
        y: { ...scaleOf(props.view.yTitle), ...(negative() ? {} : { min: 0 }) },
      },
      plugins: {
        legend: {
          position: 'top',
          align: 'end',
          labels: {
            color: TOKENS[look.theme].text,
            boxWidth: 14,
            boxHeight: 1,
            font: { family: FONT, size: 13 },
            padding: 6,
            filter: (item) => item.text !== HANDLES && item.text !== MARKS,
          },
        },
        tooltip: { enabled: false },
      },
    },
  })
}

const place = (e: PointerEvent): { x: number; y: number } => ({
  x: chart!.scales['x']!.getValueForPixel(e.offsetX)!,
  y: chart!.scales['y']!.getValueForPixel(e.offsetY)!,
})

function grab(e: PointerEvent): void {
  if (!chart || !props.view.handles) return
  const near = props.view.handles
    .map((handle) => ({
      handle,
      far: Math.hypot(
        chart!.scales['x']!.getPixelForValue(handle.x) - e.offsetX,
        chart!.scales['y']!.getPixelForValue(handle.y) - e.offsetY,
      ),
    }))
    .sort((a, b) => a.far - b.far)[0]
  if (!near || near.far > 14) return
  held = { handle: near.handle, ...place(e) }
  canvas.value!.setPointerCapture(e.pointerId)
}

function drag(e: PointerEvent): void {
  if (!held) return
  const now = place(e)
  const slow = e.shiftKey ? 0.2 : 1
  const moves = []
  if (held.handle.onX)
    moves.push({ setting: held.handle.onX.setting, by: (now.x - held.x) * held.handle.onX.perUnit * slow })
  if (held.handle.onY)
    moves.push({ setting: held.handle.onY.setting, by: (now.y - held.y) * held.handle.onY.perUnit * slow })
  held = { ...held, ...now }
  emit('drag', moves)
}

onMounted(make)
watch(() => look.theme, make)
watch(
  () => props.view,
  (now, before) => {
    // A drawing that says the same is left alone: redrawing is slow.
    if (JSON.stringify(now) === JSON.stringify(before)) return
    if (!chart || now.lines.length !== before.lines.length || now.title !== before.title) return make()
    chart.data.datasets = datasets()
    chart.update('none')
  },
)
onBeforeUnmount(() => chart?.destroy())
</script>

<template>
  <figure class="chart">
    <figcaption class="quiet">{{ view.title }}</figcaption>
    <div class="box">
      <canvas
        ref="canvas"
        role="img"
        :aria-label="`${view.title}: ${view.lines.map((l) => l.label).join(', ')}`"
        @pointerdown="grab"
        @pointermove="drag"
        @pointerup="held = undefined"
        @pointercancel="held = undefined"
      />
    </div>
  </figure>
</template>

<style scoped>
.chart {
  margin: 6px 0 2px;
}
figcaption {
  font-size: 13px;
}
.box {
  height: 168px;
  position: relative;
}
canvas {
  touch-action: none;
}
</style>
