import { hue } from '../colour/lab'
import type { Triple } from '../colour/matrix'

/** Colours as L*, a*, b*. */
export type Labs = readonly Triple[]

/** Places in the order of lightness, 0..1, that are compared. */
const TONES = Array.from({ length: 17 }, (_, i) => 0.01 + (0.98 * i) / 16)
/** Equal parts of the picture from dark to light. */
const PARTS = 6

/** Hues of colours as people name them, degrees of h_ab (from memory). */
export const HUES = [
  ['red', 25],
  ['orange', 60],
  ['yellow', 95],
  ['green', 140],
  ['blue-green', 195],
  ['blue', 270],
  ['violet', 310],
  ['pink', 350],
] as const

/**
 * What a picture is like without saying where anything is: how light its tones are, which colour each sixth of it has from
 * dark to light, and how much colour it has towards each hue. All in units of L*a*b*, to be compared by differences.
 */
export function statisticsOf(labs: Labs): Float64Array {
  const sorted = [...labs].sort((x, y) => x[0] - y[0])
  const n = sorted.length
  const tones = TONES.map((at) => sorted[Math.min(n - 1, Math.floor(at * n))]![0])
  const parts = Array.from({ length: PARTS }, (_, i) =>
    sorted.slice(Math.floor((i * n) / PARTS), Math.floor(((i + 1) * n) / PARTS)),
  ).flatMap((part) => [mean(part, (c) => c[1]), mean(part, (c) => c[2]), mean(part, chromaOf)])
  const hues = HUES.flatMap((_, k) => {
    const towards = labs.map((c) => shareTowards(c, k))
    const sum = (f: (c: Triple) => number): number => labs.reduce((all, c, i) => all + towards[i]! * f(c), 0)
    // The root brings what few pixels have up to what many have.
    return [rooted(sum((c) => c[1]) / n), rooted(sum((c) => c[2]) / n)]
  })
  return Float64Array.from([...tones, ...parts, ...hues])
}

const chromaOf = (c: Triple): number => Math.hypot(c[1], c[2])
const rooted = (v: number): number => Math.sign(v) * 3 * Math.sqrt(Math.abs(v))

const mean = (list: Labs, f: (c: Triple) => number): number =>
  list.reduce((sum, c) => sum + f(c), 0) / Math.max(1, list.length)

/** How much of a colour counts to one of the hues, 0..1; the neighbours share what lies between them. */
export function shareTowards(colour: Triple, k: number): number {
  const at = hue(colour)
  const apart = (one: number, other: number): number => Math.abs(((one - other + 540) % 360) - 180)
  const distance = apart(at, HUES[k]![1])
  const towards = (other: number): number => apart(HUES[(k + other + HUES.length) % HUES.length]![1], HUES[k]![1])
  const side = ((at - HUES[k]![1] + 540) % 360) - 180 > 0 ? towards(1) : towards(-1)
  return Math.max(0, 1 - distance / side)
}

/** Root mean square difference of two pictures' statistics. */
export const statisticsApart = (one: Float64Array, other: Float64Array): number =>
  Math.sqrt(one.reduce((sum, v, i) => sum + (v - other[i]!) ** 2, 0) / one.length)
