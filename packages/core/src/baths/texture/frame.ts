import Type, { type Static } from 'typebox'
import type { CoverShape } from '../../stages/cover'
import type { Stage } from '../../stages/stage'
import { stroke } from '../emblem'
import { choice, colour, number, toggle } from '../fields'
import { codesOf } from '../grading/veil'
import { defineKind, type Edges } from '../kind'
import { TEXTURE } from './family'

/** Width over height; 0 for the picture's own. */
const RATIOS = {
  own: 0,
  square: 1,
  '5:4': 1.25,
  '4:3': 4 / 3,
  '3:2': 1.5,
  '1.66': 1.66,
  '1.85': 1.85,
  '2.39': 2.39,
  '9:16': 9 / 16,
} as const
const NAMES = ['own', 'square', '5:4', '4:3', '3:2', '1.66', '1.85', '2.39', '9:16'] as const

const place = (title: string, description: string) =>
  number(-100, 100, 0, { title, description, group: 'Crop', unit: '%', step: 1, first: true })
const length = (title: string, description: string, group: string, most: number) =>
  number(0, most, 0, { title, description, group, unit: '‰', step: 1 })

const FrameSettings = Type.Object(
  {
    ratio: choice(NAMES, ['As it is', '1:1', '5:4', '4:3', '3:2', '1.66:1', '1.85:1', '2.39:1', '9:16'], '4:3', {
      title: 'Ratio',
      description: 'Width to height of what is left of the picture.',
      group: 'Crop',
      first: true,
    }),
    across: place('Position, across', 'From the left edge (-100) to the right one.'),
    down: place('Position, down', 'From the upper edge (-100) to the lower one.'),
    cut: toggle(true, {
      title: 'Cut',
      description: 'The delivered picture has the size of the crop. Off: its size stays, the surround is painted.',
      group: 'Crop',
      first: true,
    }),
    surround: colour('#000000', { title: 'Surround', description: 'Colour outside of the crop.', group: 'Crop' }),
    corners: length('Round corners', 'Radius, in per mille of the width.', 'Edges', 150),
    soft: length('Soft edge', 'Breadth of the gate’s soft edge, in per mille of the width.', 'Edges', 40),
    margin: length('Card, margin', 'A card around the picture: breadth of its margin, in per mille.', 'Card', 150),
    foot: length('Card, foot', 'How much broader its lower margin is.', 'Card', 250),
    card: colour('#edebe2', { title: 'Card, colour', description: 'Colour of the card.', group: 'Card' }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof FrameSettings>

/** The crop's edges, in shares of the width and the height. @param aspect width over height of the picture */
function cropIn(s: Settings, aspect: number): Edges {
  const ratio = RATIOS[s.ratio] || aspect
  const [wide, high] = [Math.min(1, ratio / aspect), Math.min(1, aspect / ratio)]
  const left = ((1 - wide) * (1 + s.across / 100)) / 2
  const top = ((1 - high) * (1 + s.down / 100)) / 2
  return { left, top, right: left + wide, bottom: top + high }
}

/** The picture's own rectangle inside of crop and card, in per mille of the width. @param height so many per mille of it */
function shapeIn(s: Settings, height: number) {
  const crop = cropIn(s, 1000 / height)
  const outer = {
    left: 1000 * crop.left,
    right: 1000 * crop.right,
    top: height * crop.top,
    bottom: height * crop.bottom,
  }
  const inner = {
    left: outer.left + s.margin,
    right: Math.max(outer.left + s.margin, outer.right - s.margin),
    top: outer.top + s.margin,
    bottom: Math.max(outer.top + s.margin, outer.bottom - s.margin - s.foot),
  }
  return { outer, inner }
}

function shapesOf(s: Settings, height: number): CoverShape[] {
  const { outer, inner } = shapeIn(s, height)
  const hasCard = s.margin > 0 || s.foot > 0
  const edges = { radius: s.corners, soft: s.soft }
  const outside = (of: typeof outer, hex: string, how: typeof edges): CoverShape => ({
    shape: 'outside',
    ...of,
    ...how,
    colour: codesOf(hex),
    opacity: 1,
  })
  return hasCard
    ? [outside(inner, s.card, edges), outside(outer, s.surround, { radius: 0, soft: 0 })]
    : [outside(outer, s.surround, edges)]
}

const changesNothing = (s: Settings): boolean =>
  s.ratio === 'own' && s.corners === 0 && s.soft === 0 && s.margin === 0 && s.foot === 0

/** What is left of the picture, and what lies around it. */
export const frame = defineKind({
  id: 'frame',
  label: 'Frame',
  short: 'Frame',
  family: { name: TEXTURE, emblem: [stroke('M1.8 3h12.4v10H1.8z'), stroke('M4.5 5h7v6h-7z')] },
  stretch: 'finish',
  summary: 'Cut to a ratio, round corners, a soft gate, a card around it.',
  notes: {
    recipe: 'square-instant',
    about: 'A crop with what lies around it painted over; the delivered picture is cut to it.',
    model:
      'Rectangles with round corners, their edges smoothed over a pixel or the soft edge. The picture is not made smaller: a card covers its margins. The last frame of a line that cuts decides the delivered size, rounded to even pixels.',
  },
  schema: FrameSettings,
  takes: 'line',
  stages: (s: Settings): Stage[] =>
    changesNothing(s) ? [] : [{ at: 'space', space: { kind: 'cover', shapes: (height) => shapesOf(s, height) } }],
  crop: (s: Settings, aspect) => (s.cut && s.ratio !== 'own' ? cropIn(s, aspect) : null),
  within: (s: Settings, aspect) => {
    const height = 1000 / aspect
    const { left, right, top, bottom } = shapeIn(s, height).inner
    return changesNothing(s)
      ? null
      : { left: left / 1000, right: right / 1000, top: top / height, bottom: bottom / height }
  },
  idle: (s: Settings) => (changesNothing(s) ? 'it has the picture’s own ratio and no edges' : null),
  views: () => [],
})
