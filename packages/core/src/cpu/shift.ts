import type { Shift } from '../stages/space'
import { real, runJob } from './jobs'
import { kernelMemory } from './memory'

/** Rows that a thread takes at a time. */
const ROWS = 16

/**
 * Moves each record (channel) by its own amount, sampled by cubic interpolation: a picture that strays from frame to frame
 * must not become soft and sharp again. The edge's colour continues outside.
 * @param at address of an RGBA float32 picture, changed in place
 */
export function shiftRecords(records: readonly [Shift, Shift, Shift], at: number, width: number, height: number): void {
  const memory = kernelMemory()
  const floats = 4 * width * height
  memory.borrow(4 * floats, (before) => {
    memory.floats(before, floats).set(memory.floats(at, floats))
    for (const { shift, channels } of apart(records)) {
      const angle = (-shift.rotation * Math.PI) / 180
      const turn = [Math.cos(angle), Math.sin(angle), (shift.x * width) / 1000, (shift.y * width) / 1000]
      runJob({
        kind: 'shift',
        units: height,
        per: ROWS,
        words: [before, at, width, height, channels, ...turn.map(real)],
      })
    }
  })
}

/** The shifts that differ, each with the channels that it moves, a bit each. */
function apart(records: readonly Shift[]): { shift: Shift; channels: number }[] {
  const found: { shift: Shift; channels: number }[] = []
  for (const [channel, shift] of records.entries()) {
    if (shift.x === 0 && shift.y === 0 && shift.rotation === 0) continue
    const same = found.find(({ shift: s }) => s.x === shift.x && s.y === shift.y && s.rotation === shift.rotation)
    if (same) same.channels |= 1 << channel
    else found.push({ shift, channels: 1 << channel })
  }
  return found
}

/** The cubic that interpolates best of those that reach over four neighbours (R. Keys 1981, a = -1/2; from memory). */
function keys(distance: number): number {
  const x = Math.abs(distance)
  if (x < 1) return 1.5 * x ** 3 - 2.5 * x ** 2 + 1
  return x < 2 ? -0.5 * x ** 3 + 2.5 * x ** 2 - 4 * x + 2 : 0
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
      let sum = 0
      for (let j = -1; j <= 2; j++)
        for (let i = -1; i <= 2; i++) sum += keys(sx - x0 - i) * keys(sy - y0 - j) * value(x0 + i, y0 + j)
      dst[4 * (y * width + x) + channel] = sum
    }
}
