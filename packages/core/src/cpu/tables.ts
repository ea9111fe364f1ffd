import { three, six } from '../colour/matrix'
import { turnAt } from '../colour/chroma'
import { Recent } from '../numbers/recent'
import { NODE_SHIFT, octaveNodes } from '../numbers/octaves'
import { memoized } from '../numbers/memoized'
import { sideOfSolid } from '../stages/nodes'
import type { Axis, Hues, Ramp, Shade, Solid, Tone } from '../stages/stage'
import { bakeSolid } from './bake'
import { real, type Real } from './jobs'
import { kernelMemory } from './memory'

/** Words that describe a table to a kernel, see wasm/curves.ts and wasm/solid.ts. */
export type Words = readonly (number | Real)[]

/** A table in the kernels' memory. */
export interface Table {
  /** Other keys are other tables. */
  readonly key: string
  /** Its nodes, to be looked at at once. */
  readonly nodes: () => Float32Array
  /** Where it lies may change from use to use, so its words are asked for anew. */
  readonly words: () => Words
}

/** Tables whose places are remembered; the memory's own budget decides which of them stay laid out. */
const MOST = 400
const tables = new Recent<Table>(MOST)
const solids = new Recent<SolidTable>(MOST)

/** Bytes of a node. */
const NODE = 16

/** One float a node. */
export function tableOfTone(tone: Tone): Table {
  const key = `tone ${tone.key} ${JSON.stringify(tone.axis)}`
  return tables.get(key, () => tableOver(key, tone.axis, 1, (v, nodes, i) => (nodes[i] = tone.f(v))))
}

/** Four floats a node. */
export function tableOfRamp({ key: made, axis, f }: Ramp): Table {
  const key = `ramp ${made} ${JSON.stringify(axis)}`
  return tables.get(key, () => {
    const out = three()
    return tableOver(key, axis, 4, (v, nodes, i) => {
      f(v, out)
      nodes.set(out, 4 * i)
    })
  })
}

/** Eight floats a node: three factors, three sums, each behind them one that is not used. */
export function tableOfShade({ key: made, axis, f }: Shade): Table {
  const key = `shade ${made} ${JSON.stringify(axis)}`
  return tables.get(key, () => {
    const out = six()
    return tableOver(key, axis, 8, (v, nodes, i) => {
      f(v, out)
      nodes.set(out.subarray(0, 3), 8 * i)
      nodes.set(out.subarray(3), 8 * i + 4)
    })
  })
}

/** How the nodes of a table over hue stand: by the place on the square of colour/chroma.ts. */
export const HUE_AXIS: Axis = { nodes: 'even', from: 0, to: 4, steps: 1024 }

/** Four floats a node: chroma turned and scaled (cosine and sine), and how much lighter a full chroma becomes. */
export function tableOfHues({ key: made, f }: Hues): Table {
  const key = `hues ${made}`
  return tables.get(key, () => {
    const out = three()
    return tableOver(key, HUE_AXIS, 4, (square, nodes, i) => {
      f(turnAt(square), out)
      const angle = 2 * Math.PI * out[0]
      nodes.set([out[1] * Math.cos(angle), out[1] * Math.sin(angle), out[2]], 4 * i)
    })
  })
}

type Fill = (v: number, nodes: Float32Array, i: number) => void

/** A table whose nodes, some floats each, are filled one by one; the last stands twice, so that there is one behind it. */
function tableOver(key: string, axis: Axis, floats: number, fill: Fill): Table {
  const memory = kernelMemory()
  const { numbers, words } = laidOut(axis)
  const length = floats * (numbers.length + 1)
  const place = memory.keptPlace(4 * length, (at) => {
    const nodes = new Float32Array(length)
    for (let i = 0; i < numbers.length; i++) fill(numbers[i]!, nodes, i)
    nodes.copyWithin(length - floats, length - 2 * floats, length - floats)
    memory.floats(at, length).set(nodes)
  })
  return { key, nodes: () => memory.floats(place(), length), words: () => [place(), ...words] }
}

/** The numbers at which a table has its nodes, and the words behind the address of its nodes. */
const laidOut = memoized(20, (axis: Axis): { readonly numbers: Float64Array; readonly words: Words } => {
  const { from, to } = axis
  if (axis.nodes === 'octaves') {
    const numbers = octaveNodes(from, to)
    return { numbers, words: [1, real(2 ** from), (numbers.length - 1) << NODE_SHIFT, 0] }
  }
  const numbers = Float64Array.from({ length: axis.steps + 1 }, (_, i) => from + ((to - from) * i) / axis.steps)
  return { numbers, words: [0, real(from), real(axis.steps / (to - from)), real(axis.steps)] }
})

/** Of three sides alike. */
export interface SolidTable extends Table {
  readonly side: number
  /** Nodes for a unit of each number. */
  readonly scale: readonly number[]
}

/** Four floats a node, the first side running fastest; light as it is held, see stages/held.ts. */
export function tableOfSolid(solid: Solid): SolidTable {
  const key = `solid ${solid.key}`
  return solids.get(key, () => {
    const memory = kernelMemory()
    const side = sideOfSolid(solid)
    const place = memory.keptPlace(NODE * side ** 3, (at) => bakeSolid(solid, side, at))
    const scale = solid.to.map((to, k) => (side - 1) / (to - solid.from[k]!))
    return {
      key,
      side,
      scale,
      nodes: () => memory.floats(place(), (NODE / 4) * side ** 3),
      words: () => wordsOfNodes(place(), side, solid.from, scale),
    }
  })
}

/** @param at address of the nodes @param scale nodes for a unit of each number */
export function wordsOfNodes(at: number, side: number, from: readonly number[], scale: readonly number[]): Words {
  const numbers = [side - 1, side - 2, side, side ** 2].map(real)
  const bytes = [NODE, NODE * side, NODE * side ** 2, NODE * (1 + side + side ** 2)]
  return [at, ...from.map(real), ...scale.map(real), ...numbers, ...bytes]
}
