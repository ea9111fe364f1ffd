import { smooth } from '../numbers/smooth'
import { growPlane } from './grow'
import type { PartSettings } from './parts'
import type { Plane } from './shapes'

/** What is below `black` becomes nothing, what is above `white` all; between them evenly. Per cent. */
export function clipPlane(plane: Plane, black: number, white: number): void {
  const low = black / 100
  const room = Math.max(1e-3, white / 100 - low)
  for (let i = 0; i < plane.length; i++) plane[i] = Math.min(1, Math.max(0, (plane[i]! - low) / room))
}

/**
 * Takes specks and then holes away that are narrower than twice a radius; what is larger keeps its edge (opening and closing,
 * J. Serra 1982, from memory). @param radius pixels
 */
export function takeSpecks(plane: Plane, width: number, height: number, radius: number): void {
  for (const by of [-radius, radius, radius, -radius]) growPlane(plane, width, height, by)
}

type RangeSettings = PartSettings['range']

/** How much a colour lies within a range of hues, chromas and lightnesses (CIE L*, C*, h), 0..1. */
export function rangeShare(s: RangeSettings): (l: number, a: number, b: number) => number {
  const within = (v: number, from: number, to: number, soft: number): number =>
    Math.min(smooth(1 + (v - from) / soft), smooth(1 + (to - v) / soft))
  const soft = { hue: s.hueSoft || 1e-6, chroma: s.chromaSoft || 1e-6, light: s.lightSoft || 1e-6 }
  // From 300 to 60 goes over 0; 0 to 360 are all.
  const wide = s.hueTo - s.hueFrom >= 360 ? 360 : (((s.hueTo - s.hueFrom) % 360) + 360) % 360
  const hueWithin = (h: number): number => {
    const off = Math.abs(((((h - s.hueFrom - wide / 2) % 360) + 540) % 360) - 180) - wide / 2
    return smooth(1 - off / soft.hue)
  }
  // The ends of the scales hold all that is beyond them.
  const chromaTo = s.chromaTo >= 140 ? Infinity : s.chromaTo
  return (l, a, b) => {
    const share = Math.min(
      within(l, s.lightFrom, s.lightTo, soft.light),
      within(Math.sqrt(a * a + b * b), s.chromaFrom, chromaTo, soft.chroma),
    )
    return share === 0 || wide === 360 ? share : Math.min(share, hueWithin((Math.atan2(b, a) * 180) / Math.PI))
  }
}
