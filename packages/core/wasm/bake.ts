import { between } from './curves'
import { K } from './constants'

// Nodes of a solid of light through absorbers. What each of three values absorbs is absorbed on its own, so that of a
// wavelength a node passes the product of what its three sides pass (Beer-Lambert): no power is needed for a node.

/** Light as solids hold it, by a table over octaves as in curves.ts; of negative light the negative of it. */
// @ts-ignore: decorator
@inline
function held(light: v128, table: usize, work: usize): v128 {
  const sign = v128.and(light, i32x4.splat(<i32>0x80000000))
  const size = v128.xor(light, sign)
  const lowest = v128.load32_splat(table, 8)
  const bits = i32x4.min_s(i32x4.sub(f32x4.pmax(lowest, size), lowest), v128.load32_splat(table, 12))
  const node = i32x4.add(i32x4.splat(load<i32>(table)), i32x4.shl(i32x4.shr_s(bits, 17), 2))
  const share = f32x4.mul(f32x4.convert_i32x4_s(v128.and(bits, K.low17())), K.fraction())
  return v128.or(between(node, share, work), sign)
}

/**
 * Works out rows of nodes along the first side.
 * @param out four f32 a node: light as it is held, and 1 @param side nodes of a side @param count wavelengths
 * @param first,last rows, those of the second side after each other, then the third side
 * @param given how {@link held} is laid out (16 bytes), the offset of the light, then how much of each wavelength passes: for the first side
 * wavelength after wavelength, `wide` nodes each; for the second and the third node after node, `count` wavelengths each; then three weights
 * of each wavelength @param wide `side` rounded up to a multiple of four
 * @param work three floats a wavelength, and 16 bytes, of the thread's own
 */
export function bakeRows(out: usize, side: i32, count: i32, first: i32, last: i32, given: usize, wide: i32, work: usize): void {
  const across = given + 32
  const second = across + (<usize>(count * wide) << 2)
  const bytes = <usize>count << 2
  const third = second + <usize>side * bytes
  const weights = third + <usize>side * bytes
  const lanes = work + 3 * bytes
  const offset = v128.load32_splat(given, 16)
  for (let row = first; row < last; row++) {
    const y = second + <usize>(row % side) * bytes
    const z = third + <usize>(row / side) * bytes
    for (let i: usize = 0; i < bytes; i += 4) {
      const passed = load<f32>(y + i) * load<f32>(z + i)
      for (let c: usize = 0; c < 3; c++) store<f32>(work + 3 * i + 4 * c, passed * load<f32>(weights + c * bytes + i))
    }
    let to = out + (<usize>(row * side) << 4)
    for (let x = 0; x < side; x += 4, to += 64) {
      let r = offset
      let g = offset
      let b = offset
      let at = across + (<usize>x << 2)
      for (let w = work; w < lanes; w += 12, at += <usize>wide << 2) {
        const passed = v128.load(at)
        r = f32x4.add(r, f32x4.mul(passed, v128.load32_splat(w, 0)))
        g = f32x4.add(g, f32x4.mul(passed, v128.load32_splat(w, 4)))
        b = f32x4.add(b, f32x4.mul(passed, v128.load32_splat(w, 8)))
      }
      store4(to, min(4, side - x), held(r, given, lanes), held(g, given, lanes), held(b, given, lanes))
    }
  }
}

/** The first `some` of four nodes. */
function store4(to: usize, some: i32, r: v128, g: v128, b: v128): void {
  const one = f32x4.splat(1)
  const rg0 = v128.shuffle<f32>(r, g, 0, 4, 1, 5)
  const b10 = v128.shuffle<f32>(b, one, 0, 4, 1, 5)
  v128.store(to, v128.shuffle<f32>(rg0, b10, 0, 1, 4, 5))
  if (some > 1) v128.store(to, v128.shuffle<f32>(rg0, b10, 2, 3, 6, 7), 16)
  if (some < 3) return
  const rg1 = v128.shuffle<f32>(r, g, 2, 6, 3, 7)
  const b11 = v128.shuffle<f32>(b, one, 2, 6, 3, 7)
  v128.store(to, v128.shuffle<f32>(rg1, b11, 0, 1, 4, 5), 32)
  if (some > 3) v128.store(to, v128.shuffle<f32>(rg1, b11, 2, 3, 6, 7), 48)
}
