import type { CurvesView, MixesView, ToningView, View } from '@fogbath/core/baths'
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { WIDTH, palette, wedge } from './colour-charts'
import { html, type Html } from './html'

/** The drawings of a kind as vector pictures on white paper. Grain swatches are pixels and stay on the screen. */
export function chartOf(view: View): Html | null {
  switch (view.view) {
    case 'curves':
      return framed(view.title, curves(view))
    case 'mixes':
      return framed(view.title, mixes(view))
    case 'toning':
      return framed(view.title, toning(view))
    case 'palette':
      return framed(view.title, palette(view))
    case 'wedge':
      return framed(view.title, wedge(view))
    case 'swatches':
      return null
  }
}

const framed = (title: string, drawing: Html): Html =>
  html`<figure>
    <figcaption>${title}</figcaption>
    ${drawing}
  </figure>`

const HEIGHT = 150
const [LEFT, RIGHT, TOP, BOTTOM] = [32, 6, 6, 26]

/** How lines are told apart in ink; a hue only where the line stands for a dye or a record. */
const INK: Record<string, { stroke: string; dash?: string; wide?: number }> = {
  plain: { stroke: '#222222' },
  faint: { stroke: '#999999' },
  dashed: { stroke: '#222222', dash: '4 3' },
  accent: { stroke: '#000000', wide: 1.8 },
  cyan: { stroke: '#0b7f93' },
  magenta: { stroke: '#b02a7a', dash: '7 2' },
  yellow: { stroke: '#a98500', dash: '2 2' },
  red: { stroke: '#b3261e' },
  green: { stroke: '#2c7a3a', dash: '7 2' },
  blue: { stroke: '#2b4fb0', dash: '2 2' },
  warm: { stroke: '#a05a1c', dash: '7 2' },
}

function curves({ lines, xTitle, yTitle, marks = [] }: CurvesView): Html {
  const all = lines.flatMap((l) => l.points)
  const x = scaleLinear([Math.min(...all.map((p) => p[0])), Math.max(...all.map((p) => p[0]))], [LEFT, WIDTH - RIGHT])
  const y = scaleLinear(
    [Math.min(0, ...all.map((p) => p[1])), Math.max(...all.map((p) => p[1]), 1e-6)],
    [HEIGHT - BOTTOM, TOP],
  ).nice(4)
  const path = line<readonly [number, number]>(
    (p) => x(p[0]),
    (p) => y(p[1]),
  ).digits(1)
  return html`<svg viewBox="0 0 ${WIDTH} ${HEIGHT}" role="img" aria-label="${yTitle} over ${xTitle}">
      <g class="grid">
        ${x.ticks(6).map((v) => html`<path d="M${x(v).toFixed(1)} ${TOP}V${HEIGHT - BOTTOM}" /><text x="${x(v).toFixed(1)}" y="${HEIGHT - BOTTOM + 9}" text-anchor="middle">${x.tickFormat(6)(v)}</text>`)}
        ${y.ticks(4).map((v) => html`<path d="M${LEFT} ${y(v).toFixed(1)}H${WIDTH - RIGHT}" /><text x="${LEFT - 3}" y="${(y(v) + 2.5).toFixed(1)}" text-anchor="end">${y.tickFormat(4)(v)}</text>`)}
      </g>
      <text class="axis" x="${(LEFT + WIDTH - RIGHT) / 2}" y="${HEIGHT - 3}" text-anchor="middle">${xTitle}</text>
      <text class="axis" transform="translate(7 ${(TOP + HEIGHT - BOTTOM) / 2}) rotate(-90)" text-anchor="middle">
        ${yTitle}
      </text>
      ${lines.map(({ style, points }) => {
        const ink = INK[style]!
        return html`<path
          d="${path(points) ?? ''}"
          fill="none"
          stroke="${ink.stroke}"
          stroke-width="${ink.wide ?? 1.1}"
          stroke-dasharray="${ink.dash ?? 'none'}"
        />`
      })}
      ${marks.map((m) => html`<circle cx="${x(m.x).toFixed(1)}" cy="${y(m.y).toFixed(1)}" r="1.8" /><text x="${(x(m.x) + 3).toFixed(1)}" y="${(y(m.y) - 3).toFixed(1)}">${m.label}</text>`)}
    </svg>
    <p class="legend">
      ${lines.map(({ label, style }) => {
        const ink = INK[style]!
        return html`<span
          ><svg viewBox="0 0 18 6">
            <path
              d="M0 3H18"
              stroke="${ink.stroke}"
              stroke-width="${ink.wide ?? 1.1}"
              stroke-dasharray="${ink.dash ?? 'none'}"
            /></svg
          >${label}</span
        > `
      })}
    </p>`
}

const BARS = ['#b3261e', '#2c7a3a', '#2b4fb0']
const ROW = 30

function mixes({ rows }: MixesView): Html {
  const least = Math.min(0, ...rows.flatMap((r) => r.mix))
  const most = Math.max(1, ...rows.flatMap((r) => r.mix))
  const x = scaleLinear([least, most], [90, WIDTH - 34])
  return html`<svg viewBox="0 0 ${WIDTH} ${rows.length * ROW}" role="img" aria-label="Records">
    <path class="zero" d="M${x(0).toFixed(1)} 0V${rows.length * ROW}" />
    ${rows.map(
      ({ label, mix }, i) =>
        html`<text x="0" y="${i * ROW + 17}">${label}</text>${mix.map(
            (v, k) =>
              html`<rect
                  x="${Math.min(x(0), x(v)).toFixed(1)}"
                  y="${i * ROW + 2 + k * 9}"
                  width="${Math.abs(x(v) - x(0)).toFixed(1)}"
                  height="7"
                  fill="${BARS[k]!}"
                /><text class="figure" x="${WIDTH}" y="${i * ROW + 8 + k * 9}" text-anchor="end"
                  >${v.toFixed(2)}</text
                >`,
          )}`,
    )}
  </svg>`
}

const COMPOUNDS: Record<string, string> = {
  silver: '#777777',
  sulphide: '#8a5a2c',
  selenium: '#7d4a55',
  gold: '#66739f',
  'iron-blue': '#2f5ea8',
  gilded: '#a84d26',
  copper: '#a84a32',
}

function toning({ densities, bands }: ToningView): Html {
  const x = scaleLinear([0, densities.length - 1], [0, WIDTH])
  const y = scaleLinear([0, 1], [80, 0])
  const below = densities.map(() => 0)
  const shapes = bands.map(({ label, style, shares }) => {
    const from = [...below]
    shares.forEach((share, i) => (below[i] = below[i]! + share))
    const shape = area<number>(
      (_, i) => x(i),
      (_, i) => y(from[i]!),
      (_, i) => y(below[i]!),
    ).digits(1)
    return { label, fill: COMPOUNDS[style] ?? '#555555', d: shape([...shares]) ?? '' }
  })
  return html`<svg viewBox="0 0 ${WIDTH} 80" role="img" aria-label="Compounds from light to dark">
      ${shapes.map(({ d, fill }) => html`<path d="${d}" fill="${fill}" />`)}
    </svg>
    <p class="legend">
      light <span class="gap"></span>
      ${shapes.map(({ label, fill }) => html`<span><i style="background:${fill}"></i>${label}</span> `)}
      <span class="gap"></span> dark
    </p>`
}
