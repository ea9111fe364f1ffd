import { tabulate } from '../kernels/tabled'
import { LUMA_709 } from './spaces'

/** Below this share of the way from neutral to the gamut's edge a colour is left alone; the curve moves it by < 1e-5. */
const UNTOUCHED = 0.2
/** How late and how sharply colours are drawn in: 1 on the edge becomes 2^(-1/8) = 0.917. */
const SHARPNESS = 8

/** Maps a distance from neutral (1 = on the edge of the gamut) smoothly to less than 1. */
const drawnIn = (distance: number): number => distance / (1 + distance ** SHARPNESS) ** (1 / SHARPNESS)
const TABLE_END = 3
/** The same by table up to 3 (error < 1e-6); further out it is 1 to within 2e-6. */
const drawIn = tabulate(drawnIn, 0, TABLE_END, 4096)

/**
 * Brings linear BT.709 light into 0..1 at constant luminance and constant dominant wavelength: the colour is drawn
 * towards the neutral of its own luminance along a straight line, the further out the more (own design).
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
  // Their fourth-power mean; square roots are several times quicker than powers.
  const distance = Math.sqrt(Math.sqrt(low * low * (low * low) + high * high * (high * high)))
  if (distance <= UNTOUCHED) return
  const scale = drawIn(distance) / distance
  rgb[0] = y + (r - y) * scale
  rgb[1] = y + (g - y) * scale
  rgb[2] = y + (b - y) * scale
}
