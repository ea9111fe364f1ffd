import type { Triple } from '../colour/matrix'
import { remembered } from '../numbers/remembered'
import { held, openHeld } from './held'
import { evenCurves, type PointFunction, type PointStage } from './stage'

/**
 * Reads a table of three numbers by tetrahedra: from the near corner of a cell to the far one, along the sides in the
 * order of how far each number lies in (J. Kasson, W. Plouffe, S. Nin 1993, from memory).
 * @param nodes four floats each, the first number running fastest; light as it is held @param from,to ends of each side
 */
export function readNodes(
  nodes: Float32Array,
  from: Triple,
  to: Triple,
): (a: number, b: number, c: number, out: Float64Array) => void {
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
      out[k] = openHeld(sum)
    }
  }
}

/** As many nodes a side as every table has, see cpu/tables.ts. */
const SIDE = 33
/** Light that such a table tells apart. */
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
          for (let k = 0; k < 3; k++) all[at + k] = held(out[k]!)
          at += 4
        }
    return all
  })
  const top = BRIGHTEST
  const places = { key: 'held', axis: { nodes: 'octaves', from: -18, to: 4 }, f: held } as const
  const solid = { key, from: [0, 0, 0], to: [top, top, top], valueAt: (place: number) => place, nodes } as const
  return [evenCurves(places), { at: 'solid', solid }]
}
