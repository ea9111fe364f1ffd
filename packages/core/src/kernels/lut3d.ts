import { IDENTITY, invert, type Matrix3, type Triple } from '../colour/matrix'
import type { Domain } from './domain'
import { SHIFT, readShaped } from './shaped'
import { kernelMemory } from './memory'

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
  /** The nodes as they lie now, good until another LUT is used. The fourth number of one is 1 when it is worked out. */
  readonly nodes: () => Float32Array
  /** Works out one of these nodes, given by its number, unless that is done. */
  readonly work: (nodes: Float32Array, node: number) => void
  /** The fast form. */
  readonly apply: (src: Float32Array, dst: Float32Array, n: number) => void
}

/** A per-colour function as a LUT. @param size nodes a side, 2..129 @param premix see {@link Lut3d} */
export function makeLut(point: PointFunction, domain: Domain, size: number, premix: Matrix3 | null = null): Lut3d {
  const lay = layOut(size, domain, premix)
  const fill = filler(point, domain, size, premix)
  const work = (nodes: Float32Array, node: number): void => {
    if (nodes[4 * node + 3] !== 0) return
    nodes[4 * node + 3] = 1
    fill(nodes, node)
  }
  const apply: Lut3d['apply'] = (src, dst, n) => applyFast(lay(), fill, { src, dst, n })
  return { size, domain, premix, nodes: () => lay().nodes, work, apply }
}

/** The same with every node worked out. */
export function bakeLut(point: PointFunction, domain: Domain, size: number, premix: Matrix3 | null = null): Lut3d {
  const lut = makeLut(point, domain, size, premix)
  const nodes = lut.nodes()
  for (let node = 0; node < size ** 3; node++) lut.work(nodes, node)
  return lut
}

type Filler = (nodes: Float32Array, node: number) => void

/** What writes the first three numbers of a node. */
function filler(point: PointFunction, domain: Domain, size: number, premix: Matrix3 | null): Filler {
  const back = premix ? invert(premix) : IDENTITY
  const axis = axisOf(domain, size)
  const out = new Float64Array(3)
  return (nodes, node) => {
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
  /** Looks up the chunk; 1 when a node was missing. See wasm/lut.ts. */
  readonly run: (pixels: number) => number
  /** Lists the missing nodes of the chunk; the end of the list. */
  readonly list: (pixels: number) => number
}

/**
 * Where a LUT lies in the kernels' memory: one chunk of pixels, list, premix, nodes, shaper table. To be asked for at
 * every use; one that was thrown out for others begins again without worked-out nodes.
 */
function layOut(size: number, domain: Domain, premix: Matrix3 | null): () => Layout {
  const memory = kernelMemory()
  const { applyLut, missingNodes } = memory.kernels
  const shaper = domain.shaper
  const table = 'scale' in shaper ? null : shaper
  const top = size - 1
  const numbers = 4 * size ** 3
  const [toMix, toNodes, toTable] = [32 * CHUNK, 32 * CHUNK + 48, 32 * CHUNK + 48 + 4 * numbers]
  const lastBits = table ? (table.values.length - 2) << SHIFT : 0
  const scale = 'scale' in shaper ? shaper.scale * top : 1
  const place = memory.keptPlace(toTable + 4 * (table?.values.length ?? 0), ({ at, memory: bytes }, clean) => {
    if (premix) new Float32Array(bytes, at + toMix, 9).set(premix.flat())
    if (!clean) new Float32Array(bytes, at + toNodes, numbers).fill(0)
    if (table) new Float32Array(bytes, at + toTable, table.values.length).set(table.values.map((p) => p * top))
  })
  return () => {
    const { at, memory: bytes } = place()
    const [atWanted, atNodes] = [at + 16 * CHUNK, at + toNodes]
    const [mix, places, firstBits] = [premix ? at + toMix : 0, table ? at + toTable : 0, table?.firstBits ?? 0]
    return {
      nodes: new Float32Array(bytes, atNodes, numbers),
      atNodes,
      pixels: new Float32Array(bytes, at, 4 * CHUNK),
      wanted: new Uint32Array(bytes, atWanted, 4 * CHUNK),
      atWanted,
      run: (n) => applyLut((n + 3) >> 2, at, mix, places, firstBits, lastBits, scale, atNodes, size),
      list: (n) => missingNodes((n + 3) >> 2, at, mix, places, firstBits, lastBits, scale, atNodes, size, atWanted),
    }
  }
}

/** Chunk by chunk through the kernel; where it meets nodes that are not there yet they are worked out first. */
function applyFast({ pixels, nodes, run, list, wanted, atWanted, atNodes }: Layout, fill: Filler, job: Job): void {
  const { src, dst, n } = job
  const complete = (some: number): void => {
    const count = (list(some) - atWanted) >> 2
    for (let i = 0; i < count; i++) fill(nodes, (wanted[i]! - atNodes) >> 4)
  }
  for (let done = 0; done < n; done += CHUNK) {
    const some = Math.min(CHUNK, n - done)
    const part = src.subarray(4 * done, 4 * (done + some))
    pixels.set(part)
    if (run(some)) {
      pixels.set(part)
      complete(some)
      run(some)
    }
    dst.set(some === CHUNK ? pixels : pixels.subarray(0, 4 * some), 4 * done)
  }
}

interface Job {
  readonly src: Float32Array
  readonly dst: Float32Array
  readonly n: number
}

/**
 * Applies a LUT with tetrahedral interpolation (the six tetrahedra around the grey diagonal of each cell).
 * @param src,dst interleaved RGBA float32, length >= 4n; may be the same array. Alpha is copied.
 */
export function applyLut3d(lut: Lut3d, src: Float32Array, dst: Float32Array, n: number): void {
  lut.apply(src, dst, n)
}

/** Place of a value on the grid, 0..size - 1; what is not a number stands at 0. */
function placer({ shaper }: Domain, size: number): (v: number) => number {
  const top = size - 1
  if (!('scale' in shaper)) return (v) => top * readShaped(shaper, v)
  const scale = top * shaper.scale
  return (v) => {
    const at = v * scale
    return at > 0 ? (at < top ? at : top) : 0
  }
}

/**
 * The plain form of {@link applyLut3d}, one pixel at a time, that the fast one is compared with.
 * Nodes that are missing are worked out.
 */
export function applyLutPlain(lut: Lut3d, src: Float32Array, dst: Float32Array, n: number): void {
  const { size, domain, premix, work } = lut
  const nodes = lut.nodes()
  const place = placer(domain, size)
  const [[m0, m1, m2], [m3, m4, m5], [m6, m7, m8]] = premix ?? IDENTITY
  const edge = size - 2
  // Nodes are four numbers long.
  const alongR = 4
  const alongG = 4 * size
  const alongB = 4 * size * size
  for (let i = 0; i < 4 * n; i += 4) {
    const r = src[i]!
    const g = src[i + 1]!
    const b = src[i + 2]!
    const x = place(premix ? m0 * r + m1 * g + m2 * b : r)
    const y = place(premix ? m3 * r + m4 * g + m5 * b : g)
    const z = place(premix ? m6 * r + m7 * g + m8 * b : b)
    const cx = x < edge ? x | 0 : edge
    const cy = y < edge ? y | 0 : edge
    const cz = z < edge ? z | 0 : edge
    const fx = x - cx
    const fy = y - cy
    const fz = z - cz
    // From the low corner first along the axis with the greatest fraction, last along the one with the least.
    const first = fx >= fy ? (fx >= fz ? alongR : alongB) : fy >= fz ? alongG : alongB
    const last = fz <= fy ? (fz <= fx ? alongB : alongR) : fy <= fx ? alongG : alongR
    const greater = fx > fy ? fx : fy
    const lesser = fx > fy ? fy : fx
    const high = greater > fz ? greater : fz
    const low = lesser < fz ? lesser : fz
    const middle = fx + fy + fz - high - low
    const a0 = 4 * cx + alongG * cy + alongB * cz
    const a1 = a0 + first
    const a3 = a0 + alongR + alongG + alongB
    const a2 = a3 - last
    if (nodes[a0 + 3]! * nodes[a1 + 3]! * nodes[a2 + 3]! * nodes[a3 + 3]! === 0)
      for (const at of [a0, a1, a2, a3]) work(nodes, at >> 2)
    const w0 = 1 - high
    const w1 = high - middle
    const w2 = middle - low
    dst[i] = w0 * nodes[a0]! + w1 * nodes[a1]! + w2 * nodes[a2]! + low * nodes[a3]!
    dst[i + 1] = w0 * nodes[a0 + 1]! + w1 * nodes[a1 + 1]! + w2 * nodes[a2 + 1]! + low * nodes[a3 + 1]!
    dst[i + 2] = w0 * nodes[a0 + 2]! + w1 * nodes[a1 + 2]! + w2 * nodes[a2 + 2]! + low * nodes[a3 + 2]!
    dst[i + 3] = src[i + 3]!
  }
}

/** One colour through the plain form. */
export function readLut3d(lut: Lut3d, rgb: Triple): [number, number, number] {
  const pixel = Float32Array.of(...rgb, 1)
  applyLutPlain(lut, pixel, pixel, 1)
  return [pixel[0]!, pixel[1]!, pixel[2]!]
}
