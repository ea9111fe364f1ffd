import { maskWork, newPart, withPart, type Mask, type MaskPart, type PartType } from '../src/masks'
import { inMemory } from './helpers'

export const [WIDTH, HEIGHT] = [320, 180]
export const N = WIDTH * HEIGHT

export const maskOf = (parts: readonly MaskPart[], whole: Partial<Mask> = {}): Mask => ({
  ...parts.reduce<Mask | null>(withPart, null)!,
  ...whole,
})
export const part = (type: PartType, settings: object = {}, how: object = {}): MaskPart =>
  ({ ...newPart(type, settings as Record<string, unknown>), ...how }) as MaskPart

/** A mask's values on a picture. */
export function drawn(mask: Mask, reading: Float32Array | null = null, width = WIDTH, height = HEIGHT): Float32Array {
  const make = maskWork(mask)
  if (!reading) return make(null, width, height).slice()
  let plane = new Float32Array()
  inMemory(reading.slice(), (at) => (plane = make(at, width, height).slice()))
  return plane
}
export const areaOf = (plane: Float32Array): number => plane.reduce((a, b) => a + b, 0)
/** The value at a place, both in per cent. */
export const at = (plane: Float32Array, x: number, y: number): number =>
  plane[Math.floor((y / 100) * HEIGHT) * WIDTH + Math.floor((x / 100) * WIDTH)]!
