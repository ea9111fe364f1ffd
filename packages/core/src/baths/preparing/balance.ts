import Type, { type Static } from 'typebox'
import { multiply, type Matrix3 } from '../../colour/matrix'
import { BT709_TO_XYZ, D65_WHITE, XYZ_TO_BT709, adaptation } from '../../colour/spaces'
import { lightXyz } from '../../colour/white'
import { evenCurves, keyOf, mix, type PointStage } from '../../stages/stage'
import { LIGHT } from '../grading/families'
import { number, percent } from '../fields'
import { ring, stroke } from '../emblem'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'

const BalanceSettings = Type.Object(
  {
    exposure: number(-8, 8, 0, {
      title: 'Exposure',
      description: 'In stops.',
      ...{ group: 'Light', unit: 'stop', step: 0.05, first: true },
    }),
    kelvin: number(2000, 20000, 6504, {
      title: 'Light of the scene',
      description: 'Its colour temperature; it is made neutral. Lower is the warmer light, and the cooler picture.',
      ...{ group: 'Light', unit: 'K', step: 10, first: true },
    }),
    tint: number(-100, 100, 0, {
      title: 'Tint of the light',
      description: 'Greenish (above 0) or pinkish light that is made neutral; 100 are 0.03 in u’v’.',
      ...{ group: 'Light', step: 1, first: true },
    }),
    black: number(-2, 10, 0, {
      title: 'Black level',
      description: 'Light that is taken for black, in per cent of white: haze and stray light go.',
      ...{ group: 'Ends', unit: '%', step: 0.05, first: true },
    }),
    white: number(-3, 3, 0, {
      title: 'White level',
      description: 'Stops from the black level up: the lights to where white is, on top of the exposure.',
      ...{ group: 'Ends', unit: 'stop', step: 0.05, first: true },
    }),
    rollOff: percent(0, {
      title: 'Roll-off',
      description: 'How much of the range above the knee is drawn together, so that bright lights keep their drawing.',
      group: 'Ends',
    }),
    knee: number(0, 5, 1.5, {
      title: 'Knee',
      description: 'Where the roll-off begins, in stops above mid grey.',
      ...{ group: 'Ends', unit: 'stop', step: 0.1 },
    }),
    shadows: number(-100, 100, 0, {
      title: 'Shadows',
      description: 'Opens what is darker than mid grey, or closes it; mid grey and black stay.',
      ...{ group: 'Ends', unit: '%', step: 1, first: true },
    }),
  },
  { additionalProperties: false },
)
export type BalanceSettings = Static<typeof BalanceSettings>

/** Light of the scene made neutral (Bradford), black taken off, gains. */
export function balanceMix(s: BalanceSettings): PointStage {
  const neutral = multiply(XYZ_TO_BT709, multiply(adaptation(lightXyz(s.kelvin, s.tint), D65_WHITE), BT709_TO_XYZ))
  const gain = 2 ** (s.exposure + s.white)
  const row = (k: 0 | 1 | 2) => neutral[k].map((v) => v * gain) as unknown as Matrix3[0]
  const off = (-s.black / 100) * gain
  return mix([row(0), row(1), row(2)], [off, off, off])
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
  return [balanceMix(s), evenCurves({ key: keyOf('balance', s.shadows, s.rollOff, s.knee), axis, f: balanceTone(s) })]
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
      'The light’s white is that of CIE daylight (CIE 15) above 5000 K and of a black body (Planck) below 4000 K, mixed between, moved by the tint at right angles to the locus in u’v’; it is adapted to D65 (Bradford). Black is taken off, gains are powers of two. Shadows: up to 1.2 stops at three stops below mid grey. Roll-off: stops above the knee a become ln(1 + 3ra) / 3r.',
  },
  schema: BalanceSettings,
  takes: 'camera',
  sample: { kelvin: 4600, shadows: 45 },
  stages,
  idle: (s) =>
    s.exposure === 0 &&
    s.kelvin === 6504 &&
    s.tint === 0 &&
    s.black === 0 &&
    s.white === 0 &&
    s.shadows === 0 &&
    s.rollOff === 0
      ? 'nothing is set'
      : null,
  views,
})
