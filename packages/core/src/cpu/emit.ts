import { oneCurve, wayBack, type Encoding } from '../encodings'
import { displayLight } from '../colour/transfer'
import { seededRandom } from '../numbers/random'
import { evenCurves, cacheKey, type Axis, type PointStage } from '../stages/stage'
import { real, runJob } from './jobs'
import { kernelMemory } from './memory'
import type { Picture } from './pictures'

/** Code values, as many steps as 12 bits have. */
const CODES: Axis = { nodes: 'even', from: 0, to: 1, steps: 4096 }
/**
 * From the working display values to the code values of a target encoding; the target's primaries by matrix. Scene
 * encodings receive display-linear light (white = 1).
 */
export function recodeStages(target: Encoding): readonly PointStage[] {
  if (target.id === 'bt1886') return []
  const [first, ...rest] = wayBack(target)
  const only = rest.length === 0 ? oneCurve(first) : null
  // One curve behind another is one curve, without the loss of a table between.
  if (only) return [evenCurves({ key: cacheKey('recode', only.key), axis: CODES, f: (v) => only.f(displayLight(v)) })]
  return [evenCurves({ key: 'display light', axis: CODES, f: displayLight }), ...wayBack(target)]
}

/** Triangular noise of +-1 step with variance 1/6, 65536 values. */
export const NOISE = (() => {
  const random = seededRandom(20_417)
  return Float32Array.from({ length: 65536 }, () => random() - random())
})()

/** Where the noise of a picture begins. */
export const noiseAt = (seed: number): number => Math.imul(seed + 1, 7919) & 65535

/** Pixels that a thread takes at a time. */
const TILE = 8192
/** The noise's beginning lies once more behind its end, so that no tile has to wrap. */
const KEPT_NOISE = 65536 + 3 * TILE + 16

let noisePlace: (() => number) | undefined

function atNoise(): number {
  const memory = kernelMemory()
  noisePlace ??= memory.keptPlace(4 * KEPT_NOISE, (at) => {
    const noise = memory.floats(at, KEPT_NOISE)
    for (let i = 0; i < KEPT_NOISE; i++) noise[i] = NOISE[i & 65535]!
  })
  return noisePlace()
}

/**
 * Writes code values as dithered 8-bit RGBA for a canvas. Triangular dither makes the error independent of the picture
 * (S. P. Lipshitz, R. A. Wannamaker, J. Vanderkooy 1992, from memory).
 * @param out RGBA bytes, as many pixels as the picture has
 */
export function emit8({ at, n }: Picture, out: Uint8ClampedArray, seed: number): void {
  const noise = atNoise()
  const memory = kernelMemory()
  memory.borrow(4 * n + 64, (bytes) => {
    runJob({ kind: 'emit8', units: n, per: TILE, words: [at, bytes, noise, noiseAt(seed)] })
    out.set(new Uint8Array(memory.memory.buffer, bytes, 4 * n))
  })
}

/** The plain form of the same; the kernel rounds halves to even. */
export function emit8Plain(pixels: Float32Array, out: Uint8ClampedArray, n: number, seed: number): void {
  const noise = noiseAt(seed)
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < 3; k++) out[4 * i + k] = pixels[4 * i + k]! * 255 + NOISE[(noise + 3 * i + k) & 65535]!
    out[4 * i + 3] = 255
  }
}

/** Writes code values as 16-bit integers, interleaved RGB. Dither of one step of `bits` is added when bits < 16. */
export function emit16({ at, n }: Picture, out: Uint16Array, bits: number, seed: number): void {
  const noise = atNoise()
  const memory = kernelMemory()
  const step = bits < 16 ? 65535 / (2 ** bits - 1) : 0
  memory.borrow(6 * n, (codes) => {
    runJob({ kind: 'emit16', units: n, per: TILE, words: [at, codes, noise, noiseAt(seed), real(step)] })
    out.set(new Uint16Array(memory.memory.buffer, codes, 3 * n))
  })
}

/** The plain form of the same. */
export function emit16Plain(pixels: Float32Array, out: Uint16Array, n: number, bits: number, seed: number): void {
  const step = bits < 16 ? 65535 / (2 ** bits - 1) : 0
  const noise = noiseAt(seed)
  for (let i = 0; i < n; i++)
    for (let k = 0; k < 3; k++) {
      const v = pixels[4 * i + k]! * 65535 + step * NOISE[(noise + 3 * i + k) & 65535]!
      out[3 * i + k] = Math.round(Math.min(65535, Math.max(0, v)))
    }
}

/** Writes code values as 32-bit floats, interleaved RGB. */
export function emitFloat({ at, n }: Picture, out: Float32Array): void {
  const memory = kernelMemory()
  memory.borrow(12 * n, (floats) => {
    runJob({ kind: 'emitFloats', units: n, per: TILE, words: [at, floats] })
    out.set(memory.floats(floats, 3 * n))
  })
}
