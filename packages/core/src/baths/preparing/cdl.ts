import Type, { type Static } from 'typebox'
import { rgbToRgb, AP1, BT709 } from '../../colour/spaces'
import { triple, diagonal, timesChroma, type Triple } from '../../colour/matrix'
import { ACESCCT, BT1886 } from '../../colour/transfer'
import { evenCurves, curves, cacheKey, mix, type PointStage, type Tone } from '../../stages/stage'
import { FogBathError } from '../../errors'
import type { Decision } from '../../formats/cdl'
import { LIGHT } from '../grading/families'
import { fieldsOf, choice, number } from '../fields'
import { stroke } from '../emblem'
import { defineKind } from '../kind'

const CHANNELS = ['Red', 'Green', 'Blue'] as const
const each = (what: string, low: number, high: number, start: number, description: string) =>
  Object.fromEntries(
    CHANNELS.map((c) => [
      `${what}${c}`,
      number(low, high, start, {
        title: `${what[0]!.toUpperCase()}${what.slice(1)}, ${c.toLowerCase()}`,
        description,
        group: `${what[0]!.toUpperCase()}${what.slice(1)}`,
        step: 0.001,
        first: what === 'slope',
      }),
    ]),
  ) as unknown as Record<`${string}${(typeof CHANNELS)[number]}`, ReturnType<typeof number>>

const CdlSettings = Type.Object(
  {
    on: choice(['log', 'video', 'linear'], ['Log (ACEScct)', 'Video, gamma 2.4', 'Scene light'], 'log', {
      title: 'Works on',
      description: 'The numbers that slope, offset and power act on; a decision list means little without them.',
      group: 'Saturation',
      first: true,
    }),
    saturation: number(0, 4, 1, {
      title: 'Saturation',
      description: 'About the luma of BT.709, after slope, offset and power.',
      group: 'Saturation',
      step: 0.01,
      first: true,
    }),
    ...each('slope', 0, 4, 1, 'The incoming number times this.'),
    ...each('offset', -1, 1, 0, 'Added after the slope.'),
    ...each('power', 0.1, 4, 1, 'The exponent, after slope and offset; what is below 0 becomes 0.'),
  },
  { additionalProperties: false },
)
/** The settings that a decision from a file asks for, held within what can be set; and back. */
export function settingsOfDecision(d: Decision): Record<string, number> {
  const held = (name: string, v: number): number => {
    const { minimum, maximum } = fieldsOf<{ minimum: number; maximum: number }>(CdlSettings)[name]!
    if (v < minimum || v > maximum)
      throw new FogBathError('range', name, `${name} is ${v}; this bath takes ${minimum} to ${maximum}.`)
    return v
  }
  const list = (what: 'slope' | 'offset' | 'power') => CHANNELS.map((c, k) => [`${what}${c}`, d[what][k]!] as const)
  const all = [...list('slope'), ...list('offset'), ...list('power'), ['saturation', d.saturation] as const]
  return Object.fromEntries(all.map(([name, v]) => [name, held(name, v)]))
}

const own = (settings: Readonly<Record<string, unknown>>): Settings => settings as unknown as Settings

export function decisionOf(settings: Readonly<Record<string, unknown>>): Decision {
  const s = own(settings)
  return { slope: of(s, 'slope'), offset: of(s, 'offset'), power: of(s, 'power'), saturation: s.saturation }
}

/** The three numbers of one operation. */
type Of<N extends string> = Readonly<Record<`${N}${(typeof CHANNELS)[number]}`, number>>
type Settings = Pick<Static<typeof CdlSettings>, 'on' | 'saturation'> & Of<'slope'> & Of<'offset'> & Of<'power'>

const of = (s: Settings, what: 'slope' | 'offset' | 'power'): Triple => triple(CHANNELS.map((c) => s[`${what}${c}`]))

/** Luma weights that ASC CDL 1.2 names. */
const W: Triple = [0.2126, 0.7152, 0.0722]

/** The three operations and saturation, on numbers as they stand. */
function operations(s: Settings): PointStage[] {
  const power = of(s, 'power')
  const tone = (p: number): Tone => ({
    key: cacheKey('cdl power', p),
    axis: { nodes: 'octaves', from: -20, to: 8 } as const,
    f: (v) => (v > 0 ? v ** p : 0),
  })
  return [
    mix(diagonal(of(s, 'slope')), of(s, 'offset')),
    curves(tone(power[0]), tone(power[1]), tone(power[2])),
    mix(timesChroma(W, s.saturation)),
  ]
}

/** What a program does that reads the numbers of a bath from a file: they act on what it has. */
export const operationsOf = (settings: Readonly<Record<string, unknown>>): readonly PointStage[] =>
  operations(own(settings))

const even = (key: string, from: number, to: number, f: (v: number) => number): PointStage =>
  evenCurves({ key, axis: { nodes: 'even', from, to, steps: 8192 }, f })
const octaves = (key: string, f: (v: number) => number): PointStage =>
  evenCurves({ key, axis: { nodes: 'octaves', from: -24, to: 8 }, f })

/** To the numbers it works on, and back to scene light. */
const AROUND: Record<Settings['on'], readonly [readonly PointStage[], readonly PointStage[]]> = {
  linear: [[], []],
  log: [
    [mix(rgbToRgb(BT709, AP1)), octaves('to ACEScct', (v) => ACESCCT.encode(v))],
    [even('from ACEScct', 0, 1.2, (v) => ACESCCT.decode(v)), mix(rgbToRgb(AP1, BT709))],
  ],
  video: [[octaves('to gamma 2.4', BT1886.encode)], [octaves('from gamma 2.4', BT1886.decode)]],
}

const stages = (s: Settings): PointStage[] => [...AROUND[s.on][0], ...operations(s), ...AROUND[s.on][1]]

/** Slope, offset, power and saturation. */
export const decisionList = defineKind({
  id: 'cdl',
  label: 'Slope, offset, power',
  short: 'Slope, offset',
  family: { name: LIGHT, emblem: [stroke('M2.5 12.5 13.5 4'), stroke('M2.5 9h11')] },
  stretch: 'prepare',
  summary: 'The colour decision list of the ASC: slope, offset, power a channel, and saturation.',
  notes: {
    recipe: 'cool-and-gritty',
    about: 'An ASC CDL, as it comes from set.',
    model:
      'ASC CDL 1.2: (in·slope + offset), held at 0, to the power; then luma + saturation·(out - luma) with the weights 0.2126, 0.7152, 0.0722. On ACEScct (S-2016-001), on gamma 2.4, or on scene light itself. What lies above 1 is kept.',
  },
  schema: CdlSettings,
  takes: 'camera',
  sample: { slopeRed: 1.06, slopeBlue: 0.94, saturation: 1.25 } as object,
  stages: (s) => stages(own(s)),
  idle: (loose) => {
    const s = own(loose)
    const rest = s.saturation === 1 && of(s, 'slope').every((v) => v === 1) && of(s, 'offset').every((v) => v === 0)
    return rest && of(s, 'power').every((v) => v === 1) ? 'all its numbers are neutral' : null
  },
  views: () => [],
})
