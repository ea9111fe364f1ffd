import Type, { type Static } from 'typebox'
import type { Triple } from '../../colour/matrix'
import { fromChroma, codeLuma, uOf, vOf } from '../../colour/chroma'
import { tableOfCodes } from '../../stages/nodes'
import { cacheKey, type PointFunction } from '../../stages/stage'
import { choice, colour, number, percent } from '../fields'
import { disc, ring, stroke } from '../emblem'
import { defineKind } from '../kind'
import { rise } from './codes'
import { COLOUR } from './families'
import { codesOf } from './veil'

const texts = { group: 'Colour', first: true }
const PickedSettings = Type.Object(
  {
    picked: colour('#3f7fc0', {
      title: 'Picked colour',
      description: 'The colour that is changed, and what lies near it.',
      ...texts,
    }),
    reach: number(20, 95, 80, {
      title: 'Reach',
      description:
        'How unlike it a colour may be and still change: at 100 % greys would; at a fifth of that it changes in full.',
      ...texts,
      unit: '%',
      step: 1,
    }),
    becomes: choice(['turned', 'drained'], ['Another colour', 'Grey'], 'turned', {
      title: 'Becomes',
      description: 'What becomes of it.',
      ...texts,
    }),
    to: colour('#c06a3f', {
      title: 'Turned to',
      description: 'The colour that it becomes; its neighbours go along.',
      ...texts,
    }),
    amount: percent(100, { title: 'Amount', description: 'How much of the way it goes.', ...texts }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof PickedSettings>

type Seen = readonly [luma: number, u: number, v: number]
const seen = ([r, g, b]: Triple): Seen => [codeLuma(r, g, b), uOf(r, g, b), vOf(g, b)]

/** Share of the reach within which a colour changes in full. */
const FULL = 0.2
/** A picked colour paler than this counts as having so much chroma. */
const PALEST = 0.08

/**
 * How far a colour lies from the picked one, in units of the picked one's chroma: greys are 1 away and stay. Light counts half: the same
 * paint lies in sun and shade.
 */
const apart = (a: Seen, b: Seen, unit: number): number => Math.hypot((a[0] - b[0]) / 2, a[1] - b[1], a[2] - b[2]) / unit

function changed(s: Settings): PointFunction {
  const from = seen(codesOf(s.picked))
  const to = seen(codesOf(s.to))
  const unit = Math.max(PALEST, Math.hypot(from[1], from[2]))
  const reach = s.reach / 100
  // What turns and stretches the picked chroma into the other one, as a complex number.
  const turn = [
    (from[1] * to[1] + from[2] * to[2]) / unit ** 2,
    (from[1] * to[2] - from[2] * to[1]) / unit ** 2,
  ] as const
  return (r, g, b, out) => {
    const [luma, u, v] = seen([r, g, b])
    const share = (s.amount / 100) * (1 - rise(apart([luma, u, v], from, unit), FULL * reach, reach))
    if (s.becomes === 'drained') return fromChroma(luma, u * (1 - share), v * (1 - share), out)
    const full = Math.min(1, Math.hypot(u, v) / unit)
    const [du, dv] = [u * turn[0] - v * turn[1] - u, u * turn[1] + v * turn[0] - v]
    fromChroma(luma + share * full * (to[0] - from[0]), u + share * du, v + share * dv, out)
  }
}

/** One colour turned into another, or drained. */
export const pickedColour = defineKind({
  id: 'picked-colour',
  label: 'One colour changed',
  short: 'One colour',
  family: { name: COLOUR, emblem: [disc(4.6, 8, 2.2), stroke('M7.6 8h1.4'), ring(11.6, 8, 2.2)] },
  stretch: 'finish',
  summary: 'A colour picked from the picture becomes another, or grey; all else stays.',
  notes: {
    recipe: 'blue-turned',
    about: 'A picked colour and its neighbours, moved.',
    model:
      'Distance in luma (halved) and the hexagon’s plane, in units of the picked colour’s chroma. Within a fifth of the reach chroma is turned and stretched as the picked one is to become the other, out to the reach ever less; luma moves by their difference in proportion to chroma; or chroma goes. A table of 33³ code values.',
  },
  schema: PickedSettings,
  takes: 'line',
  stages: (s) => [tableOfCodes(cacheKey('picked', s), changed(s))],
  idle: (s) => (s.amount === 0 ? 'its amount is 0 %' : null),
  views: () => [],
})
