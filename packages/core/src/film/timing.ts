import { LUMA_709 } from '../colour/spaces'
import type { PointFunction } from '../kernels/lut3d'
import { bisect } from './plain-levels'

/**
 * Timing: the neutral printer light (log exposure) at which scene light 0.18 prints to a luminance of 0.18.
 * Where no light can reach it (flash or flare too strong) the end of the range is taken.
 */
export function timeToGrey(printAt: (light: number) => PointFunction): number {
  const out = new Float64Array(3)
  const luminance = (light: number): number => {
    printAt(light)(0.18, 0.18, 0.18, out)
    return LUMA_709[0] * out[0]! + LUMA_709[1] * out[1]! + LUMA_709[2] * out[2]!
  }
  return bisect(luminance, 0.18, -2, 6)
}
