import { IDENTITY, type Matrix3, type Triple } from '../colour/matrix'
import { NEGATIVE_LAYERS } from '../spectra/dyes'
import { recordsOf } from './records'

/** The colour negative's three records as channel mixes of linear BT.709 light. */
export const NEGATIVE_RECORDS: Matrix3 = recordsOf(NEGATIVE_LAYERS)

/**
 * Inter-image effect of the colour negative: each layer's development holds the others back, its neighbours more. Rows sum
 * to 1, so neutrals stay; diagonals as emulsions show them, 1.2 to 1.3 (from memory).
 */
export const INTER_IMAGE: Matrix3 = [
  [1.25, -0.17, -0.08],
  [-0.13, 1.25, -0.12],
  [-0.08, -0.17, 1.25],
]

/** Sensitivity of a layer to light that is not its own: what reaches it of the mean of all, 2.5 log units less (from memory). */
export const UNWANTED = 0.003

/** The matrix at a strength of `share` (1 = as fitted, 0 = none). Rows keep their sum of 1. */
export function scaledFromIdentity(m: Matrix3, share: number): Matrix3 {
  const row = (i: 0 | 1 | 2): Triple => {
    const at = (j: 0 | 1 | 2) => IDENTITY[i][j] + share * (m[i][j] - IDENTITY[i][j])
    return [at(0), at(1), at(2)]
  }
  return [row(0), row(1), row(2)]
}
