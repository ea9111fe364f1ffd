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

/** Along the row; weights are vectors, the centre first. @param from the noise of the first pixel */
function blurredRow(from: usize, to: usize, width: i32, weights: usize, reach: i32): void {
  const centre = v128.load(weights)
  const beside = v128.load(weights, 16)
  for (let x = 0; x < width; x++, from += 16, to += 16) {
    let sum = f32x4.mul(centre, v128.load(from))
    if (reach > 0) sum = f32x4.add(sum, f32x4.mul(beside, f32x4.add(v128.load(from - 16), v128.load(from + 16))))
    for (let j = 2; j <= reach; j++) {
      const away = <usize>j << 4
      sum = f32x4.add(
        sum,
        f32x4.mul(v128.load(weights + away), f32x4.add(v128.load(from - away), v128.load(from + away))),
      )
    }
    v128.store(to, sum)
  }
}

/**
 * Adds grain to the rows first..last. `given`: the key and the reach; then vectors: the clear film's densities, factors of
 * the layers' own noise and of the common one, each layer's share in the silver, the factor of the silver's noise;
 * then reach + 1 weights. The fourth layer is the common one.
 * @param scratch room for 2 · reach + 1 addresses in whole vectors, so many rows, and one more with reach + 1 pixels on
 * either side
 */
export function grainRows(pixels: usize, width: i32, first: i32, last: i32, given: usize, scratch: usize): void {
  const key = load<i32>(given)
  const reach = load<i32>(given, 4)
  const weights = given + 96
  const rows = 2 * reach + 1
  const row = <usize>width << 4
  const ring = scratch + ((<usize>rows + 3) & ~3) * 4
  const raw = ring + <usize>rows * row
  const around = (reach + 1) & ~1
  const pairs = (width + 2 * around + 1) >> 1
  const start = raw + (<usize>around << 4)
  for (let y = first - reach; y < last + reach; y++) {
    noiseRow(raw, y, -around, pairs, key)
    blurredRow(start, ring + <usize>((y + rows) % rows) * row, width, weights, reach)
    const middle = y - reach
    if (middle < first) continue
    // The rows above and below, in pairs from the middle outwards.
    for (let j = 0; j < rows; j++) {
      const away = (j & 1) == 0 ? -(j >> 1) : (j >> 1) + 1
      store<u32>(scratch + (<usize>j << 2), <u32>(ring + <usize>((middle + away + rows) % rows) * row))
    }
    addRow(pixels + <usize>middle * row, row, given, scratch, weights, reach)
  }
}

/** Down the rows whose addresses stand in `rows`, and onto the densities. */
function addRow(pixels: usize, bytes: usize, given: usize, rows: usize, weights: usize, reach: i32): void {
  const clear = v128.load(given, 16)
  const own = v128.load(given, 32)
  const common = v128.load(given, 48)
  const shares = v128.load(given, 64)
  const silver = v128.load(given, 80)
  const metallic = v128.any_true(f32x4.gt(v128.and(shares, f32x4(1, 1, 1, 0)), f32x4.splat(0)))
  const zero = f32x4.splat(0)
  const middle = <usize>load<u32>(rows)
  const centre = v128.load(weights)
  const beside = v128.load(weights, 16)
  const below = reach > 0 ? <usize>load<u32>(rows, 4) : middle
  const above = reach > 0 ? <usize>load<u32>(rows, 8) : middle
  for (let x: usize = 0; x < bytes; x += 16, pixels += 16) {
    let noise = f32x4.mul(centre, v128.load(middle + x))
    if (reach > 0) noise = f32x4.add(noise, f32x4.mul(beside, f32x4.add(v128.load(above + x), v128.load(below + x))))
    for (let j = 2; j <= reach; j++) {
      const pair = rows + (<usize>j << 3)
      const both = f32x4.add(v128.load(<usize>load<u32>(pair) + x), v128.load(<usize>load<u32>(pair - 4) + x))
      noise = f32x4.add(noise, f32x4.mul(v128.load(weights + (<usize>j << 4)), both))
    }
    const shared = v128.shuffle<f32>(noise, noise, 3, 3, 3, 3)
    const density = v128.load(pixels)
    const over = f32x4.pmax(zero, f32x4.sub(density, clear))
    let added = f32x4.mul(f32x4.sqrt(over), f32x4.add(f32x4.mul(own, noise), f32x4.mul(common, shared)))
    if (metallic) {
      const metal = f32x4.mul(shares, over)
      const pairs = f32x4.add(metal, v128.shuffle<f32>(metal, metal, 1, 0, 3, 2))
      const mass = f32x4.add(pairs, v128.shuffle<f32>(pairs, pairs, 2, 3, 0, 1))
      added = f32x4.add(added, f32x4.mul(f32x4.mul(f32x4.sqrt(mass), silver), shared))
    }
    v128.store(pixels, f32x4.add(density, added))
  }
}
