import type { Encoding } from '../colour/encodings'
import { displayCode, displayLight } from '../colour/transfer'
import { unprint } from '../film/straight'
import { transform } from '../colour/matrix'
import { applyCurve, codeCurve } from './curve'
import { readShaped, shapedTable } from './shaped'
import { kernelMemory } from './memory'

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
  if (format === 'f32') {
    const late = display && mixes ? unprint : null
    return (src, dst, n) => {
      readFloats(early, src, dst, n)
      if (mixes) mixChannels(m, late, dst, n)
    }
  }
  const table = codeTable(early, format)
  if (!(display && mixes)) return fastIngest(table, mixes ? m : null)
  // Unprinting is steep near white: it is tabled over code values, where its steps are even to the eye.
  const code = shapedTable(displayCode, -40, 1)
  const unprinted = codeCurve((v) => unprint(displayLight(v)))
  const read = fastIngest(table, m)
  return (src, dst, n) => {
    read(src, dst, n)
    for (let d = 0; d < 4 * n; d++) if ((d & 3) < 3) dst[d] = dst[d]! > 0 ? readShaped(code, dst[d]!) : 0
    applyCurve(unprinted, dst, dst, n)
  }
}

/** The same without the kernel, one colour at a time. */
export function ingestPlain(
  encoding: Encoding,
  format: 'u16' | 'f16',
  src: FrameData,
  dst: Float32Array,
  n: number,
): void {
  const { transfer, toBt709: m } = encoding
  const display = encoding.refers === 'display'
  for (let i = 0; i < n; i++) {
    const code = (k: number): number => {
      const v = src[3 * i + k]!
      return finite(transfer.decode(format === 'u16' ? v / 65535 : finite(halfToNumber(v))))
    }
    const light = transform(m, [code(0), code(1), code(2)])
    for (let k = 0; k < 3; k++) dst[4 * i + k] = display ? unprint(light[k]!) : light[k]!
    dst[4 * i + 3] = 1
  }
}

/** What each of the 65536 codes means. */
const codeTable = (f: (v: number) => number, format: 'u16' | 'f16'): Float32Array =>
  Float32Array.from({ length: 65536 }, (_, i) => f(format === 'u16' ? i / 65535 : finite(halfToNumber(i))))

/** Pixels worked on at a time. */
const CHUNK = 1024

function fastIngest(table: Float32Array, m: Encoding['toBt709'] | null): Ingest {
  const memory = kernelMemory()
  const { ingest16 } = memory.kernels
  const [toPixels, toMix, toTable] = [6 * CHUNK, 22 * CHUNK, 22 * CHUNK + 48]
  const place = memory.keptPlace(toTable + 4 * table.length, ({ at, memory: bytes }) => {
    new Float32Array(bytes, at + toTable, table.length).set(table)
    if (m) new Float32Array(bytes, at + toMix, 12).set([0, 1, 2].flatMap((k) => [m[0][k]!, m[1][k]!, m[2][k]!, 0]))
  })
  return (src, dst, n) => {
    const { at, memory: bytes } = place()
    const codes = new Uint16Array(bytes, at, 3 * CHUNK)
    const pixels = new Float32Array(bytes, at + toPixels, 4 * CHUNK)
    for (let done = 0; done < n; done += CHUNK) {
      const some = Math.min(CHUNK, n - done)
      codes.set(src.subarray(3 * done, 3 * (done + some)))
      ingest16(at, at + toPixels, some, at + toTable, m ? at + toMix : 0)
      dst.set(some === CHUNK ? pixels : pixels.subarray(0, 4 * some), 4 * done)
    }
  }
}

function readFloats(f: (v: number) => number, src: FrameData, dst: Float32Array, n: number): void {
  for (let i = 0, s = 0, d = 0; i < n; i++, s += 3, d += 4) {
    for (let k = 0; k < 3; k++) dst[d + k] = f(src[s + k]!)
    dst[d + 3] = 1
  }
}

function mixChannels(m: Encoding['toBt709'], late: ((v: number) => number) | null, dst: Float32Array, n: number): void {
  for (let d = 0; d < 4 * n; d += 4) {
    const mixed = transform(m, [dst[d]!, dst[d + 1]!, dst[d + 2]!])
    for (let k = 0; k < 3; k++) dst[d + k] = late ? late(mixed[k]!) : mixed[k]!
  }
}
