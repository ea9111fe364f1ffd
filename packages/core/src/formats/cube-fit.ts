/**
 * Nodes of a 3D LUT that follow a function between its nodes too. A LUT is straight within each cell, so where the
 * function bends, nodes that lie on it leave the whole cell to one side; moved a little off it, half the error lies on
 * either side. The function is asked at the nodes and half-way between them along every side, and the nodes are moved
 * by the error around them, a few times over (Landweber's iteration of least squares, with Nesterov's momentum of 1983;
 * both from memory).
 */

const ROUNDS = 12
/** Share of the error that a round takes away; more would swing. */
const PACE = 0.9
/** Colours count by the inverse square of their distance from grey, from here on: most of any picture lies near it. */
const NEAR_GREY = 0.05
/** How far nodes may go beyond black and white where what a LUT gives is cut off there. */
const BEYOND = 0.3

/** A cube of colours: three numbers each, the first side running fastest. */
export interface Grid {
  readonly side: number
  readonly values: Float64Array
}

/**
 * @param nodes the function at the nodes of the LUT, n a side
 * @param samples the function at 2n - 1 places a side
 * @param cut whether what the LUT gives is cut off at 0 and 1 where it is shown: then nodes may lie beyond, so that a
 * curve which ends in black or white within a cell ends there sharply
 * @returns nodes; the two corners at black and white stay where they are
 */
export function fitNodes(nodes: Grid, samples: Grid, cut: boolean): Grid {
  const weights = weightsOf(samples.side)
  const [least, most] = cut ? [-BEYOND, 1 + BEYOND] : [0, 1]
  let values = Float64Array.from(nodes.values)
  let before = values
  for (let round = 0; round < ROUNDS; round++) {
    const ahead = round / (round + 3)
    const from = values.map((v, i) => v + ahead * (v - before[i]!))
    const step = stepOf({ side: nodes.side, values: from }, samples, weights, cut)
    before = values
    values = from.map((v, i) => Math.min(most, Math.max(least, v + PACE * step[i]!)))
    for (const i of [0, 1, 2, values.length - 3, values.length - 2, values.length - 1]) values[i] = nodes.values[i]!
  }
  return { side: nodes.side, values }
}

/** Of each sample. */
function weightsOf(fine: number): Float64Array {
  const weights = new Float64Array(fine ** 3)
  for (let b = 0, at = 0; b < fine; b++)
    for (let g = 0; g < fine; g++)
      for (let r = 0; r < fine; r++, at++)
        weights[at] = (NEAR_GREY + (Math.max(r, g, b) - Math.min(r, g, b)) / (fine - 1)) ** -2
  return weights
}

/** The mean error around each node. */
function stepOf({ side, values }: Grid, samples: Grid, weights: Float64Array, cut: boolean): Float64Array {
  const error = new Float64Array(values.length)
  const weight = new Float64Array(side ** 3)
  const fine = samples.side
  let at = 0
  for (let b = 0; b < fine; b++)
    for (let g = 0; g < fine; g++)
      for (let r = 0; r < fine; r++, at++) {
        // Half-way along the sides that are odd: tetrahedra read the mean of the near corner and the far one.
        const near = (r >> 1) + side * ((g >> 1) + side * (b >> 1))
        const far = ((r + 1) >> 1) + side * (((g + 1) >> 1) + side * ((b + 1) >> 1))
        const half = 0.5 * weights[at]!
        weight[near]! += half
        weight[far]! += half
        for (let k = 0; k < 3; k++) {
          const read = 0.5 * (values[3 * near + k]! + values[3 * far + k]!)
          const off = half * (samples.values[3 * at + k]! - (cut ? Math.min(1, Math.max(0, read)) : read))
          error[3 * near + k]! += off
          error[3 * far + k]! += off
        }
      }
  return error.map((e, i) => e / weight[Math.floor(i / 3)]!)
}
