/**
 * Gaussian blur of each record with its own sigma, by direct separable convolution cut at 3 sigma; the edge's colour
 * continues outside.
 * @param sigmas in per mille of the width, one a channel; 0 leaves the channel alone
 * @param picture RGBA float32, changed in place @param scratch same length
 */
export function blurRecords(
  sigmas: readonly [number, number, number],
  picture: Float32Array,
  scratch: Float32Array,
  width: number,
  height: number,
): void {
  sigmas.forEach((perMille, k) => {
    const sigma = (perMille * width) / 1000
    if (sigma < 0.05) return
    const weights = gaussian(sigma)
    for (let y = 0; y < height; y++) blurRow(picture, scratch, 4 * y * width + k, width, weights)
    for (let y = 0; y < height; y++) gatherRows(scratch, picture, y, k, width, height, weights)
  })
}

/** Half of a Gaussian, centre first, so that the whole sums to 1. */
export function gaussian(sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma))
  const half = Float32Array.from({ length: reach + 1 }, (_, i) => Math.exp(-(i * i) / (2 * sigma * sigma)))
  const sum = half.reduce((total, v, i) => total + (i === 0 ? v : 2 * v), 0)
  return half.map((v) => v / sum)
}

function blurRow(src: Float32Array, dst: Float32Array, start: number, width: number, weights: Float32Array): void {
  const reach = weights.length - 1
  const last = width - 1
  for (let i = 0, at = start; i < width; i++, at += 4) {
    let sum = weights[0]! * src[at]!
    for (let j = 1; j <= reach; j++) {
      const left = i - j < 0 ? start : at - 4 * j
      const right = i + j > last ? start + 4 * last : at + 4 * j
      sum += weights[j]! * (src[left]! + src[right]!)
    }
    dst[at] = sum
  }
}

/** One row of the result from the rows around it, row by row so that memory is read in order. */
function gatherRows(
  src: Float32Array,
  dst: Float32Array,
  y: number,
  k: number,
  width: number,
  height: number,
  weights: Float32Array,
): void {
  const row = 4 * width
  const to = y * row + k
  for (let at = to; at < to + row; at += 4) dst[at] = weights[0]! * src[at]!
  for (let j = 1; j < weights.length; j++) {
    const above = Math.max(0, y - j) * row + k
    const below = Math.min(height - 1, y + j) * row + k
    const w = weights[j]!
    for (let i = 0; i < row; i += 4) dst[to + i] = dst[to + i]! + w * (src[above + i]! + src[below + i]!)
  }
}
