// 2^f on -0.5..0.5 by its Taylor series in f·ln 2; the seventh-order remainder is below 1.2e-7. The constants are read from
// memory, see constants.ts: log2(10) negated, the bounds of the exponent, 1.5 · 2^23 (adding it leaves the rounded integer
// in the low bits of a float), ln 2, then the coefficients from the sixth order down.
const C = memory.data<f32>(
  [
    -3.321928094887362, -126, 126, 12582912.0, 0.6931471805599453, 1.0 / 720, 1.0 / 120, 1.0 / 24, 1.0 / 6, 1.0 / 2, 1,
  ],
  16,
)

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
  const toLog2 = v128.load32_splat(C, 0)
  const least = v128.load32_splat(C, 4)
  const greatest = v128.load32_splat(C, 8)
  const round = v128.load32_splat(C, 12)
  const ln2 = v128.load32_splat(C, 16)
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
      // 10^-density: 2^fraction by the series, then the whole part added to the exponent bits.
      const y = f32x4.pmin(greatest, f32x4.pmax(least, f32x4.mul(density, toLog2)))
      const shifted = f32x4.add(y, round)
      const u = f32x4.mul(f32x4.sub(y, f32x4.sub(shifted, round)), ln2)
      let p = f32x4.add(f32x4.mul(u, v128.load32_splat(C, 20)), v128.load32_splat(C, 24))
      p = f32x4.add(f32x4.mul(p, u), v128.load32_splat(C, 28))
      p = f32x4.add(f32x4.mul(p, u), v128.load32_splat(C, 32))
      p = f32x4.add(f32x4.mul(p, u), v128.load32_splat(C, 36))
      p = f32x4.add(f32x4.mul(p, u), v128.load32_splat(C, 40))
      p = f32x4.add(f32x4.mul(p, u), v128.load32_splat(C, 40))
      const t = i32x4.add(p, i32x4.shl(shifted, 23))
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
