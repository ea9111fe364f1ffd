import { triple, type Matrix3, type Triple } from '../../colour/matrix'
import { LIGHT, densityAt, dmaxOf, type Curve } from '../../film/curve'
import { NEGATIVE_RECORDS } from '../../film/layers'
import { amountAt, neutralScale } from '../../film/neutral'
import { densityPlaces } from '../../film/places'
import { timeToGrey } from '../../film/printing'
import { makeProjection } from '../../film/projection'
import { EARLY_DYES, STAIN } from '../../spectra/dyes'
import { plainStages } from '../../stages/plain'
import { curves, evenCurves, cacheKey, mix, type Axis, type PointStage, type Tone } from '../../stages/stage'
import type { InstantSettings } from './settings'

/** Layers of an instant print; they are positives, so the curves are read at -x (from memory, tuned on photographs). */
const LAYERS: readonly [Curve, Curve, Curve] = [
  { gamma: 1.45, start: -0.55, end: 0.5, toe: 0.14, shoulder: 0.3, dmin: 0 },
  { gamma: 1.43, start: -0.55, end: 0.51, toe: 0.14, shoulder: 0.3, dmin: 0 },
  { gamma: 1.15, start: -0.6, end: 0.55, toe: 0.16, shoulder: 0.3, dmin: 0.05 },
]
const MIXING: Matrix3 = [
  [0.82, 0.13, 0.05],
  [0.1, 0.8, 0.1],
  [0.08, 0.24, 0.68],
]
/** Log exposures that the layers tell apart. */
const EXPOSURES: Axis = { nodes: 'even', from: -5, to: 5, steps: 4096 }

/** The records, each mixed with the others to the wished degree; rows keep their sum of 1. */
function recordsOf(mixing: number): Matrix3 {
  const row = (i: 0 | 1 | 2): Triple => {
    const own = MIXING[i].map((m, j) => (i === j ? 1 : 0) + (mixing / 100) * (m - (i === j ? 1 : 0)))
    return triple([0, 1, 2].map((j) => NEGATIVE_RECORDS.reduce((sum, record, k) => sum + own[k]! * record[j]!, 0)))
  }
  return [row(0), row(1), row(2)]
}

/**
 * Development: cold (below 21 °C) and short leave all dyes thin and the yellow thinnest, warm and long make them dense,
 * yellow and magenta most. Factors a degree from memory.
 */
function dyeFactors(s: InstantSettings): Triple {
  const warm = (s.temperature - 21) / 10
  const long = (s.time - 100) / 100
  const factor = (each: number) => Math.min(1.6, Math.max(0.45, 1 + each * warm + 0.35 * long))
  return [factor(0.04), factor(0.09), factor(0.17)]
}

export interface InstantFilm {
  readonly records: Matrix3
  /** Scene light to exposures, those to their logarithms, these to dye densities, densities to light off the print. */
  readonly exposed: readonly PointStage[]
  readonly logged: readonly PointStage[]
  readonly develop: readonly PointStage[]
  readonly view: readonly PointStage[]
  readonly printerLight: number
  readonly factors: Triple
}

export function makeInstant(s: InstantSettings): InstantFilm {
  const records = recordsOf(s.mixing)
  const factors = dyeFactors(s)
  const layers = LAYERS.map((c) => ({ ...c, gamma: (c.gamma * s.contrast) / 100 }))
  const layer = (k: 0 | 1 | 2): Tone => ({
    key: cacheKey('instant', layers[k], factors[k]),
    axis: EXPOSURES,
    f: (x) => densityAt(layers[k]!, -x) * factors[k],
  })
  const develop = [curves(layer(0), layer(1), layer(2))]
  const view = viewStages(s, UNEVEN * Math.max(...layers.map((c, k) => dmaxOf(c) * factors[k as 0 | 1 | 2])))
  const exposed = [mix(records)]
  const loggedAt = (light: number) => [evenCurves(exposedBy(light))]
  const light = s.holdGrey
    ? timeToGrey((light) => plainStages([...exposed, ...loggedAt(light), ...develop, ...view]))
    : 0
  return { records, exposed, logged: loggedAt(light), develop, view, printerLight: light, factors }
}

/** Most that unevenly spread paste adds to a density, as a factor. */
const UNEVEN = 1.4

const exposedBy = (light: number): Tone => ({
  key: cacheKey('log', light),
  axis: LIGHT,
  f: (e) => light + Math.log10(Math.max(e, 1e-5) / 0.18),
})

/** Dye densities to light off the paper. */
function viewStages(s: InstantSettings, highest: number): PointStage[] {
  const places = densityPlaces(0, highest)
  const scale = neutralScale(EARLY_DYES)
  const solid = {
    key: cacheKey('instant', s.surfaceFlare, s.warmBase, places.box.to),
    ...places.box,
    amounts: (c: number, m: number, y: number, out: Float64Array): void => {
      out[0] = amountAt(scale, 0, c)
      out[1] = amountAt(scale, 1, m)
      out[2] = amountAt(scale, 2, y)
    },
    projection: makeProjection({
      components: [...EARLY_DYES],
      lamp: 'd65',
      flare: 0.0015 + s.surfaceFlare / 100,
      clear: ([0, 1, 2] as const).map((k) => amountAt(scale, k, 0)),
      base: STAIN.map((v) => v * s.warmBase * 2),
    }),
  }
  return [evenCurves(places.tone), { at: 'solid', solid }]
}
