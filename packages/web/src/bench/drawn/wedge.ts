import type { Hill } from '@fogbath/core/baths'

/** Heights of the toned wedge from above: the hills, the bar of ranges, the wedge as it comes and as it becomes. */
export const HEIGHTS = { hills: 90, bar: 22, comes: 8, becomes: 20 } as const
/** Where the bar ends. */
export const BASE = HEIGHTS.hills + HEIGHTS.bar
export const HEIGHT = BASE + HEIGHTS.comes + HEIGHTS.becomes
/** Radius of the half circle of hues, and how wide its band is. */
export const ARC = { radius: 40, band: 11 } as const
/** Hills and what they come to stay this much below the upper edge, so that a top can be taken hold of. */
const HEADROOM = 12
/** What all hills together come to may be more than one of 100 %. */
const MOST = 1.05

export interface Ground {
  readonly left: number
  readonly width: number
}
export const acrossAt = ({ left, width }: Ground, place: number): number => left + place * width
export const heightAt = (amount: number): number =>
  HEIGHTS.hills - Math.min(MOST, Math.max(0, amount)) * (HEIGHTS.hills - HEADROOM)
/** Of the amount, per pixel upwards. */
export const PER_PIXEL = 1 / (HEIGHTS.hills - HEADROOM)

/** A closed outline over the ground. @param heights from black to white, evenly */
export function outline(ground: Ground, heights: readonly number[]): string {
  const last = heights.length - 1
  const points = heights.map((v, i) => `${acrossAt(ground, i / last).toFixed(1)} ${heightAt(v).toFixed(1)}`)
  return `M${acrossAt(ground, 0)} ${HEIGHTS.hills}L${points.join('L')}L${acrossAt(ground, 1)} ${HEIGHTS.hills}Z`
}

/** Where a hill is highest: the place, and how high it stands there at 100 %. */
export function peakOf({ shape }: Hill): { place: number; height: number } {
  const height = Math.max(...shape)
  // Of a flat top the middle.
  const top = shape.flatMap((v, i) => (v >= height - 1e-3 ? [i] : []))
  return { place: (top[0]! + top.at(-1)!) / 2 / (shape.length - 1), height }
}

/** Hues go from left to right over the half circle. @param hue in degrees */
export function onArc(hue: number, radius: number): { x: number; y: number } {
  const angle = Math.PI * (1 - hue / 360)
  return { x: radius * Math.cos(angle), y: -radius * Math.sin(angle) }
}

/** The hue, in whole degrees, that lies in a direction from the centre of the half circle; y goes down. */
export function hueTowards(x: number, y: number): number {
  const angle = Math.atan2(Math.max(0, -y), x)
  return Math.round(360 * (1 - angle / Math.PI)) % 360
}
/** Degrees of hue per pixel along the half circle. */
export const HUE_PER_PIXEL = 360 / (Math.PI * ARC.radius)
