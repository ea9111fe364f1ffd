import { NO_TRIMS, encodingById, type Recipe, type Trims } from '@fogbath/core'
import { TARGETS, type TargetFormat } from '../media/encode'
import type { Job } from './frame-worker'

/**
 * The encoding that a delivery gets when none is asked for: linear light in EXR; otherwise that of display footage, so
 * that a plain treatment hands the same numbers back, and BT.1886 for camera footage.
 */
function deliveryEncoding(from: string, format: TargetFormat): string {
  if (format === 'exr') return 'linear'
  return encodingById(from).refers === 'display' ? from : 'bt1886'
}

export function makeJob(recipe: Recipe, from: string, format: TargetFormat, trims: Trims = NO_TRIMS, to?: string): Job {
  const { bits, float } = TARGETS[format]
  return {
    recipe,
    trims,
    from: encodingById(from).id,
    to: encodingById(to ?? deliveryEncoding(from, format)).id,
    bits,
    float,
  }
}
