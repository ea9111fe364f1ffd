// Planes of 16-bit numbers resampled into planes of floats, first down the columns, then along the rows, and three such
// planes into RGB codes. Results are cut to bounds after each of the two.

// @ts-ignore: decorator
@inline
function within(v: v128, least: v128, most: v128): v128 {
  return f32x4.pmin(most, f32x4.pmax(least, v))
}

/**
 * Rows first..last, each a weighed sum of rows of the source.
 * @param rows for each row `taps` numbers of source rows @param weights as many weights
 */
export function resampleDown(
  src: usize,
  dst: usize,
  width: i32,
  first: i32,
  last: i32,
  rows: usize,
  weights: usize,
  taps: i32,
  least: f32,
  top: f32,
): void {
  const bottom = f32x4.splat(least)
  const most = f32x4.splat(top)
  for (let y = first; y < last; y++) {
    const own = <usize>(y * taps) << 2
    const to = dst + (<usize>(y * width) << 2)
    let x = 0
    for (; x + 8 <= width; x += 8) {
      let low = f32x4.splat(0)
      let high = f32x4.splat(0)
      for (let k: usize = 0; k < <usize>taps << 2; k += 4) {
        const from = v128.load(src + (<usize>(load<i32>(rows + own + k) * width + x) << 1))
        const w = v128.load32_splat(weights + own + k)
        low = f32x4.add(low, f32x4.mul(w, f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(from))))
        high = f32x4.add(high, f32x4.mul(w, f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_u(from))))
      }
      v128.store(to + (<usize>x << 2), within(low, bottom, most))
      v128.store(to + (<usize>x << 2), within(high, bottom, most), 16)
    }
    for (; x < width; x++) {
      let sum: f32 = 0
      for (let k: usize = 0; k < <usize>taps << 2; k += 4)
        sum += load<f32>(weights + own + k) * <f32>load<u16>(src + (<usize>(load<i32>(rows + own + k) * width + x) << 1))
      store<f32>(to + (<usize>x << 2), min(top, max(least, sum)))
    }
  }
}

/**
 * Rows first..last resampled along.
 * @param starts for each column the first of the source's columns that count @param weights `taps` for each, a multiple
 * of four; the source is readable so far behind its end
 */
export function resampleAlong(
  src: usize,
  dst: usize,
  from: i32,
  width: i32,
  first: i32,
  last: i32,
  starts: usize,
  weights: usize,
  taps: i32,
  least: f32,
  top: f32,
): void {
  for (let y = first; y < last; y++) {
    const row = src + (<usize>(y * from) << 2)
    let to = dst + (<usize>(y * width) << 2)
    let w = weights
    for (let x = 0; x < width; x++, to += 4) {
      const at = row + (<usize>load<i32>(starts + (<usize>x << 2)) << 2)
      let sum = f32x4.splat(0)
      for (let k: usize = 0; k < <usize>taps << 2; k += 16, w += 16)
        sum = f32x4.add(sum, f32x4.mul(v128.load(w), v128.load(at + k)))
      const pairs = f32x4.add(sum, v128.shuffle<f32>(sum, sum, 2, 3, 0, 1))
      store<f32>(to, min(top, max(least, f32x4.extract_lane(pairs, 0) + f32x4.extract_lane(pairs, 1))))
    }
  }
}

// @ts-ignore: decorator
@inline
function row(a: v128, b: v128, c: v128, m: usize): v128 {
  const ab = f32x4.add(f32x4.mul(a, v128.load32_splat(m, 0)), f32x4.mul(b, v128.load32_splat(m, 4)))
  const sum = f32x4.add(ab, f32x4.add(f32x4.mul(c, v128.load32_splat(m, 8)), v128.load32_splat(m, 12)))
  const top = f32x4.pmin(f32x4.splat(65535), f32x4.pmax(f32x4.splat(0), sum))
  return i32x4.trunc_sat_f32x4_s(f32x4.nearest(top))
}

/** Four pixels at a time through a matrix to 16-bit codes, RGB. @param m three rows of three weights and an offset */
export function planesToCodes(a: usize, b: usize, c: usize, codes: usize, fours: i32, m: usize): void {
  for (let i = 0; i < fours; i++, a += 16, b += 16, c += 16, codes += 24) {
    const x = v128.load(a)
    const y = v128.load(b)
    const z = v128.load(c)
    const red = row(x, y, z, m)
    const green = row(x, y, z, m + 16)
    const blue = row(x, y, z, m + 32)
    v128.store16_lane(codes, red, 0, 0)
    v128.store16_lane(codes, green, 0, 2)
    v128.store16_lane(codes, blue, 0, 4)
    v128.store16_lane(codes, red, 2, 6)
    v128.store16_lane(codes, green, 2, 8)
    v128.store16_lane(codes, blue, 2, 10)
    v128.store16_lane(codes, red, 4, 12)
    v128.store16_lane(codes, green, 4, 14)
    v128.store16_lane(codes, blue, 4, 16)
    v128.store16_lane(codes, red, 6, 18)
    v128.store16_lane(codes, green, 6, 20)
    v128.store16_lane(codes, blue, 6, 22)
  }
}
