import { LINEAR, SPLINE36, inOneRun, resampling, type Resampling } from '../numbers/resample'
import { real, runJob, type Real } from './jobs'
import { kernelMemory } from './memory'

/** Luma weights of red and blue, by zimg's names of the matrices (ITU-R BT.709-6, BT.601-7, BT.2020-2; FCC and SMPTE 240M from memory). */
const LUMA: Readonly<Record<string, readonly [red: number, blue: number]>> = {
  '709': [0.2126, 0.0722],
  '170m': [0.299, 0.114],
  '470bg': [0.299, 0.114],
  '2020_ncl': [0.2627, 0.0593],
  smpte2400m: [0.212, 0.087],
  fcc: [0.3, 0.11],
}

/** Y'CbCr in limited range, luma first, then the two chroma planes. */
export interface PlanesFormat {
  readonly width: number
  readonly height: number
  readonly bits: number
  /** How many times fewer samples chroma has along and down. Its samples lie at the left, as is usual. */
  readonly chroma: readonly [along: 1 | 2, down: 1 | 2]
  /** In zimg's words, see {@link readsMatrix}. */
  readonly matrix: string
}

export const readsMatrix = (matrix: string): boolean => matrix in LUMA

/** Reads frames of planes into 16-bit RGB codes of another size: the numbers that the server's decoder makes of them. */
export class PlanesReader {
  private readonly luma: PlaneResampler
  private readonly chroma: PlaneResampler
  private readonly matrix: Float32Array

  constructor(
    readonly format: PlanesFormat,
    readonly width: number,
    readonly height: number,
  ) {
    const [along, down] = format.chroma
    const own = [format.width, format.height] as const
    const small = [Math.ceil(own[0] / along), Math.ceil(own[1] / down)] as const
    const scaled = width !== own[0] || height !== own[1]
    const how = scaled ? SPLINE36 : LINEAR
    this.luma = new PlaneResampler(own, [width, height], how, 0, format.bits)
    this.chroma = new PlaneResampler(small, [width, height], how, along === 2 ? 0.25 : 0, format.bits)
    this.matrix = matrixOf(format)
  }

  /** Samples of a frame. */
  get samples(): number {
    return this.luma.from + 2 * this.chroma.from
  }

  /** @param planes luma, Cb, Cr one behind the other @returns interleaved RGB, 0..65535 */
  read(planes: Uint16Array): Uint16Array<ArrayBuffer> {
    const memory = kernelMemory()
    const n = this.width * this.height
    const plane = 4 * n + 64
    return memory.borrow(3 * plane + 64 + 6 * n + 64, (at) => {
      const [a, b, c] = [at, at + plane, at + 2 * plane]
      const [m, codes] = [at + 3 * plane, at + 3 * plane + 64]
      const { from } = this.luma
      this.luma.run(planes.subarray(0, from), a)
      this.chroma.run(planes.subarray(from, from + this.chroma.from), b)
      this.chroma.run(planes.subarray(from + this.chroma.from, this.samples), c)
      memory.floats(m, 12).set(this.matrix)
      runJob({ kind: 'planesToCodes', units: n, per: 8192, words: [a, b, c, codes, m] })
      return new Uint16Array(memory.memory.buffer, codes, 3 * n).slice()
    })
  }
}

/** Y'CbCr codes of limited range to RGB codes of 16 bits: three rows of three weights and an offset. */
function matrixOf({ bits, matrix }: PlanesFormat): Float32Array {
  const [kr, kb] = LUMA[matrix]!
  const kg = 1 - kr - kb
  const unit = 2 ** (bits - 8)
  // BT.709-6, 3.4 and 3.5: luma from 16 to 235, chroma 224 steps about 128, of 8 bits.
  const y = 65535 / (219 * unit)
  const c = 65535 / (224 * unit)
  const rows = [
    [0, 2 * (1 - kr) * c],
    [(-2 * (1 - kb) * kb * c) / kg, (-2 * (1 - kr) * kr * c) / kg],
    [2 * (1 - kb) * c, 0],
  ]
  return Float32Array.from(rows.flatMap(([u, v]) => [y, u!, v!, -16 * unit * y - 128 * unit * (u! + v!)]))
}

type Size = readonly [width: number, height: number]

/** Pixels of room behind a plane, so that a kernel may read on. */
const BEHIND = 64
/** Rows that a thread takes at a time. */
const ROWS = 16

/**
 * zimg resamples a plane that gets smaller as whole numbers of 16 bits, which cuts what overshoots them, and one that gets
 * larger as floats (found by comparing with it). In steps of the source's depth.
 */
const boundsOf = (from: Size, to: Size, bits: number): readonly [Real, Real] =>
  to[0] * to[1] > from[0] * from[1] ? [real(-Infinity), real(Infinity)] : [real(0), real(65535 / 2 ** (16 - bits))]

/** One plane to another size. */
class PlaneResampler {
  readonly from: number
  private readonly down: Resampling
  private readonly along: Resampling
  private readonly bounds: readonly [least: Real, most: Real]

  constructor(
    private readonly size: Size,
    private readonly to: Size,
    kernel: typeof LINEAR,
    shift: number,
    bits: number,
  ) {
    this.bounds = boundsOf(size, to, bits)
    this.from = size[0] * size[1]
    this.down = resampling(size[1], to[1], kernel)
    this.along = inOneRun(resampling(size[0], to[0], kernel, shift), 4)
  }

  /** @param to address of the floats */
  run(samples: Uint16Array, to: number): void {
    const memory = kernelMemory()
    const { down, along, size } = this
    const [width, height] = this.to
    const tables = [down.places, down.weights, along.places, along.weights]
    const bytes = [2 * (this.from + BEHIND), 4 * (size[0] * height + BEHIND), ...tables.map((t) => t.byteLength)]
    const places = bytes.map((_, i) => bytes.slice(0, i).reduce((sum, b) => sum + Math.ceil(b / 16) * 16, 0))
    memory.borrow(places[5]! + bytes[5]! + 16, (at) => {
      const [src, between, ...given] = places.map((p) => at + p) as [number, number, ...number[]]
      new Uint16Array(memory.memory.buffer, src, this.from).set(samples)
      // Read along with weights of 0, which would make no numbers of what others left there that is none.
      memory.floats(between + 4 * size[0] * height, BEHIND).fill(0)
      tables.forEach((t, i) => memory.ints(given[i]!, t.length).set(new Int32Array(t.buffer)))
      const rows = { units: height, per: ROWS }
      const downWords = [src, between, size[0], given[0]!, given[1]!, down.taps, ...this.bounds]
      runJob({ kind: 'resampleDown', ...rows, words: downWords })
      const alongWords = [between, to, size[0], width, given[2]!, given[3]!, along.taps, ...this.bounds]
      runJob({ kind: 'resampleAlong', ...rows, words: alongWords })
    })
  }
}
