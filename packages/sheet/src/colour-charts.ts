import type { PaletteView, WedgeView } from '@fogbath/core/baths'
import { scaleLinear } from 'd3-scale'
import { area } from 'd3-shape'
import { html, type Html } from './html'

/** Width of every drawing, in its own units. */
export const WIDTH = 300

export const rgb = (codes: readonly number[]): string =>
  `rgb(${codes.map((v) => Math.round(255 * Math.min(1, Math.max(0, v)))).join(' ')})`

export function palette({ swatches, ab }: PaletteView): Html {
  const across = swatches[0]!.length
  const [w, h] = [140 / across, 140 / swatches.length]
  const at = scaleLinear([-100, 100], [0, 140])
  return html`<svg
    viewBox="0 0 ${WIDTH} 140"
    role="img"
    aria-label="Colours the process can make, and where they lie in a* and b*"
  >
    ${swatches.flatMap((row, j) =>
      row.map(
        (c, i) =>
          html`<rect
            x="${(i * w).toFixed(2)}"
            y="${(j * h).toFixed(2)}"
            width="${(w + 0.1).toFixed(2)}"
            height="${(h + 0.1).toFixed(2)}"
            fill="${rgb(c)}"
          />`,
      ),
    )}
    <g transform="translate(156 0)">
      <path class="zero" d="M0 70H140M70 0V140" />
      ${ab.map(
        ([a, b], i) =>
          html`<circle
            cx="${at(a).toFixed(1)}"
            cy="${at(-b).toFixed(1)}"
            r="2"
            fill="${rgb(swatches[Math.floor(i / across)]![i % across]!)}"
          />`,
      )}
      <text x="139" y="67" text-anchor="end">a*</text>
      <text x="73" y="7">b*</text>
    </g>
  </svg>`
}

/** The hills in ink, what they come to in its colours, below them the wedge as it comes and as it becomes. */
export function wedge({ becomes, amounts, hills, limits }: WedgeView): Html {
  const last = amounts.length - 1
  const x = scaleLinear([0, last], [0, WIDTH])
  const y = scaleLinear([0, 1], [70, 6])
  const shape = area<number>(
    (_, i) => x(i),
    70,
    (v) => y(Math.min(1, v)),
  ).digits(1)
  const piece = WIDTH / becomes.length
  const row = (top: (i: number) => number, bottom: number, codes: (i: number) => readonly number[]): Html[] =>
    becomes.map(
      (_, i) =>
        html`<rect
          x="${(i * piece).toFixed(2)}"
          y="${top(i).toFixed(1)}"
          width="${(piece + 0.5).toFixed(2)}"
          shape-rendering="crispEdges"
          height="${(bottom - top(i)).toFixed(1)}"
          fill="${rgb(codes(i))}"
        />`,
    )
  const names = hills.map((h) => h.label.toLowerCase()).join(', ')
  return html`<svg viewBox="0 0 ${WIDTH} 100" role="img" aria-label="Colour by tone, from black to white">
      ${row(
        (i) => y(Math.min(1, amounts[i]!)),
        70,
        (i) => becomes[i]!,
      )}
      ${hills.map((h) => html`<path d="${shape([...h.shape]) ?? ''}" fill="none" stroke="#999999" stroke-width="0.7" />`)}
      <path d="${shape([...amounts]) ?? ''}" fill="none" stroke="#222222" stroke-width="1.1" />
      ${limits.map(({ at }) => html`<path class="zero" d="M${(at * WIDTH).toFixed(1)} 70V76" />`)}
      ${row(
        () => 76,
        84,
        (i) => [i / last, i / last, i / last],
      )}
      ${row(
        () => 84,
        100,
        (i) => becomes[i]!,
      )}
    </svg>
    <p class="legend">black to white; thin: how far ${names} reach at 100 %</p>`
}
