import { three } from '../colour/matrix'
import { memoized } from '../numbers/memoized'
import { held, openHeld } from './held'
import { evenCurves, type PointFunction, type PointStage, type Solid } from './stage'

/** The function that its nodes give. */
type NodeSolid = Omit<Extract<Solid, { holds: unknown }>, 'key' | 'valueAt'>

/** Three numbers a node as tables have them, four. */
export function nodesOfValues(values: Float64Array | Float32Array): Float32Array {
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
  const scale = strides.map((_, k) => (side - 1) / (to[k]! - from[k]!))
  // Nothing is made for each colour: this is read millions of times.
  const [values, share, order] = [three(), three(), [0, 1, 2]]
  return (a, b, c, out) => {
    values[0] = a
    values[1] = b
    values[2] = c
    let node = 0
    for (let k = 0; k < 3; k++) {
      const place = (Math.min(to[k]!, Math.max(from[k]!, values[k]!)) - from[k]!) * scale[k]!
      const cell = Math.min(side - 2, Math.floor(place))
      share[k] = place - cell
      node += cell * strides[k]!
    }
    byShare(order, share)
    for (let k = 0; k < 3; k++) out[k] = nodes[node + k]!
    for (const i of order) {
      const next = node + strides[i]!
      for (let k = 0; k < 3; k++) out[k]! += share[i]! * (nodes[next + k]! - nodes[node + k]!)
      node = next
    }
    if (holds === 'light') for (let k = 0; k < 3; k++) out[k] = openHeld(out[k]!)
  }
}

/** Puts the three sides into the order of their shares, the greatest first. */
function byShare(order: number[], share: ArrayLike<number>): void {
  const swapIfLess = (i: number, j: number): void => {
    const [one, other] = [order[i]!, order[j]!]
    if (share[one]! >= share[other]!) return
    order[i] = other
    order[j] = one
  }
  swapIfLess(0, 1)
  swapIfLess(1, 2)
  swapIfLess(0, 1)
}

/** Nodes a side of a table that is given by its nodes. */
export const SIDE = 33
/** Nodes a side of a solid that absorbs: a picture stays within 0.25 dE2000 of the plain form (99.9th percentile). */
const ABSORBING_SIDE = 49

/** Nodes a side of a solid's table; one that is given by its nodes has as many as it brings. */
export const sideOfSolid = (solid: Solid): number =>
  'nodes' in solid ? Math.round(Math.cbrt(solid.nodes().length / 4)) : ABSORBING_SIDE

/** The brightest light that such a table tells apart, going in or coming out. */
const BRIGHTEST = held(16)

/**
 * A function of light that no other stage can be, as a table over light as it is held: what the table says is what it is.
 * @param f of lights from 0 to 16 @param key what it is made from
 */
export function tableOfLight(key: string, f: PointFunction): PointStage[] {
  const nodes = memoized(1, (): Float32Array => {
    const all = new Float32Array(4 * SIDE ** 3)
    const out = three()
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
  const nodes = memoized(1, (): Float32Array => {
    const all = new Float32Array(4 * SIDE ** 3)
    const out = three()
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
