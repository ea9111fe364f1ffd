import type { Matrix3, Triple } from '../../colour/matrix'
import {
  CAMERA_NEGATIVE,
  COLOUR_PRINT,
  curveTable,
  densityAt,
  develop,
  exposureTable,
  type Curve,
} from '../../film/curve'
import { INTER_IMAGE, NEGATIVE_RECORDS, scaledFromIdentity } from '../../film/layers'
import { amountAt, neutralScale } from '../../film/neutral'
import { PLAIN_LIGHT, POINT } from '../../film/plain-levels'
import { timeToGrey } from '../../film/timing'
import type { Spectrum } from '../../spectra/grid'
import { makeProjector } from '../../film/projection'
import { SILVER_IN_INTERMEDIATE, SILVER_IN_NEGATIVE, SILVER_IN_PRINT, keptSilver } from '../../film/silver'
import type { PointFunction } from '../../kernels/lut3d'
import { PRINT_DYES, SILVER } from '../../spectra/dyes'
import type { ColourPrintSettings } from './settings'

/** Layers answer development unequally: the top (blue) layer gains most, the bottom (red) least (from memory). */
const PUSH_BY_LAYER: Triple = [-0.02, 0, 0.025]

/** A duplicate negative of overall slope 1 whose ends are rounded (from memory). */
const DUPLICATE: Curve = { gamma: 1, start: 0.1, end: 2.5, toe: 0.08, shoulder: 0.22, dmin: 0.1 }

/** What other kinds change about the chain. */
export interface PrintVariant {
  /** Which light drives which layer, instead of the colour negative's records. */
  readonly records?: Matrix3
  /** Share of each dye (cyan, magenta, yellow) that is left, 0..1. */
  readonly left?: Triple
  /** A density over the whole print: stain, fog. */
  readonly base?: Spectrum
  /** Timing disregards what has happened to the print since. */
  readonly timedLight?: number
}

export interface ColourPrintFilm {
  readonly negative: readonly [Curve, Curve, Curve]
  readonly print: Curve
  /** Neutral printer light found by timing, log exposure. */
  readonly printerLight: number
  /** Densities of the three layers of the negative as the printer sees them, silver included. */
  readonly negativeDensities: (r: number, g: number, b: number, out: Float64Array) => void
  /** Visual density of kept silver in the print for a mean image density. */
  readonly printSilver: (mean: number) => number
  /** Scene light to display-linear light. */
  readonly point: PointFunction
}

/**
 * Colour negative and print: records, negative with kept silver, inter-image effect, printing, dye image with kept
 * silver, projection. Scene light (linear BT.709) in, display-linear BT.709 out.
 */
export function makeColourPrint(s: ColourPrintSettings, variant: PrintVariant = {}): ColourPrintFilm {
  const negative = negativeCurves(s)
  const print: Curve = { ...COLOUR_PRINT, gamma: s.printGamma, end: s.printEnd }
  const negativeDensities = makeNegative(s, negative, variant.records ?? NEGATIVE_RECORDS)
  const scale = neutralScale(PRINT_DYES)
  const clearAmounts = ([0, 1, 2] as const).map((k) => amountAt(scale, k, print.dmin))
  const project = makeProjector({
    components: [...PRINT_DYES, SILVER],
    lamp: s.lamp,
    flare: s.flare / 100,
    clear: [...clearAmounts, 0],
    ...(variant.base ? { base: variant.base } : {}),
  })
  const printSilver = (mean: number) => keptSilver(s.bleachPrint, SILVER_IN_PRINT, mean)
  const flash = (s.flashPrint / 100) * 10 ** PRINT_GREY
  const printCurve = curveTable(print)
  const amounts = new Float64Array(4)
  const densities = new Float64Array(3)
  const left = variant.left ?? ([1, 1, 1] as const)

  const printAt = (lights: Triple): PointFunction => {
    return (r, g, b, out) => {
      negativeDensities(r, g, b, densities)
      let sum = 0
      for (const k of LAYERS) {
        let x = lights[k] - densities[k]!
        if (flash > 0) x = Math.log10(10 ** x + flash)
        const density = printCurve(x)
        sum += density - print.dmin
        amounts[k] = amountAt(scale, k, density) * left[k]
      }
      amounts[3] = printSilver(sum / 3)
      project(amounts, out)
    }
  }
  const even = evenLights(s, negative)
  const light =
    variant.timedLight ?? (s.holdGrey ? timeToGrey((v) => printAt([v + even[0], v, v + even[2]])) : PLAIN_LIGHT)
  const offset = (points: number, k: 0 | 1 | 2) => light + even[k] + (points - 25) * POINT
  const point = printAt([offset(s.lightRed, 0), offset(s.lightGreen, 1), offset(s.lightBlue, 2)])
  return { negative, print, printerLight: light, negativeDensities, printSilver, point }
}

const LAYERS = [0, 1, 2] as const

/** Log exposure at which the default print gives mid grey; the unit of print flashing. */
const PRINT_GREY = PLAIN_LIGHT - densityAt(CAMERA_NEGATIVE, 0)

/**
 * Layers that drifted apart in development are timed one by one, as a grader would: mid grey stays neutral and the
 * crossover shows towards both ends. Log exposure besides that of the green layer.
 */
function evenLights(s: ColourPrintSettings, negative: readonly [Curve, Curve, Curve]): Triple {
  if (!s.holdGrey || s.push === 0) return [0, 0, 0]
  const [r, g, b] = negative.map((c) => densityAt(c, 0)) as [number, number, number]
  return [r - g, 0, b - g]
}

function negativeCurves(s: ColourPrintSettings): [Curve, Curve, Curve] {
  const base: Curve = { ...CAMERA_NEGATIVE, gamma: s.negativeGamma, start: s.negativeStart, end: s.negativeEnd }
  const layer = (k: 0 | 1 | 2): Curve => {
    const developed = develop(base, s.push)
    return { ...developed, gamma: developed.gamma * (1 + PUSH_BY_LAYER[k] * s.push) }
  }
  return [layer(0), layer(1), layer(2)]
}

type Layer = (exposure: number) => number

/** Scene light to the densities that the printer's light meets. */
function makeNegative(
  s: ColourPrintSettings,
  curves: readonly [Curve, Curve, Curve],
  records: Matrix3,
): ColourPrintFilm['negativeDensities'] {
  const [red, green, blue] = records
  const [ir, ig, ib] = scaledFromIdentity(INTER_IMAGE, s.interImage / 100)
  const flash = (s.flashNegative / 100) * 0.18
  const [layerR, layerG, layerB] = curves.map((c) => exposureTable(c, flash)) as [Layer, Layer, Layer]
  const duplicated = s.intermediate || s.bleachIntermediate < 100
  return (r, g, b, out) => {
    const dr = layerR(red[0] * r + red[1] * g + red[2] * b)
    const dg = layerG(green[0] * r + green[1] * g + green[2] * b)
    const db = layerB(blue[0] * r + blue[1] * g + blue[2] * b)
    const silver = keptSilver(s.bleachNegative, SILVER_IN_NEGATIVE, (dr + dg + db) / 3)
    out[0] = ir[0] * dr + ir[1] * dg + ir[2] * db + silver
    out[1] = ig[0] * dr + ig[1] * dg + ig[2] * db + silver
    out[2] = ib[0] * dr + ib[1] * dg + ib[2] * db + silver
    if (duplicated) duplicate(out, s.bleachIntermediate)
  }
}

function duplicate(densities: Float64Array, bleach: number): void {
  let sum = 0
  for (const k of LAYERS) {
    densities[k] = densityAt(DUPLICATE, densities[k]!)
    sum += densities[k]!
  }
  const silver = keptSilver(bleach, SILVER_IN_INTERMEDIATE, sum / 3)
  for (const k of LAYERS) densities[k] = densities[k]! + silver
}
