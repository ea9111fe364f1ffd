import { dot, type Triple, type Three } from '../../colour/matrix'
import { CAMERA_NEGATIVE, MONO_PRINT, densityAt, develop, exposureTone, printTone, type Curve } from '../../film/curve'
import { PLAIN_LIGHT } from '../../film/plain-levels'
import type { FilmParts } from '../../film/emulsion'
import { makeProjection, projectPlain } from '../../film/projection'
import { recordOf } from '../../film/records'
import { throughNegative, timeToGrey } from '../../film/printing'
import { gilds, tone, type ToningBath } from '../../film/toning'
import { GILDED_SULPHIDE, IMBIBITION_DYES, SILVER, TINTS, TONED, sulphideOf } from '../../spectra/dyes'
import { bells, passBand, spectrumFrom, type Spectrum } from '../../spectra/grid'
import { curves, cacheKey, mix, type Axis, type PointStage } from '../../stages/stage'
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
  ).flatMap(([toner, completeness]) => (toner === 'none' ? [] : [{ toner, completeness }]))

/** What exhausted developer makes of a stock before it runs away: soft, and never very dense (from memory). */
const LITHO = { gamma: 1.6, dmax: 2.3 }

/** Density that the normal stock can rise by. */
const RISE = MONO_PRINT.gamma * (MONO_PRINT.end - MONO_PRINT.start) * 1.02

/** Grade 2 is the normal stock; each grade is 18 % of slope (from memory). Litho development softens what comes before it. */
function printCurve(s: MonoSettings): Curve {
  const steeper = 1 + 0.18 * (s.grade - 2)
  const share = s.litho / 100
  const gamma = (MONO_PRINT.gamma + share * (LITHO.gamma - MONO_PRINT.gamma)) * steeper
  return { ...MONO_PRINT, gamma, end: MONO_PRINT.start + (RISE + share * (LITHO.dmax - RISE)) / gamma }
}

/** Density at which litho development runs away, and how sharply (from memory). */
const RUNAWAY = { density: 0.9, width: 0.09 }

/**
 * Infectious development: what it has made speeds it up, so that beyond a density all the rest follows at once.
 * @returns the share of silver that has not developed yet which does so, 0..1
 */
const infected = (density: number): number => 1 / (1 + Math.exp((RUNAWAY.density - density) / RUNAWAY.width))

/** The base's absorption. An own hue takes what the three purest dyes take of the other hues. */
function tintOf(s: MonoSettings): Spectrum | undefined {
  if (s.tint === 'none' || s.tintDensity === 0) return undefined
  if (s.tint !== 'own') return TINTS[s.tint].map((v) => v * s.tintDensity)
  const [c, m, y] = IMBIBITION_DYES
  const take = (hue: number) => 0.4 * (1 - Math.cos(((s.tintHue - hue) * Math.PI) / 180))
  const [a, b, d] = [take(0), take(120), take(240)]
  return spectrumFrom((nm) => {
    const i = (nm - 380) / 10
    return s.tintDensity * (a * c[i]! + b * m[i]! + d * y[i]!)
  })
}

/** Very fine silver, as slow litho development makes it: warm (from memory). */
const WARM_SILVER = spectrumFrom((nm) => (550 / nm) ** 1.1)

/** Light that the one record's film tells apart, 2^-14 .. 2^9. */
const RECORD: Axis = { nodes: 'octaves', from: -14, to: 9 }

export interface MonoFilm {
  readonly record: Triple
  readonly print: Curve
  readonly printerLight: number
  readonly negative: (exposure: number) => number
  /** The record, and the whole print and projection as a ramp over it. */
  readonly stages: readonly PointStage[]
  /** The same cut in pieces; densities stand in the first channel. */
  readonly parts: FilmParts
}

export function makeMono(s: MonoSettings): MonoFilm {
  const record = monoRecord(s)
  const print = printCurve(s)
  const developed = exposureTone(develop(CAMERA_NEGATIVE, s.push))
  const negative = developed.f
  const baths = bathsOf(s)
  const projection = projectionOf(s, baths)
  const project = projectPlain(projection)
  /** Silver, warm silver and what toners made of it, for a density of the print. */
  const compounds = (density: number): readonly number[] => {
    const slow = density - print.dmin
    const run = infected(slow)
    const fast = (s.litho / 100) * run * Math.max(0, RISE - slow)
    const [left, ...toned] = tone(slow + fast, baths)
    // Where development has run away the grains are as coarse, and as black, as others.
    const warm = (s.litho / 100) * (1 - run) * left!
    return [left! - warm, warm, ...toned]
  }
  const shown = (density: number, out: Three): void => project(compounds(density), out)
  const densityOf = (light: number, exposure: number): number => densityAt(print, light - negative(exposure))
  const printed = (light: number, exposure: number, out: Three): void => shown(densityOf(light, exposure), out)
  const light = s.holdGrey
    ? timeToGrey((light) => (r, g, b, out) => printed(light, dot(record, [r, g, b]), out))
    : PLAIN_LIGHT
  const absorbers = {
    amounts: (v: number, out: Float64Array): void => out.set(compounds(densityOf(light, v))),
    projection,
  }
  const f = (v: number, out: Three): void => printed(light, v, out)
  const ramp = { key: cacheKey('mono', s), axis: RECORD, f, absorbers }
  const exposed = [mix([record, NONE, NONE])]
  return {
    record,
    print,
    printerLight: light,
    negative,
    stages: [...exposed, { at: 'ramp', ramp }],
    parts: {
      exposed,
      negative: [curves(developed, null, null)],
      print: [throughNegative([light, 0, 0]), curves(printTone(print), null, null)],
      shown: [{ at: 'ramp', ramp: { key: cacheKey('mono print', s), axis: PRINTED, f: shown } }],
    },
  }
}

/** Densities of a print, before litho development runs away. */
const PRINTED: Axis = { nodes: 'even', from: 0, to: 6, steps: 4096 }

const NONE: Triple = [0, 0, 0]

/** Silver, warm silver, and what the toning baths made of it, over a dyed base. */
function projectionOf(s: MonoSettings, baths: readonly ToningBath[]) {
  const base = tintOf(s)
  return makeProjection({
    components: [
      ...[SILVER, WARM_SILVER],
      ...baths.map((b) => (b.toner === 'sulphide' ? sulphideOf(s.brown / 100) : TONED[b.toner])),
      ...(gilds(baths) ? [GILDED_SULPHIDE] : []),
    ],
    lamp: s.lamp,
    flare: s.flare / 100,
    clear: [],
    ...(base ? { base } : {}),
  })
}
