import { cacheKey, type Axis, type Tone } from '../stages/stage'

/**
 * A characteristic curve: density against log exposure, after Hurter and Driffield.
 * With x = log10(exposure / 0.18) and s(v, w) = w·ln(1 + e^(v/w)):
 *
 *     D(x) = dmin + gamma·[ s(x - start, toe) - s(x - end, shoulder) ]
 */
export interface Curve {
  /** Slope of the straight part, density per log10 exposure. */
  readonly gamma: number
  /** Where the straight part starts and ends, log10 exposure relative to mid grey (0.18). */
  readonly start: number
  readonly end: number
  /** Softness of either end in log10 exposure, > 0. */
  readonly toe: number
  readonly shoulder: number
  /** Density of the unexposed material. */
  readonly dmin: number
}

/** softplus, w·ln(1 + e^(v/w)), without overflow. */
export function softplus(v: number, w: number): number {
  const u = v / w
  return u > 30 ? v : w * Math.log1p(Math.exp(u))
}

/** Density at x = log10(exposure / 0.18). Any finite x. */
export function densityAt(curve: Curve, x: number): number {
  const rise = softplus(x - curve.start, curve.toe) - softplus(x - curve.end, curve.shoulder)
  return curve.dmin + curve.gamma * rise
}

/** The greatest density the curve can reach. */
export const dmaxOf = (curve: Curve): number => curve.dmin + curve.gamma * (curve.end - curve.start)

/** log10(exposure / 0.18), with the exposure held at `floor` so that black and negative light stay finite. */
const logExposure = (exposure: number, floor = 1e-6): number => Math.log10((exposure > floor ? exposure : floor) / 0.18)

/** Starting curves of the generic emulsions (typical textbook values, from memory; tuned on photographs). */
export const CAMERA_NEGATIVE: Curve = { gamma: 0.62, start: -1.9, end: 2.4, toe: 0.28, shoulder: 0.3, dmin: 0 }
export const COLOUR_PRINT: Curve = { gamma: 3.0, start: -0.48, end: 0.95, toe: 0.1, shoulder: 0.16, dmin: 0.06 }

/** Stops of pushing or pulling that the schema allows. */
export const PUSH_RANGE = [-2, 3] as const

/**
 * Longer (stops > 0) or shorter development. Slope changes by 12 % a stop and speed by a third of a stop for each
 * stop, i.e. the toe moves by 0.1 in log exposure (both from memory). The shoulder moves with the toe so that the
 * latitude, in log exposure, stays.
 */
export function develop(curve: Curve, stops: number): Curve {
  const shift = -0.1 * stops
  return {
    ...curve,
    gamma: curve.gamma * (1 + 0.12 * stops),
    start: curve.start + shift,
    end: curve.end + shift,
  }
}

/** Exposure at the print of a negative: log exposure, a range that no setting leaves. */
const PRINTING: Axis = { nodes: 'even', from: -8, to: 6, steps: 4096 }

/** Image densities, for functions of them. */
export const DENSITIES: Axis = { nodes: 'even', from: 0, to: 8, steps: 2048 }

/** Light on a negative, relative; below four millionths and above 16384 nothing changes. */
export const LIGHT: Axis = { nodes: 'octaves', from: -18, to: 14 }

/**
 * Density against log exposure. A slope of 3 with a toe of 0.1 bends by at most 7.5 a unit², so that a table is within
 * 1.2e-5 of it. @param flash exposure that is added to all
 */
export const printTone = (curve: Curve, flash = 0): Tone => ({
  key: cacheKey('print', curve, flash),
  axis: PRINTING,
  f: flash > 0 ? (x) => densityAt(curve, Math.log10(10 ** x + flash)) : (x) => densityAt(curve, x),
})

/** Density against exposure, not its logarithm. */
export const exposureTone = (curve: Curve, flash = 0): Tone => ({
  key: cacheKey('exposure', curve, flash),
  axis: LIGHT,
  f: (exposure) => densityAt(curve, logExposure(exposure + flash)),
})

/** A tone whose result is carried on by a function. @param key what the function is made from */
export const carried = (tone: Tone, key: unknown, f: (v: number) => number): Tone => ({
  key: cacheKey(tone.key, key),
  axis: tone.axis,
  f: (v) => f(tone.f(v)),
})

/** Black-and-white print and three-strip separation negative (typical textbook values, from memory). */
export const MONO_PRINT: Curve = { gamma: 2.9, start: -0.48, end: 0.95, toe: 0.1, shoulder: 0.16, dmin: 0.04 }
export const SEPARATION: Curve = { gamma: 0.65, start: -1.9, end: 2.4, toe: 0.28, shoulder: 0.3, dmin: 0 }
