import Type, { type Static } from 'typebox'
import type { Triple } from '../../colour/matrix'
import { fromChroma, codeLuma, uOf, vOf } from '../../colour/chroma'
import { tableOfCodes } from '../../stages/nodes'
import { keyOf, type PointFunction } from '../../stages/stage'
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
    reach: number(8, 80, 30, {
      title: 'Reach',
      description: 'How far from it a colour may lie and still change; at half the reach it changes in full.',
      ...{ ...texts, unit: '%', step: 1 },
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

/** Light counts half: the same paint lies in sun and shade. */
const apart = (a: Seen, b: Seen): number => Math.hypot((a[0] - b[0]) / 2, a[1] - b[1], a[2] - b[2])

function changed(s: Settings): PointFunction {
  const from = seen(codesOf(s.picked))
  const to = seen(codesOf(s.to))
  const reach = s.reach / 100
  return (r, g, b, out) => {
    const own = seen([r, g, b])
    const share = (s.amount / 100) * (1 - rise(apart(own, from), reach / 2, reach))
    const target = (k: 0 | 1 | 2): number => {
      if (s.becomes === 'drained') return k === 0 ? own[0] : own[k] * (1 - share)
      return own[k] + share * (to[k] - from[k])
    }
    fromChroma(target(0), target(1), target(2), out)
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
      'Distance in luma (halved) and the hexagon’s plane; within half the reach a colour is moved by the difference of the two colours, out to the reach ever less; or its chroma goes. A table of 33³ code values.',
  },
  schema: PickedSettings,
  takes: 'line',
  stages: (s) => [tableOfCodes(keyOf('picked', s), changed(s))],
  idle: (s) => (s.amount === 0 ? 'its amount is 0 %' : null),
  views: () => [],
})
