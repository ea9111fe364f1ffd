import { remembered } from '../numbers/remembered'
import { held, openHeld } from './held'
import { evenCurves, type PointFunction, type PointStage, type Solid } from './stage'

/** The function that its nodes give. */
type NodeSolid = Omit<Extract<Solid, { holds: unknown }>, 'key' | 'valueAt'>

/** Three numbers a node as tables have them, four. */
export function nodesOfValues(values: Float64Array): Float32Array {
  const nodes = new Float32Array((4 * values.length) / 3)
  for (let i = 0, at = 0; i < values.length; i += 3, at += 4) nodes.set(values.subarray(i, i + 3), at)
  return nodes
}

/**
 * Reads a table of three numbers by tetrahedra: from the near corner of a cell to the far one, along the sides in the
 * order of how far each number lies in (J. Kasson, W. Plouffe, S. Nin 1993, from memory).
 */
export function readNodes({ nodes: made, from, to, holds }: NodeSolid): PointFunction {
  const nodes = made()
  const side = Math.round(Math.cbrt(nodes.length / 4))
  const strides = [4, 4 * side, 4 * side * side]
  const share = [0, 0, 0]
  return (a, b, c, out) => {
    let at = 0
    for (const [k, v] of [a, b, c].entries()) {
      const place = ((Math.min(to[k]!, Math.max(from[k]!, v)) - from[k]!) / (to[k]! - from[k]!)) * (side - 1)
      const cell = Math.min(side - 2, Math.floor(place))
      share[k] = place - cell
      at += cell * strides[k]!
    }
    const order = [0, 1, 2].sort((i, j) => share[j]! - share[i]!)
    for (let k = 0; k < 3; k++) {
      let [sum, last, node] = [nodes[at + k]!, nodes[at + k]!, at]
      for (const i of order) {
        node += strides[i]!
        const here = nodes[node + k]!
        sum += share[i]! * (here - last)
        last = here
      }
      out[k] = holds === 'light' ? openHeld(sum) : sum
    }
  }
}

/** As many nodes a side as every table has, see cpu/tables.ts. */
const SIDE = 33
/** The brightest light that such a table tells apart, going in or coming out. */
const BRIGHTEST = held(16)

/**
 * A function of light that no other stage can be, as a table over light as it is held: what the table says is what it is.
 * @param f of lights from 0 to 16 @param key what it is made from
 */
export function tableOfLight(key: string, f: PointFunction): PointStage[] {
  const nodes = remembered(1, (): Float32Array => {
    const all = new Float32Array(4 * SIDE ** 3)
    const out = new Float64Array(3)
    const lights = Array.from({ length: SIDE }, (_, i) => openHeld((BRIGHTEST * i) / (SIDE - 1)))
    let at = 0
    for (const b of lights)
      for (const g of lights)
        for (const r of lights) {
          f(r, g, b, out)
          for (let k = 0; k < 3; k++) all[at + k] = Math.min(BRIGHTEST, held(out[k]!))
          at += 4
        }
    return all
  })
  const top = BRIGHTEST
  const places = { key: 'held', axis: { nodes: 'octaves', from: -18, to: 4 }, f: held } as const
  const solid = {
    ...({ key, from: [0, 0, 0], to: [top, top, top], nodes } as const),
    valueAt: asItIs,
    holds: 'light',
  } as const
  return [evenCurves(places), { at: 'solid', solid }]
}

const asItIs = (place: number): number => place

/**
 * A function of code values that no other stage can be, as a table: what the table says is what it is. Codes outside 0..1 are held there.
 * @param f of codes 0..1 @param key what it is made from
 */
export function tableOfCodes(key: string, f: PointFunction): PointStage {
  const nodes = remembered(1, (): Float32Array => {
    const all = new Float32Array(4 * SIDE ** 3)
    const out = new Float64Array(3)
    for (let i = 0; i < SIDE ** 3; i++) {
      f(
        (i % SIDE) / (SIDE - 1),
        (Math.floor(i / SIDE) % SIDE) / (SIDE - 1),
        Math.floor(i / SIDE ** 2) / (SIDE - 1),
        out,
      )
      all.set(out, 4 * i)
    }
    return all
  })
  return { at: 'solid', solid: { key, from: [0, 0, 0], to: [1, 1, 1], valueAt: asItIs, nodes, holds: 'codes' } }
}
