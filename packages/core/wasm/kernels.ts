// AssemblyScript, 128-bit SIMD. Compiled into src/kernels/wasm-binary.ts by scripts/build-kernels.mjs.
// The host owns the memory and passes byte addresses; nothing is allocated here.

// 2^f on -0.5..0.5 by its Taylor series in f·ln 2; the ninth-order remainder is below 3e-12.
const LN2: f64 = 0.6931471805599453
const LOG2_10: f64 = 3.321928094887362
const C2: f64 = 1.0 / 2
const C3: f64 = 1.0 / 6
const C4: f64 = 1.0 / 24
const C5: f64 = 1.0 / 120
const C6: f64 = 1.0 / 720
const C7: f64 = 1.0 / 5040
const C8: f64 = 1.0 / 40320
/** 1.5 · 2^52: adding it leaves the rounded integer in the low bits of a double. */
const ROUND: f64 = 6755399441055744.0

// @ts-ignore: decorator
@inline
function tenToMinus(density: v128): v128 {
  const y = f64x2.max(f64x2.mul(density, f64x2.splat(-LOG2_10)), f64x2.splat(-1000))
  const held = f64x2.min(y, f64x2.splat(1000))
  const shifted = f64x2.add(held, f64x2.splat(ROUND))
  const whole = f64x2.sub(shifted, f64x2.splat(ROUND))
  const u = f64x2.mul(f64x2.sub(held, whole), f64x2.splat(LN2))
  let p = f64x2.add(f64x2.mul(u, f64x2.splat(C8)), f64x2.splat(C7))
  p = f64x2.add(f64x2.mul(p, u), f64x2.splat(C6))
  p = f64x2.add(f64x2.mul(p, u), f64x2.splat(C5))
  p = f64x2.add(f64x2.mul(p, u), f64x2.splat(C4))
  p = f64x2.add(f64x2.mul(p, u), f64x2.splat(C3))
  p = f64x2.add(f64x2.mul(p, u), f64x2.splat(C2))
  p = f64x2.add(f64x2.mul(p, u), f64x2.splat(1))
  p = f64x2.add(f64x2.mul(p, u), f64x2.splat(1))
  // Adding the integer to the exponent bits multiplies by 2^whole.
  return i64x2.add(p, i64x2.shl(shifted, 52))
}

/**
 * Light through absorbers: sum over wavelengths of weight · 10^-(sum of amount·density).
 * @param pairs pairs of wavelengths; the arrays are padded with zeros
 * @param amounts count f64 @param spectra count arrays of 2·pairs f64, one after the other
 * @param weights three such arrays @param out 3 f64
 */
export function project(pairs: i32, count: i32, amounts: usize, spectra: usize, weights: usize, out: usize): void {
  const row: usize = <usize>pairs << 4
  let r = f64x2.splat(0)
  let g = f64x2.splat(0)
  let b = f64x2.splat(0)
  for (let i: usize = 0; i < row; i += 16) {
    let density = f64x2.splat(0)
    let at = spectra + i
    for (let k = 0; k < count; k++, at += row) {
      density = f64x2.add(density, f64x2.mul(v128.load(at), v128.load64_splat(amounts + (<usize>k << 3))))
    }
    const t = tenToMinus(density)
    r = f64x2.add(r, f64x2.mul(t, v128.load(weights + i)))
    g = f64x2.add(g, f64x2.mul(t, v128.load(weights + row + i)))
    b = f64x2.add(b, f64x2.mul(t, v128.load(weights + 2 * row + i)))
  }
  store<f64>(out, f64x2.extract_lane(r, 0) + f64x2.extract_lane(r, 1))
  store<f64>(out + 8, f64x2.extract_lane(g, 0) + f64x2.extract_lane(g, 1))
  store<f64>(out + 16, f64x2.extract_lane(b, 0) + f64x2.extract_lane(b, 1))
}

/**
 * Looks n colours up in a 3D LUT with tetrahedral interpolation, in place. Alpha is kept.
 * @param mix 3 columns of 4 f32: the premix matrix
 * @param table shaper table over float bits, or 0: then the position is value · scale
 */
export function applyLut(
  n: i32,
  pixels: usize,
  mix: usize,
  table: usize,
  firstBits: i32,
  lastBits: i32,
  scale: f32,
  nodes: usize,
  size: i32,
): void {
  const stepG = size << 4
  const stepB = stepG * size
  const all = 16 + stepG + stepB
  const top = f32x4.splat(<f32>(size - 1))
  const edge = i32x4.splat(size - 2)
  const column0 = v128.load(mix)
  const column1 = v128.load(mix, 16)
  const column2 = v128.load(mix, 32)
  for (let i = 0; i < n; i++, pixels += 16) {
    const alpha = load<f32>(pixels, 12)
    const mixed = f32x4.add(
      f32x4.mul(column0, v128.load32_splat(pixels)),
      f32x4.add(f32x4.mul(column1, v128.load32_splat(pixels, 4)), f32x4.mul(column2, v128.load32_splat(pixels, 8))),
    )
    let place: v128
    if (table) {
      // Floats order like their bits, and negative floats have negative bits.
      const held = i32x4.max_s(mixed, i32x4.splat(firstBits))
      const bits = i32x4.min_s(i32x4.sub(held, i32x4.splat(firstBits)), i32x4.splat(lastBits))
      const node = i32x4.shr_s(bits, 16)
      const share = f32x4.mul(f32x4.convert_i32x4_s(v128.and(bits, i32x4.splat(0xffff))), f32x4.splat(1.0 / 65536))
      const a0 = v128.load64_zero(table + (<usize>i32x4.extract_lane(node, 0) << 2))
      const a1 = v128.load64_zero(table + (<usize>i32x4.extract_lane(node, 1) << 2))
      const a2 = v128.load64_zero(table + (<usize>i32x4.extract_lane(node, 2) << 2))
      const first = v128.shuffle<f32>(a0, a1, 0, 4, 1, 5)
      const low = v128.shuffle<f32>(first, a2, 0, 1, 4, 4)
      const high = v128.shuffle<f32>(first, a2, 2, 3, 5, 5)
      place = f32x4.mul(f32x4.add(low, f32x4.mul(f32x4.sub(high, low), share)), top)
    } else {
      place = f32x4.mul(mixed, f32x4.splat(scale))
      // pmax and pmin keep the bound where the value is not a number.
      place = f32x4.pmin(top, f32x4.pmax(f32x4.splat(0), place))
    }
    const cell = i32x4.min_s(i32x4.trunc_sat_f32x4_s(place), edge)
    const fraction = f32x4.sub(place, f32x4.convert_i32x4_s(cell))
    const fr = f32x4.extract_lane(fraction, 0)
    const fg = f32x4.extract_lane(fraction, 1)
    const fb = f32x4.extract_lane(fraction, 2)
    const high = max(fr, max(fg, fb))
    const low = min(fr, min(fg, fb))
    const middle = max(min(fr, fg), min(max(fr, fg), fb))
    const base =
      nodes +
      <usize>(
        ((i32x4.extract_lane(cell, 0) << 4) +
          stepG * i32x4.extract_lane(cell, 1) +
          stepB * i32x4.extract_lane(cell, 2))
      )
    // From the low corner along the axis with the greatest fraction; to the high corner along the one with the least.
    const one = fr == high ? 16 : fg == high ? stepG : stepB
    const two = all - (fb == low ? stepB : fg == low ? stepG : 16)
    let sum = f32x4.mul(v128.load(base), f32x4.splat(1 - high))
    sum = f32x4.add(sum, f32x4.mul(v128.load(base + <usize>one), f32x4.splat(high - middle)))
    sum = f32x4.add(sum, f32x4.mul(v128.load(base + <usize>two), f32x4.splat(middle - low)))
    sum = f32x4.add(sum, f32x4.mul(v128.load(base + <usize>all), f32x4.splat(low)))
    v128.store(pixels, f32x4.replace_lane(sum, 3, alpha))
  }
}
