import Type, { type Static } from 'typebox'
import { diagonal } from '../../colour/matrix'
import { evenCurves, cacheKey, mix, type Stage } from '../../stages/stage'
import { disc, ring } from '../emblem'
import { colour, number, percent } from '../fields'
import { codeTone, rise } from '../grading/codes'
import { codesOf } from '../grading/veil'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'
import { TEXTURE } from './family'

const texts = { group: 'Glow', first: true }
const GlowSettings = Type.Object(
  {
    threshold: percent(60, {
      title: 'Threshold',
      description: 'Code value above which light glows, in per cent.',
      ...texts,
    }),
    knee: percent(40, {
      title: 'Softness',
      description: 'How gradually light begins to glow about the threshold.',
      ...texts,
    }),
    radius: number(0, 60, 12, {
      title: 'Radius',
      description: 'Standard deviation of the spread, in per mille of the picture’s width.',
      ...texts,
      unit: '‰',
      step: 0.5,
    }),
    wide: percent(0, {
      title: 'Wide part',
      description: 'Share of the glow that goes four times as far, as in a lens that is not clean.',
      ...texts,
    }),
    tint: colour('#ffffff', { title: 'Tint', description: 'Colour of the glow; white leaves it its own.', ...texts }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof GlowSettings>

/** What of a code value glows. */
function glowing(s: Settings): (code: number) => number {
  const [at, half] = [s.threshold / 100, Math.max(0.005, s.knee / 200)]
  return (code) => Math.max(0, code) * rise(code, at - half, at + half)
}

const views = (s: Settings): View[] => [
  {
    view: 'curves',
    title: 'What glows of each code value',
    xTitle: 'code value',
    yTitle: 'glow',
    lines: [{ label: 'glow', style: 'accent', points: sampleLine(glowing(s), 0, 1) }],
  },
]

function stages(s: Settings): Stage[] {
  const [r, g, b] = codesOf(s.tint)
  return [
    evenCurves(codeTone(cacheKey('glow', s.threshold, s.knee), glowing(s))),
    mix(diagonal([r, g, b])),
    ...spreading(s),
  ]
}

/** How much farther the wide part goes. */
const WIDER = 4

function spreading({ radius, wide }: Settings): Stage[] {
  if (radius === 0) return []
  if (wide === 0) return [{ at: 'space', space: { kind: 'blur', sigmas: [radius, radius, radius] } }]
  const copies = [
    { sigma: radius, share: 1 - wide / 100 },
    { sigma: WIDER * radius, share: wide / 100 },
  ] as const
  return [{ at: 'space', space: { kind: 'spread', spread: { copies, keep: [0, 0, 0], amounts: [1, 1, 1] } } }]
}

/** Light that spreads from what is bright. */
export const glow = defineKind({
  id: 'glow',
  label: 'Glow',
  short: 'Glow',
  family: { name: TEXTURE, emblem: [disc(8, 8, 2), ring(8, 8, 5.4)] },
  stretch: 'finish',
  summary: 'Light spreads from what is bright: above a threshold, as far as one likes, tinted, in any mode.',
  notes: {
    recipe: 'dream-glow',
    about: 'A blurred copy of the lights, laid over.',
    model:
      'Code values times a smoothstep about the threshold, times the tint, blurred by a Gaussian, or by two of which the second is four times as wide; laid by the bath’s mode, screen to begin with (W3C Compositing and Blending Level 1).',
  },
  schema: GlowSettings,
  takes: 'line',
  laid: { lay: 'screen', strength: 45 },
  inside: () => true,
  stages,
  idle: () => null,
  views,
})
