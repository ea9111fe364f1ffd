import { loadPixels, storePixels } from './registers'

/** A column of the grid between two of its rows: where it begins in the upper one, and how far below that it is read. */
// @ts-ignore: decorator
@inline
function between(at: usize, length: usize, share: v128): v128 {
  const above = v128.load(at)
  return f32x4.add(above, f32x4.mul(f32x4.sub(v128.load(at + length), above), share))
}

/**
 * Multiplies pixels in a register, from pixel `start` of the picture on, and adds to them what a grid says, linear between its points: row by
 * row, each two vectors, factors and sums.
 * @param given address of the grid, width and height of the picture, columns and rows of the grid @param work room for a chunk of pixels
 */
export function fieldPixels(own: usize, given: usize, start: i32, some: i32, work: usize): void {
  const grid = <usize>load<u32>(given)
  const width = load<i32>(given, 4)
  const height = load<i32>(given, 8)
  const columns = load<i32>(given, 12)
  const rows = load<i32>(given, 16)
  const length = <usize>columns << 5
  const last = columns - 2
  const step: f32 = <f32>(columns - 1) / <f32>width
  const fours = (some + 3) >> 2
  storePixels(own, work, fours)
  let y = start / width
  let x = start % width
  for (let at = work; some > 0; y++, x = 0) {
    const place = ((<f32>y + 0.5) / <f32>height) * <f32>(rows - 1)
    const above = min(rows - 2, <i32>place)
    const share = f32x4.splat(place - <f32>above)
    const top = grid + <usize>above * length
    const end = min(width, x + some)
    some -= end - x
    let middle = <f32>x + 0.5
    let column = min(last, <i32>(middle * step))
    let left = <f32>column
    let here = top + (<usize>column << 5)
    let factor = between(here, length, share)
    let sum = between(here + 16, length, share)
    let factorTo = f32x4.sub(between(here + 32, length, share), factor)
    let sumTo = f32x4.sub(between(here + 48, length, share), sum)
    for (; x < end; x++, middle += 1, at += 16) {
      let part = middle * step - left
      // Columns are wider than pixels; the last one reaches to the edge.
      if (part >= 1 && column < last) {
        column++
        here += 32
        left += 1
        part = middle * step - left
        factor = between(here, length, share)
        sum = between(here + 16, length, share)
        factorTo = f32x4.sub(between(here + 32, length, share), factor)
        sumTo = f32x4.sub(between(here + 48, length, share), sum)
      }
      const to = f32x4.splat(part)
      const times = f32x4.add(factor, f32x4.mul(factorTo, to))
      const plus = f32x4.add(sum, f32x4.mul(sumTo, to))
      v128.store(at, f32x4.add(f32x4.mul(v128.load(at), times), plus))
    }
  }
  loadPixels(work, own, fours)
}
