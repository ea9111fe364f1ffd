import { IDENTITY, type Matrix3, type Triple } from '../colour/matrix'
import { NEGATIVE_LAYERS } from '../spectra/dyes'
import { recordsOf } from './records'

/** The colour negative's three records as channel mixes of linear BT.709 light. */
export const NEGATIVE_RECORDS: Matrix3 = recordsOf(NEGATIVE_LAYERS)

/**
 * Inter-image effect of the colour negative: each layer's development holds the others back. Rows sum to 1, so
 * neutrals stay. Fitted so that the plain process hands natural pictures back.
 */
export const INTER_IMAGE: Matrix3 = [
  [1.464, -0.61, 0.146],
  [-0.71, 2.133, -0.423],
  [0.039, -0.574, 1.535],
]

/** The matrix at a strength of `share` (1 = as fitted, 0 = none). Rows keep their sum of 1. */
export function scaledFromIdentity(m: Matrix3, share: number): Matrix3 {
  const row = (i: 0 | 1 | 2): Triple => {
    const at = (j: 0 | 1 | 2) => IDENTITY[i][j] + share * (m[i][j] - IDENTITY[i][j])
    return [at(0), at(1), at(2)]
  }
  return [row(0), row(1), row(2)]
}
