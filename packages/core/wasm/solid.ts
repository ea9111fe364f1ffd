import { K } from './constants'
import { PLANE, storeTurned } from './registers'

/** Place of four numbers along one side of a solid, 0..size - 1; what is no number stands at 0. */
// @ts-ignore: decorator
@inline
function place(v: v128, from: v128, scale: v128, top: v128, zero: v128): v128 {
  return f32x4.pmin(top, f32x4.pmax(zero, f32x4.mul(f32x4.sub(v, from), scale)))
}

/** One of four pixels: the nodes at its corners, weighed. @param work behind what all four share, 4 bytes a pixel */
// @ts-ignore: decorator
@inline
function blend(work: usize, to: usize): void {
  const n0 = f32x4.mul(v128.load(load<u32>(work, 0)), v128.load32_splat(work, 64))
  const n1 = f32x4.mul(v128.load(load<u32>(work, 16)), v128.load32_splat(work, 80))
  const near = f32x4.add(n0, n1)
  const n2 = f32x4.mul(v128.load(load<u32>(work, 32)), v128.load32_splat(work, 96))
  const n3 = f32x4.mul(v128.load(load<u32>(work, 48)), v128.load32_splat(work, 112))
  v128.store(to, f32x4.add(near, f32x4.add(n2, n3)))
}

/**
 * Looks colours up in a solid by tetrahedral interpolation (the six tetrahedra around the diagonal of each cell).
 * What does not change from pixel to pixel is read from memory, not worked out here: the compiler of the page would do it
 * again for each pixel.
 * @param solid address of the nodes (four floats each, the first side running fastest); where the three sides begin;
 * nodes a unit; then the last node's number of a side, the one before it, nodes from one to the next along the second and
 * the third side (floats); bytes along each side and to the far corner @param work 192 bytes of the thread's own
 */
export function solid(at: usize, fours: i32, solid: usize, work: usize): void {
  const nodes = v128.load32_splat(solid, 0)
  const zero = K.zero()
  const unit = K.one()
  const whole = K.whole()
  const low23 = K.low23()
  const end = at + (<usize>fours << 4)
  for (; at < end; at += 16) {
    const top = v128.load32_splat(solid, 28)
    const r = place(v128.load(at), v128.load32_splat(solid, 4), v128.load32_splat(solid, 16), top, zero)
    const g = place(v128.load(at, PLANE), v128.load32_splat(solid, 8), v128.load32_splat(solid, 20), top, zero)
    const b = place(v128.load(at, 2 * PLANE), v128.load32_splat(solid, 12), v128.load32_splat(solid, 24), top, zero)
    const edge = v128.load32_splat(solid, 32)
    const cellR = f32x4.pmin(edge, f32x4.floor(r))
    const cellG = f32x4.pmin(edge, f32x4.floor(g))
    const cellB = f32x4.pmin(edge, f32x4.floor(b))
    const fr = f32x4.sub(r, cellR)
    const fg = f32x4.sub(g, cellG)
    const fb = f32x4.sub(b, cellB)
    // Numbers of nodes are whole floats below 2^23.
    const across = f32x4.mul(cellG, v128.load32_splat(solid, 36))
    const node = f32x4.add(cellR, f32x4.add(across, f32x4.mul(cellB, v128.load32_splat(solid, 40))))
    const base = i32x4.add(nodes, i32x4.shl(v128.and(f32x4.add(node, whole), low23), 4))
    // From the low corner along the axis with the greatest fraction; to the high corner along the one with the least.
    const alongR = v128.load32_splat(solid, 44)
    const alongG = v128.load32_splat(solid, 48)
    const alongB = v128.load32_splat(solid, 52)
    const rg = f32x4.ge(fr, fg)
    const gb = f32x4.ge(fg, fb)
    const rb = f32x4.ge(fr, fb)
    const first = v128.bitselect(alongR, v128.bitselect(alongG, alongB, v128.andnot(gb, rg)), v128.and(rg, rb))
    const last = v128.bitselect(alongB, v128.bitselect(alongG, alongR, rg), v128.and(gb, rb))
    const far = i32x4.add(base, v128.load32_splat(solid, 56))
    // Addresses and weights go through memory: taking lanes out and spreading them one by one would all wait for the one
    // port of the processor that moves lanes.
    v128.store(work, base, 0)
    v128.store(work, i32x4.add(base, first), 16)
    v128.store(work, i32x4.sub(far, last), 32)
    v128.store(work, far, 48)
    const greater = f32x4.pmax(fr, fg)
    const lesser = f32x4.pmin(fr, fg)
    const high = f32x4.pmax(greater, fb)
    const least = f32x4.pmin(lesser, fb)
    const middle = f32x4.pmax(lesser, f32x4.pmin(greater, fb))
    v128.store(work, f32x4.sub(unit, high), 64)
    v128.store(work, f32x4.sub(high, middle), 80)
    v128.store(work, f32x4.sub(middle, least), 96)
    v128.store(work, least, 112)
    blend(work, work + 128)
    blend(work + 4, work + 144)
    blend(work + 8, work + 160)
    blend(work + 12, work + 176)
    storeTurned(at, v128.load(work, 128), v128.load(work, 144), v128.load(work, 160), v128.load(work, 176))
  }
}

/** Opens what a solid holds: light = 0.03 (w + w³/6 + w⁵/120), see held() in stages/held.ts. */
export function open(at: usize, fours: i32): void {
  const first = K.held1()
  const third = K.held3()
  const fifth = K.held5()
  for (let k = 0; k < 3; k++, at += PLANE) {
    for (let i: usize = 0; i < <usize>fours << 4; i += 16) {
      const w = v128.load(at + i)
      const square = f32x4.mul(w, w)
      const sum = f32x4.add(first, f32x4.mul(square, f32x4.add(third, f32x4.mul(square, fifth))))
      v128.store(at + i, f32x4.mul(w, sum))
    }
  }
}
