// Rows of RGBA pixels, 16 bytes each; a weight is four floats, one a channel.

/**
 * Blurs a row, four pixels at a time; `reach` pixels must stand on either side of it.
 * @param weights half of a symmetric kernel, centre first: reach + 1 weights
 */
export function blurRow(src: usize, dst: usize, fours: i32, weights: usize, reach: i32): void {
  const centre = v128.load(weights)
  for (let i = 0; i < fours; i++, src += 64, dst += 64) {
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
}

/** The same down the columns. @param rows addresses (u32) of 2·reach + 1 rows, from the top */
export function sumRows(rows: usize, dst: usize, fours: i32, weights: usize, reach: i32): void {
  const centre = v128.load(weights)
  const middle = rows + ((<usize>reach) << 2)
  const last: usize = (<usize>fours) << 6
  for (let i: usize = 0; i < last; i += 64) {
    const own = <usize>load<u32>(middle) + i
    let s0 = f32x4.mul(centre, v128.load(own, 0))
    let s1 = f32x4.mul(centre, v128.load(own, 16))
    let s2 = f32x4.mul(centre, v128.load(own, 32))
    let s3 = f32x4.mul(centre, v128.load(own, 48))
    let above = middle - 4
    let below = middle + 4
    let at = weights + 16
    for (let j = 0; j < reach; j++, above -= 4, below += 4, at += 16) {
      const w = v128.load(at)
      const a = <usize>load<u32>(above) + i
      const b = <usize>load<u32>(below) + i
      s0 = f32x4.add(s0, f32x4.mul(w, f32x4.add(v128.load(a, 0), v128.load(b, 0))))
      s1 = f32x4.add(s1, f32x4.mul(w, f32x4.add(v128.load(a, 16), v128.load(b, 16))))
      s2 = f32x4.add(s2, f32x4.mul(w, f32x4.add(v128.load(a, 32), v128.load(b, 32))))
      s3 = f32x4.add(s3, f32x4.mul(w, f32x4.add(v128.load(a, 48), v128.load(b, 48))))
    }
    v128.store(dst + i, s0, 0)
    v128.store(dst + i, s1, 16)
    v128.store(dst + i, s2, 32)
    v128.store(dst + i, s3, 48)
  }
}

/** Adds to each of n pixels `share` times the sum of `factor` pixels of a row. */
export function shrinkRow(src: usize, dst: usize, n: i32, factor: i32, share: f32): void {
  for (let i = 0; i < n; i++, dst += 16) {
    let sum = v128.load(src)
    for (let j = 1; j < factor; j++) sum = f32x4.add(sum, v128.load(src + ((<usize>j) << 4)))
    src += (<usize>factor) << 4
    v128.store(dst, f32x4.add(v128.load(dst), f32x4.mul(sum, f32x4.splat(share))))
  }
}

/** Rows a and b mixed, b by `share`. */
export function mixRows(a: usize, b: usize, dst: usize, n: i32, share: f32): void {
  for (let i: usize = 0; i < (<usize>n) << 4; i += 16) {
    const from = v128.load(a + i)
    v128.store(dst + i, f32x4.add(from, f32x4.mul(f32x4.sub(v128.load(b + i), from), f32x4.splat(share))))
  }
}

/**
 * Stretches a row by `factor` with linear interpolation into the channels that `mask` names; one pixel must stand on
 * either side of the row.
 */
export function stretchRow(src: usize, dst: usize, n: i32, factor: i32, mask: usize): void {
  const chosen = v128.load(mask)
  const step: f32 = 1 / <f32>factor
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
