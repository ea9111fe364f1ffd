/**
 * A function of positive numbers as a table whose nodes stand evenly inside each octave: the bits of a float32 are
 * its index. Linear between nodes; below the first octave and above the last the end values hold.
 */
export interface ShapedTable {
  readonly values: Float32Array
  /** Bits of the lowest float that has a node of its own. */
  readonly firstBits: number
  readonly lowest: number
  readonly highest: number
}

/** log2 of the nodes in one octave. */
const SPLIT = 7
export const SHIFT = 23 - SPLIT
const FRACTION_MASK = (1 << SHIFT) - 1
const FRACTION_SCALE = 1 / (1 << SHIFT)

const floats = new Float32Array(1)
const bits = new Int32Array(floats.buffer)
const bitsOf = (v: number): number => {
  floats[0] = v
  return bits[0]!
}
const floatOf = (b: number): number => {
  bits[0] = b
  return floats[0]!
}

/**
 * @param f the function, finite over the range
 * @param fromOctave,toOctave the range 2^from .. 2^to
 */
export function shapedTable(f: (v: number) => number, fromOctave: number, toOctave: number): ShapedTable {
  const firstBits = bitsOf(2 ** fromOctave)
  const count = (toOctave - fromOctave) << SPLIT
  const values = new Float32Array(count + 2)
  for (let i = 0; i <= count; i++) values[i] = f(floatOf(firstBits + (i << SHIFT)))
  values[count + 1] = values[count]!
  return { values, firstBits, lowest: 2 ** fromOctave, highest: 2 ** toOctave }
}

/** One value through the table; kernels repeat this inside their loops. NaN reads as the lowest value. */
export function readShaped(table: ShapedTable, v: number): number {
  const held = v > table.lowest ? (v < table.highest ? v : table.highest) : table.lowest
  const at = bitsOf(held) - table.firstBits
  const node = at >> SHIFT
  const low = table.values[node]!
  return low + (table.values[node + 1]! - low) * ((at & FRACTION_MASK) * FRACTION_SCALE)
}
