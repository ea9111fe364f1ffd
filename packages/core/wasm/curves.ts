import { K } from './constants'
import { PLANE, storeTurned } from './registers'

// A table of a function of one number. Its description is 20 bytes: address of the nodes; 1 when they stand evenly in
// each octave of the number (64 of them), 0 when they stand evenly; then for octaves the lowest number with a node of
// its own and the distance of the last node's bits from it, for even steps where they begin, nodes a unit, and how many.

/**
 * Between the nodes at four addresses and those behind them. The addresses go through memory: lanes taken out one by one
 * would wait for the one port that moves lanes.
 */
// @ts-ignore: decorator
@inline
export function between(at: v128, share: v128, work: usize): v128 {
  v128.store(work, at)
  const left = v128.load64_lane(load<u32>(work, 4), v128.load64_zero(load<u32>(work, 0)), 1)
  const right = v128.load64_lane(load<u32>(work, 12), v128.load64_zero(load<u32>(work, 8)), 1)
  const low = v128.shuffle<f32>(left, right, 0, 2, 4, 6)
  const high = v128.shuffle<f32>(left, right, 1, 3, 5, 7)
  return f32x4.add(low, f32x4.mul(f32x4.sub(high, low), share))
}

/** Between two nodes alone, as what is only held within bounds is. */
function straight(at: usize, end: usize, nodes: usize, from: v128, scale: v128, top: v128, zero: v128): void {
  const low = v128.load32_splat(nodes)
  const rise = f32x4.sub(v128.load32_splat(nodes, 4), low)
  for (; at < end; at += 16) {
    const place = f32x4.pmin(top, f32x4.pmax(zero, f32x4.mul(f32x4.sub(v128.load(at), from), scale)))
    v128.store(at, f32x4.add(low, f32x4.mul(rise, place)))
  }
}

/** One channel through its table, in place. What is no number stands at the first node. */
function curve(at: usize, fours: i32, table: usize, work: usize): void {
  const nodes = i32x4.splat(load<i32>(table))
  const end = at + (<usize>fours << 4)
  if (load<u32>(table, 4)) {
    const lowest = v128.load32_splat(table, 8)
    const last = v128.load32_splat(table, 12)
    const low17 = K.low17()
    const fraction = K.fraction()
    for (; at < end; at += 16) {
      // pmax keeps the bound where the number is none. Floats above 0 order like their bits.
      const bits = i32x4.min_s(i32x4.sub(f32x4.pmax(lowest, v128.load(at)), lowest), last)
      v128.store(at, between(i32x4.add(nodes, i32x4.shl(i32x4.shr_s(bits, 17), 2)), f32x4.mul(f32x4.convert_i32x4_s(v128.and(bits, low17)), fraction), work))
    }
  } else {
    const from = v128.load32_splat(table, 8)
    const scale = v128.load32_splat(table, 12)
    const top = v128.load32_splat(table, 16)
    const zero = K.zero()
    if (load<f32>(table, 16) == 1) return straight(at, end, load<u32>(table), from, scale, top, zero)
    const whole = K.whole()
    const low23 = K.low23()
    for (; at < end; at += 16) {
      const place = f32x4.pmin(top, f32x4.pmax(zero, f32x4.mul(f32x4.sub(v128.load(at), from), scale)))
      const floor = f32x4.floor(place)
      v128.store(at, between(i32x4.add(nodes, i32x4.shl(v128.and(f32x4.add(floor, whole), low23), 2)), f32x4.sub(place, floor), work))
    }
  }
}

/**
 * Three channels, each through its own table.
 * @param tables three descriptions; address 0 leaves a channel alone @param work 16 bytes of the thread's own
 */
export function curves(at: usize, fours: i32, tables: usize, work: usize): void {
  for (let k = 0; k < 3; k++, at += PLANE, tables += 20) if (load<u32>(tables)) curve(at, fours, tables, work)
}

// @ts-ignore: decorator
@inline
function colourAt(node: usize, share: v128): v128 {
  const low = v128.load(node)
  return f32x4.add(low, f32x4.mul(f32x4.sub(v128.load(node, 16), low), share))
}

// @ts-ignore: decorator
@inline
function storeColours(to: usize, at: v128, share: v128): void {
  storeTurned(
    to,
    colourAt(<usize>i32x4.extract_lane(at, 0), v128.shuffle<f32>(share, share, 0, 0, 0, 0)),
    colourAt(<usize>i32x4.extract_lane(at, 1), v128.shuffle<f32>(share, share, 1, 1, 1, 1)),
    colourAt(<usize>i32x4.extract_lane(at, 2), v128.shuffle<f32>(share, share, 2, 2, 2, 2)),
    colourAt(<usize>i32x4.extract_lane(at, 3), v128.shuffle<f32>(share, share, 3, 3, 3, 3)),
  )
}

/** The first channel through a table of colours, four floats a node. */
export function ramp(at: usize, fours: i32, table: usize): void {
  const nodes = i32x4.splat(load<i32>(table))
  const end = at + (<usize>fours << 4)
  if (load<u32>(table, 4)) {
    const lowest = v128.load32_splat(table, 8)
    const last = v128.load32_splat(table, 12)
    const low17 = K.low17()
    const fraction = K.fraction()
    for (; at < end; at += 16) {
      const bits = i32x4.min_s(i32x4.sub(f32x4.pmax(lowest, v128.load(at)), lowest), last)
      storeColours(at, i32x4.add(nodes, i32x4.shl(i32x4.shr_s(bits, 17), 4)), f32x4.mul(f32x4.convert_i32x4_s(v128.and(bits, low17)), fraction))
    }
  } else {
    const from = v128.load32_splat(table, 8)
    const scale = v128.load32_splat(table, 12)
    const top = v128.load32_splat(table, 16)
    const zero = K.zero()
    const whole = K.whole()
    const low23 = K.low23()
    for (; at < end; at += 16) {
      const place = f32x4.pmin(top, f32x4.pmax(zero, f32x4.mul(f32x4.sub(v128.load(at), from), scale)))
      const floor = f32x4.floor(place)
      storeColours(at, i32x4.add(nodes, i32x4.shl(v128.and(f32x4.add(floor, whole), low23), 4)), f32x4.sub(place, floor))
    }
  }
}
