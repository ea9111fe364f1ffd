import Type, { type Static } from 'typebox'
import type { Stage } from '../../stages/stage'
import { disc, stroke } from '../emblem'
import { number } from '../fields'
import { defineKind } from '../kind'
import { TEXTURE } from './family'

const ShadeSettings = Type.Object(
  {
    radius: number(0, 60, 6, {
      title: 'Radius',
      description: 'How far the shadows spread, as a standard deviation in per mille of the picture’s width.',
      group: 'Spread',
      unit: '‰',
      step: 0.5,
      first: true,
    }),
  },
  { additionalProperties: false },
)

const stages = ({ radius }: Static<typeof ShadeSettings>): Stage[] =>
  radius === 0 ? [] : [{ at: 'space', space: { kind: 'blur', sigmas: [radius, radius, radius] } }]

/** The shadows of a picture diffused into its lights, as a diffuser under the enlarger does it. */
export const shadeSpread = defineKind({
  id: 'shade-spread',
  label: 'Spread of shadows',
  short: 'Shadow spread',
  family: { name: TEXTURE, emblem: [disc(8, 8, 3), stroke('M8 1.5v2M8 12.5v2M1.5 8h2M12.5 8h2')] },
  stretch: 'finish',
  summary: 'Shadows diffuse into the lights beside them, as under an enlarger with a diffuser.',
  notes: {
    about: 'A blurred copy, laid where it is darker.',
    model: 'A Gaussian blur of the code values, laid by the bath’s mode, darken to begin with (common practice).',
  },
  schema: ShadeSettings,
  takes: 'line',
  laid: { lay: 'darken', strength: 50 },
  stages,
  idle: (s) => (s.radius === 0 ? 'its radius is 0 ‰' : null),
  views: () => [],
})
