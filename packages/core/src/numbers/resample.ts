/** A resampling kernel over distances in samples, and how far it reaches. */
export interface ResampleKernel {
  readonly reach: number
  readonly at: (distance: number) => number
}

/** Linear interpolation. */
export const LINEAR: ResampleKernel = { reach: 1, at: (d) => Math.max(0, 1 - Math.abs(d)) }

/** Cubic spline over six samples (H. Dersch's spline36; coefficients from memory, checked against zimg). */
export const SPLINE36: ResampleKernel = {
  reach: 3,
  at: (d) => {
    const x = Math.abs(d)
    if (x < 1) return ((13 / 11) * x - 453 / 209) * x * x - (3 / 209) * x + 1
    if (x < 2) return ((-6 / 11) * (x - 1) + 270 / 209) * (x - 1) ** 2 - (156 / 209) * (x - 1)
    if (x < 3) return ((1 / 11) * (x - 2) - 45 / 209) * (x - 2) ** 2 + (26 / 209) * (x - 2)
    return 0
  },
}

/** How samples of one line become those of another. */
export interface Resampling {
  readonly taps: number
  /** For each new sample `taps` places of old ones, in 0 <= place < from. */
  readonly places: Int32Array
  readonly weights: Float32Array
}

/**
 * Resampling with a kernel that is widened when there are fewer samples than before. What lies outside is mirrored at the
 * edge (as zimg does it, from memory; checked against it).
 * @param from,to numbers of samples @param shift of the old samples against the new ones, in old samples
 */
export function resampling(from: number, to: number, { reach, at }: ResampleKernel, shift = 0): Resampling {
  const scale = to / from
  const step = Math.min(scale, 1)
  const taps = 2 * Math.ceil(reach / step)
  const places = new Int32Array(taps * to)
  const weights = new Float32Array(taps * to)
  for (let i = 0; i < to; i++) {
    const middle = (i + 0.5) / scale + shift
    const begin = Math.floor(middle - taps / 2 + 0.5) + 0.5
    const own = Array.from({ length: taps }, (_, k) => at((begin + k - middle) * step))
    const sum = own.reduce((a, b) => a + b)
    own.forEach((weight, k) => {
      const x = begin + k
      const inside = x < 0 ? -x : x >= from ? 2 * from - x : x
      places[taps * i + k] = Math.floor(Math.min(from - 1, Math.max(0, inside)))
      weights[taps * i + k] = weight / sum
    })
  }
  return { taps, places, weights }
}

/** The same over neighbouring places: the first of them for each new sample, and as many weights as a multiple of `of`. */
export function inOneRun({ taps, places, weights }: Resampling, of: number): Resampling {
  const to = places.length / taps
  const wide = Math.ceil(taps / of) * of
  const starts = new Int32Array(to)
  const spread = new Float32Array(wide * to)
  for (let i = 0; i < to; i++) {
    starts[i] = Math.min(...places.subarray(taps * i, taps * (i + 1)))
    for (let k = 0; k < taps; k++) spread[wide * i + places[taps * i + k]! - starts[i]!]! += weights[taps * i + k]!
  }
  return { taps: wide, places: starts, weights: spread }
}
