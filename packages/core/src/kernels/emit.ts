import type { Encoding } from '../colour/encodings'
import { seededRandom } from './random'

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
        const r = toLight(picture[i]!)
        const g = toLight(picture[i + 1]!)
        const b = toLight(picture[i + 2]!)
        for (let k = 0; k < 3; k++) picture[i + k] = encode(m[k as 0][0] * r + m[k as 0][1] * g + m[k as 0][2] * b)
      }
    }
  }
  const table = Float32Array.from({ length: NODES + 2 }, (_, i) => encode(Math.min(1, i / NODES) ** 2.4))
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

const toLight = (code: number): number => (code > 0 ? code ** 2.4 : 0)

/** Triangular noise of +-1 step with variance 1/6, 65536 values. */
const NOISE = (() => {
  const random = seededRandom(20_417)
  return Float32Array.from({ length: 65536 }, () => random() - random())
})()

/**
 * Writes code values as dithered 8-bit RGBA for a canvas. Triangular dither makes the error independent of the picture
 * (S. P. Lipshitz, R. A. Wannamaker, J. Vanderkooy 1992, from memory).
 */
export function emit8(picture: Float32Array, out: Uint8ClampedArray, n: number, seed: number): void {
  let noise = Math.imul(seed + 1, 7919) & 65535
  for (let i = 0; i < 4 * n; i += 4) {
    out[i] = picture[i]! * 255 + NOISE[noise]!
    out[i + 1] = picture[i + 1]! * 255 + NOISE[(noise + 1) & 65535]!
    out[i + 2] = picture[i + 2]! * 255 + NOISE[(noise + 2) & 65535]!
    out[i + 3] = 255
    noise = (noise + 3) & 65535
  }
}

/** Writes code values as 16-bit integers, interleaved RGB. Dither of one step of `bits` is added when bits < 16. */
export function emit16(picture: Float32Array, out: Uint16Array, n: number, bits: number, seed: number): void {
  const step = bits < 16 ? 65535 / (2 ** bits - 1) : 0
  let noise = Math.imul(seed + 1, 7919) & 65535
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
