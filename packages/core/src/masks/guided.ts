import type { Plane } from './shapes'

/** Differences of brightness below this, in code values squared, are no edges. */
const FLAT = 0.0009

/**
 * Draws the edges of a mask to those of a picture: within each window the mask becomes the straight line of the picture's
 * brightness that fits it best (K. He, J. Sun, X. Tang, "Guided image filtering", ECCV 2010, equations 5, 6 and 8).
 * @param guide brightness, 0..1, one a pixel @param radius of the windows, pixels
 */
export function guidePlane(plane: Plane, guide: Plane, width: number, height: number, radius: number): void {
  const r = Math.max(1, Math.round(radius))
  const n = plane.length
  const mean = (of: Plane): Plane => boxMean(of, width, height, r)
  const each = (valueAt: (i: number) => number): Plane => {
    const out = new Float32Array(n)
    for (let i = 0; i < n; i++) out[i] = valueAt(i)
    return out
  }
  const [meanI, meanP] = [mean(guide), mean(plane)]
  const [meanII, meanIP] = [mean(each((i) => guide[i]! * guide[i]!)), mean(each((i) => guide[i]! * plane[i]!))]
  const a = each((i) => (meanIP[i]! - meanI[i]! * meanP[i]!) / (meanII[i]! - meanI[i]! * meanI[i]! + FLAT))
  const b = each((i) => meanP[i]! - a[i]! * meanI[i]!)
  const [meanA, meanB] = [mean(a), mean(b)]
  for (let i = 0; i < plane.length; i++) plane[i] = Math.min(1, Math.max(0, meanA[i]! * guide[i]! + meanB[i]!))
}

/** Mean of a square of 2r + 1 pixels, of what of it lies in the picture. */
function boxMean(plane: Plane, width: number, height: number, r: number): Plane {
  const rows = new Float32Array(plane.length)
  for (let y = 0; y < height; y++) slide(plane, rows, y * width, width, r)
  const out = new Float32Array(plane.length)
  slideRows(rows, out, width, height, r)
  return out
}

/** The same down all columns at once: memory is read in its order. */
function slideRows(from: Plane, to: Plane, width: number, height: number, r: number): void {
  const sums = new Float64Array(width)
  let count = 0
  const add = (y: number, sign: 1 | -1): void => {
    for (let x = 0, i = y * width; x < width; x++, i++) sums[x]! += sign * from[i]!
    count += sign
  }
  for (let y = 0; y < Math.min(r, height); y++) add(y, 1)
  for (let y = 0; y < height; y++) {
    if (y + r < height) add(y + r, 1)
    if (y > r) add(y - r - 1, -1)
    for (let x = 0, i = y * width; x < width; x++, i++) to[i] = sums[x]! / count
  }
}

/** A running mean along n pixels of a row. */
function slide(from: Plane, to: Plane, start: number, n: number, r: number): void {
  let [sum, count] = [0, 0]
  for (let i = 0; i < Math.min(r, n); i++, count++) sum += from[start + i]!
  for (let i = 0; i < n; i++) {
    if (i + r < n) {
      sum += from[start + i + r]!
      count++
    }
    if (i > r) {
      sum -= from[start + i - r - 1]!
      count--
    }
    to[start + i] = sum / count
  }
}
