/**
 * Gaussian blur of each record with its own sigma, by direct separable convolution cut at 3 sigma; the edge's colour
 * continues outside.
 * @param sigmas in per mille of the width, one a channel; 0 leaves the channel alone
 * @param picture RGBA float32, changed in place
 */
export function blurRecords(
  sigmas: readonly [number, number, number],
  picture: Float32Array,
  width: number,
  height: number,
): void {
  const line = new Float32Array(Math.max(width, height))
  sigmas.forEach((perMille, k) => {
    const sigma = (perMille * width) / 1000
    if (sigma < 0.05) return
    const weights = gaussian(sigma)
    for (let y = 0; y < height; y++) convolve(picture, 4 * y * width + k, 4, width, weights, line)
    for (let x = 0; x < width; x++) convolve(picture, 4 * x + k, 4 * width, height, weights, line)
  })
}

/** Half of a Gaussian, centre first, so that the whole sums to 1. */
export function gaussian(sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma))
  const half = Float32Array.from({ length: reach + 1 }, (_, i) => Math.exp(-(i * i) / (2 * sigma * sigma)))
  const sum = half.reduce((total, v, i) => total + (i === 0 ? v : 2 * v), 0)
  return half.map((v) => v / sum)
}

function convolve(
  picture: Float32Array,
  start: number,
  step: number,
  count: number,
  weights: Float32Array,
  line: Float32Array,
): void {
  for (let i = 0, at = start; i < count; i++, at += step) line[i] = picture[at]!
  const reach = weights.length - 1
  const last = count - 1
  for (let i = 0, at = start; i < count; i++, at += step) {
    let sum = weights[0]! * line[i]!
    if (i >= reach && i + reach <= last) {
      for (let j = 1; j <= reach; j++) sum += weights[j]! * (line[i - j]! + line[i + j]!)
    } else {
      for (let j = 1; j <= reach; j++)
        sum += weights[j]! * (line[i - j < 0 ? 0 : i - j]! + line[i + j > last ? last : i + j]!)
    }
    picture[at] = sum
  }
}
