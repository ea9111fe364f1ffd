// Pictures joined with blurred copies of themselves; see cpu/spread.ts.

/** to = a · from + b · to, for some pixels. */
export function sumOf(from: usize, to: usize, some: i32, a: f32, b: f32): void {
  const first = f32x4.splat(a)
  const second = f32x4.splat(b)
  for (let i = 0; i < some; i++, from += 16, to += 16)
    v128.store(to, f32x4.add(f32x4.mul(first, v128.load(from)), f32x4.mul(second, v128.load(to))))
}

/**
 * pixels = keep · pixels + amounts · what, where `what` below a threshold counts less.
 * @param given vectors: keep, amounts, 1 / threshold
 */
export function joinUp(pixels: usize, what: usize, some: i32, given: usize): void {
  const keep = v128.load(given)
  const amounts = v128.load(given, 16)
  const per = v128.load(given, 32)
  const one = f32x4.splat(1)
  const two = f32x4.splat(2)
  const three = f32x4.splat(3)
  for (let i = 0; i < some; i++, pixels += 16, what += 16) {
    const d = v128.load(what)
    const t = f32x4.pmin(one, f32x4.mul(f32x4.abs(d), per))
    const counts = f32x4.mul(f32x4.mul(t, t), f32x4.sub(three, f32x4.mul(two, t)))
    const own = f32x4.mul(keep, v128.load(pixels))
    v128.store(pixels, f32x4.add(own, f32x4.mul(f32x4.mul(amounts, counts), d)))
  }
}

/** The least of the three channels, in all of them. */
export function leastOf(from: usize, to: usize, some: i32): void {
  for (let i = 0; i < some; i++, from += 16, to += 16)
    v128.store(to, f32x4.splat(min(load<f32>(from), min(load<f32>(from, 4), load<f32>(from, 8)))))
}

/** (pixels - k · veil) / (1 - k · veil): a veil of light is taken away, or laid over where k is negative. */
export function clearVeil(pixels: usize, veil: usize, some: i32, k: f32): void {
  const one = f32x4.splat(1)
  const share = f32x4.splat(k)
  const most = f32x4.splat(0.95)
  for (let i = 0; i < some; i++, pixels += 16, veil += 16) {
    const haze = f32x4.pmin(most, f32x4.mul(share, v128.load(veil)))
    const cleared = f32x4.div(f32x4.sub(v128.load(pixels), haze), f32x4.sub(one, haze))
    v128.store(pixels, f32x4.replace_lane(cleared, 3, 1))
  }
}
