import { invert, transform, type Matrix3, type Triple } from '../colour/matrix'
import { SAMPLES, type Spectrum } from '../spectra/grid'
import { OBSERVER, D65 } from '../spectra/standards'
import { transmittance } from './pow10'

export type DyeSet = readonly [Spectrum, Spectrum, Spectrum]

const STEP = 0.02
/** Highest equivalent neutral density in the table. */
const TOP_DENSITY = 6
const COUNT = Math.round(TOP_DENSITY / STEP) + 1

const XYZ_BARS = [OBSERVER.x, OBSERVER.y, OBSERVER.z] as const

/**
 * Equivalent neutral density: the amounts of three dyes that together make a visual neutral of density d under D65,
 * tabulated for d = 0..6 (the definition of R. M. Evans, W. T. Hanson, W. L. Brewer 1953, from memory).
 * Solved by Newton's method on the three visual densities -log10(X/Xw), -log10(Y/Yw), -log10(Z/Zw).
 */
export interface NeutralScale {
  readonly dyes: DyeSet
  /** 3 amounts a step of 0.02 density. */
  readonly amounts: Float64Array
}

const cache = new WeakMap<DyeSet, NeutralScale>()

export function neutralScale(dyes: DyeSet): NeutralScale {
  const known = cache.get(dyes)
  if (known) return known
  const amounts = new Float64Array(3 * COUNT)
  let guess: Triple = [0, 0, 0]
  for (let i = 1; i < COUNT; i++) {
    guess = solve(dyes, i * STEP, guess)
    amounts.set(guess, 3 * i)
  }
  const scale = { dyes, amounts }
  cache.set(dyes, scale)
  return scale
}

function solve(dyes: DyeSet, density: number, start: Triple): Triple {
  let amounts: Triple = start
  for (let round = 0; round < 12; round++) {
    const { densities, slopes } = visualDensities(dyes, amounts)
    const miss: Triple = [densities[0] - density, densities[1] - density, densities[2] - density]
    const step = transform(invert(slopes), miss)
    amounts = [amounts[0] - step[0], amounts[1] - step[1], amounts[2] - step[2]]
    if (Math.max(...step.map(Math.abs)) < 1e-10) break
  }
  return amounts
}

/** Visual densities in X, Y and Z of dye amounts under D65, and their slopes d(density)/d(amount). */
function visualDensities(dyes: DyeSet, amounts: Triple): { densities: Triple; slopes: Matrix3 } {
  const light = [0, 0, 0]
  const white = [0, 0, 0]
  const weighted = [
    [0, 0, 0],
    [0, 0, 0],
    [0, 0, 0],
  ]
  for (let i = 0; i < SAMPLES; i++) {
    const t = transmittance(amounts[0] * dyes[0][i]! + amounts[1] * dyes[1][i]! + amounts[2] * dyes[2][i]!)
    for (let c = 0; c < 3; c++) {
      const power = XYZ_BARS[c]![i]! * D65[i]!
      white[c]! += power
      light[c]! += power * t
      for (let k = 0; k < 3; k++) weighted[c]![k]! += power * t * dyes[k]![i]!
    }
  }
  const row = (c: number): Triple => [
    weighted[c]![0]! / light[c]!,
    weighted[c]![1]! / light[c]!,
    weighted[c]![2]! / light[c]!,
  ]
  const density = (c: number) => -Math.log10(light[c]! / white[c]!)
  return { densities: [density(0), density(1), density(2)], slopes: [row(0), row(1), row(2)] }
}

/**
 * The amount of dye k (0..2) whose equivalent neutral density is `density`; linear between the steps of 0.02, and
 * along the last step's slope above 6. Negative densities give negative amounts along the first step's slope.
 */
export function amountAt(scale: NeutralScale, k: 0 | 1 | 2, density: number): number {
  const at = density / STEP
  const node = Math.max(0, Math.min(COUNT - 2, Math.floor(at)))
  const low = scale.amounts[3 * node + k]!
  const high = scale.amounts[3 * node + 3 + k]!
  return low + (high - low) * (at - node)
}
