import { LUMA_709 } from './spaces'

/** How late and how sharply colours are drawn in: 1 on the edge becomes 2^(-1/8) = 0.917. */
const SHARPNESS = 8

/**
 * Brings linear BT.709 light into 0..1 at constant luminance and constant dominant wavelength: the colour is drawn
 * towards the neutral of its own luminance along a straight line, the further out the more (own design). Its distance
 * from neutral, 1 on the edge of the gamut, becomes distance / (1 + distance^8)^(1/8).
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
  // The eighth power of their fourth-power mean.
  const power = (low ** 4 + high ** 4) ** (SHARPNESS / 4)
  const scale = (1 + power) ** (-1 / SHARPNESS)
  rgb[0] = y + (r - y) * scale
  rgb[1] = y + (g - y) * scale
  rgb[2] = y + (b - y) * scale
}
