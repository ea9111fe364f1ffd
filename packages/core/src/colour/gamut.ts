import { LUMA_709 } from './spaces'

/** How sharply colours are drawn in, and the distance, to that power, from which they lie on the edge. */
const [SHARPNESS, REACH] = [8, 3]

/** The distance from neutral from which each further unit is worth less than half a unit once drawn in. */
const HALVED = 1.02527

/** What the distance from neutral, 1 on the edge of the gamut, is multiplied by. @param power the distance^8 */
const drawnIn = (power: number): number => (power + Math.max(0, 1 - power / REACH) ** 2) ** (-1 / SHARPNESS)

/** As {@link drawnIn}, but from {@link HALVED} on each unit is worth half a unit, however far out. */
function drawnHalf(power: number): number {
  const distance = power ** (1 / SHARPNESS)
  if (distance <= HALVED) return drawnIn(power)
  return (HALVED * drawnIn(HALVED ** SHARPNESS) + (distance - HALVED) / 2) / distance
}

/** Moves light along the straight line to the neutral of its own luminance. */
function drawIn(rgb: Float64Array, scaleAt: (power: number) => number): void {
  const r = rgb[0]!
  const g = rgb[1]!
  const b = rgb[2]!
  const y = LUMA_709[0] * r + LUMA_709[1] * g + LUMA_709[2] * b
  if (!(y > 0) || y >= 1) {
    rgb[0] = rgb[1] = rgb[2] = y >= 1 ? 1 : 0
    return
  }
  const low = (y - Math.min(r, g, b)) / y
  const high = (Math.max(r, g, b) - y) / (1 - y)
  // Both ends count where a colour lies in a corner of the gamut.
  const scale = scaleAt(low ** SHARPNESS + high ** SHARPNESS)
  rgb[0] = y + (r - y) * scale
  rgb[1] = y + (g - y) * scale
  rgb[2] = y + (b - y) * scale
}

/**
 * Brings linear BT.709 light into 0..1 at constant luminance and constant dominant wavelength: the colour is drawn
 * towards the neutral of its own luminance along a straight line, the further out the more (own design). Its distance d
 * from neutral, 1 on the edge of the gamut, becomes d / (p + (1 - p / 3)^2)^(1/8) with p = d^8: 0.955 on the edge, and
 * smoothly the edge itself from p = 3, d = 1.147 on. So every colour of the gamut comes from one not far outside it, and
 * unprinting finds it.
 * @param rgb any finite values; changed in place. Luminance itself is cut to 0..1.
 */
export const fitGamut = (rgb: Float64Array): void => drawIn(rgb, drawnIn)

/**
 * {@link fitGamut} for finding the light that it came from: where it comes to rest on the edge, this goes on outward by half
 * units, so that nothing has to be found from a root, which would make islands of the noise of footage. What is found so
 * misses the edge, once fitted, by less than 1 % of its distance.
 */
export const fitGamutOpen = (rgb: Float64Array): void => drawIn(rgb, drawnHalf)
