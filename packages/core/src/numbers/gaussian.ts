/** Below this many pixels a sampled Gaussian blurs too little; three weights of its variance come nearer. */
const NARROW = Math.sqrt(1 / 3)

/** Half of a Gaussian, centre first, so that the whole sums to 1. @param sigma in pixels, > 0 */
export function gaussian(sigma: number, reach = Math.max(1, Math.ceil(3 * sigma))): Float32Array {
  if (sigma < NARROW) {
    const narrow = new Float32Array(reach + 1)
    narrow.set([1 - sigma * sigma, (sigma * sigma) / 2])
    return narrow
  }
  const half = Float32Array.from({ length: reach + 1 }, (_, i) => Math.exp(-(i * i) / (2 * sigma * sigma)))
  const sum = half.reduce((total, v, i) => total + (i === 0 ? v : 2 * v), 0)
  return half.map((v) => v / sum)
}
