import { IDENTITY, invert, transform, type Matrix3, type Triple } from '../colour/matrix'
import type { Domain } from './domain'
import { SHIFT } from './shaped'
import { RESERVED, wasmKernels } from './wasm'

/** A per-colour function. `out` may be the array that holds the input; implementations read before they write. */
export type PointFunction = (r: number, g: number, b: number, out: Float64Array) => void

/**
 * A 3D LUT: size³ nodes, red running fastest, each padded to four floats. Nodes are worked out when a picture first
 * needs them: footage fills a small part of the cube, so that even a fine LUT is ready at once.
 */
export interface Lut3d {
  readonly size: number
  readonly domain: Domain
  /**
   * Applied to the colour before it is looked up, or null. Film answers to the logarithm of its records' exposures;
   * nodes that stand along the records, not along R, G and B, follow it several times more closely.
   */
  readonly premix: Matrix3 | null
  /** The fourth number of a node is 1 when the node is worked out. */
  readonly nodes: Float32Array
  /** Works out one node, given by its number, unless that is done. */
  readonly work: (node: number) => void
  /** The fast form. */
  readonly apply: (src: Float32Array, dst: Float32Array, n: number) => void
}

/** A per-colour function as a LUT. @param size nodes a side, 2..129 @param premix see {@link Lut3d} */
export function makeLut(point: PointFunction, domain: Domain, size: number, premix: Matrix3 | null = null): Lut3d {
  const lay = layOut(size, domain, premix)
  const fill = filler(point, domain, size, premix, lay.nodes)
  const work = (node: number): void => {
    if (lay.nodes[4 * node + 3] !== 0) return
    lay.nodes[4 * node + 3] = 1
    fill(node)
  }
  return { size, domain, premix, nodes: lay.nodes, work, apply: applier(lay, fill) }
}

/** The same with every node worked out. */
export function bakeLut(point: PointFunction, domain: Domain, size: number, premix: Matrix3 | null = null): Lut3d {
  const lut = makeLut(point, domain, size, premix)
  for (let node = 0; node < size ** 3; node++) lut.work(node)
  return lut
}

/** What writes the first three numbers of a node. */
function filler(
  point: PointFunction,
  domain: Domain,
  size: number,
  premix: Matrix3 | null,
  nodes: Float32Array,
): (node: number) => void {
  const back = premix ? invert(premix) : IDENTITY
  const axis = axisOf(domain, size)
  const out = new Float64Array(3)
  return (node) => {
    const x = axis[node % size]!
    const y = axis[Math.floor(node / size) % size]!
    const z = axis[Math.floor(node / size ** 2)]!
    point(
      back[0][0] * x + back[0][1] * y + back[0][2] * z,
      back[1][0] * x + back[1][1] * y + back[1][2] * z,
      back[2][0] * x + back[2][1] * y + back[2][2] * z,
      out,
    )
    nodes[4 * node] = out[0]!
    nodes[4 * node + 1] = out[1]!
    nodes[4 * node + 2] = out[2]!
  }
}

const axes = new Map<string, Float64Array>()

/** Values at the nodes of one side; finding them takes a search for each, so they are kept. */
function axisOf(domain: Domain, size: number): Float64Array {
  const key = `${domain.id} ${size}`
  let axis = axes.get(key)
  if (!axis) axes.set(key, (axis = Float64Array.from({ length: size }, (_, i) => domain.valueAt(i / (size - 1)))))
  return axis
}

/** Pixels worked on at a time: a chunk stays in the processor's cache. A multiple of four. */
const CHUNK = 512

interface Layout {
  readonly nodes: Float32Array
  readonly atNodes: number
  readonly pixels: Float32Array
  /** Addresses of missing nodes, as the kernel notes them. */
  readonly wanted: Uint32Array
  readonly atWanted: number
  /** Looks up the chunk, or lists what is missing; see wasm/lut.ts. */
  readonly run: (pixels: number, list: number) => number
}

/** Lays out a LUT in the memory of a SIMD kernel of its own: one chunk of pixels, list, premix, nodes, shaper table. */
function layOut(size: number, domain: Domain, premix: Matrix3 | null): Layout {
  const shaper = domain.shaper
  const table = 'scale' in shaper ? null : shaper
  const atPixels = RESERVED
  const atWanted = atPixels + 16 * CHUNK
  const atMix = atWanted + 16 * CHUNK
  const atNodes = atMix + 48
  const atTable = atNodes + 16 * size ** 3
  const kernel = wasmKernels(atTable + 4 * (table?.values.length ?? 0))
  if (premix) new Float32Array(kernel.memory, atMix, 9).set(premix.flat())
  const top = size - 1
  if (table) new Float32Array(kernel.memory, atTable, table.values.length).set(table.values.map((p) => p * top))
  const lastBits = table ? (table.values.length - 2) << SHIFT : 0
  const scale = 'scale' in shaper ? shaper.scale * top : 1
  const [mix, places, firstBits] = [premix ? atMix : 0, table ? atTable : 0, table?.firstBits ?? 0]
  return {
    nodes: new Float32Array(kernel.memory, atNodes, 4 * size ** 3),
    atNodes,
    pixels: new Float32Array(kernel.memory, atPixels, 4 * CHUNK),
    wanted: new Uint32Array(kernel.memory, atWanted, 4 * CHUNK),
    atWanted,
    run: (n, list) =>
      kernel.applyLut((n + 3) >> 2, atPixels, mix, places, firstBits, lastBits, scale, atNodes, size, list),
  }
}

/** Chunk by chunk through the kernel; where it meets nodes that are not there yet they are worked out first. */
function applier(lay: Layout, fill: (node: number) => void): Lut3d['apply'] {
  const { pixels, run, wanted, atWanted, atNodes } = lay
  const complete = (n: number): void => {
    const count = (run(n, atWanted) - atWanted) >> 2
    for (let i = 0; i < count; i++) fill((wanted[i]! - atNodes) >> 4)
  }
  return (src, dst, n) => {
    for (let done = 0; done < n; done += CHUNK) {
      const some = Math.min(CHUNK, n - done)
      const part = src.subarray(4 * done, 4 * (done + some))
      pixels.set(part)
      if (run(some, 0)) {
        pixels.set(part)
        complete(some)
        run(some, 0)
      }
      dst.set(some === CHUNK ? pixels : pixels.subarray(0, 4 * some), 4 * done)
    }
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
    const node = (corner[2]! * size + corner[1]!) * size + corner[0]!
    lut.work(node)
    for (let k = 0; k < 3; k++) sum[k]! += w * nodes[4 * node + k]!
  })
  return sum
}
