// 2^f on -0.5..0.5 by its Taylor series in f·ln 2; the seventh-order remainder is below 1.2e-7.
const LN2: f32 = 0.6931471805599453
const LOG2_10: f32 = 3.321928094887362
const C2: f32 = 1.0 / 2
const C3: f32 = 1.0 / 6
const C4: f32 = 1.0 / 24
const C5: f32 = 1.0 / 120
const C6: f32 = 1.0 / 720
/** 1.5 · 2^23: adding it leaves the rounded integer in the low bits of a float. */
const ROUND: f32 = 12582912.0

// @ts-ignore: decorator
@inline
function tenToMinus(density: v128): v128 {
  const y = f32x4.max(f32x4.mul(density, f32x4.splat(-LOG2_10)), f32x4.splat(-126))
  const held = f32x4.min(y, f32x4.splat(126))
  const shifted = f32x4.add(held, f32x4.splat(ROUND))
  const u = f32x4.mul(f32x4.sub(held, f32x4.sub(shifted, f32x4.splat(ROUND))), f32x4.splat(LN2))
  let p = f32x4.add(f32x4.mul(u, f32x4.splat(C6)), f32x4.splat(C5))
  p = f32x4.add(f32x4.mul(p, u), f32x4.splat(C4))
  p = f32x4.add(f32x4.mul(p, u), f32x4.splat(C3))
  p = f32x4.add(f32x4.mul(p, u), f32x4.splat(C2))
  p = f32x4.add(f32x4.mul(p, u), f32x4.splat(1))
  p = f32x4.add(f32x4.mul(p, u), f32x4.splat(1))
  // Adding the integer to the exponent bits multiplies by 2^whole.
  return i32x4.add(p, i32x4.shl(shifted, 23))
}

// @ts-ignore: decorator
@inline
function total(v: v128): f32 {
  const ends = f32x4.extract_lane(v, 0) + f32x4.extract_lane(v, 1)
  return ends + (f32x4.extract_lane(v, 2) + f32x4.extract_lane(v, 3))
}

/**
 * Light through absorbers: sum over wavelengths of weight · 10^-(sum of amount·density).
 * @param fours groups of four wavelengths; the arrays are padded with zeros
 * @param amounts count f32 @param spectra count arrays of 4·fours f32, one after the other
 * @param weights three such arrays @param out 3 f32
 */
export function project(fours: i32, count: i32, amounts: usize, spectra: usize, weights: usize, out: usize): void {
  const row: usize = <usize>fours << 4
  let r = f32x4.splat(0)
  let g = f32x4.splat(0)
  let b = f32x4.splat(0)
  for (let i: usize = 0; i < row; i += 16) {
    let density = f32x4.splat(0)
    let at = spectra + i
    for (let k = 0; k < count; k++, at += row) {
      density = f32x4.add(density, f32x4.mul(v128.load(at), v128.load32_splat(amounts + (<usize>k << 2))))
    }
    const t = tenToMinus(density)
    r = f32x4.add(r, f32x4.mul(t, v128.load(weights + i)))
    g = f32x4.add(g, f32x4.mul(t, v128.load(weights + row + i)))
    b = f32x4.add(b, f32x4.mul(t, v128.load(weights + 2 * row + i)))
  }
  store<f32>(out, total(r))
  store<f32>(out + 4, total(g))
  store<f32>(out + 8, total(b))
}

