import Type, { type Static } from 'typebox'
import { stroke } from '../emblem'
import { number } from '../fields'
import { defineKind } from '../kind'
import { TEXTURE } from './family'

const DetailSettings = Type.Object(
  {
    amount: number(-100, 200, 40, {
      title: 'Amount',
      description: 'Above 0 crisper, below 0 softer; -100 % leaves only what is broader than the radius.',
      ...{ group: 'Detail', unit: '%', step: 1, first: true },
    }),
    radius: number(0, 60, 1.2, {
      title: 'Radius',
      description:
        'How broad the detail is, as a standard deviation in per mille of the picture’s width: about 1 sharpens edges, 10 and more is local contrast.',
      ...{ group: 'Detail', unit: '‰', step: 0.1, first: true },
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof DetailSettings>

/** Detail of one breadth, more or less of it. */
export const detail = defineKind({
  id: 'detail',
  label: 'Detail',
  short: 'Detail',
  family: { name: TEXTURE, emblem: [stroke('M2 11c3 0 4-6 6-6s3 6 6 6'), stroke('M2 13.5h12')] },
  stretch: 'finish',
  summary: 'Sharper or softer, crisp or hazy: detail of any breadth, more or less of it.',
  notes: {
    recipe: 'dream-glow',
    about: 'The difference from a blurred copy, added or taken away.',
    model:
      'Code values plus amount times their difference from a Gaussian blur (unsharp masking, common practice); below 0 the blur is mixed in. A small radius sharpens, a large one is local contrast.',
  },
  schema: DetailSettings,
  takes: 'line',
  stages: ({ radius }: Settings) =>
    radius === 0 ? [] : [{ at: 'space', space: { kind: 'blur', sigmas: [radius, radius, radius] } }],
  // Laid with a strength below 0, the blur is taken away from what it was made of.
  pull: (s: Settings) => -s.amount / 100,
  idle: (s: Settings) => (s.amount === 0 || s.radius === 0 ? 'its amount or its radius is 0' : null),
  views: () => [],
})
