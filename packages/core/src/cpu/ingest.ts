import type { Encoding } from '../colour/encodings'
import { displayCode, displayLight } from '../colour/transfer'
import { unprint } from '../film/straight'
import { transform } from '../colour/matrix'
import { evenCurves, mix, type PointStage } from '../stages/stage'
import { runJob } from './jobs'
import { kernelMemory } from './memory'
import type { Picture } from './pictures'
import { runSteps, type Step } from './program'

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

/** Reads a frame into scene light. @param src interleaved RGB, as many pixels as the picture has */
export type Ingest = (src: FrameData, to: Picture) => void

/** Light cannot be infinite or not a number, whatever a float file says; the greatest light is that of a half float. */
const finite = (v: number): number => (v > -65504 ? (v < 65504 ? v : 65504) : v <= -65504 ? -65504 : 0)

/** The way from a footage encoding to scene light (linear BT.709): a function of each number, then stages. */
export interface IngestWork {
  readonly first: (v: number) => number
  readonly stages: readonly PointStage[]
}

/** Transfer function, matrix, and for display-referred footage unprinting. */
export function ingestWork({ transfer, toBt709: m, refers }: Encoding): IngestWork {
  const decode = (v: number): number => finite(transfer.decode(v))
  const mixes = m[0][0] !== 1 || m[0][1] !== 0
  if (!mixes) return { first: refers === 'display' ? (v) => unprint(decode(v)) : decode, stages: [] }
  return { first: decode, stages: [mix(m), ...(refers === 'display' ? UNPRINTED : [])] }
}

/** What each of the 65536 codes of 16-bit numbers or half floats means. */
export const codeMeanings = ({ first }: IngestWork, format: 'u16' | 'f16'): Float32Array =>
  Float32Array.from({ length: 65536 }, (_, i) => first(format === 'u16' ? i / 65535 : finite(halfToNumber(i))))

/** Reads frames of an encoding; 16-bit ones go through a table of all codes, exactly. */
export function makeIngest(encoding: Encoding, format: FrameFormat): Ingest {
  const work = ingestWork(encoding)
  const read = reader(work, format)
  if (work.stages.length === 0) return read
  const steps = work.stages.map((stage): Step => ({ do: 'stage', stage }))
  return (src, to) => {
    read(src, to)
    const own = { address: to.at, register: 'own' } as const
    runSteps([{ do: 'load', ...own }, ...steps, { do: 'store', ...own }], to.n)
  }
}

/** Unprinting is steep near white: it is tabled over code values, where its steps are even to the eye. */
const UNPRINTED = [
  evenCurves({ key: 'display code', axis: { nodes: 'octaves', from: -40, to: 1 }, f: displayCode }),
  evenCurves({
    key: 'unprinted code',
    axis: { nodes: 'even', from: 0, to: 1, steps: 8192 },
    f: (code) => unprint(displayLight(code)),
  }),
]

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

/** Pixels that a thread takes at a time. */
const TILE = 8192

/** Each number of a frame through a function, alpha 1. */
function reader(work: IngestWork, format: FrameFormat): Ingest {
  if (format === 'f32') return (src, to) => readFloats(work.first, src, to.pixels, to.n)
  const memory = kernelMemory()
  const table = codeMeanings(work, format)
  const place = memory.keptPlace(4 * table.length, (at) => memory.floats(at, table.length).set(table))
  return (src, { at, n }) => {
    const atTable = place()
    memory.borrow(6 * n, (codes) => {
      new Uint16Array(memory.memory.buffer, codes, 3 * n).set(src)
      runJob({ kind: 'ingest16', units: n, per: TILE, words: [codes, at, atTable] })
    })
  }
}

function readFloats(f: (v: number) => number, src: FrameData, dst: Float32Array, n: number): void {
  for (let i = 0, s = 0, d = 0; i < n; i++, s += 3, d += 4) {
    for (let k = 0; k < 3; k++) dst[d + k] = f(src[s + k]!)
    dst[d + 3] = 1
  }
}
