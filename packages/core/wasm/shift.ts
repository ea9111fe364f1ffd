/**
 * One channel of the rows first..last moved, sampled bilinearly; the edge's colour continues outside.
 * @param c,s cosine and sine of the turn @param dx,dy displacement in pixels; see kernels' plain form
 */
export function shiftRows(
  src: usize,
  dst: usize,
  width: i32,
  height: i32,
  first: i32,
  last: i32,
  channel: i32,
  c: f32,
  s: f32,
  dx: f32,
  dy: f32,
): void {
  const cx = <f32>(width - 1) / 2
  const cy = <f32>(height - 1) / 2
  const topX = <f32>(width - 1)
  const topY = <f32>(height - 1)
  const right: usize = width > 1 ? 16 : 0
  const down: usize = height > 1 ? <usize>width << 4 : 0
  src += <usize>channel << 2
  dst += <usize>channel << 2
  for (let y = first; y < last; y++) {
    let at = dst + ((<usize>y * <usize>width) << 4)
    const py = <f32>y - cy - dy
    for (let x = 0; x < width; x++, at += 16) {
      const px = <f32>x - cx - dx
      const sx = min(topX, max(0, cx + c * px - s * py))
      const sy = min(topY, max(0, cy + s * px + c * py))
      const x0 = min(<i32>sx, max(0, width - 2))
      const y0 = min(<i32>sy, max(0, height - 2))
      const fx = sx - <f32>x0
      const fy = sy - <f32>y0
      const p = src + ((<usize>y0 * <usize>width + <usize>x0) << 4)
      const a = load<f32>(p)
      const b = load<f32>(p + down)
      const top = a + (load<f32>(p + right) - a) * fx
      const bottom = b + (load<f32>(p + down + right) - b) * fx
      store<f32>(at, top + (bottom - top) * fy)
    }
  }
}
