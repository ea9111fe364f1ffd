import { K } from './constants'

/**
 * Code values to dithered bytes for a canvas: RGBA, alpha 255.
 * @param fours groups of four pixels @param noise address of the noise of the first pixel; three floats a pixel
 */
export function emit8(pixels: usize, out: usize, fours: i32, noise: usize): void {
  const scale = K.bytes()
  const opaque = K.opaque()
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
 * Code values to 16-bit RGB with noise of one `size` added.
 * @param size of a step of the wanted depth in steps of 16 bits; 0 adds nothing
 */
export function emit16(pixels: usize, out: usize, n: i32, noise: usize, size: f32): void {
  const scale = K.words()
  const spread = f32x4.splat(size)
  for (let i = 0; i < n; i++, pixels += 16, out += 6, noise += 12) {
    const v = step(v128.load(pixels), f32x4.mul(spread, v128.load(noise)), scale)
    const codes = i16x8.narrow_i32x4_u(v, v)
    v128.store32_lane(out, codes, 0)
    v128.store16_lane(out, codes, 2, 4)
  }
}

/** Code values to 32-bit floats, RGB. */
export function emitFloats(pixels: usize, out: usize, n: i32): void {
  for (let i = 0; i < n; i++, pixels += 16, out += 12) {
    const v = v128.load(pixels)
    v128.store64_lane(out, v, 0)
    v128.store32_lane(out, v, 2, 8)
  }
}

/** 16-bit RGB through a table of all codes to RGBA floats, alpha 1. @param table 65536 floats */
export function ingest16(codes: usize, pixels: usize, n: i32, table: usize): void {
  for (let i = 0; i < n; i++, codes += 6, pixels += 16) {
    store<f32>(pixels, load<f32>(table + (<usize>load<u16>(codes, 0) << 2)), 0)
    store<f32>(pixels, load<f32>(table + (<usize>load<u16>(codes, 2) << 2)), 4)
    store<f32>(pixels, load<f32>(table + (<usize>load<u16>(codes, 4) << 2)), 8)
    store<f32>(pixels, 1, 12)
  }
}
