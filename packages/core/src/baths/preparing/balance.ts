import Type, { type Static } from 'typebox'
import { IDENTITY, triple, multiply, type Matrix3, type Triple } from '../../colour/matrix'
import { BT709_TO_XYZ, D65_WHITE, XYZ_TO_BT709, adaptation, xyzOf } from '../../colour/spaces'
import { daylightXy, lightXyz } from '../../colour/white'
import { evenCurves, cacheKey, mix, type PointStage } from '../../stages/stage'
import { LIGHT } from '../grading/families'
import { choice, lightPoints, number, percent } from '../fields'
import { ring, stroke } from '../emblem'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'

const BalanceSettings = Type.Object(
  {
    exposure: number(-8, 8, 0, {
      title: 'Exposure',
      description: 'In stops.',
      group: 'Light',
      unit: 'stop',
      step: 0.05,
      first: true,
    }),
    kelvin: number(2000, 20000, 6504, {
      title: 'Light of the scene',
      description: 'Its colour temperature; it is made neutral. Lower is the warmer light, and the cooler picture.',
      group: 'Light',
      unit: 'K',
      step: 10,
      first: true,
      only: { setting: 'way', is: 'kelvin' },
    }),
    mired: number(-100, 100, 0, {
      title: 'Temperature',
      description: 'Cooler (below 0) or warmer (above 0): steps of one mired each, as if the light had changed.',
      group: 'Light',
      unit: 'mired',
      step: 1,
      first: true,
      only: { setting: 'way', is: 'mired' },
    }),
    tint: number(-100, 100, 0, {
      title: 'Tint of the light',
      description:
        'Greenish (above 0) or pinkish light that is made neutral, so that the picture turns to magenta or to green; 100 are 0.03 in u’v’, or 0.02 in y in steps of mired.',
      group: 'Light',
      step: 1,
      first: true,
    }),
    lightRed: lightPoints('red', 'scene'),
    lightGreen: lightPoints('green', 'scene'),
    lightBlue: lightPoints('blue', 'scene'),
    way: choice(['kelvin', 'mired'], ['by its kelvin', 'in steps of mired'], 'kelvin', {
      title: 'Temperature is set',
      description:
        'By the kelvin of the scene’s light, which is made neutral, or in even steps from how the footage came.',
      group: 'Light',
    }),
    black: number(-2, 10, 0, {
      title: 'Black level',
      description: 'Light that is taken for black, in per cent of white: haze and stray light go.',
      group: 'Ends',
      unit: '%',
      step: 0.05,
      first: true,
    }),
    white: number(-3, 3, 0, {
      title: 'White level',
      description: 'Stops from the black level up: the lights to where white is, on top of the exposure.',
      group: 'Ends',
      unit: 'stop',
      step: 0.05,
      first: true,
    }),
    rollOff: percent(0, {
      title: 'Roll-off',
      description: 'How much of the range above the knee is drawn together, so that bright lights keep their drawing.',
      group: 'Ends',
    }),
    knee: number(0, 5, 0.4, {
      title: 'Knee',
      description: 'Where the roll-off begins, in stops above mid grey.',
      group: 'Ends',
      unit: 'stop',
      step: 0.1,
    }),
    shadows: number(-100, 100, 0, {
      title: 'Shadows',
      description: 'Opens what is darker than mid grey, or closes it; mid grey and black stay.',
      group: 'Ends',
      unit: '%',
      step: 1,
      first: true,
    }),
  },
  { additionalProperties: false },
)
export type BalanceSettings = Static<typeof BalanceSettings>

/** Mired of D65's correlated colour temperature (6504 K). */
const D65_MIRED = 1e6 / 6504

/** The light of the scene made neutral (Bradford). White keeps its luminance: this is no exposure. */
function neutralOf({ way, kelvin, mired, tint }: BalanceSettings): Matrix3 {
  if (way === 'kelvin') return between(lightXyz(kelvin, tint), D65_WHITE)
  // Exactly, so that what does nothing costs nothing.
  if (mired === 0 && tint === 0) return IDENTITY
  const [x, y] = daylightXy(1e6 / Math.max(40, D65_MIRED + mired))
  // Tint moves across the daylight line; 100 steps are 0.02 in y.
  return between(xyzOf(daylightXy(1e6 / D65_MIRED)), xyzOf([x, y - tint * 0.0002]))
}

const between = (from: Triple, to: Triple): Matrix3 =>
  multiply(XYZ_TO_BT709, multiply(adaptation(from, to), BT709_TO_XYZ))

/** Light of the scene made neutral, black taken off, gains. */
export function balanceMix(s: BalanceSettings): PointStage {
  const neutral = neutralOf(s)
  const gains = [s.lightRed, s.lightGreen, s.lightBlue].map((points) => 2 ** (s.exposure + points / 12 + s.white))
  const row = (k: 0 | 1 | 2) => triple(neutral[k].map((v) => v * gains[k]!))
  return mix([row(0), row(1), row(2)], triple(gains.map((gain) => (-s.black / 100) * gain)))
}

/** Scene light to scene light in stops from mid grey: shadows opened, lights rolled off. */
function balanceTone(s: BalanceSettings): (light: number) => number {
  const open = s.shadows / 100
  const roll = s.rollOff / 100
  return (light) => {
    if (!(light > 0)) return light
    const stops = Math.log2(light / 0.18)
    // Up to 1.2 stops at three stops below mid grey, nothing at either end.
    const t = -stops / 3
    if (t > 0) return light * 2 ** (open * 1.2 * (t * Math.exp(1 - t)) ** 2)
    const above = stops - s.knee
    if (above <= 0 || roll === 0) return light
    // From a slope of 1 to a slope that falls with every stop.
    const drawn = Math.log1p(3 * roll * above) / (3 * roll)
    return 0.18 * 2 ** (s.knee + drawn)
  }
}

function stages(s: BalanceSettings): PointStage[] {
  if (s.shadows === 0 && s.rollOff === 0) return [balanceMix(s)]
  const axis = { nodes: 'octaves', from: -16, to: 8 } as const
  return [
    balanceMix(s),
    evenCurves({ key: cacheKey('balance', s.shadows, s.rollOff, s.knee), axis, f: balanceTone(s) }),
  ]
}

function views(s: BalanceSettings): View[] {
  const tone = balanceTone(s)
  const gain = 2 ** (s.exposure + s.white)
  const out = (x: number): number => Math.log2(Math.max(2 ** -9, tone((0.18 * 2 ** x - s.black / 100) * gain)) / 0.18)
  return [
    {
      view: 'curves',
      title: 'Stops from mid grey, in and out',
      xTitle: 'in',
      yTitle: 'out',
      lines: [
        { label: 'unchanged', style: 'dashed', points: sampleLine((x) => x, -6, 5) },
        { label: 'balanced', style: 'accent', points: sampleLine(out, -6, 5) },
      ],
      handles: [
        { x: 0, y: out(0), label: 'exposure', onY: { setting: 'exposure', perUnit: 1 } },
        { x: -3, y: out(-3), label: 'shadows', onY: { setting: 'shadows', perUnit: 80 } },
      ],
    },
  ]
}

/** Light, colour of the light, ends. */
export const balance = defineKind({
  id: 'balance',
  label: 'Balance',
  short: 'Balance',
  family: { name: LIGHT, emblem: [ring(8, 8, 3), stroke('M8 1.5v2M8 12.5v2M1.5 8h2M12.5 8h2')] },
  stretch: 'prepare',
  summary: 'Exposure, the colour of the light, black and white levels, shadows and lights, before all chemistry.',
  notes: {
    recipe: 'night-by-hand',
    about: 'The scene’s light set right before it meets the film.',
    model:
      'The light’s white is that of CIE daylight (CIE 15) above 5000 K and of a black body (Planck) below 4000 K, mixed between, moved by the tint at right angles to the locus in u’v’; it is adapted to D65 (Bradford). In steps of mired D65 is taken for the daylight so many mired away, moved by the tint across the locus in y. Points of red, green and blue light are twelfths of a stop. Black is taken off, gains are powers of two. Shadows: up to 1.2 stops at three stops below mid grey. Roll-off: stops above the knee a become ln(1 + 3ra) / 3r.',
  },
  schema: BalanceSettings,
  takes: 'camera',
  sample: { kelvin: 4600, shadows: 45 },
  stages,
  idle: (s) => {
    const temperature = s.way === 'kelvin' ? s.kelvin === 6504 : s.mired === 0
    const { exposure, tint, lightRed, lightGreen, lightBlue, black, white, shadows, rollOff } = s
    const others = [exposure, tint, lightRed, lightGreen, lightBlue, black, white, shadows, rollOff]
    return temperature && others.every((v) => v === 0) ? 'nothing is set' : null
  },
  views,
})
