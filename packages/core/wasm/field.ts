/**
 * Multiplies the rows first..last and adds to them what a grid says, linear between its points.
 * @param grid points row by row, each two vectors: factors and sums @param scratch room for one row of the grid
 */
export function fieldRows(
  pixels: usize,
  width: i32,
  height: i32,
  first: i32,
  last: i32,
  grid: usize,
  columns: i32,
  rows: i32,
  scratch: usize,
): void {
  const length = <usize>columns << 5
  for (let y = first; y < last; y++) {
    const place = ((<f32>y + 0.5) / <f32>height) * <f32>(rows - 1)
    const above = min(rows - 2, <i32>place)
    const share = f32x4.splat(place - <f32>above)
    const top = grid + <usize>above * length
    for (let i: usize = 0; i < length; i += 16) {
      const a = v128.load(top + i)
      v128.store(scratch + i, f32x4.add(a, f32x4.mul(f32x4.sub(v128.load(top + length + i), a), share)))
    }
    fieldRow(pixels + ((<usize>y * <usize>width) << 4), width, scratch, columns, <f32>(columns - 1) / <f32>width)
  }
}

function fieldRow(pixels: usize, n: i32, grid: usize, columns: i32, step: f32): void {
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
