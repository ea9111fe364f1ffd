import { K } from './constants'
import { PLANE } from './registers'

/** A matrix and an offset. @param m three rows of four floats: the weights of r, g, b, and what is added */
export function mix(at: usize, fours: i32, m: usize): void {
  const rr = v128.load32_splat(m, 0)
  const rg = v128.load32_splat(m, 4)
  const rb = v128.load32_splat(m, 8)
  const r1 = v128.load32_splat(m, 12)
  const gr = v128.load32_splat(m, 16)
  const gg = v128.load32_splat(m, 20)
  const gb = v128.load32_splat(m, 24)
  const g1 = v128.load32_splat(m, 28)
  const br = v128.load32_splat(m, 32)
  const bg = v128.load32_splat(m, 36)
  const bb = v128.load32_splat(m, 40)
  const b1 = v128.load32_splat(m, 44)
  for (let i = 0; i < fours; i++, at += 16) {
    const r = v128.load(at)
    const g = v128.load(at, PLANE)
    const b = v128.load(at, 2 * PLANE)
    v128.store(at, sum(r, g, b, rr, rg, rb, r1))
    v128.store(at, sum(r, g, b, gr, gg, gb, g1), PLANE)
    v128.store(at, sum(r, g, b, br, bg, bb, b1), 2 * PLANE)
  }
}

// @ts-ignore: decorator
@inline
function sum(r: v128, g: v128, b: v128, wr: v128, wg: v128, wb: v128, offset: v128): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(r, wr), f32x4.mul(g, wg)), f32x4.add(f32x4.mul(b, wb), offset))
}

/**
 * A matrix whose results are held softly above a share of the incoming mean: (v + sqrt(v² + 4 least²)) / 2 / gain.
 * @param m as in {@link mix} (its offsets are not used); behind it the share of the mean and 1 / gain
 */
export function mixHeld(at: usize, fours: i32, m: usize): void {
  const third = f32x4.splat(1.0 / 3)
  const share = v128.load32_splat(m, 48)
  const gain = f32x4.mul(f32x4.splat(0.5), v128.load32_splat(m, 52))
  const faintest = f32x4.splat(1e-6)
  for (let i = 0; i < fours; i++, at += 16) {
    const r = v128.load(at)
    const g = v128.load(at, PLANE)
    const b = v128.load(at, 2 * PLANE)
    const mean = f32x4.pmax(faintest, f32x4.mul(f32x4.add(f32x4.add(r, g), b), third))
    const least = f32x4.mul(mean, share)
    const square = f32x4.mul(f32x4.splat(4), f32x4.mul(least, least))
    held(at, m, r, g, b, square, gain)
    held(at + PLANE, m + 16, r, g, b, square, gain)
    held(at + 2 * PLANE, m + 32, r, g, b, square, gain)
  }
}

// @ts-ignore: decorator
@inline
function held(at: usize, m: usize, r: v128, g: v128, b: v128, square: v128, gain: v128): void {
  const zero = f32x4.splat(0)
  const v = sum(r, g, b, v128.load32_splat(m, 0), v128.load32_splat(m, 4), v128.load32_splat(m, 8), zero)
  v128.store(at, f32x4.mul(gain, f32x4.add(v, f32x4.sqrt(f32x4.add(f32x4.mul(v, v), square)))))
}

/**
 * Brings light into 0..1 at constant luminance; see fitGamut in colour/gamut.ts for the rule. What is no number
 * becomes black. In two passes: the roots of one pixel would keep the processor waiting that could be at the next.
 * @param work room for two planes
 */
export function fit(at: usize, fours: i32, work: usize): void {
  const one = K.one()
  const zero = K.zero()
  const third = f32x4.splat(1 / 3)
  const smallest = K.smallest()
  const lumaR = K.lumaR()
  const lumaG = K.lumaG()
  const lumaB = K.lumaB()
  const bytes = <usize>fours << 4
  for (let i: usize = 0; i < bytes; i += 16) {
    const r = v128.load(at + i)
    const g = v128.load(at + i, PLANE)
    const b = v128.load(at + i, 2 * PLANE)
    const luma = f32x4.add(f32x4.mul(r, lumaR), f32x4.add(f32x4.mul(g, lumaG), f32x4.mul(b, lumaB)))
    const y = f32x4.pmin(one, f32x4.pmax(zero, luma))
    // Both distances from neutral share a denominator: (y - least) / y and (greatest - y) / (1 - y).
    const rest = f32x4.sub(one, y)
    const unit = f32x4.div(one, f32x4.pmax(smallest, f32x4.mul(y, rest)))
    const low = f32x4.mul(f32x4.mul(f32x4.sub(y, f32x4.pmin(f32x4.pmin(r, g), b)), rest), unit)
    const high = f32x4.mul(f32x4.mul(f32x4.sub(f32x4.pmax(f32x4.pmax(r, g), b), y), y), unit)
    v128.store(work + i, f32x4.add(eighth(low), eighth(high)))
    v128.store(work + i, y, PLANE)
  }
  for (let i: usize = 0; i < bytes; i += 16) {
    const power = v128.load(work + i)
    const y = v128.load(work + i, PLANE)
    const inner = f32x4.pmax(zero, f32x4.sub(one, f32x4.mul(third, power)))
    const share = f32x4.div(one, f32x4.add(power, f32x4.mul(inner, inner)))
    const inside = v128.and(f32x4.gt(y, zero), f32x4.lt(y, one))
    const scale = f32x4.sqrt(f32x4.sqrt(f32x4.sqrt(share)))
    drawIn(at + i, y, scale, inside)
    drawIn(at + i + PLANE, y, scale, inside)
    drawIn(at + i + 2 * PLANE, y, scale, inside)
  }
}

// @ts-ignore: decorator
@inline
function eighth(v: v128): v128 {
  const square = f32x4.mul(v, v)
  const fourth = f32x4.mul(square, square)
  return f32x4.mul(fourth, fourth)
}

// @ts-ignore: decorator
@inline
function drawIn(at: usize, y: v128, scale: v128, inside: v128): void {
  v128.store(at, f32x4.add(y, v128.and(inside, f32x4.mul(f32x4.sub(v128.load(at), y), scale))))
}
