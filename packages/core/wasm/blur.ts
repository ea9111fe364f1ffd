// Bands of rows of RGBA pixels, 16 bytes each. A weight is four floats, one a channel; weights are half of a symmetric
// kernel, centre first: reach + 1 of them. The edge's colour continues outside the picture.

/** A row with its first and last pixel repeated on either side. @returns address of the row's first pixel */
function padded(row: usize, width: i32, around: i32, scratch: usize): usize {
  const start = scratch + (<usize>around << 4)
  const bytes = <usize>width << 4
  memory.copy(start, row, bytes)
  const first = v128.load(row)
  const last = v128.load(row + bytes - 16)
  for (let i: usize = 0; i < <usize>around << 4; i += 16) {
    v128.store(scratch + i, first)
    v128.store(start + bytes + i, last)
  }
  return start
}

/** Blurs the rows first..last along. @param scratch room for a row and `reach` pixels on either side */
export function blurAlong(
  src: usize,
  dst: usize,
  width: i32,
  first: i32,
  last: i32,
  weights: usize,
  reach: i32,
  scratch: usize,
): void {
  for (let y = first; y < last; y++) {
    const to = dst + ((<usize>y * <usize>width) << 4)
    blurRow(padded(src + ((<usize>y * <usize>width) << 4), width, reach, scratch), to, width, weights, reach)
  }
}

function blurRow(src: usize, dst: usize, width: i32, weights: usize, reach: i32): void {
  const centre = v128.load(weights)
  let x = 0
  for (; x + 4 <= width; x += 4, src += 64, dst += 64) {
    let s0 = f32x4.mul(centre, v128.load(src, 0))
    let s1 = f32x4.mul(centre, v128.load(src, 16))
    let s2 = f32x4.mul(centre, v128.load(src, 32))
    let s3 = f32x4.mul(centre, v128.load(src, 48))
    let left = src - 16
    let right = src + 16
    let at = weights + 16
    for (let j = 0; j < reach; j++, left -= 16, right += 16, at += 16) {
      const w = v128.load(at)
      s0 = f32x4.add(s0, f32x4.mul(w, f32x4.add(v128.load(left, 0), v128.load(right, 0))))
      s1 = f32x4.add(s1, f32x4.mul(w, f32x4.add(v128.load(left, 16), v128.load(right, 16))))
      s2 = f32x4.add(s2, f32x4.mul(w, f32x4.add(v128.load(left, 32), v128.load(right, 32))))
      s3 = f32x4.add(s3, f32x4.mul(w, f32x4.add(v128.load(left, 48), v128.load(right, 48))))
    }
    v128.store(dst, s0, 0)
    v128.store(dst, s1, 16)
    v128.store(dst, s2, 32)
    v128.store(dst, s3, 48)
  }
  for (; x < width; x++, src += 16, dst += 16) {
    let sum = f32x4.mul(centre, v128.load(src))
    for (let j = 1; j <= reach; j++) {
      const away = <usize>j << 4
      sum = f32x4.add(sum, f32x4.mul(v128.load(weights + away), f32x4.add(v128.load(src - away), v128.load(src + away))))
    }
    v128.store(dst, sum)
  }
}

/** Blurs the rows first..last down the columns, from a picture into another. */
export function blurDown(
  src: usize,
  dst: usize,
  width: i32,
  height: i32,
  first: i32,
  last: i32,
  weights: usize,
  reach: i32,
): void {
  const row = <usize>width << 4
  const foot = height - 1
  const centre = v128.load(weights)
  for (let y = first; y < last; y++) {
    const own = src + <usize>y * row
    const to = dst + <usize>y * row
    let x: usize = 0
    for (; x + 64 <= row; x += 64) {
      let s0 = f32x4.mul(centre, v128.load(own + x, 0))
      let s1 = f32x4.mul(centre, v128.load(own + x, 16))
      let s2 = f32x4.mul(centre, v128.load(own + x, 32))
      let s3 = f32x4.mul(centre, v128.load(own + x, 48))
      for (let j = 1; j <= reach; j++) {
        const w = v128.load(weights + (<usize>j << 4))
        const a = src + <usize>max(0, y - j) * row + x
        const b = src + <usize>min(foot, y + j) * row + x
        s0 = f32x4.add(s0, f32x4.mul(w, f32x4.add(v128.load(a, 0), v128.load(b, 0))))
        s1 = f32x4.add(s1, f32x4.mul(w, f32x4.add(v128.load(a, 16), v128.load(b, 16))))
        s2 = f32x4.add(s2, f32x4.mul(w, f32x4.add(v128.load(a, 32), v128.load(b, 32))))
        s3 = f32x4.add(s3, f32x4.mul(w, f32x4.add(v128.load(a, 48), v128.load(b, 48))))
      }
      v128.store(to + x, s0, 0)
      v128.store(to + x, s1, 16)
      v128.store(to + x, s2, 32)
      v128.store(to + x, s3, 48)
    }
    for (; x < row; x += 16) {
      let sum = f32x4.mul(centre, v128.load(own + x))
      for (let j = 1; j <= reach; j++) {
        const a = v128.load(src + <usize>max(0, y - j) * row + x)
        const b = v128.load(src + <usize>min(foot, y + j) * row + x)
        sum = f32x4.add(sum, f32x4.mul(v128.load(weights + (<usize>j << 4)), f32x4.add(a, b)))
      }
      v128.store(to + x, sum)
    }
  }
}

/** Averages squares of `factor` pixels into the rows first..last of a small picture of w columns. */
export function shrinkRows(
  src: usize,
  dst: usize,
  width: i32,
  height: i32,
  factor: i32,
  w: i32,
  first: i32,
  last: i32,
): void {
  const share = f32x4.splat(<f32>1 / <f32>(factor * factor))
  const whole = width / factor
  for (let y = first; y < last; y++) {
    const to = dst + ((<usize>y * <usize>w) << 4)
    memory.fill(to, 0, <usize>w << 4)
    for (let j = 0; j < factor; j++) {
      let at = src + ((<usize>min(height - 1, y * factor + j) * <usize>width) << 4)
      for (let x = 0; x < whole; x++) {
        let sum = v128.load(at)
        for (let i = 1; i < factor; i++) sum = f32x4.add(sum, v128.load(at + (<usize>i << 4)))
        at += <usize>factor << 4
        const here = to + (<usize>x << 4)
        v128.store(here, f32x4.add(v128.load(here), f32x4.mul(sum, share)))
      }
      // The last column may lie half outside.
      for (let x = whole * factor; whole < w && x < w * factor; x++) {
        const edge = src + ((<usize>min(height - 1, y * factor + j) * <usize>width + <usize>min(width - 1, x)) << 4)
        const here = to + (<usize>whole << 4)
        v128.store(here, f32x4.add(v128.load(here), f32x4.mul(v128.load(edge), share)))
      }
    }
  }
}

/**
 * Stretches a small picture by `factor` with linear interpolation into the rows first..last of a large one.
 * @param mask which channels are written: four lanes of bits @param scratch room for two rows of w + 2 pixels
 */
export function stretchRows(
  small: usize,
  dst: usize,
  w: i32,
  h: i32,
  factor: i32,
  width: i32,
  first: i32,
  last: i32,
  mask: usize,
  scratch: usize,
): void {
  const chosen = v128.load(mask)
  const step: f32 = 1 / <f32>factor
  const row = <usize>w << 4
  const mixed = scratch + row
  for (let y = first; y < last; y++) {
    const place = (<f32>y + 0.5) * step - 0.5
    const above = <i32>floor(place)
    const share = f32x4.splat(place - <f32>above)
    const a = small + <usize>min(h - 1, max(0, above)) * row
    const b = small + <usize>min(h - 1, max(0, above + 1)) * row
    for (let i: usize = 0; i < row; i += 16) {
      const from = v128.load(a + i)
      v128.store(scratch + i, f32x4.add(from, f32x4.mul(f32x4.sub(v128.load(b + i), from), share)))
    }
    const start = padded(scratch, w, 1, mixed)
    stretchRow(start, dst + ((<usize>y * <usize>width) << 4), width, step, chosen)
  }
}

function stretchRow(src: usize, dst: usize, n: i32, step: f32, chosen: v128): void {
  let left = src - 16
  let share: f32 = 0.5 + 0.5 * step
  for (let i = 0; i < n; i++, dst += 16) {
    if (share >= 1) {
      share -= 1
      left += 16
    }
    const from = v128.load(left)
    const sum = f32x4.add(from, f32x4.mul(f32x4.sub(v128.load(left, 16), from), f32x4.splat(share)))
    v128.store(dst, v128.bitselect(sum, v128.load(dst), chosen))
    share += step
  }
}
