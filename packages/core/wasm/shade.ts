import { K } from './constants'
import { between } from './curves'
import { PLANE, storeTurned } from './registers'

// Work on code values by how light, which hue and how colourful they are; tables as in curves.ts, over even steps.

// @ts-ignore: decorator
@inline
function placeIn(v: v128, table: usize): v128 {
  const place = f32x4.mul(f32x4.sub(v, v128.load32_splat(table, 8)), v128.load32_splat(table, 12))
  return f32x4.pmin(v128.load32_splat(table, 16), f32x4.pmax(K.zero(), place))
}

/** Four floats at `offset` of a node of so many bytes, and of the one behind it, mixed. @param work node and share of one of four pixels */
// @ts-ignore: decorator
@inline
function mixedAt(work: usize, offset: usize, bytes: usize): v128 {
  const node = <usize>load<u32>(work) + offset
  const low = v128.load(node)
  return f32x4.add(low, f32x4.mul(f32x4.sub(v128.load(node + bytes), low), v128.load32_splat(work, 16)))
}

/** What {@link placeNodes} found is read for four pixels, into a register. */
// @ts-ignore: decorator
@inline
function readAll(to: usize, work: usize, offset: usize, bytes: usize): void {
  storeTurned(
    to,
    mixedAt(work, offset, bytes),
    mixedAt(work + 4, offset, bytes),
    mixedAt(work + 8, offset, bytes),
    mixedAt(work + 12, offset, bytes),
  )
}

/** Addresses of four nodes, and how far behind each a pixel lies: through memory, as in curves.ts. @param shift of bytes a node */
// @ts-ignore: decorator
@inline
function placeNodes(v: v128, table: usize, nodes: v128, shift: i32, work: usize): void {
  const place = placeIn(v, table)
  const floor = f32x4.floor(place)
  v128.store(work, i32x4.add(nodes, i32x4.shl(v128.and(f32x4.add(floor, K.whole()), K.low23()), shift)))
  v128.store(work, f32x4.sub(place, floor), 16)
}

/** Four numbers of a curve over even steps. */
// @ts-ignore: decorator
@inline
function toneOf(v: v128, table: usize, work: usize): v128 {
  const place = placeIn(v, table)
  const floor = f32x4.floor(place)
  const node = v128.and(f32x4.add(floor, K.whole()), K.low23())
  return between(i32x4.add(v128.load32_splat(table), i32x4.shl(node, 2)), f32x4.sub(place, floor), work)
}

// @ts-ignore: decorator
@inline
function lumaOf(r: v128, g: v128, b: v128): v128 {
  return f32x4.add(f32x4.mul(r, K.lumaR()), f32x4.add(f32x4.mul(g, K.lumaG()), f32x4.mul(b, K.lumaB())))
}

/**
 * Factors and sums by luma.
 * @param table a description as in curves.ts; eight floats a node, three factors and three sums
 * @param work room for a register
 */
export function shade(at: usize, fours: i32, table: usize, work: usize): void {
  const nodes = i32x4.splat(load<i32>(table))
  const end = at + (<usize>fours << 4)
  for (; at < end; at += 16) {
    const r = v128.load(at)
    const g = v128.load(at, PLANE)
    const b = v128.load(at, 2 * PLANE)
    placeNodes(lumaOf(r, g, b), table, nodes, 5, work + 32)
    readAll(work, work + 32, 0, 32)
    readAll(work + 16, work + 32, 16, 32)
    v128.store(at, f32x4.add(f32x4.mul(r, v128.load(work)), v128.load(work + 16)))
    v128.store(at, f32x4.add(f32x4.mul(g, v128.load(work, PLANE)), v128.load(work + 16, PLANE)), PLANE)
    v128.store(at, f32x4.add(f32x4.mul(b, v128.load(work, 2 * PLANE)), v128.load(work + 16, 2 * PLANE)), 2 * PLANE)
  }
}

/**
 * Turned, drained and darkened by hue and chroma; the plane and the square are those of colour/chroma.ts.
 * @param table a description over the square, four floats a node; behind it one over chroma, address 0 for none;
 * then one over the chroma at which the factor is full
 * @param work room for a register
 */
export function hues(at: usize, fours: i32, table: usize, work: usize): void {
  const nodes = i32x4.splat(load<i32>(table))
  const gains = load<i32>(table, 20)
  const one = K.one()
  const zero = K.zero()
  const half = f32x4.splat(0.5)
  const side = f32x4.splat(0.8660254037844386)
  const third = f32x4.splat(1.0 / 3)
  const perRoot3 = f32x4.splat(0.5773502691896258)
  const two = f32x4.splat(2)
  const lumaU = f32x4.mul(third, f32x4.sub(f32x4.mul(two, K.lumaR()), f32x4.add(K.lumaG(), K.lumaB())))
  const lumaV = f32x4.mul(perRoot3, f32x4.sub(K.lumaG(), K.lumaB()))
  const perFull = v128.load32_splat(table, 40)
  const end = at + (<usize>fours << 4)
  for (; at < end; at += 16) {
    const r = v128.load(at)
    const g = v128.load(at, PLANE)
    const b = v128.load(at, 2 * PLANE)
    const luma = lumaOf(r, g, b)
    const u = f32x4.sub(r, f32x4.mul(half, f32x4.add(g, b)))
    const v = f32x4.mul(side, f32x4.sub(g, b))
    const chroma = f32x4.sqrt(f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v)))
    const part = f32x4.div(v, f32x4.pmax(K.smallest(), f32x4.add(f32x4.abs(u), f32x4.abs(v))))
    const right = v128.bitselect(f32x4.add(part, f32x4.splat(4)), part, f32x4.lt(part, zero))
    const square = v128.bitselect(f32x4.sub(two, part), right, f32x4.lt(u, zero))
    placeNodes(square, table, nodes, 4, work + 32)
    readAll(work, work + 32, 0, 16)
    let c = v128.load(work)
    let s = v128.load(work, PLANE)
    if (gains) {
      const gain = toneOf(chroma, table + 20, work + 16)
      c = f32x4.mul(c, gain)
      s = f32x4.mul(s, gain)
    }
    const factor = f32x4.add(one, f32x4.mul(v128.load(work, 2 * PLANE), f32x4.pmin(one, f32x4.mul(chroma, perFull))))
    const nu = f32x4.sub(f32x4.mul(c, u), f32x4.mul(s, v))
    const nv = f32x4.add(f32x4.mul(s, u), f32x4.mul(c, v))
    const mean = f32x4.sub(luma, f32x4.add(f32x4.mul(lumaU, nu), f32x4.mul(lumaV, nv)))
    const low = f32x4.sub(mean, f32x4.mul(third, nu))
    const off = f32x4.mul(perRoot3, nv)
    v128.store(at, f32x4.mul(factor, f32x4.add(low, nu)))
    v128.store(at, f32x4.mul(factor, f32x4.add(low, off)), PLANE)
    v128.store(at, f32x4.mul(factor, f32x4.sub(low, off)), 2 * PLANE)
  }
}

// @ts-ignore: decorator
@inline
function square(v: v128): v128 {
  return f32x4.mul(v, v)
}

/** Chroma times, by chroma: towards or away from a grey of the same luma. @param table a description over chroma @param work 16 bytes */
export function chromaTimes(at: usize, fours: i32, table: usize, work: usize): void {
  const half = f32x4.splat(0.5)
  const end = at + (<usize>fours << 4)
  for (; at < end; at += 16) {
    const r = v128.load(at)
    const g = v128.load(at, PLANE)
    const b = v128.load(at, 2 * PLANE)
    // The same as of u and v in colour/chroma.ts.
    const apart = f32x4.add(square(f32x4.sub(r, g)), f32x4.add(square(f32x4.sub(g, b)), square(f32x4.sub(b, r))))
    const gain = toneOf(f32x4.sqrt(f32x4.mul(half, apart)), table, work)
    const luma = lumaOf(r, g, b)
    v128.store(at, f32x4.add(luma, f32x4.mul(gain, f32x4.sub(r, luma))))
    v128.store(at, f32x4.add(luma, f32x4.mul(gain, f32x4.sub(g, luma))), PLANE)
    v128.store(at, f32x4.add(luma, f32x4.mul(gain, f32x4.sub(b, luma))), 2 * PLANE)
  }
}
