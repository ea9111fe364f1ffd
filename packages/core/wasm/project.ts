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
 * Light through absorbers, many times: sum over wavelengths of weight · 10^-(sum of amount·density), and an offset.
 * @param amounts count f32 a colour @param out four f32 a colour; the fourth becomes 1
 * @param n colours @param fours groups of four wavelengths; the spectra are padded with zeros
 * @param spectra `count` of them, 4·fours f32 each, one after the other, then three of weights
 */
export function project(
  amounts: usize,
  out: usize,
  n: i32,
  count: i32,
  fours: i32,
  spectra: usize,
  offset: f32,
): void {
  const row: usize = <usize>fours << 4
  const weights = spectra + <usize>count * row
  for (let c = 0; c < n; c++, amounts += <usize>count << 2, out += 16) {
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
    store<f32>(out, total(r) + offset)
    store<f32>(out, total(g) + offset, 4)
    store<f32>(out, total(b) + offset, 8)
    store<f32>(out, 1, 12)
  }
}
