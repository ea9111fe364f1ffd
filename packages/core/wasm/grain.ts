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

/** The sum of a hash's four bytes without its mean: near to normal, its variance is 21845. */
// @ts-ignore: decorator
@inline
function bell(h: v128): v128 {
  const low = i32x4.splat(0x00ff00ff)
  const pairs = i32x4.add(v128.and(h, low), v128.and(i32x4.shr_u(h, 8), low))
  const sum = i32x4.add(v128.and(pairs, i32x4.splat(0xffff)), i32x4.shr_u(pairs, 16))
  return f32x4.convert_i32x4_s(i32x4.sub(sum, i32x4.splat(510)))
}

/** A row of noise from `reach` pixels left of the picture to `reach` right of it. */
function noiseRow(to: usize, y: i32, width: i32, reach: i32, key: i32): void {
  let place = i32x4.add(i32x4.splat(y * DOWN + key - reach * ACROSS), i32x4(0, LAYER, 2 * LAYER, 3 * LAYER))
  const step = i32x4.splat(ACROSS)
  for (let i = width + 2 * reach; i > 0; i--, to += 16) {
    v128.store(to, bell(hashed(place)))
    place = i32x4.add(place, step)
  }
}

/** Along the row; weights are vectors, the centre first. */
function blurredRow(from: usize, to: usize, width: i32, weights: usize, reach: i32): void {
  const centre = v128.load(weights)
  from += <usize>reach << 4
  for (let x = 0; x < width; x++, from += 16, to += 16) {
    let sum = f32x4.mul(centre, v128.load(from))
    for (let j = 1; j <= reach; j++) {
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
 * @param scratch room for 2 · reach + 1 rows and one more with `reach` pixels on either side
 */
export function grainRows(pixels: usize, width: i32, first: i32, last: i32, given: usize, scratch: usize): void {
  const key = load<i32>(given)
  const reach = load<i32>(given, 4)
  const weights = given + 96
  const rows = 2 * reach + 1
  const row = <usize>width << 4
  const raw = scratch + <usize>rows * row
  for (let y = first - reach; y < last + reach; y++) {
    noiseRow(raw, y, width, reach, key)
    blurredRow(raw, scratch + <usize>((y + rows) % rows) * row, width, weights, reach)
    const middle = y - reach
    if (middle >= first) addRow(pixels + <usize>middle * row, width, middle, given, scratch, weights, reach)
  }
}

/** Down the rows that are kept round in `scratch`, and onto the densities. */
function addRow(pixels: usize, width: i32, y: i32, given: usize, scratch: usize, weights: usize, reach: i32): void {
  const rows = 2 * reach + 1
  const row = <usize>width << 4
  const clear = v128.load(given, 16)
  const own = v128.load(given, 32)
  const common = v128.load(given, 48)
  const shares = v128.load(given, 64)
  const silver = v128.load(given, 80)
  const zero = f32x4.splat(0)
  const middle = scratch + <usize>((y + rows) % rows) * row
  const centre = v128.load(weights)
  for (let x: usize = 0; x < row; x += 16, pixels += 16) {
    let noise = f32x4.mul(centre, v128.load(middle + x))
    for (let j = 1; j <= reach; j++) {
      const above = scratch + <usize>((y - j + rows) % rows) * row
      const below = scratch + <usize>((y + j + rows) % rows) * row
      noise = f32x4.add(
        noise,
        f32x4.mul(v128.load(weights + (<usize>j << 4)), f32x4.add(v128.load(above + x), v128.load(below + x))),
      )
    }
    const shared = v128.shuffle<f32>(noise, noise, 3, 3, 3, 3)
    const density = v128.load(pixels)
    const over = f32x4.max(zero, f32x4.sub(density, clear))
    const metal = f32x4.mul(shares, over)
    const pairs = f32x4.add(metal, v128.shuffle<f32>(metal, metal, 1, 0, 3, 2))
    const mass = f32x4.add(pairs, v128.shuffle<f32>(pairs, pairs, 2, 3, 0, 1))
    const dyes = f32x4.mul(f32x4.sqrt(over), f32x4.add(f32x4.mul(own, noise), f32x4.mul(common, shared)))
    const metals = f32x4.mul(f32x4.mul(f32x4.sqrt(mass), silver), shared)
    v128.store(pixels, f32x4.add(density, f32x4.add(dyes, metals)))
  }
}
