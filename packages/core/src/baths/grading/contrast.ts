import Type, { type Static } from 'typebox'
import { displayCode } from '../../colour/transfer'
import { evenCurves, cacheKey } from '../../stages/stage'
import { choice, number, percent } from '../fields'
import { ring, solid } from '../emblem'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'
import { codeTone, onLuma } from './codes'
import { TONE } from './families'

const group = 'Contrast'
const ContrastSettings = Type.Object(
  {
    amount: number(-100, 100, 25, {
      title: 'Amount',
      description: 'Slope at the pivot: 100 doubles it, -100 halves it.',
      group,
      unit: '%',
      step: 1,
      first: true,
    }),
    pivot: number(1, 80, 18, {
      title: 'Pivot',
      description: 'The tone that stays where it is, as light in per cent of white; 18 % is mid grey.',
      group,
      unit: '%',
      step: 0.5,
      first: true,
    }),
    toe: percent(70, {
      title: 'Toe',
      description: 'How softly shadows run into black; at 0 they are cut off.',
      group,
      first: true,
    }),
    shoulder: percent(70, {
      title: 'Shoulder',
      description: 'How softly lights run into white; at 0 they are cut off.',
      group,
      first: true,
    }),
    works: choice(
      ['colour', 'light'],
      ['On every channel: colour grows with it', 'On light only: colour is held'],
      'colour',
      {
        title: 'Works',
        description: 'Contrast of light alone leaves the colour of the incoming picture as it is.',
        group,
        first: true,
      },
    ),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof ContrastSettings>

/**
 * From the pivot (0) to the end (1): a straight line that is cut off, or (x·s)/(1 + (s - 1)·x), which has the same slope at the
 * pivot and arrives at the end whatever the slope.
 */
function half(x: number, slope: number, soft: number): number {
  const straight = Math.min(1, slope * x)
  return straight + soft * ((slope * x) / (1 + (slope - 1) * x) - straight)
}

/** The curve over code values. */
export function contrastCurve(s: Settings): (code: number) => number {
  const pivot = displayCode(s.pivot / 100)
  const slope = 2 ** (s.amount / 100)
  return (code) => {
    const v = Math.min(1, Math.max(0, code))
    if (v < pivot) return pivot - pivot * half((pivot - v) / pivot, slope, s.toe / 100)
    return pivot + (1 - pivot) * half((v - pivot) / (1 - pivot), slope, s.shoulder / 100)
  }
}

function views(s: Settings): View[] {
  const curve = contrastCurve(s)
  const at = displayCode(s.pivot / 100)
  const up = Math.min(0.95, at + 0.25)
  return [
    {
      view: 'curves',
      title: 'Code values in and out',
      xTitle: 'in',
      yTitle: 'out',
      lines: [
        {
          label: 'unchanged',
          style: 'dashed',
          points: [
            [0, 0],
            [1, 1],
          ],
        },
        { label: 'contrast', style: 'accent', points: sampleLine(curve, 0, 1) },
      ],
      handles: [
        { label: 'amount', x: up, y: curve(up), onY: { setting: 'amount', perUnit: 300 } },
        { label: 'pivot', x: at, y: at, onX: { setting: 'pivot', perUnit: 90 } },
      ],
    },
  ]
}

/** Contrast about a tone that stays. */
export const contrast = defineKind({
  id: 'contrast',
  label: 'Contrast',
  short: 'Contrast',
  family: { name: TONE, emblem: [ring(8, 8, 5.6), solid('M8 2.4a5.6 5.6 0 0 1 0 11.2z')] },
  stretch: 'finish',
  summary: 'Steeper or flatter about a tone that stays, with soft ends; with colour, or light alone.',
  notes: {
    recipe: 'crushed-print',
    about: 'Contrast about a pivot.',
    model:
      'Out from the pivot p to either end, x = |v - p| in units of the way there becomes s·x, cut off, mixed by toe or shoulder with s·x / (1 + (s - 1)·x); s = 2^(amount / 100). For light alone the curve acts on luma (BT.709) and its difference is added to all channels.',
  },
  schema: ContrastSettings,
  takes: 'line',
  stages: (s) => {
    const tone = codeTone(cacheKey('contrast', s.amount, s.pivot, s.toe, s.shoulder), contrastCurve(s))
    return s.works === 'light' ? onLuma(tone) : [evenCurves(tone)]
  },
  idle: (s) => (s.amount === 0 ? 'its amount is 0 %' : null),
  views,
})
