import type { Shift } from '../stages/space'
import { real, runJob } from './jobs'
import { kernelMemory } from './memory'

/** Rows that a thread takes at a time. */
const ROWS = 16

/**
 * Moves each record (channel) by its own amount, sampling bilinearly; the edge's colour continues outside.
 * @param at address of an RGBA float32 picture, changed in place
 */
export function shiftRecords(records: readonly [Shift, Shift, Shift], at: number, width: number, height: number): void {
  const memory = kernelMemory()
  const floats = 4 * width * height
  memory.borrow(4 * floats, (before) => {
    memory.floats(before, floats).set(memory.floats(at, floats))
    records.forEach((shift, channel) => {
      if (shift.x === 0 && shift.y === 0 && shift.rotation === 0) return
      const angle = (-shift.rotation * Math.PI) / 180
      const turn = [Math.cos(angle), Math.sin(angle), (shift.x * width) / 1000, (shift.y * width) / 1000]
      runJob({
        kind: 'shift',
        units: height,
        per: ROWS,
        words: [before, at, width, height, channel, ...turn.map(real)],
      })
    })
  })
}

/** The plain form of the same for one record, in double precision, from one picture into another. */
export function shiftPlain(
  shift: Shift,
  channel: number,
  src: Float32Array,
  dst: Float32Array,
  width: number,
  height: number,
): void {
  const angle = (-shift.rotation * Math.PI) / 180
  const [c, s] = [Math.cos(angle), Math.sin(angle)]
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2]
  const [dx, dy] = [(shift.x * width) / 1000, (shift.y * width) / 1000]
  const held = (v: number, top: number) => Math.min(top, Math.max(0, v))
  const value = (x: number, y: number) => src[4 * (held(y, height - 1) * width + held(x, width - 1)) + channel]!
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [px, py] = [x - cx - dx, y - cy - dy]
      const [sx, sy] = [held(cx + c * px - s * py, width - 1), held(cy + s * px + c * py, height - 1)]
      const [x0, y0] = [Math.floor(sx), Math.floor(sy)]
      const [fx, fy] = [sx - x0, sy - y0]
      const top = value(x0, y0) * (1 - fx) + value(x0 + 1, y0) * fx
      const bottom = value(x0, y0 + 1) * (1 - fx) + value(x0 + 1, y0 + 1) * fx
      dst[4 * (y * width + x) + channel] = top * (1 - fy) + bottom * fy
    }
}
