import { LUMA_709 } from './spaces'

/** How sharply colours are drawn in, and the distance, to that power, from which they lie on the edge. */
const [SHARPNESS, REACH] = [8, 3]

/**
 * Brings linear BT.709 light into 0..1 at constant luminance and constant dominant wavelength: the colour is drawn
 * towards the neutral of its own luminance along a straight line, the further out the more (own design). Its distance d
 * from neutral, 1 on the edge of the gamut, becomes d / (p + (1 - p / 3)^2)^(1/8) with p = d^8: 0.955 on the edge, and
 * smoothly the edge itself from p = 3, d = 1.147 on. So every colour of the gamut comes from one not far outside it, and
 * unprinting finds it.
 * @param rgb any finite values; changed in place. Luminance itself is cut to 0..1.
 */
export function fitGamut(rgb: Float64Array): void {
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
  // The distance to the eighth power: both ends count where a colour lies in a corner of the gamut.
  const power = low ** SHARPNESS + high ** SHARPNESS
  const scale = (power + Math.max(0, 1 - power / REACH) ** 2) ** (-1 / SHARPNESS)
  rgb[0] = y + (r - y) * scale
  rgb[1] = y + (g - y) * scale
  rgb[2] = y + (b - y) * scale
}
