/**
 * Code values to dithered bytes for a canvas: RGBA, alpha 255.
 * @param fours groups of four pixels @param noise address of the noise of the first pixel; three floats a pixel
 */
export function emit8(pixels: usize, out: usize, fours: i32, noise: usize): void {
  const scale = f32x4.splat(255)
  const opaque = i32x4.splat(<i32>0xff000000)
  for (let i = 0; i < fours; i++, pixels += 64, out += 16, noise += 48) {
    const a = step(v128.load(pixels, 0), v128.load(noise, 0), scale)
    const b = step(v128.load(pixels, 16), v128.load(noise, 12), scale)
    const c = step(v128.load(pixels, 32), v128.load(noise, 24), scale)
    const d = step(v128.load(pixels, 48), v128.load(noise, 36), scale)
    const bytes = i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(a, b), i16x8.narrow_i32x4_s(c, d))
    v128.store(out, v128.or(bytes, opaque))
  }
}

// @ts-ignore: decorator
@inline
function step(value: v128, noise: v128, scale: v128): v128 {
  return i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.add(f32x4.mul(value, scale), noise)))
}

/**
 * 16-bit RGB through a table of all codes and a matrix to RGBA floats, alpha 1.
 * @param table 65536 floats @param mix the matrix by columns, four floats each, or 0 for none
 */
export function ingest16(codes: usize, pixels: usize, n: i32, table: usize, mix: usize): void {
  const one = f32x4.replace_lane(f32x4.splat(0), 3, 1)
  const fromR = mix ? v128.load(mix, 0) : f32x4.replace_lane(f32x4.splat(0), 0, 1)
  const fromG = mix ? v128.load(mix, 16) : f32x4.replace_lane(f32x4.splat(0), 1, 1)
  const fromB = mix ? v128.load(mix, 32) : f32x4.replace_lane(f32x4.splat(0), 2, 1)
  for (let i = 0; i < n; i++, codes += 6, pixels += 16) {
    const r = v128.load32_splat(table + (<usize>load<u16>(codes, 0) << 2))
    const g = v128.load32_splat(table + (<usize>load<u16>(codes, 2) << 2))
    const b = v128.load32_splat(table + (<usize>load<u16>(codes, 4) << 2))
    v128.store(
      pixels,
      f32x4.add(f32x4.add(f32x4.mul(r, fromR), one), f32x4.add(f32x4.mul(g, fromG), f32x4.mul(b, fromB))),
    )
  }
}
