import { IDENTITY, invert, transform, type Matrix3, type Triple } from '../colour/matrix'
import type { Domain } from './domain'
import { SHIFT } from './shaped'
import { RESERVED, wasmKernels } from './wasm'

/** A per-colour function. `out` may be the array that holds the input; implementations read before they write. */
export type PointFunction = (r: number, g: number, b: number, out: Float64Array) => void

/**
 * A 3D LUT: size³ nodes, red running fastest, each padded to four floats (the fourth is 0).
 */
export interface Lut3d {
  readonly size: number
  readonly domain: Domain
  /**
   * Applied to the colour before it is looked up, or null. Film answers to the logarithm of its records' exposures;
   * nodes that stand along the records, not along R, G and B, follow it several times more closely.
   */
  readonly premix: Matrix3 | null
  readonly nodes: Float32Array
  /** The fast form, with the nodes in its own memory. */
  readonly apply: (src: Float32Array, dst: Float32Array, n: number) => void
}

/** Evaluates a per-colour function at every node. @param size nodes a side, 2..129 @param premix see {@link Lut3d} */
export function bakeLut(point: PointFunction, domain: Domain, size: number, premix: Matrix3 | null = null): Lut3d {
  const back = premix ? invert(premix) : IDENTITY
  const { nodes, apply } = fastLut(size, domain, premix)
  const axis = Float64Array.from({ length: size }, (_, i) => domain.valueAt(i / (size - 1)))
  const out = new Float64Array(3)
  let at = 0
  for (let b = 0; b < size; b++) {
    for (let g = 0; g < size; g++) {
      for (let r = 0; r < size; r++, at += 4) {
        const x = axis[r]!
        const y = axis[g]!
        const z = axis[b]!
        point(
          back[0][0] * x + back[0][1] * y + back[0][2] * z,
          back[1][0] * x + back[1][1] * y + back[1][2] * z,
          back[2][0] * x + back[2][1] * y + back[2][2] * z,
          out,
        )
        nodes[at] = out[0]!
        nodes[at + 1] = out[1]!
        nodes[at + 2] = out[2]!
      }
    }
  }
  return { size, domain, premix, nodes, apply }
}

/** Pixels worked on at a time: a chunk stays in the processor's cache. */
const CHUNK = 2048

/** Lays out a LUT in the memory of a SIMD kernel of its own: nodes, premix, shaper table, one chunk of pixels. */
function fastLut(size: number, domain: Domain, premix: Matrix3 | null): Pick<Lut3d, 'nodes' | 'apply'> {
  const shaper = domain.shaper
  const table = 'scale' in shaper ? null : shaper
  const count = 4 * size ** 3
  const atMix = RESERVED
  const atPixels = atMix + 48
  const atNodes = atPixels + 16 * CHUNK
  const atTable = atNodes + 4 * count
  const kernel = wasmKernels(atTable + 4 * (table?.values.length ?? 0))
  const m = premix ?? IDENTITY
  new Float32Array(kernel.memory, atMix, 12).set([0, 1, 2].flatMap((j) => [m[0][j]!, m[1][j]!, m[2][j]!, 0]))
  if (table) new Float32Array(kernel.memory, atTable, table.values.length).set(table.values)
  const pixels = new Float32Array(kernel.memory, atPixels, 4 * CHUNK)
  const lastBits = table ? (table.values.length - 2) << SHIFT : 0
  const scale = 'scale' in shaper ? shaper.scale * (size - 1) : 1
  return {
    nodes: new Float32Array(kernel.memory, atNodes, count),
    apply: (src, dst, n) => {
      for (let done = 0; done < n; done += CHUNK) {
        const some = Math.min(CHUNK, n - done)
        pixels.set(src.subarray(4 * done, 4 * (done + some)))
        kernel.applyLut(
          some,
          atPixels,
          atMix,
          table ? atTable : 0,
          table?.firstBits ?? 0,
          lastBits,
          scale,
          atNodes,
          size,
        )
        dst.set(some === CHUNK ? pixels : pixels.subarray(0, 4 * some), 4 * done)
      }
    },
  }
}

/**
 * Applies a LUT with tetrahedral interpolation (the six tetrahedra around the grey diagonal of each cell).
 * @param src,dst interleaved RGBA float32, length >= 4n; may be the same array. Alpha is copied.
 */
export function applyLut3d(lut: Lut3d, src: Float32Array, dst: Float32Array, n: number): void {
  lut.apply(src, dst, n)
}

/** One colour through a LUT; the plain form that the fast one is compared with. */
export function readLut3d(lut: Lut3d, rgb: Triple): [number, number, number] {
  const { size, nodes, domain } = lut
  const mixed = lut.premix ? transform(lut.premix, rgb) : rgb
  const places = mixed.map((v) => domain.positionOf(v) * (size - 1))
  const cell = places.map((p) => Math.min(size - 2, Math.floor(p)))
  const fraction = places.map((p, k) => p - cell[k]!)
  const order = [0, 1, 2].sort((a, b) => fraction[b]! - fraction[a]!)
  const weights = [
    1 - fraction[order[0]!]!,
    fraction[order[0]!]! - fraction[order[1]!]!,
    fraction[order[1]!]! - fraction[order[2]!]!,
    fraction[order[2]!]!,
  ]
  const corner = [...cell]
  const sum: [number, number, number] = [0, 0, 0]
  weights.forEach((w, step) => {
    if (step > 0) corner[order[step - 1]!]! += 1
    const at = 4 * ((corner[2]! * size + corner[1]!) * size + corner[0]!)
    for (let k = 0; k < 3; k++) sum[k]! += w * nodes[at + k]!
  })
  return sum
}
