/** Weights of four neighbours for a place so far behind the second one (R. Keys 1981, equation 15 with a = -1/2; from memory). */
// @ts-ignore: decorator
@inline
function weight0(f: f32): f32 {
  return f * (f * (1 - 0.5 * f) - 0.5)
}
// @ts-ignore: decorator
@inline
function weight1(f: f32): f32 {
  return 1 + f * f * (1.5 * f - 2.5)
}
// @ts-ignore: decorator
@inline
function weight2(f: f32): f32 {
  return f * (0.5 + f * (2 - 1.5 * f))
}
// @ts-ignore: decorator
@inline
function weight3(f: f32): f32 {
  return 0.5 * f * f * (f - 1)
}

// @ts-ignore: decorator
@inline
function sum(a: v128, b: v128, c: v128, d: v128, w0: v128, w1: v128, w2: v128, w3: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(a, w0), f32x4.mul(b, w1)),
    f32x4.add(f32x4.mul(c, w2), f32x4.mul(d, w3)),
  )
}

/**
 * Channels of the rows first..last moved, sampled by cubic interpolation; the edge's colour continues outside.
 * @param channels those that are moved, a bit each @param c,s cosine and sine of the turn
 * @param dx,dy displacement in pixels; see the plain form in cpu/shift.ts
 */
export function shiftRows(
  src: usize,
  dst: usize,
  width: i32,
  height: i32,
  first: i32,
  last: i32,
  channels: i32,
  c: f32,
  s: f32,
  dx: f32,
  dy: f32,
): void {
  const lanes = i32x4.ne(v128.and(i32x4.splat(channels), i32x4(1, 2, 4, 8)), i32x4.splat(0))
  const cx = <f32>(width - 1) / 2
  const cy = <f32>(height - 1) / 2
  const right = width - 1
  const foot = height - 1
  const row = <usize>width << 4
  for (let y = first; y < last; y++) {
    let at = dst + <usize>y * row
    const py = <f32>y - cy - dy
    for (let x = 0; x < width; x++, at += 16) {
      const px = <f32>x - cx - dx
      const sx = min(<f32>right, max(0, cx + c * px - s * py))
      const sy = min(<f32>foot, max(0, cy + s * px + c * py))
      const x1 = <i32>sx
      const y1 = <i32>sy
      const fx = sx - <f32>x1
      const fy = sy - <f32>y1
      const o0 = <usize>max(0, x1 - 1) << 4
      const o1 = <usize>x1 << 4
      const o2 = <usize>min(right, x1 + 1) << 4
      const o3 = <usize>min(right, x1 + 2) << 4
      const w0 = f32x4.splat(weight0(fx))
      const w1 = f32x4.splat(weight1(fx))
      const w2 = f32x4.splat(weight2(fx))
      const w3 = f32x4.splat(weight3(fx))
      const p0 = src + <usize>max(0, y1 - 1) * row
      const p1 = src + <usize>y1 * row
      const p2 = src + <usize>min(foot, y1 + 1) * row
      const p3 = src + <usize>min(foot, y1 + 2) * row
      const a = sum(v128.load(p0 + o0), v128.load(p0 + o1), v128.load(p0 + o2), v128.load(p0 + o3), w0, w1, w2, w3)
      const b = sum(v128.load(p1 + o0), v128.load(p1 + o1), v128.load(p1 + o2), v128.load(p1 + o3), w0, w1, w2, w3)
      const d = sum(v128.load(p2 + o0), v128.load(p2 + o1), v128.load(p2 + o2), v128.load(p2 + o3), w0, w1, w2, w3)
      const e = sum(v128.load(p3 + o0), v128.load(p3 + o1), v128.load(p3 + o2), v128.load(p3 + o3), w0, w1, w2, w3)
      const moved = sum(
        a,
        b,
        d,
        e,
        f32x4.splat(weight0(fy)),
        f32x4.splat(weight1(fy)),
        f32x4.splat(weight2(fy)),
        f32x4.splat(weight3(fy)),
      )
      v128.store(at, v128.bitselect(moved, v128.load(at), lanes))
    }
  }
}
