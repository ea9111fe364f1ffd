import type { Encoding } from '../colour/encodings'
import { displayLight } from '../colour/transfer'
import { seededRandom } from './random'
import { kernelMemory, type Place } from './memory'

/** Display code values (BT.1886) to code values of an encoding, one colour at a time, RGBA in place. */
export type Recode = (picture: Float32Array, n: number) => void

const NODES = 4096

/**
 * From the working display values to the code values of a target encoding; the target's primaries by matrix. Scene
 * encodings receive display-linear light (white = 1).
 */
export function makeRecode(target: Encoding): Recode {
  if (target.id === 'bt1886') return () => undefined
  const m = target.fromBt709
  const mixes = m[0][0] !== 1 || m[0][1] !== 0
  const encode = (light: number) => target.transfer.encode(light)
  if (mixes) {
    return (picture, n) => {
      for (let i = 0; i < 4 * n; i += 4) {
        const r = displayLight(picture[i]!)
        const g = displayLight(picture[i + 1]!)
        const b = displayLight(picture[i + 2]!)
        for (let k = 0; k < 3; k++) picture[i + k] = encode(m[k as 0][0] * r + m[k as 0][1] * g + m[k as 0][2] * b)
      }
    }
  }
  const table = Float32Array.from({ length: NODES + 2 }, (_, i) => encode(displayLight(Math.min(1, i / NODES))))
  return (picture, n) => {
    for (let i = 0; i < 4 * n; i++) {
      if ((i & 3) === 3) continue
      const v = picture[i]!
      const at = (v > 0 ? (v < 1 ? v : 1) : 0) * NODES
      const node = at | 0
      picture[i] = table[node]! + (table[node + 1]! - table[node]!) * (at - node)
    }
  }
}

/** Triangular noise of +-1 step with variance 1/6, 65536 values. */
const NOISE = (() => {
  const random = seededRandom(20_417)
  return Float32Array.from({ length: 65536 }, () => random() - random())
})()

/** Where the noise of a picture begins. */
const noiseAt = (seed: number): number => Math.imul(seed + 1, 7919) & 65535

/**
 * Writes code values as dithered 8-bit RGBA for a canvas. Triangular dither makes the error independent of the picture
 * (S. P. Lipshitz, R. A. Wannamaker, J. Vanderkooy 1992, from memory).
 * @param picture RGBA float32, n pixels @param out RGBA bytes, n pixels
 */
export function emit8(picture: Float32Array, out: Uint8ClampedArray, n: number, seed: number): void {
  const memory = kernelMemory()
  writer ??= memory.keptPlace(TO_NOISE + 4 * KEPT_NOISE, layNoise)
  const { at, memory: kept } = writer()
  const pixels = new Float32Array(kept, at, 4 * CHUNK)
  const bytes = new Uint8Array(kept, at + TO_BYTES, 4 * CHUNK)
  let noise = noiseAt(seed)
  for (let done = 0; done < n; done += CHUNK, noise = (noise + 3 * CHUNK) & 65535) {
    const some = Math.min(CHUNK, n - done)
    pixels.set(picture.subarray(4 * done, 4 * (done + some)))
    memory.kernels.emit8(at, at + TO_BYTES, (some + 3) >> 2, at + TO_NOISE + 4 * noise)
    out.set(some === CHUNK ? bytes : bytes.subarray(0, 4 * some), 4 * done)
  }
}

/** The plain form of the same; the kernel rounds halves to even. */
export function emit8Plain(picture: Float32Array, out: Uint8ClampedArray, n: number, seed: number): void {
  const noise = noiseAt(seed)
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < 3; k++) out[4 * i + k] = picture[4 * i + k]! * 255 + NOISE[(noise + 3 * i + k) & 65535]!
    out[4 * i + 3] = 255
  }
}

/** Pixels worked on at a time. */
const CHUNK = 1024
const TO_BYTES = 16 * CHUNK
const TO_NOISE = TO_BYTES + 4 * CHUNK
/** The noise's beginning lies once more behind its end, so that no chunk has to wrap. */
const KEPT_NOISE = 65536 + 3 * CHUNK + 4

let writer: (() => Place) | undefined

function layNoise({ at, memory }: Place): void {
  const noise = new Float32Array(memory, at + TO_NOISE, KEPT_NOISE)
  for (let i = 0; i < KEPT_NOISE; i++) noise[i] = NOISE[i & 65535]!
}

/** Writes code values as 16-bit integers, interleaved RGB. Dither of one step of `bits` is added when bits < 16. */
export function emit16(picture: Float32Array, out: Uint16Array, n: number, bits: number, seed: number): void {
  const step = bits < 16 ? 65535 / (2 ** bits - 1) : 0
  let noise = noiseAt(seed)
  for (let i = 0, s = 0, d = 0; i < n; i++, s += 4, d += 3) {
    for (let k = 0; k < 3; k++) {
      const v = picture[s + k]! * 65535 + step * NOISE[(noise + k) & 65535]!
      out[d + k] = v > 0 ? (v < 65535 ? v + 0.5 : 65535) : 0
    }
    noise = (noise + 3) & 65535
  }
}

/** Writes code values as 32-bit floats, interleaved RGB. */
export function emitFloat(picture: Float32Array, out: Float32Array, n: number): void {
  for (let i = 0, s = 0, d = 0; i < n; i++, s += 4, d += 3) {
    out[d] = picture[s]!
    out[d + 1] = picture[s + 1]!
    out[d + 2] = picture[s + 2]!
  }
}
