import type { Matrix3, Triple } from '../colour/matrix'
import { SAMPLES, type Spectrum } from '../spectra/grid'
import { BT709_BASIS, D65 } from '../spectra/standards'

/**
 * What one emulsion layer sees, as a channel mix of linear BT.709 light: w_k = sum b_k·light·filter·sensitivity,
 * scaled to sum to 1 so that 18 % grey exposes every layer as 0.18.
 * @param sensitivity relative, any scale > 0 @param filter transmittance 0..1, default none @param light taking light
 */
export function recordOf(sensitivity: Spectrum, filter?: Spectrum, light: Spectrum = D65): Triple {
  const weights: [number, number, number] = [0, 0, 0]
  for (let i = 0; i < SAMPLES; i++) {
    const seen = light[i]! * sensitivity[i]! * (filter ? filter[i]! : 1)
    for (let k = 0; k < 3; k++) weights[k] = weights[k]! + BT709_BASIS[k]![i]! * seen
  }
  const sum = weights[0] + weights[1] + weights[2]
  if (!(sum > 0)) throw new Error('The record sees no light: filter and sensitivity do not overlap.')
  return [weights[0] / sum, weights[1] / sum, weights[2] / sum]
}

/** Three records as the rows of a matrix. */
export const recordsOf = (layers: readonly [Spectrum, Spectrum, Spectrum]): Matrix3 => [
  recordOf(layers[0]),
  recordOf(layers[1]),
  recordOf(layers[2]),
]
