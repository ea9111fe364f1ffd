import Type, { type Static } from 'typebox'
import type { Field } from '../../stages/space'
import { choice, colour, number, percent } from '../fields'
import { ring, stroke } from '../emblem'
import { rise } from '../grading/codes'
import { codesOf } from '../grading/veil'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'
import { TEXTURE } from './family'

const place = (title: string, description: string) =>
  number(-100, 100, 0, { title, description, group: 'Shape', unit: '%', step: 1 })

const VignetteSettings = Type.Object(
  {
    edges: number(-100, 100, -35, {
      title: 'Edges',
      description: 'Darker (below 0) or lighter; by exposure, 100 % are three stops at the outermost.',
      group: 'Vignette',
      unit: '%',
      step: 1,
      first: true,
    }),
    works: choice(['exposure', 'paint'], ['By exposure', 'Painted over'], 'exposure', {
      title: 'Works',
      description: 'Exposure keeps the colours’ proportions; paint lays a colour over the edges.',
      group: 'Vignette',
      first: true,
    }),
    paint: colour('#000000', {
      title: 'Paint',
      description: 'The colour that is laid over the edges.',
      group: 'Vignette',
    }),
    size: number(10, 180, 95, {
      title: 'Size',
      description: 'Where half of the darkening is reached, in per cent of half the picture’s width and height.',
      group: 'Shape',
      unit: '%',
      step: 1,
      first: true,
    }),
    softness: percent(70, {
      title: 'Softness',
      description: 'How broad the way from the middle to the edges is.',
      group: 'Shape',
      first: true,
    }),
    square: percent(0, {
      title: 'Square',
      description: 'From an ellipse to a rectangle with rounded corners.',
      group: 'Shape',
      first: true,
    }),
    across: place('Centre, across', 'To the right, in per cent of half the width.'),
    down: place('Centre, down', 'In per cent of half the height.'),
    rotation: number(-90, 90, 0, {
      title: 'Rotation',
      description: 'Clockwise.',
      group: 'Shape',
      unit: '°',
      step: 1,
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof VignetteSettings>

/** Share of the darkening by the distance from the centre, 1 where the shape's outline runs at a size of 100 %. */
function shareAt(s: Settings, distance: number): number {
  const size = s.size / 100
  const half = Math.max(0.01, (size * s.softness) / 100)
  return rise(distance, size - half, size + half)
}

/** Distance in units of half the width and height: an ellipse's at 2, a rectangle's towards 12 (a superellipse). */
function distanceOf(s: Settings, u: number, v: number, aspect: number): number {
  const [x, y] = [2 * u - 1 - s.across / 100, (2 * v - 1 - s.down / 100) / aspect]
  const angle = (-s.rotation * Math.PI) / 180
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
  const power = 2 + (10 * s.square) / 100
  return (Math.abs(cos * x - sin * y) ** power + Math.abs((sin * x + cos * y) * aspect) ** power) ** (1 / power)
}

/** Stops that 100 % are. */
const STOPS = 3

function field(s: Settings): Field {
  const paint = codesOf(s.paint)
  return (u, v, aspect, out) => {
    const share = shareAt(s, distanceOf(s, u, v, aspect))
    if (s.works === 'exposure') {
      // Code values are light to the power of 1 / 2.4.
      out.fill(2 ** ((share * STOPS * s.edges) / 100 / 2.4), 0, 3)
      out.fill(0, 3, 6)
      return
    }
    const laid = (share * Math.abs(s.edges)) / 100
    for (let k = 0; k < 3; k++) {
      out[k] = 1 - laid
      out[k + 3] = laid * paint[k]!
    }
  }
}

const views = (s: Settings): View[] => [
  {
    view: 'curves',
    title: 'Share of the darkening, from the centre outwards',
    xTitle: 'distance, 1 = half the width',
    yTitle: 'share',
    lines: [{ label: 'vignette', style: 'accent', points: sampleLine((d) => shareAt(s, d), 0, 1.5) }],
  },
]

/** Edges darker or lighter than the middle. */
export const vignette = defineKind({
  id: 'vignette',
  label: 'Vignette',
  short: 'Vignette',
  family: { name: TEXTURE, emblem: [stroke('M2 3.5h12v9H2z'), ring(8, 8, 2.8)] },
  stretch: 'finish',
  summary: 'Edges darker or lighter: by exposure or painted over, from ellipse to rectangle, anywhere, turned.',
  notes: {
    recipe: 'dream-glow',
    about: 'Darkening by place.',
    model:
      'A superellipse of power 2 to 12 about the centre; a smoothstep over its distance. By exposure code values are multiplied by 2^(stops / 2.4), three stops at 100 %; paint mixes its code values in. Worked out on a grid of 257 columns and interpolated.',
  },
  schema: VignetteSettings,
  takes: 'line',
  inside: (s) => s.works !== 'exposure' || s.edges <= 0,
  stages: (s) => (s.edges === 0 ? [] : [{ at: 'space', space: { kind: 'field', field: field(s), smooth: true } }]),
  idle: (s) => (s.edges === 0 ? 'its edges are at 0 %' : null),
  views,
})
