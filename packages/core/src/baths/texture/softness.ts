import Type, { type Static } from 'typebox'
import type { Field } from '../../stages/space'
import type { Stage } from '../../stages/stage'
import { stroke } from '../emblem'
import { number, percent } from '../fields'
import { rise } from '../grading/codes'
import { defineKind } from '../kind'
import { TEXTURE } from './family'

const group = 'Softness'
const SoftnessSettings = Type.Object(
  {
    radius: number(0, 12, 1.5, {
      title: 'Radius',
      description: 'Standard deviation of the blur, in per mille of the picture’s width.',
      group,
      unit: '‰',
      step: 0.1,
      first: true,
    }),
    middle: percent(20, {
      title: 'In the middle',
      description: 'How much of it there is in the middle.',
      group,
      first: true,
    }),
    edges: percent(100, {
      title: 'At the edges',
      description: 'How much of it there is at the corners.',
      group,
      first: true,
    }),
    begins: percent(30, {
      title: 'Falls off from',
      description: 'Distance from the middle at which it begins to change, in per cent of the way to the corners.',
      group,
      first: true,
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof SoftnessSettings>

/** Share of the blur by place. */
function shareField(s: Settings): Field {
  const [middle, edges] = [s.middle / 100, s.edges / 100]
  return (u, v, aspect, out) => {
    const corner = Math.hypot(1, 1 / aspect)
    const distance = Math.hypot(2 * u - 1, (2 * v - 1) / aspect) / corner
    out.fill(middle + (edges - middle) * rise(distance, s.begins / 100, 1.0001), 0, 3)
    out.fill(0, 3, 6)
  }
}

function stages(s: Settings): Stage[] {
  if (s.radius === 0) return []
  return [
    {
      at: 'space',
      space: {
        kind: 'spread',
        spread: {
          copies: [
            { sigma: 0, share: -1 },
            { sigma: s.radius, share: 1 },
          ],
          keep: [1, 1, 1],
          amounts: [1, 1, 1],
          over: shareField(s),
        },
      },
    },
  ]
}

/** A simple lens: soft, and softer towards the corners. */
export const softness = defineKind({
  id: 'softness',
  label: 'Soft lens',
  short: 'Soft lens',
  family: { name: TEXTURE, emblem: [stroke('M8 2c4 3.6 4 8.4 0 12c-4-3.6-4-8.4 0-12z'), stroke('M1.5 8h2M12.5 8h2')] },
  stretch: 'finish',
  summary: 'Soft all over, or sharp in the middle and soft towards the corners.',
  notes: {
    recipe: 'square-instant',
    about: 'A blurred copy, mixed in by place.',
    model: 'Code values plus a share, by the distance from the middle, of their difference to a Gaussian blur.',
  },
  schema: SoftnessSettings,
  takes: 'line',
  stages,
  idle: (s: Settings) =>
    s.radius === 0 || (s.middle === 0 && s.edges === 0) ? 'its radius, or all of it, is 0' : null,
  views: () => [],
})
