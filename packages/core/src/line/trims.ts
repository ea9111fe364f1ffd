import Type, { type Static } from 'typebox'
import { diagonal, multiply, type Matrix3, type Triple } from '../colour/matrix'
import { BT709_TO_XYZ, XYZ_TO_BT709, adaptation, xyzOf } from '../colour/spaces'
import { daylightXy } from '../colour/white'
import { number } from '../baths/fields'
import { mix, type PointStage } from '../stages/stage'

const GROUP = { group: 'Trims' }

/** A shot's own corrections of the scene light. They stay with the shot when its recipe changes. */
export const TrimsSchema = Type.Object(
  {
    exposure: number(-6, 6, 0, { title: 'Exposure', description: 'In stops.', unit: 'stop', step: 0.05, ...GROUP }),
    temperature: number(-100, 100, 0, {
      title: 'Temperature',
      description: 'Cooler (below 0) or warmer (above 0): steps of one mired each, as if the light had changed.',
      unit: 'mired',
      step: 1,
      ...GROUP,
    }),
    tint: number(-100, 100, 0, {
      title: 'Tint',
      description: 'Towards green (below 0) or magenta (above 0).',
      step: 1,
      ...GROUP,
    }),
    lightRed: trimLight('red'),
    lightGreen: trimLight('green'),
    lightBlue: trimLight('blue'),
  },
  { additionalProperties: false },
)
export type Trims = Static<typeof TrimsSchema>

function trimLight(name: string) {
  return number(-25, 25, 0, {
    title: `Light, ${name}`,
    description: `Points of ${name} light on the scene; 12 are a stop.`,
    unit: 'pt',
    step: 0.5,
    ...GROUP,
  })
}

export const NO_TRIMS: Trims = { exposure: 0, temperature: 0, tint: 0, lightRed: 0, lightGreen: 0, lightBlue: 0 }

/** Mired of D65's correlated colour temperature (6504 K). */
const D65_MIRED = 1e6 / 6504

/** Scene light of the trimmed shot: a white-balance matrix (Bradford) and gains. */
function trimMatrix(t: Trims): Matrix3 {
  const gain = (points: number) => 2 ** (t.exposure + points / 12)
  const gains: Triple = [gain(t.lightRed), gain(t.lightGreen), gain(t.lightBlue)]
  // Exactly, so that trims which do nothing cost nothing.
  if (t.temperature === 0 && t.tint === 0) return diagonal(gains)
  const d65 = xyzOf(daylightXy(1e6 / D65_MIRED))
  const [x, y] = daylightXy(1e6 / Math.max(40, D65_MIRED + t.temperature))
  // Tint moves across the daylight line; 100 steps are 0.02 in y.
  const target = xyzOf([x, y - t.tint * 0.0002])
  const balance = multiply(XYZ_TO_BT709, multiply(adaptation(d65, target), BT709_TO_XYZ))
  // The adaptation takes a white of luminance 1 to another of luminance 1: white balance is not exposure.
  const row = (i: 0 | 1 | 2) => [balance[i][0] * gains[i], balance[i][1] * gains[i], balance[i][2] * gains[i]] as const
  return [row(0), row(1), row(2)]
}

/** The trims as a stage on scene light. */
export const trimStages = (trims: Trims): PointStage[] => [mix(trimMatrix(trims))]
