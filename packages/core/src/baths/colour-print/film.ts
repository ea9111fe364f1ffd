import { IDENTITY, three, triple, type Matrix3, type Triple } from '../../colour/matrix'
import {
  CAMERA_NEGATIVE,
  COLOUR_PRINT,
  densityAt,
  develop,
  dmaxOf,
  exposureTone,
  printTone,
  type Curve,
} from '../../film/curve'
import type { FilmParts } from '../../film/emulsion'
import { INTER_IMAGE, NEGATIVE_RECORDS, UNWANTED, scaledFromIdentity } from '../../film/layers'
import { amountAt, neutralScale } from '../../film/neutral'
import { densityPlaces } from '../../film/places'
import { PLAIN_LIGHT, POINT } from '../../film/plain-levels'
import { throughNegative, timeStages } from '../../film/printing'
import { makeProjection } from '../../film/projection'
import {
  SILVER_IN_INTERMEDIATE,
  SILVER_IN_NEGATIVE,
  SILVER_IN_PRINT,
  SILVER_SHARES,
  keptSilver,
  silverDensity,
} from '../../film/silver'
import { EARLY_DYES, PRINT_DYES, SILVER } from '../../spectra/dyes'
import type { Spectrum } from '../../spectra/grid'
import { plainStages } from '../../stages/plain'
import { curves, evenCurves, cacheKey, mix, type PointStage, type Solid } from '../../stages/stage'
import type { ColourPrintSettings } from './settings'

/** Layers answer development unequally: the top (blue) layer gains most, the bottom (red) least (from memory). */
const PUSH_BY_LAYER: Triple = [-0.02, 0, 0.025]

/** A duplicate of slope 1 whose ends are rounded (from memory). */
const DUPLICATE: Curve = { gamma: 1, start: 0.1, end: 2.5, toe: 0.08, shoulder: 0.22, dmin: 0.1 }

/** What other kinds change about the chain. */
export interface PrintVariant {
  /** How light exposes the layers, instead of the colour negative's records. */
  readonly exposed?: readonly PointStage[]
  /** Whether the print is on an early stock, with its dyes. */
  readonly early?: boolean
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
  /** Scene light to the densities of the three layers of the negative as the printer sees them, silver included. */
  readonly negativeStages: readonly PointStage[]
  /** Density of kept silver on the wall for a neutral image density. */
  readonly printSilver: (density: number) => number
  readonly parts: FilmParts
}

/**
 * Colour negative and print: records, negative with kept silver, inter-image effect, printing, dye image with kept
 * silver, projection. Scene light (linear BT.709) in, display-linear BT.709 out.
 */
export function makeColourPrint(s: ColourPrintSettings, variant: PrintVariant = {}): ColourPrintFilm {
  const negative = negativeCurves(s)
  const print: Curve = { ...COLOUR_PRINT, gamma: s.printGamma, end: s.printEnd }
  const developed = negativeOf(s, negative)
  const negativeStages = [...(variant.exposed ?? RECORDED), ...developed]
  const printStages = printOf(s, print, variant)
  const even = evenLights(s, developed)
  const timed = (print: readonly PointStage[]): number =>
    timeStages(negativeStages, print, (v) => [v + even[0], v, v + even[2]])
  const bleached = (): number => timed(printOf({ ...s, bleachPrint: 100 }, print, variant))
  const light =
    variant.timedLight ?? (s.holdGrey ? partly(s.silverTimed / 100, () => timed(printStages), bleached) : PLAIN_LIGHT)
  const offset = (points: number, k: 0 | 1 | 2) => light + even[k] + (points - 25) * POINT
  const lights: Triple = [offset(s.lightRed, 0), offset(s.lightGreen, 1), offset(s.lightBlue, 2)]
  const [density, ...shown] = printStages
  return {
    negative,
    print,
    printerLight: light,
    negativeStages,
    printSilver: (density) => s.callier * keptSilver(s.bleachPrint, SILVER_IN_PRINT, density),
    parts: {
      exposed: variant.exposed ?? RECORDED,
      negative: developed,
      print: [throughNegative(lights), density],
      shown,
    },
  }
}

/** A share of the way from one light to another. */
function partly(share: number, whole: () => number, none: () => number): number {
  if (share === 1) return whole()
  return share === 0 ? none() : share * whole() + (1 - share) * none()
}

/** How light exposes the layers of a colour negative. */
const RECORDED: readonly PointStage[] = [mix(NEGATIVE_RECORDS, [0, 0, 0], UNWANTED)]

/** Log exposure at which the default print gives mid grey; the unit of print flashing. */
const PRINT_GREY = PLAIN_LIGHT - densityAt(CAMERA_NEGATIVE, 0)

/** Log exposure of the print to light on the wall. */
function printOf(s: ColourPrintSettings, print: Curve, variant: PrintVariant): [PointStage, ...PointStage[]] {
  const density = printTone(print, (s.flashPrint / 100) * 10 ** PRINT_GREY)
  const places = densityPlaces(print.dmin, dmaxOf(print))
  return [evenCurves(density), evenCurves(places.tone), { at: 'solid', solid: printSolid(s, print, variant) }]
}

const LAYERS = [0, 1, 2] as const

/** Print densities, by their places, to light: dyes, kept silver, lamp and base. */
function printSolid(
  s: ColourPrintSettings,
  print: Curve,
  { early = false, left = [1, 1, 1], base }: PrintVariant,
): Solid {
  const dyes = early ? EARLY_DYES : PRINT_DYES
  const scale = neutralScale(dyes)
  const over = base && [...base]
  const places = densityPlaces(print.dmin, dmaxOf(print))
  return {
    key: cacheKey('print', s.lamp, s.flare, s.bleachPrint, s.callier, print.dmin, places.box.to, early, left, over),
    ...places.box,
    amounts: (c, m, y, out) => {
      out[0] = amountAt(scale, 0, c) * left[0]
      out[1] = amountAt(scale, 1, m) * left[1]
      out[2] = amountAt(scale, 2, y) * left[2]
      out[3] = s.callier * keptSilver(s.bleachPrint, SILVER_IN_PRINT, silverDensity([c, m, y]) - print.dmin)
    },
    projection: makeProjection({
      components: [...dyes, SILVER],
      lamp: s.lamp,
      flare: s.flare / 100,
      clear: [...LAYERS.map((k) => amountAt(scale, k, print.dmin)), 0],
      ...(base ? { base } : {}),
    }),
  }
}

/**
 * Layers that drifted apart in development are timed one by one by what the printer's light meets, as a grader would: mid grey stays neutral and the
 * crossover shows towards both ends. Log exposure besides that of the green layer.
 */
function evenLights(s: ColourPrintSettings, developed: readonly PointStage[]): Triple {
  if (!s.holdGrey || s.push === 0) return [0, 0, 0]
  const grey = three()
  plainStages(developed)(0.18, 0.18, 0.18, grey)
  return [grey[0] - grey[1], 0, grey[2] - grey[1]]
}

function negativeCurves(s: ColourPrintSettings): [Curve, Curve, Curve] {
  const base: Curve = { ...CAMERA_NEGATIVE, gamma: s.negativeGamma, start: s.negativeStart, end: s.negativeEnd }
  const layer = (k: 0 | 1 | 2): Curve => {
    const developed = develop(base, s.push)
    return { ...developed, gamma: developed.gamma * (1 + PUSH_BY_LAYER[k] * s.push) }
  }
  return [layer(0), layer(1), layer(2)]
}

/** Exposures of the layers to the densities that the printer's light meets. */
function negativeOf(s: ColourPrintSettings, layers: readonly [Curve, Curve, Curve]): PointStage[] {
  const flash = (s.flashNegative / 100) * 0.18
  const [r, g, b] = layers
  const developed = curves(exposureTone(r, flash), exposureTone(g, flash), exposureTone(b, flash))
  const interImage = scaledFromIdentity(INTER_IMAGE, s.interImage / 100)
  const stages = [developed, mix(withSilver(interImage, keptSilver(s.bleachNegative, SILVER_IN_NEGATIVE, 1)))]
  return s.intermediate || s.bleachIntermediate < 100 ? [...stages, ...intermediates(s, stages)] : stages
}

/**
 * An interpositive and the duplicate negative made from it, in densities of a negative: what is dense in the one is thin in
 * the other, so the interpositive's silver takes light from what lies below mid grey. Each is exposed so that mid grey
 * keeps its density (common practice).
 */
function intermediates(s: ColourPrintSettings, negative: readonly PointStage[]): PointStage[] {
  const rounded = evenCurves(DUPLICATE_TONE)
  const silver = keptSilver(s.bleachIntermediate, SILVER_IN_INTERMEDIATE, 1)
  const grey = three()
  plainStages([...negative, rounded])(0.18, 0.18, 0.18, grey)
  const more = -silver * silverDensity(triple([...grey]))
  return [rounded, mix(withSilver(IDENTITY, silver), [more, more, more]), rounded]
}

const DUPLICATE_TONE = printTone(DUPLICATE)

/** A matrix that besides adds to every layer a share of the silver that what comes in goes by. */
function withSilver(m: Matrix3, share: number): Matrix3 {
  const row = (i: 0 | 1 | 2): Triple => {
    const at = (j: 0 | 1 | 2) => m[i][j] + share * SILVER_SHARES[j]
    return [at(0), at(1), at(2)]
  }
  return [row(0), row(1), row(2)]
}
