/**
 * A small seeded generator (mulberry32, T. Ettinger, public domain, from memory): the same numbers on every machine.
 * @param seed 32-bit integer @returns numbers in 0 <= v < 1
 */
export function seededRandom(seed: number): () => number {
  let state = seed | 0
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** A 32-bit mixing of bits (C. Wellons 2018, "lowbias32", from memory). */
export function hash32(v: number): number {
  let h = v ^ (v >>> 16)
  h = Math.imul(h, 0x7feb352d)
  h ^= h >>> 15
  h = Math.imul(h, 0x846ca68b)
  return (h ^ (h >>> 16)) >>> 0
}
