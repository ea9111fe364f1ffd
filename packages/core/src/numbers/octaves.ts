/**
 * Tables of functions of positive numbers whose nodes stand evenly inside each octave: the bits of a float32 are their
 * index. Linear between nodes; above the last the end value holds, at and below the first the value of 0.
 */

/** log2 of the nodes in one octave. */
const SPLIT = 6
const NODES_PER_OCTAVE = 1 << SPLIT
/** Bits of a float32 below those that number the nodes. */
export const NODE_SHIFT = 23 - SPLIT

/** How many nodes there are from 2^from to 2^to. */
export const nodeCount = (from: number, to: number): number => (to - from) * NODES_PER_OCTAVE + 1

/** The numbers at which they stand, the first taken as 0. */
export const octaveNodes = (from: number, to: number): Float64Array =>
  Float64Array.from({ length: nodeCount(from, to) }, (_, i) =>
    i === 0 ? 0 : 2 ** (from + Math.floor(i / NODES_PER_OCTAVE)) * (1 + (i % NODES_PER_OCTAVE) / NODES_PER_OCTAVE),
  )

const FRACTION = 1 / (1 << NODE_SHIFT)
const float = new Float32Array(1)
const bits = new Int32Array(float.buffer)
const bitsOf = (v: number): number => {
  float[0] = v
  return bits[0]!
}

/** A function by such a table. What is no number reads like 0. */
export function octaveTable(f: (v: number) => number, from: number, to: number): (v: number) => number {
  const values = Float64Array.from(octaveNodes(from, to), f)
  const [lowest, last] = [2 ** from, values.length - 1]
  const firstBits = bitsOf(lowest)
  return (v) => {
    if (!(v > lowest)) return values[0]!
    const at = bitsOf(v) - firstBits
    const node = at >> NODE_SHIFT
    if (node >= last) return values[last]!
    const low = values[node]!
    return low + (values[node + 1]! - low) * ((at & ((1 << NODE_SHIFT) - 1)) * FRACTION)
  }
}
