import type { Six } from '../../colour/matrix'
import Type, { type Static } from 'typebox'
import { towards } from '../../colour/chroma'
import { cacheKey } from '../../stages/stage'
import { hueAngle, number, percent } from '../fields'
import { stroke } from '../emblem'
import { defineKind } from '../kind'
import type { View } from '../views'
import { hill, wedgeView } from './wedge'
import { rise, shade } from './codes'
import { TONE } from './families'

const RANGES = ['darks', 'mids', 'lights', 'all'] as const
type RangeName = (typeof RANGES)[number]

function rangeFields<N extends RangeName>(name: N, title: string, start: number) {
  const group = title
  return {
    [`${name}Hue`]: hueAngle(start, { title: `${title}, hue`, description: 'Towards which colour.', group }),
    [`${name}Amount`]: percent(0, { title: `${title}, colour`, description: 'How far towards it.', group }),
    [`${name}Level`]: number(-100, 100, 0, {
      title: `${title}, level`,
      description: 'Darker or lighter; black and white stay.',
      group,
      unit: '%',
      step: 1,
      first: true,
    }),
  } as unknown as Record<`${N}Hue` | `${N}Amount` | `${N}Level`, ReturnType<typeof percent>>
}

const limit = (fallback: number, title: string, description: string) =>
  number(2, 98, fallback, { title, description, group: 'Limits', unit: '%', step: 1 })
const end = (title: string, description: string) =>
  number(-100, 100, 0, { title, description, group: 'Ends', unit: '%', step: 1 })

const RangesSettings = Type.Object(
  {
    ...rangeFields('darks', 'Shadows', 220),
    ...rangeFields('mids', 'Mids', 40),
    ...rangeFields('lights', 'Lights', 40),
    ...rangeFields('all', 'All', 40),
    darksEnd: limit(34, 'Shadows end', 'Code value, in per cent, at which shadows have become mids.'),
    lightsBegin: limit(66, 'Lights begin', 'Code value, in per cent, at which mids have become lights.'),
    overlap: number(4, 40, 18, {
      title: 'Overlap',
      description: 'How wide the ranges run into each other, in per cent of all code values.',
      group: 'Limits',
      unit: '%',
      step: 1,
    }),
    lows: end('Deepest shadows', 'Raises or lowers black itself.'),
    highs: end('Highest lights', 'Raises or lowers white itself.'),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof RangesSettings>

/** How much a tone belongs to each range; darks, mids and lights add up to 1. */
function rangeShares(s: Settings, luma: number): Record<RangeName, number> {
  const half = s.overlap / 200
  const pastDarks = rise(luma, s.darksEnd / 100 - half, s.darksEnd / 100 + half)
  const lights = rise(luma, s.lightsBegin / 100 - half, s.lightsBegin / 100 + half)
  return { darks: 1 - pastDarks, mids: Math.max(0, pastDarks - lights), lights, all: 1 }
}

/** Chroma of a colour amount of 100 %. */
const FULL = 0.25
/** What a level of 100 % does to a tone that is wholly in its range, as a share of the way it may go. */
const LEVEL = 0.45
/** What moving an end by 100 % adds there. */
const END = 0.15

/** Every range's share of a setting. */
const summed = (shares: Record<RangeName, number>, part: (name: RangeName) => number): number =>
  RANGES.reduce((sum, name) => sum + shares[name] * part(name), 0)

/** Colour fades out towards black and white, so that neither leaves 0..1. @param y luma, 0..1 */
const colourRoom = (y: number): number => (4 * y * (1 - y) > 0 ? (4 * y * (1 - y)) ** 0.5 : 0)

function shadeOf(s: Settings): (luma: number, out: Six) => void {
  const colours = Object.fromEntries(
    RANGES.map((name) => [name, towards(s[`${name}Hue`] / 360, (FULL * s[`${name}Amount`]) / 100)]),
  ) as Record<RangeName, [number, number, number]>
  return (luma, out) => {
    const shares = rangeShares(s, luma)
    const y = Math.min(1, Math.max(0, luma))
    const level = LEVEL * summed(shares, (name) => s[`${name}Level`] / 100)
    const ends = END * ((s.lows / 100) * (1 - rise(y, 0, 0.35)) + (s.highs / 100) * rise(y, 0.65, 1))
    const colour = colourRoom(y)
    for (let k = 0; k < 3; k++) {
      out[k] = 1 + level * (1 - y)
      out[k + 3] = ends + colour * summed(shares, (name) => colours[name][k]!)
    }
  }
}

const LABELS: Record<RangeName, string> = { darks: 'Shadows', mids: 'Mids', lights: 'Lights', all: 'All' }
/** Limits come no closer to each other, in per cent of code values. */
const GAP = 6

function views(s: Settings): View[] {
  const hills = RANGES.map((name) =>
    hill(
      { label: LABELS[name], hue: `${name}Hue`, amount: `${name}Amount`, ...(name === 'all' && { whole: true }) },
      (x) => rangeShares(s, x)[name] * colourRoom(x),
    ),
  )
  const limitAt = (setting: 'darksEnd' | 'lightsBegin', label: string, within: readonly [number, number]) => ({
    label,
    widthLabel: 'overlap',
    at: s[setting] / 100,
    wide: s.overlap / 100,
    place: { setting, perUnit: 100, within },
    width: { setting: 'overlap', perUnit: 100 },
  })
  const limits = [
    limitAt('darksEnd', 'Where shadows end', [2, s.lightsBegin - GAP]),
    limitAt('lightsBegin', 'Where lights begin', [s.darksEnd + GAP, 98]),
  ]
  return [wedgeView(shadeOf(s), FULL, { hills, limits })]
}

/** Shadows, mids, lights and all: a colour and a level each. */
export const ranges = defineKind({
  id: 'ranges',
  label: 'Ranges of tone',
  short: 'Ranges',
  family: { name: TONE, emblem: [stroke('M2 12.5h4v-3.5h4V5.5h4')] },
  stretch: 'finish',
  summary: 'Shadows, mids, lights and all: a colour and a level each, with movable limits; the ends apart.',
  notes: {
    recipe: 'night-by-hand',
    about: 'A colour and a level for each range of tone.',
    model:
      'Shares by luma: smoothsteps about the two limits, adding up to 1. A level multiplies by 1 + 0.45·level·(1 - luma). A colour adds code values of luma 0 in its direction, chroma 0.25 at 100 %, times sqrt(4·luma·(1 - luma)). The ends add 0.15 at black or white, gone at 35 and 65 %.',
  },
  schema: RangesSettings,
  takes: 'line',
  sample: { darksAmount: 45, lightsAmount: 35, midsLevel: 20 },
  stages: (s) => [shade(cacheKey('ranges', s), shadeOf(s))],
  idle: (s) =>
    RANGES.every((name) => s[`${name}Amount`] === 0 && s[`${name}Level`] === 0) && s.lows === 0 && s.highs === 0
      ? 'no range has a colour or a level'
      : null,
  views,
})
