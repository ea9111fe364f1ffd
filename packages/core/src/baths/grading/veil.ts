import Type, { type Static } from 'typebox'
import { triple, type Triple } from '../../colour/matrix'
import { mix } from '../../stages/stage'
import { colour } from '../fields'
import { stroke } from '../emblem'
import { defineKind } from '../kind'
import { LAID_OVER } from './families'

const VeilSettings = Type.Object(
  {
    colour: colour('#c98d52', {
      title: 'Colour',
      description: 'The colour of the veil, as code values of the display.',
      group: 'Veil',
      first: true,
    }),
  },
  { additionalProperties: false },
)

const NOTHING: Triple = [0, 0, 0]
export const codesOf = (hex: string): Triple =>
  triple([1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16) / 255))

/** One colour over all. */
export const veil = defineKind({
  id: 'veil',
  label: 'Veil of colour',
  short: 'Veil',
  family: { name: LAID_OVER, emblem: [stroke('M2.5 4h11v8h-11z'), stroke('M2.5 9.5l11-3')] },
  stretch: 'finish',
  summary: 'One colour laid over the whole picture, in any mode, at any strength.',
  notes: {
    recipe: 'veil-violet',
    about: 'A solid colour.',
    model:
      'The colour’s code values everywhere; mode and strength of the bath lay it (W3C Compositing and Blending Level 1).',
  },
  schema: VeilSettings,
  takes: 'line',
  laid: { strength: 25, lay: 'normal' },
  stages: (s: Static<typeof VeilSettings>) => [mix([NOTHING, NOTHING, NOTHING], codesOf(s.colour))],
  idle: () => null,
  views: () => [],
})
