import type { Matrix3, Triple } from '../../colour/matrix'
import {
  DENSITIES,
  MONO_PRINT,
  SEPARATION,
  carried,
  dmaxOf,
  exposureTone,
  printTone,
  type Curve,
} from '../../film/curve'
import type { FilmParts } from '../../film/emulsion'
import { amountAt, neutralScale } from '../../film/neutral'
import { scaledFromIdentity } from '../../film/layers'
import { densityPlaces } from '../../film/places'
import { PLAIN_LIGHT } from '../../film/plain-levels'
import { throughNegative, timeStages } from '../../film/printing'
import { makeProjection } from '../../film/projection'
import { recordOf } from '../../film/records'
import { memoized } from '../../numbers/memoized'
import { IMBIBITION_DYES, SILVER } from '../../spectra/dyes'
import { bells } from '../../spectra/grid'
import { curves, evenCurves, cacheKey, mix, type PointStage, type Solid, type Tone } from '../../stages/stage'
import { laysOf, nodesOfLaid, strengthsOf } from './laid'
import type { ThreeStripSettings } from './settings'

export const RECORDS = ['red', 'green', 'blue'] as const

/**
 * Separation records behind prism and filters: peaks and widths from memory, then fitted together with the matrix so that
 * hues of photographs stay where the plain print has them.
 */
export const THREE_STRIP_RECORDS: Matrix3 = [
  recordOf(bells([[1, 626, 76]])),
  recordOf(bells([[1, 549, 90]])),
  recordOf(bells([[1, 435, 74]])),
]

/** Gives all hues about the same gain in chroma over the plain print; rows sum to 1, so neutrals stay (own design). */
const INTER_IMAGE: Matrix3 = [
  [1.495, -0.27, -0.225],
  [-0.16, 1.41, -0.25],
  [-0.09, -0.305, 1.395],
]

/**
 * The share of the mean of all light that every record sees at least, through prism and filters: leaves and petals keep their
 * texture in the records of colours that they hardly have (own design, judged on photographs).
 */
const STRAY = 0.13

export interface ThreeStripFilm {
  /** `print`: the densities of the three dye images; `shown` without registers and bleed. */
  readonly parts: FilmParts & { readonly shown: readonly PointStage[] }
}

export function makeThreeStrip(s: ThreeStripSettings): ThreeStripFilm {
  const matrices = [s.contrastCyan, s.contrastMagenta, s.contrastYellow].map((c): Curve => ({
    ...MONO_PRINT,
    gamma: (MONO_PRINT.gamma * c) / 100,
  })) as [Curve, Curve, Curve]
  const exposed = [mix(THREE_STRIP_RECORDS, [0, 0, 0], STRAY)]
  const negative = [evenCurves(exposureTone(SEPARATION)), mix(scaledFromIdentity(INTER_IMAGE, s.interImage / 100))]
  const image = (curve: Curve): Tone => carried(printTone(curve), 'image', (d) => d - MONO_PRINT.dmin)
  const images = curves(image(matrices[0]), image(matrices[1]), image(matrices[2]))
  const assemble =
    s.show === 'print' ? printStages(s, Math.max(...matrices.map(dmaxOf))) : separationStages(RECORDS.indexOf(s.show))
  const light = s.holdGrey ? timeStages([...exposed, ...negative], [images, ...assemble]) : PLAIN_LIGHT
  return { parts: { exposed, negative, print: [throughNegative([light, light, light]), images], shown: assemble } }
}

/** One dye image as a grey picture. */
function separationStages(k: number): PointStage[] {
  const only: Triple = [k === 0 ? 1 : 0, k === 1 ? 1 : 0, k === 2 ? 1 : 0]
  const passed: Tone = { key: 'passed', axis: DENSITIES, f: (d) => 10 ** -d }
  return [mix([only, only, only]), evenCurves(passed)]
}

/** The three dyes over the silver key image, projected. */
function printStages(s: ThreeStripSettings, highest: number): PointStage[] {
  const places = densityPlaces(0, highest)
  const scale = neutralScale(IMBIBITION_DYES)
  const lays = laysOf(s)
  // What lies in dye is laid by its amount; of the others the strength comes when they are laid.
  const amounts = strengthsOf(s).map(
    (strength, k) => ([s.amountCyan, s.amountMagenta, s.amountYellow][k]! / 100) * (lays[k] === 'dye' ? strength : 1),
  )
  const key = s.key / 100
  const prints = {
    ...places.box,
    // The key image is made from the green record, whose dye is magenta; the dyes give way to it.
    amounts: (c: number, m: number, y: number, out: Float64Array): void => {
      out[0] = amountAt(scale, 0, c * (1 - key)) * amounts[0]!
      out[1] = amountAt(scale, 1, m * (1 - key)) * amounts[1]!
      out[2] = amountAt(scale, 2, y * (1 - key)) * amounts[2]!
      out[3] = key * m
    },
    projection: makeProjection({
      components: [...IMBIBITION_DYES, SILVER],
      lamp: s.lamp,
      flare: s.flare / 100,
      clear: [0, 0, 0, 0],
    }),
  }
  const made = cacheKey('three-strip', s.lamp, s.flare, s.key, amounts, places.box.to)
  const solid: Solid = lays.every((lay) => lay === 'dye')
    ? { key: made, ...prints }
    : {
        key: cacheKey(made, lays, strengthsOf(s)),
        ...places.box,
        nodes: memoized(1, () => nodesOfLaid(s, prints)),
        holds: 'light',
      }
  return [evenCurves(places.tone), { at: 'solid', solid }]
}
