import Type, { type Static } from 'typebox'
import { monotoneCubic } from '../../numbers/spline'
import { curves as curveStage, cacheKey, type PointStage, type Tone } from '../../stages/stage'
import { number, points, toggle, type Points } from '../fields'
import { disc, stroke } from '../emblem'
import { defineKind } from '../kind'
import { codeTone, onLuma } from './codes'
import { TONE } from './families'

const STRAIGHT: Points = [
  [0, 0],
  [1, 1],
]
const curve = (title: string, description: string) => points([0, 1], STRAIGHT, { title, description, group: 'Curves' })

const CurvesSettings = Type.Object(
  {
    master: curve('All', 'Red, green and blue alike.'),
    red: curve('Red', 'The red channel, after the curve for all.'),
    green: curve('Green', 'The green channel, after the curve for all.'),
    blue: curve('Blue', 'The blue channel, after the curve for all.'),
    luma: curve('Luma', 'Light alone, before the others; colour is held.'),
    hold: toggle(false, {
      title: 'Hold a range',
      description:
        'Tones of this range stay as they are in red, green and blue, whatever the ends do: mid tones, where skin lies.',
      group: 'Hold',
      first: true,
    }),
    holdAt: number(5, 95, 52, {
      title: 'Range, middle',
      description: 'Code value in the middle of the held range, in per cent.',
      group: 'Hold',
      unit: '%',
      step: 1,
    }),
    holdWidth: number(2, 80, 24, {
      title: 'Range, width',
      description: 'How wide the held range is, in per cent of all code values.',
      group: 'Hold',
      unit: '%',
      step: 1,
    }),
    pinEnds: toggle(true, {
      title: 'Neutral ends',
      description: 'The curves of single channels keep black and white where they are, so that both stay neutral.',
      group: 'Hold',
      first: true,
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof CurvesSettings>

export const CURVE_NAMES = ['master', 'red', 'green', 'blue', 'luma'] as const
export type CurveName = (typeof CURVE_NAMES)[number]
const isChannel = (name: CurveName): boolean => name === 'red' || name === 'green' || name === 'blue'

/** Where a held range has its points: two at either edge, so that between them the curve is the diagonal itself. */
const HELD_AT = [0, 0.08, 0.5, 0.92, 1]

/** The points that a curve is drawn through: its own, with what is held and pinned put in. */
function curvePoints(s: Settings, name: CurveName): Points {
  let own = s[name]
  if (isChannel(name) && s.pinEnds) own = [[0, 0], ...own.filter(([x]) => x > 0 && x < 1), [1, 1]]
  if (!s.hold || !isChannel(name)) return own
  const [middle, half] = [s.holdAt / 100, s.holdWidth / 200]
  const [low, high] = [Math.max(0, middle - half), Math.min(1, middle + half)]
  const held = HELD_AT.map((share) => low + share * (high - low)).map((x) => [x, x] as const)
  // What lies across the held range would make the curve fall.
  return [...own.filter(([x, y]) => x < low && y <= low), ...held, ...own.filter(([x, y]) => x > high && y >= high)]
}

export const curveOf = (s: Settings, name: CurveName): ((code: number) => number) => monotoneCubic(curvePoints(s, name))

const isStraight = (list: Points): boolean =>
  list.length > 1 && list[0]![0] === 0 && list.at(-1)![0] === 1 && list.every(([x, y]) => x === y)

function toneOf(s: Settings, name: CurveName): Tone | null {
  const list = curvePoints(s, name)
  return isStraight(list) ? null : codeTone(cacheKey('points', list), curveOf(s, name))
}

function stages(s: Settings): PointStage[] {
  const luma = toneOf(s, 'luma')
  const master = toneOf(s, 'master')
  return [
    ...(luma ? onLuma(luma) : []),
    curveStage(master, master, master),
    curveStage(toneOf(s, 'red'), toneOf(s, 'green'), toneOf(s, 'blue')),
  ]
}

function fault(s: Settings) {
  for (const setting of CURVE_NAMES) {
    const at = s[setting].findIndex(([x], i) => i > 0 && x <= s[setting][i - 1]![0])
    if (at > 0)
      return {
        setting,
        rule: `point ${at + 1} of '${setting}' stands at ${s[setting][at]![0]}, which is not to the right of the point before it at ${s[setting][at - 1]![0]}; points of a curve go from left to right.`,
      }
  }
  return null
}

/** Curves through points, for all channels, each, and luma. */
export const toneCurves = defineKind({
  id: 'curves',
  label: 'Curves',
  short: 'Curves',
  family: { name: TONE, emblem: [stroke('M2.5 13.5C7 13 9 3 13.5 2.5'), disc(8, 8, 1.4)] },
  stretch: 'finish',
  summary: 'Curves through any points, for all channels, each channel and light; a range can be held.',
  notes: {
    recipe: 'split-warm-cool',
    about: 'Curves through points.',
    model:
      'Monotone piecewise cubics (Fritsch and Carlson 1980) over code values; outside the points the ends hold. Luma first (its difference is added to all channels), then all, then each channel. A held range puts five points on the diagonal in place of those in it.',
  },
  schema: CurvesSettings,
  takes: 'line',
  sample: {
    red: [
      [0, 0],
      [0.25, 0.18],
      [0.75, 0.82],
      [1, 1],
    ],
    blue: [
      [0, 0],
      [0.25, 0.3],
      [0.75, 0.68],
      [1, 1],
    ],
  },
  fault,
  stages,
  idle: (s) => (CURVE_NAMES.every((name) => toneOf(s, name) === null) ? 'all its curves are straight' : null),
  views: () => [],
})
