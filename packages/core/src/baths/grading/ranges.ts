import Type, { type Static } from 'typebox'
import { towards } from '../../colour/chroma'
import { keyOf } from '../../stages/stage'
import { hueAngle, number, percent } from '../fields'
import { stroke } from '../emblem'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'
import { rise, shade } from './codes'
import { TONE } from './families'

export const RANGES = ['darks', 'mids', 'lights', 'all'] as const
type RangeName = (typeof RANGES)[number]

function rangeFields<N extends RangeName>(name: N, title: string, start: number) {
  const group = title
  return {
    [`${name}Hue`]: hueAngle(start, { title: `${title}, hue`, description: 'Towards which colour.', group }),
    [`${name}Amount`]: percent(0, { title: `${title}, colour`, description: 'How far towards it.', group }),
    [`${name}Level`]: number(-100, 100, 0, {
      title: `${title}, level`,
      description: 'Darker or lighter; black and white stay.',
      ...{ group, unit: '%', step: 1, first: true },
    }),
  } as unknown as Record<`${N}Hue` | `${N}Amount` | `${N}Level`, ReturnType<typeof percent>>
}

const limit = (fallback: number, title: string, description: string) =>
  number(2, 98, fallback, { title, description, ...{ group: 'Limits', unit: '%', step: 1 } })
const end = (title: string, description: string) =>
  number(-100, 100, 0, { title, description, ...{ group: 'Ends', unit: '%', step: 1 } })

const RangesSettings = Type.Object(
  {
    ...rangeFields('darks', 'Darks', 220),
    ...rangeFields('mids', 'Mids', 40),
    ...rangeFields('lights', 'Lights', 40),
    ...rangeFields('all', 'All', 40),
    darksEnd: limit(34, 'Darks end', 'Code value, in per cent, at which darks have become mids.'),
    lightsBegin: limit(66, 'Lights begin', 'Code value, in per cent, at which mids have become lights.'),
    overlap: number(4, 40, 18, {
      title: 'Overlap',
      description: 'How wide the ranges run into each other, in per cent of all code values.',
      ...{ group: 'Limits', unit: '%', step: 1 },
    }),
    lows: end('Deepest darks', 'Raises or lowers black itself.'),
    highs: end('Highest lights', 'Raises or lowers white itself.'),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof RangesSettings>

/** How much a tone belongs to each range; darks, mids and lights add up to 1. */
export function rangeShares(s: Settings, luma: number): Record<RangeName, number> {
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

function shadeOf(s: Settings): (luma: number, out: Float64Array) => void {
  const colours = Object.fromEntries(
    RANGES.map((name) => [name, towards(s[`${name}Hue`] / 360, (FULL * s[`${name}Amount`]) / 100)]),
  ) as Record<RangeName, [number, number, number]>
  return (luma, out) => {
    const shares = rangeShares(s, luma)
    const y = Math.min(1, Math.max(0, luma))
    const level = LEVEL * summed(shares, (name) => s[`${name}Level`] / 100)
    const ends = END * ((s.lows / 100) * (1 - rise(y, 0, 0.35)) + (s.highs / 100) * rise(y, 0.65, 1))
    // Colour fades out towards black and white, so that neither leaves 0..1.
    const colour = 4 * y * (1 - y) > 0 ? (4 * y * (1 - y)) ** 0.5 : 0
    for (let k = 0; k < 3; k++) {
      out[k] = 1 + level * (1 - y)
      out[k + 3] = ends + colour * summed(shares, (name) => colours[name][k]!)
    }
  }
}

function views(s: Settings): View[] {
  const share = (name: RangeName) => sampleLine((x) => rangeShares(s, x)[name], 0, 1)
  const made = shadeOf(s)
  const out = new Float64Array(6)
  const tone = sampleLine(
    (x) => (made(x, out), x * out[0]! + out[3]! * 0.2126 + out[4]! * 0.7152 + out[5]! * 0.0722),
    0,
    1,
  )
  return [
    {
      view: 'curves',
      title: 'Ranges over code values, and what becomes of a grey',
      xTitle: 'in',
      yTitle: 'share, out',
      lines: [
        { label: 'darks', style: 'faint', points: share('darks') },
        { label: 'mids', style: 'plain', points: share('mids') },
        { label: 'lights', style: 'dashed', points: share('lights') },
        { label: 'grey', style: 'accent', points: tone },
      ],
    },
  ]
}

/** Darks, mids, lights and all: a colour and a level each. */
export const ranges = defineKind({
  id: 'ranges',
  label: 'Ranges of tone',
  short: 'Ranges',
  family: { name: TONE, emblem: [stroke('M2 12.5h4v-3.5h4V5.5h4')] },
  stretch: 'finish',
  summary: 'Darks, mids, lights and all: a colour and a level each, with movable limits; the ends apart.',
  notes: {
    recipe: 'night-by-hand',
    about: 'A colour and a level for each range of tone.',
    model:
      'Shares by luma: smoothsteps about the two limits, adding up to 1. A level multiplies by 1 + 0.45·level·(1 - luma). A colour adds code values of luma 0 in its direction, chroma 0.25 at 100 %, times sqrt(4·luma·(1 - luma)). The ends add 0.15 at black or white, gone at 35 and 65 %.',
  },
  schema: RangesSettings,
  takes: 'line',
  sample: { darksAmount: 45, lightsAmount: 35, midsLevel: 20 },
  stages: (s) => [shade(keyOf('ranges', s), shadeOf(s))],
  idle: (s) =>
    RANGES.every((name) => s[`${name}Amount`] === 0 && s[`${name}Level`] === 0) && s.lows === 0 && s.highs === 0
      ? 'no range has a colour or a level'
      : null,
  views,
})
