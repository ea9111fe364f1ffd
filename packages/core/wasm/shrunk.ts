import { PLANE } from './registers'

// The ends of runs beside a wide blur: what goes into it is stored shrunk, what comes out of it is read stretched, so that
// the picture itself need not be written and read in between. The same sums as in blur.ts. `given`: address, width and
// height of the large picture, how many of its pixels make one along a side (a power of two), width and height of the small one.

/** Four pixels of a register from pixel `i` on, summed; a multiple of four. */
// @ts-ignore: decorator
@inline
function sumOfFour(from: usize, i: i32): v128 {
  const at = from + (<usize>i << 2)
  const r = v128.load(at)
  const g = v128.load(at, PLANE)
  const b = v128.load(at, 2 * PLANE)
  // Of each channel the first and the second pair of pixels, then both.
  const rg = f32x4.add(v128.shuffle<f32>(r, g, 0, 1, 4, 5), v128.shuffle<f32>(r, g, 2, 3, 6, 7))
  const bb = f32x4.add(b, v128.shuffle<f32>(b, b, 2, 3, 0, 1))
  const left = v128.shuffle<f32>(rg, bb, 0, 2, 4, 4)
  const right = v128.shuffle<f32>(rg, bb, 1, 3, 5, 5)
  return f32x4.add(left, right)
}

// @ts-ignore: decorator
@inline
function pixel(from: usize, i: i32): v128 {
  const at = from + (<usize>i << 2)
  return f32x4(load<f32>(at), load<f32>(at, PLANE), load<f32>(at, 2 * PLANE), 1)
}

/** Adds to a square, or begins it where `kept` has no bit. */
// @ts-ignore: decorator
@inline
function addTo(here: usize, part: v128, kept: v128): void {
  v128.store(here, f32x4.add(part, v128.and(v128.load(here), kept)))
}

/** Whole squares one after the other; `factor` a multiple of four, and so is i. */
function addWhole(from: usize, i: i32, here: usize, count: i32, factor: i32, share: v128, kept: v128): void {
  for (; count > 0; count--, here += 16) {
    let sum = sumOfFour(from, i)
    i += 4
    for (let x = 4; x < factor; x += 4, i += 4) sum = f32x4.add(sum, sumOfFour(from, i))
    addTo(here, f32x4.mul(sum, share), kept)
  }
}

/**
 * Adds pixels of a row to the squares of which they are a part.
 * @param i the first of them in the register @param kept no bit where squares begin with this row
 */
function addSquares(from: usize, i: i32, row: usize, x: i32, end: i32, width: i32, factor: i32, share: v128, kept: v128): void {
  while (x < end) {
    const square = x / factor
    const left = square * factor
    const here = row + (<usize>square << 4)
    const whole = (end - x) / factor
    if (x == left && whole > 0 && ((factor | i) & 3) == 0) {
      addWhole(from, i, here, whole, factor, share, kept)
      x += whole * factor
      i += whole * factor
      continue
    }
    const next = min(end, left + factor)
    const begun = x == left ? kept : i32x4.splat(-1)
    let sum = f32x4.splat(0)
    for (; x < next; x++, i++) sum = f32x4.add(sum, pixel(from, i))
    // The last column may lie half outside, where the edge's colour continues.
    if (x == width) sum = f32x4.add(sum, f32x4.mul(pixel(from, i - 1), f32x4.splat(<f32>(left + factor - width))))
    addTo(here, f32x4.mul(sum, share), begun)
  }
}

/** Pixels of a register into a shrunk picture. Pixels come in their order, and all rows of a square in one tile. */
export function storeShrunk(from: usize, given: usize, start: i32, some: i32): void {
  const width = load<i32>(given, 4)
  const height = load<i32>(given, 8)
  const factor = load<i32>(given, 12)
  const small = load<u32>(given)
  const bytes = load<i32>(given, 16) << 4
  let y = start / width
  let x = start % width
  for (let i = 0; i < some; y++, x = 0) {
    const end = min(width, x + some - i)
    const row = y / factor
    const inside = y - row * factor
    const times = y == height - 1 ? factor - inside : 1
    const share = f32x4.splat(<f32>times / <f32>(factor * factor))
    addSquares(from, i, <usize>small + <usize>(row * bytes), x, end, width, factor, share, i32x4.splat(inside == 0 ? 0 : -1))
    i += end - x
  }
}

// @ts-ignore: decorator
@inline
function between(a: usize, b: usize, column: i32, last: i32, share: v128): v128 {
  const away = <usize>min(last, max(0, column)) << 4
  const from = v128.load(a + away)
  return f32x4.add(from, f32x4.mul(f32x4.sub(v128.load(b + away), from), share))
}

/** Four pixels of a register: m, and of the first two pixels so much towards l as `share` says, of the others towards r. */
// @ts-ignore: decorator
@inline
function putFour(at: usize, m: v128, l: v128, r: v128, share: v128): void {
  const red = f32x4.mul(v128.shuffle<f32>(l, r, 0, 0, 4, 4), share)
  v128.store(at, f32x4.add(v128.shuffle<f32>(m, m, 0, 0, 0, 0), red))
  const green = f32x4.mul(v128.shuffle<f32>(l, r, 1, 1, 5, 5), share)
  v128.store(at, f32x4.add(v128.shuffle<f32>(m, m, 1, 1, 1, 1), green), PLANE)
  const blue = f32x4.mul(v128.shuffle<f32>(l, r, 2, 2, 6, 6), share)
  v128.store(at, f32x4.add(v128.shuffle<f32>(m, m, 2, 2, 2, 2), blue), 2 * PLANE)
}

/** Whole fours of a row that is stretched four times; x is a multiple of four. @returns how many pixels */
function stretchByFour(to: usize, a: usize, b: usize, x: i32, end: i32, last: i32, share: v128): i32 {
  const parts = f32x4(0.375, 0.125, 0.125, 0.375)
  let column = x >> 2
  let left = between(a, b, column - 1, last, share)
  let here = between(a, b, column, last, share)
  const from = x
  for (; x + 4 <= end; x += 4, to += 16) {
    column++
    const right = between(a, b, column, last, share)
    putFour(to, here, f32x4.sub(left, here), f32x4.sub(right, here), parts)
    left = here
    here = right
  }
  return x - from
}

/** The same where four pixels at a time lie between the same two columns: stretched eight times and more. */
function stretchByMore(to: usize, a: usize, b: usize, x: i32, end: i32, last: i32, share: v128, factor: i32): i32 {
  const step: f32 = 1 / <f32>factor
  const steps = f32x4.mul(f32x4(0, 1, 2, 3), f32x4.splat(step))
  const from = x
  while (x + 4 <= end) {
    const column = (x + factor / 2) / factor - 1
    const left = between(a, b, column, last, share)
    const rise = f32x4.sub(between(a, b, column + 1, last, share), left)
    const next = min(end, column * factor + factor + factor / 2)
    for (; x + 4 <= next; x += 4, to += 16) {
      const first = (<f32>x + 0.5) * step - 0.5 - <f32>column
      putFour(to, left, rise, rise, f32x4.add(f32x4.splat(first), steps))
    }
  }
  return x - from
}

/** Single pixels of a row. */
function stretchFew(to: usize, a: usize, b: usize, x: i32, end: i32, last: i32, share: v128, factor: i32): void {
  const step: f32 = 1 / <f32>factor
  for (; x < end; x++, to += 4) {
    const across = (<f32>x + 0.5) * step - 0.5
    const column = <i32>floor(across)
    const left = between(a, b, column, last, share)
    const right = between(a, b, column + 1, last, share)
    const v = f32x4.add(left, f32x4.mul(f32x4.sub(right, left), f32x4.splat(across - <f32>column)))
    store<f32>(to, f32x4.extract_lane(v, 0))
    store<f32>(to, f32x4.extract_lane(v, 1), PLANE)
    store<f32>(to, f32x4.extract_lane(v, 2), 2 * PLANE)
  }
}

/** Pixels of a shrunk picture, stretched with linear interpolation, into a register. */
export function loadStretched(given: usize, to: usize, start: i32, some: i32): void {
  const width = load<i32>(given, 4)
  const factor = load<i32>(given, 12)
  const step: f32 = 1 / <f32>factor
  const small = <usize>load<u32>(given)
  const last = load<i32>(given, 16) - 1
  const lastRow = load<i32>(given, 20) - 1
  const bytes = <usize>(last + 1) << 4
  let y = start / width
  let x = start % width
  for (let i = 0; i < some; y++, x = 0) {
    const down = (<f32>y + 0.5) * step - 0.5
    const above = <i32>floor(down)
    const share = f32x4.splat(down - <f32>above)
    const a = small + <usize>min(lastRow, max(0, above)) * bytes
    const b = small + <usize>min(lastRow, max(0, above + 1)) * bytes
    const end = min(width, x + some - i)
    if (factor >= 4 && ((x | i) & 3) == 0) {
      const at = to + (<usize>i << 2)
      const done = factor == 4 ? stretchByFour(at, a, b, x, end, last, share) : stretchByMore(at, a, b, x, end, last, share, factor)
      x += done
      i += done
    }
    stretchFew(to + (<usize>i << 2), a, b, x, end, last, share, factor)
    i += end - x
  }
}
