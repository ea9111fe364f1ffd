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
