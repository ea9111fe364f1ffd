import { smooth } from '../../numbers/smooth'

/** How far green must exceed red and blue for a leaf to be told, as a share of all light: not at all, wholly. */
const LEAF = { from: 0.03, to: 0.33 }
/** Infrared that a leaf mirrors, of its green light. */
const GLOW = 2.5
/** Infrared that a clear sky lacks, and how far blue must exceed green for it. */
const SKY = { loss: 0.6, at: 0.2 }

/**
 * Infrared light, which footage does not hold, estimated from the three records: leaves mirror it strongly, a clear sky
 * sends next to none, and all else, skin and cloth too, about as much as red light (own estimate).
 * @param amount how strongly leaves stand out, 1 as they do
 */
export function infraredLight(r: number, g: number, b: number, amount: number): number {
  const all = Math.max(1e-9, r + g + b)
  const leaf = smooth(((2 * g - r - b) / all - LEAF.from) / (LEAF.to - LEAF.from))
  const sky = Math.min(1, Math.max(0, (b - g) / all / SKY.at))
  return (r * (1 - leaf) + GLOW * amount * leaf * g) * (1 - SKY.loss * sky)
}
