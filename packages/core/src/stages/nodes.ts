import type { Triple } from '../colour/matrix'
import { openHeld } from './held'

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
