import { transform, type Matrix3, type Triple } from '../../colour/matrix'
import { curveTable, type Curve } from '../../film/curve'
import { NEGATIVE_RECORDS } from '../../film/layers'
import { amountAt, neutralScale } from '../../film/neutral'
import { makeProjector } from '../../film/projection'
import { timeToGrey } from '../../film/timing'
import type { PointFunction } from '../../kernels/lut3d'
import { PRINT_DYES, STAIN } from '../../spectra/dyes'
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
/** Log exposures are carried as densities, moved up so that they are positive. */
export const LIFT = 3

/** The records, each mixed with the others to the wished degree; rows keep their sum of 1. */
function recordsOf(mixing: number): Matrix3 {
  const row = (i: 0 | 1 | 2): Triple => {
    const mixed: Triple = [0, 1, 2].map(
      (j) => (i === j ? 1 : 0) + (mixing / 100) * (MIXING[i][j]! - (i === j ? 1 : 0)),
    ) as unknown as Triple
    return [0, 1, 2].map(
      (j) =>
        mixed[0] * NEGATIVE_RECORDS[0][j]! + mixed[1] * NEGATIVE_RECORDS[1][j]! + mixed[2] * NEGATIVE_RECORDS[2][j]!,
    ) as unknown as Triple
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
  readonly expose: PointFunction
  readonly develop: PointFunction
  readonly view: PointFunction
  readonly printerLight: number
  readonly factors: Triple
}

export function makeInstant(s: InstantSettings): InstantFilm {
  const records = recordsOf(s.mixing)
  const factors = dyeFactors(s)
  const curves = LAYERS.map((c) => curveTable({ ...c, gamma: (c.gamma * s.contrast) / 100 }))
  const scale = neutralScale(PRINT_DYES)
  const clear = ([0, 1, 2] as const).map((k) => amountAt(scale, k, 0))
  const project = makeProjector({
    components: [...PRINT_DYES],
    lamp: 'd65',
    flare: 0.0015 + s.surfaceFlare / 100,
    clear,
    base: STAIN.map((v) => v * s.warmBase * 2),
  })
  const held = new Float64Array(3)
  const exposeAt =
    (light: number): PointFunction =>
    (r, g, b, out) => {
      const e = transform(records, [r, g, b])
      for (let k = 0; k < 3; k++) out[k] = LIFT + light + Math.log10(Math.max(e[k]!, 1e-5) / 0.18)
    }
  const develop: PointFunction = (x, y, z, out) => {
    const [a, b, c] = [curves[0]!(LIFT - x), curves[1]!(LIFT - y), curves[2]!(LIFT - z)]
    out[0] = a * factors[0]
    out[1] = b * factors[1]
    out[2] = c * factors[2]
  }
  const view: PointFunction = (c, m, y, out) => {
    const d = [c, m, y]
    for (const k of [0, 1, 2] as const) held[k] = amountAt(scale, k, Math.max(0, d[k]!))
    project(held, out)
  }
  const whole =
    (light: number): PointFunction =>
    (r, g, b, out) => {
      exposeAt(light)(r, g, b, out)
      develop(out[0]!, out[1]!, out[2]!, out)
      view(out[0]!, out[1]!, out[2]!, out)
    }
  const light = s.holdGrey ? timeToGrey(whole) : 0
  return { records, expose: exposeAt(light), develop, view, printerLight: light, factors }
}
