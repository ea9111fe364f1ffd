import Type, { type Static } from 'typebox'
import { diagonal } from '../../colour/matrix'
import { mix, type Stage } from '../../stages/stage'
import { stroke } from '../emblem'
import { choice, number, percent } from '../fields'
import { defineKind } from '../kind'
import { TEXTURE } from './family'

const group = 'Detail'

const DetailSettings = Type.Object(
  {
    amount: number(-100, 200, 40, {
      title: 'Amount',
      description: 'Above 0 crisper, below 0 softer; -100 % leaves only what is broader than the radius.',
      group,
      unit: '%',
      step: 1,
      first: true,
    }),
    radius: number(0, 60, 1.2, {
      title: 'Radius',
      description:
        'How broad the detail is, as a standard deviation in per mille of the picture’s width: about 1 sharpens edges, 10 and more is local contrast.',
      group,
      unit: '‰',
      step: 0.1,
      first: true,
    }),
    finest: number(0, 10, 0, {
      title: 'Only broader than',
      description: 'Detail finer than this stays as it is: noise and grain are not sharpened.',
      group,
      unit: '‰',
      step: 0.1,
      first: true,
    }),
    least: percent(
      0,
      {
        title: 'Only stronger than',
        description: 'Weaker edges, in per cent of the way from black to white, count less and less.',
        group,
        step: 0.5,
        first: true,
      },
      20,
    ),
    show: choice(['picture', 'edges'], ['Picture', 'The edges alone'], 'picture', {
      title: 'Show',
      description: 'The edges that are worked on, lighter or darker than mid grey, to set the two limits by.',
      group,
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof DetailSettings>

/** How much the edges are raised to be looked at. */
const SEEN = 4

function stages(s: Settings): Stage[] {
  if (s.radius <= s.finest) return []
  const edges = s.show === 'edges'
  const amount = edges ? SEEN : s.amount / 100
  const keep = edges ? 0 : 1
  const join: Stage = {
    at: 'space',
    space: {
      kind: 'spread',
      spread: {
        copies: [
          { sigma: s.finest, share: 1 },
          { sigma: s.radius, share: -1 },
        ],
        keep: [keep, keep, keep],
        amounts: [amount, amount, amount],
        least: s.least / 100,
      },
    },
  }
  return edges ? [join, mix(diagonal([1, 1, 1]), [0.5, 0.5, 0.5])] : [join]
}

/** Detail of one breadth, more or less of it. */
export const detail = defineKind({
  id: 'detail',
  label: 'Detail',
  short: 'Detail',
  family: { name: TEXTURE, emblem: [stroke('M2 11c3 0 4-6 6-6s3 6 6 6'), stroke('M2 13.5h12')] },
  stretch: 'finish',
  summary: 'Sharper or softer, crisp or hazy: detail of any breadth, more or less of it, strong edges only.',
  notes: {
    recipe: 'dream-glow',
    about: 'The difference from a blurred copy, added or taken away.',
    model:
      'Code values plus amount times d, the difference of two Gaussian blurs, the finer one of ‘only broader than’ (0: the picture itself), the wider one of the radius (unsharp masking, common practice). A d below ‘only stronger than’ is multiplied by a smoothstep of its share of it. A small radius sharpens, a large one is local contrast; below 0 the blur is mixed in.',
  },
  schema: DetailSettings,
  takes: 'line',
  stages,
  idle: (s: Settings) => {
    if (s.radius <= s.finest) return 'its radius is not above ‘only broader than’'
    return s.amount === 0 && s.show === 'picture' ? 'its amount is 0' : null
  },
  views: () => [],
})
