import { kernelMemory } from './memory'

type Sigmas = readonly [number, number, number]

/** Below this many pixels a Gaussian does nothing. */
const NOTHING = 0.05
/** A shrunk picture is blurred by at least this many of its own pixels, so that its coarseness does not show. */
const LEAST_SMALL = 2

/**
 * Gaussian blur of each record with its own sigma; the edge's colour continues outside. Up to about 5 pixels it is a
 * separable convolution cut at 3 sigma; wider ones shrink the picture, blur that, and stretch it again.
 * @param sigmas in per mille of the width, one a channel; 0 leaves the channel alone. Alpha stays as far as it is even.
 * @param picture RGBA float32, changed in place
 */
export function blurRecords(sigmas: Sigmas, picture: Float32Array, width: number, height: number): void {
  const pixels = sigmas.map((s) => (s * width) / 1000)
  const factors = pixels.map(factorFor)
  for (const factor of new Set(factors)) {
    const own = pixels.map((s, k) => (factors[k] === factor && s >= NOTHING ? s : 0)) as unknown as Sigmas
    if (Math.max(...own) === 0) continue
    if (factor === 1) blurDirect(own, picture, width, height)
    else blurShrunk(own, factor, picture, width, height)
  }
}

function factorFor(sigma: number): number {
  let factor = 1
  while (sigma / (2 * factor) >= LEAST_SMALL) factor *= 2
  return factor
}

/** Half of a Gaussian, centre first, so that the whole sums to 1. @param sigma in pixels, > 0 */
export function gaussian(sigma: number, reach = Math.max(1, Math.ceil(3 * sigma))): Float32Array {
  const half = Float32Array.from({ length: reach + 1 }, (_, i) => Math.exp(-(i * i) / (2 * sigma * sigma)))
  const sum = half.reduce((total, v, i) => total + (i === 0 ? v : 2 * v), 0)
  return half.map((v) => v / sum)
}

/** Weights of four channels side by side; a channel without a sigma keeps its value. */
function weightsOf(sigmas: Sigmas): { weights: Float32Array; reach: number } {
  const reach = Math.max(1, ...sigmas.map((s) => Math.ceil(3 * s)))
  const weights = new Float32Array(4 * (reach + 1))
  for (let k = 0; k < 4; k++) {
    const sigma = sigmas[k] ?? 0
    if (sigma > 0) gaussian(sigma, reach).forEach((w, i) => (weights[4 * i + k] = w))
    else weights[k] = 1
  }
  return { weights, reach }
}

/** Rows stream through the kernel: blurred along, kept in a ring, summed down once enough of them are there. */
function blurDirect(sigmas: Sigmas, picture: Float32Array, width: number, height: number): void {
  const { weights, reach } = weightsOf(sigmas)
  const count = 2 * reach + 1
  // The kernel takes four pixels at a time; what stands behind the last one is worked out and left.
  const fours = Math.ceil(width / 4)
  const row = 64 * fours
  const toRows = 4 * weights.length
  const toPadded = (toRows + 4 * count + 15) & ~15
  const toOut = toPadded + row + 32 * reach
  const toRing = toOut + row
  const memory = kernelMemory()
  const { blurRow, sumRows } = memory.kernels
  memory.borrow(toRing + count * row, ({ at, memory: bytes }) => {
    new Float32Array(bytes, at, weights.length).set(weights)
    const rows = new Uint32Array(bytes, at + toRows, count)
    const padded = new Float32Array(bytes, at + toPadded, row / 4 + 8 * reach)
    const out = new Float32Array(bytes, at + toOut, 4 * width)
    const placeOf = (y: number) => at + toRing + (y % count) * row
    const last = height - 1
    for (let y = -reach; y < height; y++) {
      const coming = y + reach
      if (coming <= last) {
        pad(padded, picture.subarray(4 * coming * width, 4 * (coming + 1) * width), reach)
        blurRow(at + toPadded + 16 * reach, placeOf(coming), fours, at, reach)
      }
      if (y < 0) continue
      for (let j = -reach; j <= reach; j++) rows[j + reach] = placeOf(Math.min(last, Math.max(0, y + j)))
      sumRows(at + toRows, at + toOut, fours, at, reach)
      picture.set(out, 4 * y * width)
    }
  })
}

/** A row with its first and last pixel repeated on either side, to the end of `padded`. */
function pad(padded: Float32Array, row: Float32Array, before: number): void {
  padded.set(row, 4 * before)
  const end = 4 * before + row.length
  for (let at = 0; at < 4 * before; at++) padded[at] = row[at & 3]!
  for (let at = end; at < padded.length; at++) padded[at] = row[row.length - 4 + (at & 3)]!
}

/**
 * Averaging over a square and stretching with linear interpolation each blur a little: their variances, (f² - 1)/12
 * and (f² - 1)/6, are left out of the Gaussian between them.
 */
function blurShrunk(sigmas: Sigmas, factor: number, picture: Float32Array, width: number, height: number): void {
  const own = (factor * factor - 1) / 4
  const small = sigmas.map((s) => (s > 0 ? Math.sqrt(s * s - own) / factor : 0)) as unknown as Sigmas
  const [w, h] = [Math.ceil(width / factor), Math.ceil(height / factor)]
  const shrunk = shrink(picture, width, height, factor, w, h)
  blurDirect(small, shrunk, w, h)
  stretch(shrunk, w, h, factor, picture, width, height, sigmas)
}

function shrink(
  picture: Float32Array,
  width: number,
  height: number,
  factor: number,
  w: number,
  h: number,
): Float32Array {
  const small = new Float32Array(4 * w * h)
  const memory = kernelMemory()
  memory.borrow(16 * w * (1 + factor), ({ at, memory: bytes }) => {
    const atRow = at + 16 * w
    const sum = new Float32Array(bytes, at, 4 * w)
    const padded = new Float32Array(bytes, atRow, 4 * w * factor)
    for (let y = 0; y < h; y++) {
      sum.fill(0)
      for (let j = 0; j < factor; j++) {
        const from = Math.min(height - 1, y * factor + j) * width
        pad(padded, picture.subarray(4 * from, 4 * (from + width)), 0)
        memory.kernels.shrinkRow(atRow, at, w, factor, 1 / (factor * factor))
      }
      small.set(sum, 4 * y * w)
    }
  })
  return small
}

/** Rows of a stretched picture lie between rows of the small one; both are mixed first, then stretched along. */
function stretch(
  shrunk: Float32Array,
  w: number,
  h: number,
  factor: number,
  picture: Float32Array,
  width: number,
  height: number,
  sigmas: Sigmas,
): void {
  const row = 16 * (w + 2)
  const memory = kernelMemory()
  const { mixRows, stretchRow } = memory.kernels
  // Where all colours are stretched nothing of the old row is needed; alpha was averaged on the way like them.
  const whole = sigmas.every((s) => s > 0)
  memory.borrow(16 + 3 * row + 16 * width, ({ at: atMask, memory: bytes }) => {
    const [atMixed, atRows, atOut] = [atMask + 16, atMask + 16 + row, atMask + 16 + 3 * row]
    new Int32Array(bytes, atMask, 4).set([...sigmas.map((s) => (s > 0 ? -1 : 0)), whole ? -1 : 0])
    const rows = [0, 1].map((i) => new Float32Array(bytes, atRows + row * i, 4 * (w + 2)))
    const out = new Float32Array(bytes, atOut, 4 * width)
    for (let y = 0; y < height; y++) {
      const place = (y + 0.5) / factor - 0.5
      const above = Math.floor(place)
      for (const i of [0, 1] as const) {
        const from = Math.min(h - 1, Math.max(0, above + i)) * w
        pad(rows[i]!, shrunk.subarray(4 * from, 4 * (from + w)), 1)
      }
      mixRows(atRows, atRows + row, atMixed, w + 2, place - above)
      const target = picture.subarray(4 * y * width, 4 * (y + 1) * width)
      if (!whole) out.set(target)
      stretchRow(atMixed + 16, atOut, width, factor, atMask)
      target.set(out)
    }
  })
}
