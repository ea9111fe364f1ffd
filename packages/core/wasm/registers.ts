// Pixels on their way through a run stand in registers: three planes of floats, one a channel. A chunk of pixels stays
// in the processor's nearest cache while step after step works on it.

/** Pixels of a chunk; a multiple of four. */
// @ts-ignore: decorator
@inline
export const CHUNK: i32 = 256

/** Bytes from one plane of a register to the next. */
// @ts-ignore: decorator
@inline
export const PLANE: usize = 1024

/** Bytes of a register. */
// @ts-ignore: decorator
@inline
export const REGISTER: usize = 3072

/** Four pixels of RGBA at a time into a register. */
export function loadPixels(src: usize, to: usize, fours: i32): void {
  for (let i = 0; i < fours; i++, src += 64, to += 16) {
    const a0 = v128.load(src, 0)
    const a1 = v128.load(src, 16)
    const a2 = v128.load(src, 32)
    const a3 = v128.load(src, 48)
    const rg0 = v128.shuffle<f32>(a0, a1, 0, 4, 1, 5)
    const rg1 = v128.shuffle<f32>(a2, a3, 0, 4, 1, 5)
    const b0 = v128.shuffle<f32>(a0, a1, 2, 6, 3, 7)
    const b1 = v128.shuffle<f32>(a2, a3, 2, 6, 3, 7)
    v128.store(to, v128.shuffle<f32>(rg0, rg1, 0, 1, 4, 5))
    v128.store(to, v128.shuffle<f32>(rg0, rg1, 2, 3, 6, 7), PLANE)
    v128.store(to, v128.shuffle<f32>(b0, b1, 0, 1, 4, 5), 2 * PLANE)
  }
}

/** The other way round; alpha becomes 1. */
export function storePixels(from: usize, dst: usize, fours: i32): void {
  const one = f32x4.splat(1)
  for (let i = 0; i < fours; i++, from += 16, dst += 64) {
    const r = v128.load(from)
    const g = v128.load(from, PLANE)
    const b = v128.load(from, 2 * PLANE)
    const rg0 = v128.shuffle<f32>(r, g, 0, 4, 1, 5)
    const rg1 = v128.shuffle<f32>(r, g, 2, 6, 3, 7)
    const ba0 = v128.shuffle<f32>(b, one, 0, 4, 1, 5)
    const ba1 = v128.shuffle<f32>(b, one, 2, 6, 3, 7)
    v128.store(dst, v128.shuffle<f32>(rg0, ba0, 0, 1, 4, 5), 0)
    v128.store(dst, v128.shuffle<f32>(rg0, ba0, 2, 3, 6, 7), 16)
    v128.store(dst, v128.shuffle<f32>(rg1, ba1, 0, 1, 4, 5), 32)
    v128.store(dst, v128.shuffle<f32>(rg1, ba1, 2, 3, 6, 7), 48)
  }
}

/** Four pixels' results of three channels, as they come from nodes, into a register. */
// @ts-ignore: decorator
@inline
export function storeTurned(to: usize, a0: v128, a1: v128, a2: v128, a3: v128): void {
  const rg0 = v128.shuffle<f32>(a0, a1, 0, 4, 1, 5)
  const rg1 = v128.shuffle<f32>(a2, a3, 0, 4, 1, 5)
  v128.store(to, v128.shuffle<f32>(rg0, rg1, 0, 1, 4, 5))
  v128.store(to, v128.shuffle<f32>(rg0, rg1, 2, 3, 6, 7), PLANE)
  const b0 = v128.shuffle<f32>(a0, a1, 2, 6, 3, 7)
  const b1 = v128.shuffle<f32>(a2, a3, 2, 6, 3, 7)
  v128.store(to, v128.shuffle<f32>(b0, b1, 0, 1, 4, 5), 2 * PLANE)
}
