/**
 * Multiplies n pixels and adds to them what a row of a grid says, linear between its columns.
 * @param grid a column is two vectors: factors and sums @param step columns a pixel; the first pixel lies at step/2
 */
export function fieldRow(pixels: usize, n: i32, grid: usize, columns: i32, step: f32): void {
  const last = columns - 2
  for (let i = 0; i < n; i++, pixels += 16) {
    const place = (<f32>i + 0.5) * step
    const left = min(last, <i32>place)
    const share = f32x4.splat(place - <f32>left)
    const at = grid + ((<usize>left) << 5)
    const factor = v128.load(at)
    const sum = v128.load(at, 16)
    const times = f32x4.add(factor, f32x4.mul(f32x4.sub(v128.load(at, 32), factor), share))
    const plus = f32x4.add(sum, f32x4.mul(f32x4.sub(v128.load(at, 48), sum), share))
    v128.store(pixels, f32x4.add(f32x4.mul(v128.load(pixels), times), plus))
  }
}
