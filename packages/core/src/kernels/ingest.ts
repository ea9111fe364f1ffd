import type { Encoding } from '../colour/encodings'
import { unprint } from '../film/straight'
import { readShaped, shapedTable, type ShapedTable } from './shaped'

/** How a frame's numbers are stored: 16-bit integers (0..65535 is 0..1), 16-bit half floats, or 32-bit floats. */
export type FrameFormat = 'u16' | 'f16' | 'f32'
export type FrameData = Uint16Array | Float32Array

/** IEEE 754 half float to number. */
export function halfToNumber(half: number): number {
  const sign = half & 0x8000 ? -1 : 1
  const exponent = (half >> 10) & 31
  const fraction = half & 1023
  if (exponent === 0) return sign * fraction * 2 ** -24
  if (exponent === 31) return fraction ? NaN : sign * Infinity
  return sign * (1 + fraction / 1024) * 2 ** (exponent - 15)
}

/** Number to the nearest half float (ties upwards); what is too large becomes the largest finite half. */
export function numberToHalf(value: number): number {
  if (Number.isNaN(value)) return 0
  const sign = value < 0 || Object.is(value, -0) ? 0x8000 : 0
  const v = Math.min(65504, Math.abs(value))
  if (v < 2 ** -14) return sign | Math.round(v * 2 ** 24)
  const exponent = Math.floor(Math.log2(v))
  const held = 2 ** exponent > v ? exponent - 1 : exponent
  return sign | (((held + 15) << 10) + Math.round((v / 2 ** held - 1) * 1024))
}

/** Reads a frame into scene light. @param src interleaved RGB @param dst RGBA float32, alpha set to 1 @param n pixels */
export type Ingest = (src: FrameData, dst: Float32Array, n: number) => void

/** Light cannot be infinite or not a number, whatever a float file says; the greatest light is that of a half float. */
const finite = (v: number): number => (v > -65504 ? (v < 65504 ? v : 65504) : v <= -65504 ? -65504 : 0)

/**
 * The way from a footage encoding to scene light (linear BT.709): transfer function, matrix, and for display-referred
 * footage unprinting. 16-bit frames go through a table of all 65536 codes, exactly.
 */
export function makeIngest(encoding: Encoding, format: FrameFormat): Ingest {
  const { transfer, toBt709: m } = encoding
  const display = encoding.refers === 'display'
  const mixes = m[0][0] !== 1 || m[0][1] !== 0
  const decode = (v: number): number => finite(transfer.decode(v))
  const early = display && !mixes ? (v: number) => unprint(decode(v)) : decode
  const read = reader(early, format)
  const late = display && mixes ? shapedTable(unprint, -26, 0) : null
  return (src, dst, n) => {
    read(src, dst, n)
    if (mixes) mixChannels(m, late, dst, n)
  }
}

function reader(f: (v: number) => number, format: FrameFormat): Ingest {
  if (format === 'f32') return copyTriples((v) => f(v))
  const code = format === 'u16' ? (i: number) => i / 65535 : (i: number) => finite(halfToNumber(i))
  const table = Float32Array.from({ length: 65536 }, (_, i) => f(code(i)))
  return (src, dst, n) => {
    for (let i = 0, s = 0, d = 0; i < n; i++, s += 3, d += 4) {
      dst[d] = table[src[s]!]!
      dst[d + 1] = table[src[s + 1]!]!
      dst[d + 2] = table[src[s + 2]!]!
      dst[d + 3] = 1
    }
  }
}

const copyTriples =
  (f: (v: number) => number): Ingest =>
  (src, dst, n) => {
    for (let i = 0, s = 0, d = 0; i < n; i++, s += 3, d += 4) {
      for (let k = 0; k < 3; k++) dst[d + k] = f(src[s + k]!)
      dst[d + 3] = 1
    }
  }

function mixChannels(m: Encoding['toBt709'], late: ShapedTable | null, dst: Float32Array, n: number): void {
  const [mr, mg, mb] = m
  for (let d = 0; d < 4 * n; d += 4) {
    const [r, g, b] = [dst[d]!, dst[d + 1]!, dst[d + 2]!]
    const out0 = mr[0] * r + mr[1] * g + mr[2] * b
    const out1 = mg[0] * r + mg[1] * g + mg[2] * b
    const out2 = mb[0] * r + mb[1] * g + mb[2] * b
    dst[d] = late ? readShaped(late, out0) : out0
    dst[d + 1] = late ? readShaped(late, out1) : out1
    dst[d + 2] = late ? readShaped(late, out2) : out2
  }
}
