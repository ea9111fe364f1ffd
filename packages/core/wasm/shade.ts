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

/** Four floats at `offset` of a node of so many bytes, and of the one behind it, mixed. */
// @ts-ignore: decorator
@inline
function mixedAt(node: usize, bytes: usize, share: v128): v128 {
  const low = v128.load(node)
  return f32x4.add(low, f32x4.mul(f32x4.sub(v128.load(node + bytes), low), share))
}

// @ts-ignore: decorator
@inline
function readAll(to: usize, at: v128, offset: usize, bytes: usize, share: v128): void {
  storeTurned(
    to,
    mixedAt(<usize>i32x4.extract_lane(at, 0) + offset, bytes, v128.shuffle<f32>(share, share, 0, 0, 0, 0)),
    mixedAt(<usize>i32x4.extract_lane(at, 1) + offset, bytes, v128.shuffle<f32>(share, share, 1, 1, 1, 1)),
    mixedAt(<usize>i32x4.extract_lane(at, 2) + offset, bytes, v128.shuffle<f32>(share, share, 2, 2, 2, 2)),
    mixedAt(<usize>i32x4.extract_lane(at, 3) + offset, bytes, v128.shuffle<f32>(share, share, 3, 3, 3, 3)),
  )
}

/**
 * Factors and sums by luma.
 * @param table a description as in curves.ts; eight floats a node, three factors and three sums
 * @param work room for a register
 */
export function shade(at: usize, fours: i32, table: usize, work: usize): void {
  const nodes = i32x4.splat(load<i32>(table))
  const low23 = K.low23()
  const whole = K.whole()
  const end = at + (<usize>fours << 4)
  for (; at < end; at += 16) {
    const r = v128.load(at)
    const g = v128.load(at, PLANE)
    const b = v128.load(at, 2 * PLANE)
    const luma = f32x4.add(f32x4.mul(r, K.lumaR()), f32x4.add(f32x4.mul(g, K.lumaG()), f32x4.mul(b, K.lumaB())))
    const place = placeIn(luma, table)
    const floor = f32x4.floor(place)
    const share = f32x4.sub(place, floor)
    const node = i32x4.add(nodes, i32x4.shl(v128.and(f32x4.add(floor, whole), low23), 5))
    readAll(work, node, 0, 32, share)
    readAll(work + 16, node, 16, 32, share)
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
  const low23 = K.low23()
  const whole = K.whole()
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
    const luma = f32x4.add(f32x4.mul(r, K.lumaR()), f32x4.add(f32x4.mul(g, K.lumaG()), f32x4.mul(b, K.lumaB())))
    const u = f32x4.sub(r, f32x4.mul(half, f32x4.add(g, b)))
    const v = f32x4.mul(side, f32x4.sub(g, b))
    const chroma = f32x4.sqrt(f32x4.add(f32x4.mul(u, u), f32x4.mul(v, v)))
    const part = f32x4.div(v, f32x4.pmax(K.smallest(), f32x4.add(f32x4.abs(u), f32x4.abs(v))))
    const right = v128.bitselect(f32x4.add(part, f32x4.splat(4)), part, f32x4.lt(part, zero))
    const square = v128.bitselect(f32x4.sub(two, part), right, f32x4.lt(u, zero))
    const place = placeIn(square, table)
    const floor = f32x4.floor(place)
    const node = i32x4.add(nodes, i32x4.shl(v128.and(f32x4.add(floor, whole), low23), 4))
    readAll(work, node, 0, 16, f32x4.sub(place, floor))
    let c = v128.load(work)
    let s = v128.load(work, PLANE)
    if (gains) {
      const where = placeIn(chroma, table + 20)
      const under = f32x4.floor(where)
      const from = i32x4.add(i32x4.splat(gains), i32x4.shl(v128.and(f32x4.add(under, whole), low23), 2))
      const gain = between(from, f32x4.sub(where, under), work + 16)
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
