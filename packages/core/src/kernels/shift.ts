import type { Shift } from '../baths/kind'

/**
 * Moves each record (channel) by its own amount, sampling bilinearly; the edge's colour continues outside.
 * @param picture RGBA float32, changed in place @param scratch same length
 */
export function shiftRecords(
  records: readonly [Shift, Shift, Shift],
  picture: Float32Array,
  scratch: Float32Array,
  width: number,
  height: number,
): void {
  scratch.set(picture)
  records.forEach((shift, k) => {
    if (shift.x !== 0 || shift.y !== 0 || shift.rotation !== 0) shiftOne(shift, k, scratch, picture, width, height)
  })
}

function shiftOne(shift: Shift, k: number, src: Float32Array, dst: Float32Array, width: number, height: number): void {
  const angle = (-shift.rotation * Math.PI) / 180
  const [c, s] = [Math.cos(angle), Math.sin(angle)]
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2]
  const [dx, dy] = [(shift.x * width) / 1000, (shift.y * width) / 1000]
  const hold = (v: number, top: number) => (v < 0 ? 0 : v > top ? top : v)
  for (let y = 0, at = k; y < height; y++) {
    for (let x = 0; x < width; x++, at += 4) {
      const px = x - cx - dx
      const py = y - cy - dy
      const sx = hold(cx + c * px - s * py, width - 1)
      const sy = hold(cy + s * px + c * py, height - 1)
      const x0 = Math.min(sx | 0, width - 2 < 0 ? 0 : width - 2)
      const y0 = Math.min(sy | 0, height - 2 < 0 ? 0 : height - 2)
      const fx = sx - x0
      const fy = sy - y0
      const p = 4 * (y0 * width + x0) + k
      const right = width > 1 ? 4 : 0
      const down = height > 1 ? 4 * width : 0
      const top = src[p]! + (src[p + right]! - src[p]!) * fx
      const bottom = src[p + down]! + (src[p + down + right]! - src[p + down]!) * fx
      dst[at] = top + (bottom - top) * fy
    }
  }
}
