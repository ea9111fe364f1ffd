import { hue } from '../colour/lab'
import type { Triple } from '../colour/matrix'

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

/** How much of a colour counts to one of the hues, 0..1; the neighbours share what lies between them. */
export function shareTowards(colour: Triple, k: number): number {
  const at = hue(colour)
  const apart = (one: number, other: number): number => Math.abs(((one - other + 540) % 360) - 180)
  const distance = apart(at, HUES[k]![1])
  const towards = (other: number): number => apart(HUES[(k + other + HUES.length) % HUES.length]![1], HUES[k]![1])
  const side = ((at - HUES[k]![1] + 540) % 360) - 180 > 0 ? towards(1) : towards(-1)
  return Math.max(0, 1 - distance / side)
}
