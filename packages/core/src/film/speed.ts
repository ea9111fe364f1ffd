import { densityAt, type Curve } from './curve'
import { bisect } from './plain-levels'

/** log10 exposure (of mid grey = 0) at which a curve first reaches `rise` above Dmin; NaN where it never does. */
export function exposureForRise(curve: Curve, rise: number): number {
  const above = (x: number): number => densityAt(curve, x) - curve.dmin
  if (!(above(8) > rise)) return NaN
  return bisect(above, rise, -8, 8)
}

/** Density above Dmin at the speed point of black-and-white negatives (ISO 6; from memory). */
const ISO6_RISE = 0.1
/** ISO 6 measures contrast as the rise in density over this much log exposure beyond the speed point. */
const ISO6_SPAN = 1.3

/**
 * The ISO 6 construction on a black-and-white negative: the speed point m, and the rise in density to the point n that
 * lies 1.30 in log exposure beyond it. Development to the standard gives a rise of 0.80 (from memory).
 */
export function iso6Contrast(curve: Curve): { readonly speedPoint: number; readonly rise: number } {
  const speedPoint = exposureForRise(curve, ISO6_RISE)
  return { speedPoint, rise: densityAt(curve, speedPoint + ISO6_SPAN) - densityAt(curve, speedPoint) }
}

/** ISO 6 arithmetic speed from the exposure at the speed point. @param exposure lux seconds, > 0 */
export const iso6Speed = (exposure: number): number => 0.8 / exposure

/**
 * ISO 5800 arithmetic speed of a colour negative: from the geometric mean of the speed-point exposures of the green
 * layer and of the slowest layer. @param green,slowest lux seconds, > 0
 */
export const iso5800Speed = (green: number, slowest: number): number => Math.SQRT2 / Math.sqrt(green * slowest)

/** Logarithmic speed in degrees. */
export const speedDegrees = (arithmetic: number): number => 1 + 10 * Math.log10(arithmetic)

/** By how many stops a development gains (above 0) or loses speed: how far the speed point moves. */
export const speedGain = (from: Curve, to: Curve, rise = ISO6_RISE): number =>
  (exposureForRise(from, rise) - exposureForRise(to, rise)) / Math.log10(2)
