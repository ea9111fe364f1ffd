/**
 * Nodes of a 3D LUT that follow a function between its nodes too. A LUT is straight within each cell, so where the
 * function bends, nodes that lie on it leave the whole cell to one side; moved a little off it, half the error lies on
 * either side. The function is asked at the nodes and half-way between them along every side, and the nodes are moved
 * by the error around them, a few times over (Landweber's iteration of least squares).
 */

const ROUNDS = 6
/** Share of the error that a round takes away; more would swing. */
const PACE = 0.9

/** A cube of colours: three numbers each, the first side running fastest. */
export interface Grid {
  readonly side: number
  readonly values: Float64Array
}

/**
 * @param nodes the function at the nodes of the LUT, n a side
 * @param samples the function at 2n - 1 places a side
 * @returns nodes, held within 0..1; the two corners at black and white stay where they are
 */
export function fitNodes(nodes: Grid, samples: Grid): Grid {
  const { side } = nodes
  const values = Float64Array.from(nodes.values)
  const fine = samples.side
  const error = new Float64Array(values.length)
  const weight = new Float64Array(side ** 3)
  const last = side ** 3 - 1
  for (let round = 0; round < ROUNDS; round++) {
    error.fill(0)
    weight.fill(0)
    let at = 0
    for (let b = 0; b < fine; b++)
      for (let g = 0; g < fine; g++)
        for (let r = 0; r < fine; r++, at += 3) {
          // Half-way along the sides that are odd: tetrahedra read the mean of the near corner and the far one.
          const near = (r >> 1) + side * ((g >> 1) + side * (b >> 1))
          const far = ((r + 1) >> 1) + side * (((g + 1) >> 1) + side * ((b + 1) >> 1))
          weight[near]! += 0.5
          weight[far]! += 0.5
          for (let k = 0; k < 3; k++) {
            const off = samples.values[at + k]! - 0.5 * (values[3 * near + k]! + values[3 * far + k]!)
            error[3 * near + k]! += 0.5 * off
            error[3 * far + k]! += 0.5 * off
          }
        }
    for (let node = 1; node < last; node++)
      for (let i = 3 * node; i < 3 * node + 3; i++)
        values[i] = Math.min(1, Math.max(0, values[i]! + (PACE * error[i]!) / weight[node]!))
  }
  return { side, values }
}
