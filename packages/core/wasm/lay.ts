import { PLANE } from './registers'

// How one picture is laid on another: "Compositing and Blending Level 1", section 10; see line/blend.ts for the plain form.
// Modes are numbered as there: up to plus-lighter they work on channels, from hue on on colours.

// @ts-ignore: decorator
@inline
function pick(condition: v128, yes: v128, no: v128): v128 {
  return v128.bitselect(yes, no, condition)
}

// @ts-ignore: decorator
@inline
function screen(b: v128, s: v128): v128 {
  return f32x4.sub(f32x4.add(b, s), f32x4.mul(b, s))
}

// @ts-ignore: decorator
@inline
function hardLight(b: v128, s: v128): v128 {
  const twice = f32x4.add(s, s)
  const dark = f32x4.le(s, f32x4.splat(0.5))
  return pick(dark, f32x4.mul(b, twice), screen(b, f32x4.sub(twice, f32x4.splat(1))))
}

// @ts-ignore: decorator
@inline
function softLight(b: v128, s: v128): v128 {
  const one = f32x4.splat(1)
  const tilt = f32x4.sub(f32x4.add(s, s), one)
  const dark = f32x4.add(b, f32x4.mul(tilt, f32x4.mul(b, f32x4.sub(one, b))))
  const cubic = f32x4.sub(f32x4.mul(f32x4.splat(16), b), f32x4.splat(12))
  const low = f32x4.mul(b, f32x4.add(f32x4.mul(cubic, b), f32x4.splat(4)))
  const d = pick(f32x4.le(b, f32x4.splat(0.25)), low, f32x4.sqrt(f32x4.pmax(f32x4.splat(0), b)))
  return pick(f32x4.le(s, f32x4.splat(0.5)), dark, f32x4.add(b, f32x4.mul(tilt, f32x4.sub(d, b))))
}

// @ts-ignore: decorator
@inline
function dodge(b: v128, s: v128): v128 {
  const one = f32x4.splat(1)
  const zero = f32x4.splat(0)
  const open = pick(f32x4.ge(s, one), one, f32x4.pmin(one, f32x4.div(b, f32x4.sub(one, s))))
  return pick(f32x4.eq(b, zero), zero, open)
}

// @ts-ignore: decorator
@inline
function burn(b: v128, s: v128): v128 {
  const one = f32x4.splat(1)
  const zero = f32x4.splat(0)
  const dark = f32x4.sub(one, f32x4.pmin(one, f32x4.div(f32x4.sub(one, b), s)))
  return pick(f32x4.ge(b, one), one, pick(f32x4.le(s, zero), zero, dark))
}

/** B(backdrop, source) of one channel. */
// @ts-ignore: decorator
@inline
function blend(mode: i32, b: v128, s: v128): v128 {
  switch (mode) {
    case LAY_MULTIPLY:
      return f32x4.mul(b, s)
    case LAY_SCREEN:
      return screen(b, s)
    case LAY_OVERLAY:
      return hardLight(s, b)
    case LAY_DARKEN:
      return f32x4.pmin(b, s)
    case LAY_LIGHTEN:
      return f32x4.pmax(b, s)
    case LAY_COLOR_DODGE:
      return dodge(b, s)
    case LAY_COLOR_BURN:
      return burn(b, s)
    case LAY_HARD_LIGHT:
      return hardLight(b, s)
    case LAY_SOFT_LIGHT:
      return softLight(b, s)
    case LAY_DIFFERENCE:
      return f32x4.abs(f32x4.sub(b, s))
    case LAY_EXCLUSION: {
      const both = f32x4.mul(b, s)
      return f32x4.sub(f32x4.add(b, s), f32x4.add(both, both))
    }
    default:
      return s
  }
}

// @ts-ignore: decorator
@inline
function lum(r: v128, g: v128, b: v128): v128 {
  return f32x4.add(
    f32x4.mul(f32x4.splat(0.3), r),
    f32x4.add(f32x4.mul(f32x4.splat(0.59), g), f32x4.mul(f32x4.splat(0.11), b)),
  )
}

// @ts-ignore: decorator
@inline
function sat(r: v128, g: v128, b: v128): v128 {
  return f32x4.sub(f32x4.pmax(f32x4.pmax(r, g), b), f32x4.pmin(f32x4.pmin(r, g), b))
}

/** A channel of a colour drawn towards its own lum until it lies in 0..1. */
// @ts-ignore: decorator
@inline
function clipped(v: v128, l: v128, low: v128, high: v128): v128 {
  const one = f32x4.splat(1)
  const zero = f32x4.splat(0)
  const raised = f32x4.add(l, f32x4.div(f32x4.mul(f32x4.sub(v, l), l), f32x4.sub(l, low)))
  const a = pick(v128.and(f32x4.lt(low, zero), f32x4.gt(l, low)), raised, v)
  const lowered = f32x4.add(l, f32x4.div(f32x4.mul(f32x4.sub(a, l), f32x4.sub(one, l)), f32x4.sub(high, l)))
  const b = pick(v128.and(f32x4.gt(high, one), f32x4.gt(high, l)), lowered, a)
  return f32x4.pmin(one, f32x4.pmax(zero, b))
}

// @ts-ignore: decorator
@inline
function mixed(from: v128, to: v128, share: v128): v128 {
  return f32x4.add(from, f32x4.mul(f32x4.sub(to, from), share))
}

// @ts-ignore: decorator
@inline
function shareAt(mask: usize, strength: v128): v128 {
  return mask ? f32x4.mul(v128.load(mask), strength) : strength
}

/**
 * Lays the picture in register `own` on the one in register `line`, in place.
 * @param under the line's picture is laid over the other instead @param mask a plane of 0..1, or 0 for all of it everywhere
 */
export function lay(line: usize, own: usize, fours: i32, mode: i32, under: bool, strength: f32, mask: usize): void {
  const full = f32x4.splat(strength)
  if (mode >= LAY_HUE) return layColours(line, own, fours, mode, under, full, mask)
  const backdrop = under ? own : line
  const source = under ? line : own
  const bytes: usize = <usize>fours << 4
  for (let k: usize = 0; k < 3 * PLANE; k += PLANE) layPlane(mode, line + k, backdrop + k, source + k, bytes, full, mask)
}

/** Each mode has a loop of its own: to choose among them for every four pixels would cost more than most of them do. */
function layPlane(mode: i32, line: usize, backdrop: usize, source: usize, bytes: usize, full: v128, mask: usize): void {
  switch (mode) {
    case LAY_MULTIPLY:
      return each(LAY_MULTIPLY, line, backdrop, source, bytes, full, mask)
    case LAY_SCREEN:
      return each(LAY_SCREEN, line, backdrop, source, bytes, full, mask)
    case LAY_OVERLAY:
      return each(LAY_OVERLAY, line, backdrop, source, bytes, full, mask)
    case LAY_DARKEN:
      return each(LAY_DARKEN, line, backdrop, source, bytes, full, mask)
    case LAY_LIGHTEN:
      return each(LAY_LIGHTEN, line, backdrop, source, bytes, full, mask)
    case LAY_COLOR_DODGE:
      return each(LAY_COLOR_DODGE, line, backdrop, source, bytes, full, mask)
    case LAY_COLOR_BURN:
      return each(LAY_COLOR_BURN, line, backdrop, source, bytes, full, mask)
    case LAY_HARD_LIGHT:
      return each(LAY_HARD_LIGHT, line, backdrop, source, bytes, full, mask)
    case LAY_SOFT_LIGHT:
      return each(LAY_SOFT_LIGHT, line, backdrop, source, bytes, full, mask)
    case LAY_DIFFERENCE:
      return each(LAY_DIFFERENCE, line, backdrop, source, bytes, full, mask)
    case LAY_EXCLUSION:
      return each(LAY_EXCLUSION, line, backdrop, source, bytes, full, mask)
    case LAY_PLUS_LIGHTER:
      return add(line, source == line ? backdrop : source, bytes, full, mask)
    default:
      return each(LAY_NORMAL, line, backdrop, source, bytes, full, mask)
  }
}

// @ts-ignore: decorator
@inline
function each(mode: i32, line: usize, backdrop: usize, source: usize, bytes: usize, full: v128, mask: usize): void {
  if (mask) {
    for (let i: usize = 0; i < bytes; i += 16) {
      const laid = blend(mode, v128.load(backdrop + i), v128.load(source + i))
      v128.store(line + i, mixed(v128.load(line + i), laid, f32x4.mul(v128.load(mask + i), full)))
    }
  } else {
    for (let i: usize = 0; i < bytes; i += 16) {
      const laid = blend(mode, v128.load(backdrop + i), v128.load(source + i))
      v128.store(line + i, mixed(v128.load(line + i), laid, full))
    }
  }
}

/** So much of the other picture as strength and mask let through is added; the sum ends at white. */
function add(line: usize, own: usize, bytes: usize, full: v128, mask: usize): void {
  for (let i: usize = 0; i < bytes; i += 16) {
    const added = f32x4.mul(v128.load(own + i), shareAt(mask ? mask + i : 0, full))
    v128.store(line + i, f32x4.pmin(f32x4.splat(1), f32x4.add(v128.load(line + i), added)))
  }
}

/** The modes that take all channels together. */
function layColours(line: usize, own: usize, fours: i32, mode: i32, under: bool, full: v128, mask: usize): void {
  const backdrop = under ? own : line
  const source = under ? line : own
  const zero = f32x4.splat(0)
  for (let i: usize = 0; i < <usize>fours << 4; i += 16) {
    const br = v128.load(backdrop + i)
    const bg = v128.load(backdrop + i, PLANE)
    const bb = v128.load(backdrop + i, 2 * PLANE)
    const sr = v128.load(source + i)
    const sg = v128.load(source + i, PLANE)
    const sb = v128.load(source + i, 2 * PLANE)
    // What brings its colour, and whose lightness it gets.
    const fromBackdrop = mode == LAY_SATURATION || mode == LAY_LUMINOSITY
    let r = fromBackdrop ? br : sr
    let g = fromBackdrop ? bg : sg
    let b = fromBackdrop ? bb : sb
    const l = mode == LAY_LUMINOSITY ? lum(sr, sg, sb) : lum(br, bg, bb)
    if (mode < LAY_COLOR) {
      const range = sat(r, g, b)
      const low = f32x4.pmin(f32x4.pmin(r, g), b)
      const wanted = mode == LAY_HUE ? sat(br, bg, bb) : sat(sr, sg, sb)
      const factor = pick(f32x4.gt(range, zero), f32x4.div(wanted, range), zero)
      r = f32x4.mul(f32x4.sub(r, low), factor)
      g = f32x4.mul(f32x4.sub(g, low), factor)
      b = f32x4.mul(f32x4.sub(b, low), factor)
    }
    const d = f32x4.sub(l, lum(r, g, b))
    r = f32x4.add(r, d)
    g = f32x4.add(g, d)
    b = f32x4.add(b, d)
    const low = f32x4.pmin(f32x4.pmin(r, g), b)
    const high = f32x4.pmax(f32x4.pmax(r, g), b)
    const centre = lum(r, g, b)
    const share = shareAt(mask ? mask + i : 0, full)
    v128.store(line + i, mixed(v128.load(line + i), clipped(r, centre, low, high), share))
    v128.store(line + i, mixed(v128.load(line + i, PLANE), clipped(g, centre, low, high), share), PLANE)
    v128.store(line + i, mixed(v128.load(line + i, 2 * PLANE), clipped(b, centre, low, high), share), 2 * PLANE)
  }
}
