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
/** The same in single precision: samples of the greatest LUT would take 400 MB else. */
export interface Samples {
  readonly side: number
  readonly values: Float32Array
}

/**
 * @param nodes the function at the nodes of the LUT, n a side
 * @param samples the function at 2n - 1 places a side
 * @param cut whether what the LUT gives is cut off at 0 and 1 where it is shown: then nodes may lie beyond, so that a
 * curve which ends in black or white within a cell ends there sharply
 * @returns nodes; the two corners at black and white stay where they are
 */
export function fitNodes(nodes: Grid, samples: Samples, cut: boolean): Grid {
  const { side } = nodes
  const [least, most] = cut ? [-BEYOND, 1 + BEYOND] : [0, 1]
  const weights = weightsOf(samples.side)
  const perWeight = sumsOf(side, weights).map((sum) => PACE / sum)
  const values = Float64Array.from(nodes.values)
  const before = Float64Array.from(values)
  const error = new Float64Array(values.length)
  for (let round = 0; round < ROUNDS; round++) {
    const ahead = round / (round + 3)
    // The place from which this round steps takes that of the values before.
    for (let i = 0; i < values.length; i++) {
      const v = values[i]!
      values[i] = v + ahead * (v - before[i]!)
      before[i] = v
    }
    errorsOf({ side, values }, samples, weights, cut, error)
    for (let i = 3; i < values.length - 3; i++)
      values[i] = Math.min(most, Math.max(least, values[i]! + perWeight[Math.floor(i / 3)]! * error[i]!))
  }
  return { side, values }
}

/** Of samples, for each of the two nodes they are read from, by how many places the greatest of their three numbers lies above the least. */
function weightsOf(fine: number): Float64Array {
  return Float64Array.from({ length: fine }, (_, apart) => 0.5 * (NEAR_GREY + apart / (fine - 1)) ** -2)
}

/** Where a row of samples begins among nodes: tetrahedra read the mean of a near and a far one half-way along the sides that are odd. */
type Row = (near: number, far: number, low: number, high: number, first: number) => void

/** Visits rows of samples. `low` and `high` are the places along the other two sides, `first` is the number of a row's first sample. */
function visitRows(side: number, fine: number, row: Row): void {
  for (let b = 0; b < fine; b++)
    for (let g = 0; g < fine; g++) {
      const near = side * ((g >> 1) + side * (b >> 1))
      const far = side * (((g + 1) >> 1) + side * ((b + 1) >> 1))
      row(near, far, Math.min(g, b), Math.max(g, b), fine * (g + fine * b))
    }
}

/** The weights around each node. */
function sumsOf(side: number, weights: Float64Array): Float64Array {
  const sums = new Float64Array(side ** 3)
  const fine = weights.length
  visitRows(side, fine, (near, far, low, high) => {
    for (let r = 0; r < fine; r++) {
      const weight = weights[Math.max(high, r) - Math.min(low, r)]!
      sums[near + (r >> 1)]! += weight
      sums[far + ((r + 1) >> 1)]! += weight
    }
  })
  return sums
}

/** The weighed errors around each node, summed. */
function errorsOf({ side, values }: Grid, samples: Samples, weights: Float64Array, cut: boolean, error: Float64Array) {
  error.fill(0)
  const fine = weights.length
  const wanted = samples.values
  visitRows(side, fine, (near, far, low, high, first) => {
    for (let r = 0; r < fine; r++) {
      const weight = weights[Math.max(high, r) - Math.min(low, r)]!
      const one = 3 * (near + (r >> 1))
      const other = 3 * (far + ((r + 1) >> 1))
      const at = 3 * (first + r)
      for (let k = 0; k < 3; k++) {
        const read = 0.5 * (values[one + k]! + values[other + k]!)
        const off = weight * (wanted[at + k]! - (cut ? Math.min(1, Math.max(0, read)) : read))
        error[one + k]! += off
        error[other + k]! += off
      }
    }
  })
}
