import Type, { type Static } from 'typebox'
import type { Stage } from '../../stages/stage'
import { stroke } from '../emblem'
import { number } from '../fields'
import { defineKind } from '../kind'
import { TEXTURE } from './family'

const group = 'Haze'
const HazeSettings = Type.Object(
  {
    amount: number(-100, 90, 40, {
      title: 'Amount',
      description: 'Above 0 haze is taken away, below 0 it is laid over.',
      group,
      unit: '%',
      step: 1,
      first: true,
    }),
    radius: number(2, 60, 25, {
      title: 'Radius',
      description: 'How evenly the haze lies, as a standard deviation in per mille of the picture’s width.',
      group,
      unit: '‰',
      step: 0.5,
      first: true,
    }),
  },
  { additionalProperties: false },
)

const stages = ({ amount, radius }: Static<typeof HazeSettings>): Stage[] =>
  amount === 0 ? [] : [{ at: 'space', space: { kind: 'haze', sigma: radius, amount: amount / 100 } }]

/** Haze taken away, or laid over. */
export const haze = defineKind({
  id: 'haze',
  label: 'Haze',
  short: 'Haze',
  family: {
    name: TEXTURE,
    emblem: [stroke('M2 5c2-1.5 4-1.5 6 0s4 1.5 6 0M2 9c2-1.5 4-1.5 6 0s4 1.5 6 0M2 13c2-1.5 4-1.5 6 0s4 1.5 6 0')],
  },
  stretch: 'finish',
  summary: 'A veil of scattered light, estimated place by place: taken away, or more of it.',
  notes: {
    about:
      'Scattered light is white and lies over all colours alike: what the least channel of a neighbourhood keeps is taken for it.',
    model:
      'The least of the three code values, blurred (own simplification of estimating haze by the darkest channel): veil v. Code values become (c - k·v) / (1 - k·v); below 0 the same adds it.',
  },
  schema: HazeSettings,
  takes: 'line',
  stages,
  idle: (s) => (s.amount === 0 ? 'its amount is 0' : null),
  views: () => [],
})
