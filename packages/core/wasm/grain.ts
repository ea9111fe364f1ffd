import { K } from './constants'
import { PLANE } from './registers'

// Grain: noise of a whole-number hash, blurred to the size of the clumps, added to densities. A shader works out the same
// numbers; see stages/grain.ts, where the plain form stands.

// @ts-ignore: decorator
@inline
const ACROSS: i32 = 0x9e3779b1
// @ts-ignore: decorator
@inline
const DOWN: i32 = 0x85ebca77
// @ts-ignore: decorator
@inline
const LAYER: i32 = 0xc2b2ae3d

/** Four hashes, one a layer, of a place that is already multiplied out. */
// @ts-ignore: decorator
@inline
function hashed(place: v128): v128 {
  let h = v128.xor(place, i32x4.shr_u(place, 16))
  h = i32x4.mul(h, i32x4.splat(0x7feb352d))
  h = v128.xor(h, i32x4.shr_u(h, 15))
  h = i32x4.mul(h, i32x4.splat(0x846ca68b))
  return v128.xor(h, i32x4.shr_u(h, 16))
}

/** A row of noise from `from` (even, left of the picture) for so many pairs of pixels; a hash serves two of them. */
function noiseRow(to: usize, y: i32, from: i32, pairs: i32, key: i32): void {
  let place = i32x4.add(i32x4.splat(y * DOWN + key + (from >> 1) * ACROSS), i32x4(0, LAYER, 2 * LAYER, 3 * LAYER))
  const step = i32x4.splat(ACROSS)
  const nibbles = i32x4.splat(0x0f0f0f0f)
  const bytes = i32x4.splat(0x00ff00ff)
  const half = i32x4.splat(0xffff)
  const mean = i32x4.splat(30)
  for (; pairs > 0; pairs--, to += 32) {
    const h = hashed(place)
    const twos = i32x4.add(v128.and(h, nibbles), v128.and(i32x4.shr_u(h, 4), nibbles))
    const fours = i32x4.add(v128.and(twos, bytes), v128.and(i32x4.shr_u(twos, 8), bytes))
    v128.store(to, f32x4.convert_i32x4_s(i32x4.sub(v128.and(fours, half), mean)))
    v128.store(to, f32x4.convert_i32x4_s(i32x4.sub(i32x4.shr_u(fours, 16), mean)), 16)
    place = i32x4.add(place, step)
  }
}

/** Along the row. @param from the noise of the first pixel @param weights the centre first */
function blurredRow(from: usize, to: usize, width: i32, weights: usize, reach: i32): void {
  const centre = v128.load32_splat(weights)
  const beside = v128.load32_splat(weights, 4)
  for (let x = 0; x < width; x++, from += 16, to += 16) {
    let sum = f32x4.mul(centre, v128.load(from))
    if (reach > 0) sum = f32x4.add(sum, f32x4.mul(beside, f32x4.add(v128.load(from - 16), v128.load(from + 16))))
    for (let j = 2; j <= reach; j++) {
      const away = <usize>j << 4
      sum = f32x4.add(
        sum,
        f32x4.mul(v128.load32_splat(weights + (<usize>j << 2)), f32x4.add(v128.load(from - away), v128.load(from + away))),
      )
    }
    v128.store(to, sum)
  }
}

// The thread's own room holds addresses of rows of blurred noise, these rows (a ring: each row's place is its number's rest), and one row
// that is not blurred yet.

/** Bytes of the addresses, in whole vectors. */
// @ts-ignore: decorator
@inline
function bytesOfAddresses(reach: i32): usize {
  return (((<usize>(2 * reach + 1)) + 3) & ~3) << 2
}

/** Blurred noise of row y into its place of the ring. Rows have room for a vector of pixels more. */
function addToRing(y: i32, room: usize, width: i32, key: i32, reach: i32, weights: usize): void {
  const rows = 2 * reach + 1
  const row = (<usize>width + 4) << 4
  const ring = room + bytesOfAddresses(reach)
  const raw = ring + <usize>rows * row
  const around = (reach + 1) & ~1
  noiseRow(raw, y, -around, (width + 2 * around + 1) >> 1, key)
  blurredRow(raw + (<usize>around << 4), ring + <usize>((y + rows) % rows) * row, width, weights, reach)
}

/** Where the noise of the rows around row y stands, in pairs from the middle outwards. */
function tellRows(y: i32, room: usize, width: i32, reach: i32): void {
  const rows = 2 * reach + 1
  const row = (<usize>width + 4) << 4
  const ring = room + bytesOfAddresses(reach)
  for (let j = 0; j < rows; j++) {
    const away = (j & 1) == 0 ? -(j >> 1) : (j >> 1) + 1
    store<u32>(room + (<usize>j << 2), <u32>(ring + <usize>((y + away + rows) % rows) * row))
  }
}

/**
 * Adds grain to densities in a register, from pixel `start` of the picture on. Rows of noise are worked out as the run
 * comes down the picture, and stay in the thread's own room until it has passed them.
 * @param given where that room begins behind `line`; the picture's width, the key, the reach; then numbers: the clear film's densities, factors of
 * the layers' own noise and of the common one, each layer's share in the silver, the factor of the silver's noise; then
 * reach + 1 weights. The fourth layer of noise is the common one
 * @param fresh whether the room holds nothing yet
 */
export function grainPixels(own: usize, given: usize, start: i32, some: i32, fresh: bool, line: usize): void {
  const room = line + <usize>load<u32>(given)
  const width = load<i32>(given, 4)
  const key = load<i32>(given, 8)
  const reach = load<i32>(given, 12)
  const weights = given + 52
  let y = start / width
  let x = start % width
  for (let at = 0; at < some; y++, x = 0) {
    const n = min(width - x, some - at)
    if (fresh) for (let r = y - reach; r < y + reach; r++) addToRing(r, room, width, key, reach, weights)
    if (fresh || x == 0) {
      addToRing(y + reach, room, width, key, reach, weights)
      tellRows(y, room, width, reach)
    }
    fresh = false
    addGrain(own + (<usize>at << 2), n, given + 16, room, x, weights, reach)
    at += n
  }
}

/** The noise of a pixel in two rows, weighed. */
// @ts-ignore: decorator
@inline
function pair(above: usize, below: usize, weight: v128): v128 {
  return f32x4.mul(weight, f32x4.add(v128.load(above), v128.load(below)))
}

/** On n pixels of a row, from pixel x on. */
function addGrain(at: usize, n: i32, factors: usize, rows: usize, x: i32, weights: usize, reach: i32): void {
  const clear0 = v128.load32_splat(factors, 0)
  const clear1 = v128.load32_splat(factors, 4)
  const clear2 = v128.load32_splat(factors, 8)
  const own = v128.load32_splat(factors, 12)
  const common = v128.load32_splat(factors, 16)
  const share0 = v128.load32_splat(factors, 20)
  const share1 = v128.load32_splat(factors, 24)
  const share2 = v128.load32_splat(factors, 28)
  const silver = v128.load32_splat(factors, 32)
  const metallic = load<f32>(factors, 20) > 0 || load<f32>(factors, 24) > 0 || load<f32>(factors, 28) > 0
  const zero = K.zero()
  const centre = v128.load32_splat(weights)
  const beside = v128.load32_splat(weights, 4)
  const from = <usize>x << 4
  let middle = <usize>load<u32>(rows) + from
  let below = reach > 0 ? <usize>load<u32>(rows, 4) + from : middle
  let above = reach > 0 ? <usize>load<u32>(rows, 8) + from : middle
  for (let on = from; n > 0; n -= 4, at += 16, on += 64, middle += 64, below += 64, above += 64) {
    let a0 = f32x4.mul(centre, v128.load(middle))
    let a1 = f32x4.mul(centre, v128.load(middle, 16))
    let a2 = f32x4.mul(centre, v128.load(middle, 32))
    let a3 = f32x4.mul(centre, v128.load(middle, 48))
    if (reach > 0) {
      a0 = f32x4.add(a0, pair(above, below, beside))
      a1 = f32x4.add(a1, pair(above + 16, below + 16, beside))
      a2 = f32x4.add(a2, pair(above + 32, below + 32, beside))
      a3 = f32x4.add(a3, pair(above + 48, below + 48, beside))
    }
    for (let j = 2; j <= reach; j++) {
      const there = rows + (<usize>j << 3)
      const weight = v128.load32_splat(weights + (<usize>j << 2))
      const up = <usize>load<u32>(there) + on
      const down = <usize>load<u32>(there - 4) + on
      a0 = f32x4.add(a0, pair(up, down, weight))
      a1 = f32x4.add(a1, pair(up + 16, down + 16, weight))
      a2 = f32x4.add(a2, pair(up + 32, down + 32, weight))
      a3 = f32x4.add(a3, pair(up + 48, down + 48, weight))
    }
    const rg0 = v128.shuffle<f32>(a0, a1, 0, 4, 1, 5)
    const rg1 = v128.shuffle<f32>(a2, a3, 0, 4, 1, 5)
    const bs0 = v128.shuffle<f32>(a0, a1, 2, 6, 3, 7)
    const bs1 = v128.shuffle<f32>(a2, a3, 2, 6, 3, 7)
    const shared = v128.shuffle<f32>(bs0, bs1, 2, 3, 6, 7)
    const ofAll = f32x4.mul(common, shared)
    const d0 = v128.load(at)
    const d1 = v128.load(at, PLANE)
    const d2 = v128.load(at, 2 * PLANE)
    const over0 = f32x4.pmax(zero, f32x4.sub(d0, clear0))
    const over1 = f32x4.pmax(zero, f32x4.sub(d1, clear1))
    const over2 = f32x4.pmax(zero, f32x4.sub(d2, clear2))
    let added0 = f32x4.mul(f32x4.sqrt(over0), f32x4.add(f32x4.mul(own, v128.shuffle<f32>(rg0, rg1, 0, 1, 4, 5)), ofAll))
    let added1 = f32x4.mul(f32x4.sqrt(over1), f32x4.add(f32x4.mul(own, v128.shuffle<f32>(rg0, rg1, 2, 3, 6, 7)), ofAll))
    let added2 = f32x4.mul(f32x4.sqrt(over2), f32x4.add(f32x4.mul(own, v128.shuffle<f32>(bs0, bs1, 0, 1, 4, 5)), ofAll))
    if (metallic) {
      const mass = f32x4.add(f32x4.add(f32x4.mul(share0, over0), f32x4.mul(share1, over1)), f32x4.mul(share2, over2))
      const metal = f32x4.mul(f32x4.mul(f32x4.sqrt(mass), silver), shared)
      added0 = f32x4.add(added0, metal)
      added1 = f32x4.add(added1, metal)
      added2 = f32x4.add(added2, metal)
    }
    // Behind the end of its row stand pixels of the next one.
    const there = i32x4.gt_s(i32x4.splat(n), i32x4(0, 1, 2, 3))
    v128.store(at, f32x4.add(d0, v128.and(there, added0)))
    v128.store(at, f32x4.add(d1, v128.and(there, added1)), PLANE)
    v128.store(at, f32x4.add(d2, v128.and(there, added2)), 2 * PLANE)
  }
}
