import { oneCurve, type Encoding } from '../encodings'
import { displayCode } from '../colour/transfer'
import { three } from '../colour/matrix'
import { plainStages } from '../stages/plain'
import { evenCurves, type PointStage } from '../stages/stage'
import { halfToNumber } from '../numbers/half'
import { runJob } from './jobs'
import { kernelMemory } from './memory'
import type { Picture } from './pictures'
import { runSteps } from './program'
import type { Step } from './step'

/** How a frame's numbers are stored: 16-bit integers (0..65535 is 0..1), 16-bit half floats, or 32-bit floats. */
export type FrameFormat = 'u16' | 'f16' | 'f32'
export type FrameData = Uint16Array | Float32Array

/** Reads a frame into what a line takes: scene light, or display code values (BT.1886, BT.709). @param src interleaved RGB, as many pixels as the picture has */
export type Ingest = (src: FrameData, to: Picture) => void

/** Light cannot be infinite or not a number, whatever a float file says; the greatest light is that of a half float. */
const finite = (v: number): number => (v > -65504 ? (v < 65504 ? v : 65504) : v <= -65504 ? -65504 : 0)

/**
 * The way from a footage encoding to what a line takes: scene light (linear BT.709) of camera footage, code values (BT.1886,
 * BT.709 colours) of display footage. A function of each number, then stages.
 */
export interface IngestWork {
  readonly first: (v: number) => number
  readonly stages: readonly PointStage[]
}

/** The stages of the encoding; display footage becomes code values again. What stands first for each number is a function, which is exact. */
export function ingestWork({ decode, refers }: Encoding): IngestWork {
  const [first, ...rest] = decode
  const own = oneCurve(first)
  const meant = own ? (v: number) => finite(own.f(v)) : finite
  const stages = own ? rest : decode
  if (refers === 'scene') return { first: meant, stages }
  return stages.length === 0
    ? { first: (v) => shownCode(meant(v)), stages }
    : { first: meant, stages: [...stages, SHOWN_CODES] }
}

/** The code value of a light, as a display shows it: nothing below black, nothing above white. */
const shownCode = (light: number): number => Math.min(1, displayCode(light))

const SHOWN_CODES = evenCurves({ key: 'shown code', axis: { nodes: 'octaves', from: -40, to: 1 }, f: shownCode })

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

/** The same without the kernel, one colour at a time. */
export function ingestPlain(
  encoding: Encoding,
  format: 'u16' | 'f16',
  src: FrameData,
  dst: Float32Array,
  n: number,
): void {
  const { first, stages } = ingestWork(encoding)
  const rest = plainStages(stages)
  const out = three()
  for (let i = 0; i < n; i++) {
    const code = (k: number): number => {
      const v = src[3 * i + k]!
      return first(format === 'u16' ? v / 65535 : finite(halfToNumber(v)))
    }
    rest(code(0), code(1), code(2), out)
    dst.set(out, 4 * i)
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
