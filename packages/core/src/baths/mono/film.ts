import { dot, type Triple } from '../../colour/matrix'
import { CAMERA_NEGATIVE, MONO_PRINT, densityAt, develop, exposureTone, type Curve } from '../../film/curve'
import { PLAIN_LIGHT } from '../../film/plain-levels'
import { makeProjection, projectPlain } from '../../film/projection'
import { recordOf } from '../../film/records'
import { timeToGrey } from '../../film/printing'
import { tone, type ToningBath } from '../../film/toning'
import { IMBIBITION_DYES, SILVER, TINTS, TONED, type TintName, type TonerName } from '../../spectra/dyes'
import { bells, passBand, spectrumFrom, type Spectrum } from '../../spectra/grid'
import { keyOf, mix, type Axis, type PointStage } from '../../stages/stage'
import type { MonoSettings } from './settings'

/** Sensitivities (from memory). */
const SENSITIVITIES: Record<string, Spectrum> = {
  panchromatic: bells([
    [1, 440, 110],
    [0.9, 540, 110],
    [0.9, 620, 80],
  ]),
  orthochromatic: bells([
    [1, 440, 110],
    [0.9, 540, 90],
  ]),
  blue: bells([[1, 430, 90]]),
}

/** Transmittances of common glasses: where they begin to pass (common practice). */
const FILTERS: Record<string, Spectrum | undefined> = {
  yellow: passBand(490, 800),
  orange: passBand(545, 800),
  red: passBand(595, 800),
  green: passBand(490, 590).map((v) => 0.05 + 0.95 * v),
  blue: passBand(370, 500).map((v) => 0.03 + 0.97 * v),
}

/** The one record as a mix of red, green and blue light. */
function monoRecord(s: MonoSettings): Triple {
  if (s.sensitivity !== 'free') return recordOf(SENSITIVITIES[s.sensitivity]!, FILTERS[s.filter])
  const sum = s.mixRed + s.mixGreen + s.mixBlue
  // A mix that cancels itself out cannot be scaled to 100 %; it is left as it is.
  const scale = s.holdSum && Math.abs(sum) > 5 ? 1 / sum : 1 / 100
  return [s.mixRed * scale, s.mixGreen * scale, s.mixBlue * scale]
}

export const bathsOf = (s: MonoSettings): ToningBath[] =>
  (
    [
      [s.toner1, s.far1],
      [s.toner2, s.far2],
      [s.toner3, s.far3],
      [s.toner4, s.far4],
    ] as const
  ).flatMap(([toner, completeness]) => (toner === 'none' ? [] : [{ toner: toner as TonerName, completeness }]))

/** Grade 2 is the normal stock; each grade is 18 % of slope. Litho multiplies it up to threefold (from memory). */
function printCurve(s: MonoSettings): Curve {
  const gamma = MONO_PRINT.gamma * (1 + 0.18 * (s.grade - 2)) * (1 + (2 * s.litho) / 100)
  return {
    ...MONO_PRINT,
    gamma,
    end: MONO_PRINT.start + (MONO_PRINT.gamma / gamma) * (MONO_PRINT.end - MONO_PRINT.start) * 1.02,
  }
}

/** The base's absorption. An own hue takes what the three purest dyes take of the other hues. */
function tintOf(s: MonoSettings): Spectrum | undefined {
  if (s.tint === 'none' || s.tintDensity === 0) return undefined
  if (s.tint !== 'own') return TINTS[s.tint as TintName].map((v) => v * s.tintDensity)
  const [c, m, y] = IMBIBITION_DYES
  const take = (hue: number) => 0.4 * (1 - Math.cos(((s.tintHue - hue) * Math.PI) / 180))
  const [a, b, d] = [take(0), take(120), take(240)]
  return spectrumFrom((nm) => {
    const i = (nm - 380) / 10
    return s.tintDensity * (a * c[i]! + b * m[i]! + d * y[i]!)
  })
}

/** Silver of a very fine, warm image, as litho development leaves it (from memory). */
const WARM_SILVER = spectrumFrom((nm) => (550 / nm) ** 0.9)

/** Light that the one record's film tells apart, 2^-14 .. 2^9. */
const RECORD: Axis = { nodes: 'octaves', from: -14, to: 9 }

export interface MonoFilm {
  readonly record: Triple
  readonly print: Curve
  readonly printerLight: number
  readonly negative: (exposure: number) => number
  /** The record, and the whole print and projection as a ramp over it. */
  readonly stages: readonly PointStage[]
}

export function makeMono(s: MonoSettings): MonoFilm {
  const record = monoRecord(s)
  const print = printCurve(s)
  const negative = exposureTone(develop(CAMERA_NEGATIVE, s.push)).f
  const baths = bathsOf(s)
  const project = projectPlain(projectionOf(s, baths))
  const printed = (light: number, exposure: number, out: Float64Array): void =>
    project(tone(densityAt(print, light - negative(exposure)) - print.dmin, baths), out)
  const light = s.holdGrey
    ? timeToGrey((light) => (r, g, b, out) => printed(light, dot(record, [r, g, b]), out))
    : PLAIN_LIGHT
  const ramp = { key: keyOf('mono', s), axis: RECORD, f: (v: number, out: Float64Array) => printed(light, v, out) }
  return { record, print, printerLight: light, negative, stages: [mix([record, NONE, NONE]), { at: 'ramp', ramp }] }
}

const NONE: Triple = [0, 0, 0]

/** Silver, warm to a degree, and what the toning baths made of it, over a dyed base. */
function projectionOf(s: MonoSettings, baths: readonly ToningBath[]) {
  const warmth = s.litho / 100
  const silver = SILVER.map((v, i) => v * (1 - warmth) + WARM_SILVER[i]! * warmth)
  const base = tintOf(s)
  return makeProjection({
    components: [silver, ...baths.map((b) => TONED[b.toner])],
    lamp: s.lamp,
    flare: s.flare / 100,
    clear: [0],
    ...(base ? { base } : {}),
  })
}
