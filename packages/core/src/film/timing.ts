import { luminance } from '../colour/spaces'
import type { PointFunction } from '../kernels/lut3d'
import { bisect } from './plain-levels'

/**
 * Timing: the neutral printer light (log exposure) at which scene light 0.18 prints to a luminance of 0.18.
 * Where no light can reach it (flash or flare too strong) the end of the range is taken.
 */
export function timeToGrey(printAt: (light: number) => PointFunction): number {
  const out = new Float64Array(3)
  const printed = (light: number): number => {
    printAt(light)(0.18, 0.18, 0.18, out)
    return luminance(out)
  }
  return bisect(printed, 0.18, -2, 6)
}
