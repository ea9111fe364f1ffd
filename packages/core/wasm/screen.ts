import { fit } from './colour'
import { K } from './constants'
import { curve } from './curves'
import { CHUNK, PLANE, REGISTER, loadPixels, storePixels, storeTurned } from './registers'
import { blendFour, corners, open } from './solid'

// Light of a solid as a screen shows it: fitted to the gamut and encoded. Well inside the gamut that is smooth over
// densities, so nodes hold code values there and nothing is left to do behind a lookup. Where code values bend too sharply
// between nodes, towards the edge of the gamut and near black, light is looked up, fitted and encoded pixel by pixel.
// So a solid has its nodes twice: light as it is held, and behind it the roots of code values, which bend half as much as
// the values. The fourth number of a node is 1 where they bend, else 0: a pixel whose corners all have 0 needs no more.

/** How far a code value may be from that in the middle of the nodes beside it: four times what lies half way to them is off by. */
const BEND: f32 = 4.0 * 0.16 / 255

/** Light, as it is held, into code values. @param tone how they are encoded @param work two planes */
function show(at: usize, fours: i32, tone: usize, work: usize): void {
  fit(at, fours, work)
  for (let k: usize = 0; k < 3; k++) curve(at + k * PLANE, fours, tone, work)
}

/**
 * Nodes that hold roots of code values, from those that hold light.
 * @param from,to four floats a node, with room for a multiple of four of them @param work room for two registers
 */
export function showNodes(from: usize, to: usize, count: i32, tone: usize, work: usize): void {
  for (let done = 0; done < count; done += CHUNK, from += CHUNK << 4, to += CHUNK << 4) {
    const fours = (min(CHUNK, count - done) + 3) >> 2
    loadPixels(from, work, fours)
    open(work, fours)
    show(work, fours, tone, work + REGISTER)
    for (let i: usize = 0; i < REGISTER; i += 16) v128.store(work + i, f32x4.sqrt(v128.load(work + i)))
    storePixels(work, to, fours)
  }
}

/** How far a code value is from that in the middle of the nodes `step` bytes before and behind it. */
// @ts-ignore: decorator
@inline
function bend(node: usize, step: usize): v128 {
  const here = v128.load(node)
  const middle = f32x4.mul(f32x4.splat(0.5), f32x4.add(v128.load(node - step), v128.load(node + step)))
  return f32x4.abs(f32x4.sub(f32x4.mul(middle, middle), f32x4.mul(here, here)))
}

/** The greatest bend at a node along the sides and diagonals that tetrahedra have edges along; of no number, no number. */
function bendOf(node: usize, x: bool, y: bool, z: bool, row: usize, sheet: usize): v128 {
  let most = f32x4.splat(0)
  if (x) most = f32x4.max(most, bend(node, 16))
  if (y) most = f32x4.max(most, bend(node, row))
  if (z) most = f32x4.max(most, bend(node, sheet))
  if (x && y) most = f32x4.max(most, bend(node, 16 + row))
  if (x && z) most = f32x4.max(most, bend(node, 16 + sheet))
  if (y && z) most = f32x4.max(most, bend(node, row + sheet))
  if (x && y && z) most = f32x4.max(most, bend(node, 16 + row + sheet))
  return most
}

/**
 * Marks nodes where code values bend.
 * @param light,codes the two times the nodes are there @param side nodes of a side @param first,last rows along the first side
 */
export function markNodes(light: usize, codes: usize, side: i32, first: i32, last: i32): void {
  const row = <usize>side << 4
  const sheet = <usize>side * row
  const end = side - 1
  for (let r = first; r < last; r++) {
    const y = r % side
    const z = r / side
    let at = <usize>r * row
    for (let x = 0; x < side; x++, at += 16) {
      const most = bendOf(codes + at, x > 0 && x < end, y > 0 && y < end, z > 0 && z < end, row, sheet)
      // The fourth number of a node may have been marked already; it does not count.
      const straight = i32x4.bitmask(f32x4.le(most, f32x4.splat(BEND))) & 7
      const mark: f32 = straight == 7 ? 0 : 1
      store<f32>(light + at, mark, 12)
      store<f32>(codes + at, mark, 12)
    }
  }
}

/** In a step's room, behind what a lookup needs: light that was looked up, a register; where it belongs; the marks. */
const BENT: usize = 256
const PLACES: usize = 256 + 3072
const SHARES: usize = PLACES + 256
const ROOM: usize = SHARES + 1024

/**
 * Densities into code values.
 * @param given a solid as in solid.ts, its nodes those of code values; how many bytes before them those of light lie; how
 * light is encoded, a table as in curves.ts @param work room for four registers
 */
export function screen(at: usize, fours: i32, given: usize, work: usize): void {
  const nodes = v128.load32_splat(given, 0)
  const light: usize = 0 - <usize>load<u32>(given, 60)
  const zero = K.zero()
  const unit = K.one()
  const whole = K.whole()
  const low23 = K.low23()
  const end: usize = <usize>fours << 4
  let bent: usize = 0
  // Neighbours are alike: what the last four pixels needed is looked up first.
  let before = false
  for (let i: usize = 0; i < end; i += 16) {
    corners(at + i, given, nodes, zero, unit, whole, low23, work)
    const turned = !before
    if (turned) {
      blendFour(work, 0)
      turnSquares(work, at + i)
      if (!marked(work)) continue
    }
    blendFour(work, light)
    const marks = marksOf(work)
    before = v128.any_true(marks)
    if (before) {
      turn(work, work + BENT + (bent << 4))
      v128.store(work + SHARES + (bent << 4), marks)
      store<u32>(work + PLACES + (bent << 2), <u32>i)
      bent++
    }
    if (turned || i32x4.all_true(marks)) continue
    blendFour(work, 0)
    turnSquares(work, at + i)
  }
  if (bent > 0) putBack(at, <i32>bent, given + 64, work, zero)
}

/** What blendFour left, into a register. */
// @ts-ignore: decorator
@inline
function turn(work: usize, to: usize): void {
  storeTurned(to, v128.load(work, 128), v128.load(work, 144), v128.load(work, 160), v128.load(work, 176))
}

// @ts-ignore: decorator
@inline
function turnSquares(work: usize, to: usize): void {
  const a0 = v128.load(work, 128)
  const a1 = v128.load(work, 144)
  const a2 = v128.load(work, 160)
  const a3 = v128.load(work, 176)
  storeTurned(to, f32x4.mul(a0, a0), f32x4.mul(a1, a1), f32x4.mul(a2, a2), f32x4.mul(a3, a3))
}

/** The fourth numbers of what blendFour left, above 0 where a corner is marked; of any pixel. */
// @ts-ignore: decorator
@inline
function marked(work: usize): bool {
  return (load<u32>(work, 140) | load<u32>(work, 156) | load<u32>(work, 172) | load<u32>(work, 188)) != 0
}

// @ts-ignore: decorator
@inline
function marksOf(work: usize): v128 {
  const two = v128.load32_lane(work + 156, v128.load32_zero(work + 140), 1)
  return v128.load32_lane(work + 188, v128.load32_lane(work + 172, two, 2), 3)
}

/** Shows the light that was looked up, and puts it where it belongs. */
function putBack(at: usize, count: i32, tone: usize, work: usize, zero: v128): void {
  let from = work + BENT
  open(from, count)
  show(from, count, tone, work + ROOM)
  for (let j: usize = 0; j < <usize>count; j++, from += 16) {
    const to = at + <usize>load<u32>(work + PLACES + (j << 2))
    const bent = f32x4.gt(v128.load(work + SHARES + (j << 4)), zero)
    for (let k: usize = 0; k < 3; k++)
      v128.store(to + k * PLANE, v128.bitselect(v128.load(from + k * PLANE), v128.load(to + k * PLANE), bent))
  }
}
