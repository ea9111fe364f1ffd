import type { Triple } from './matrix'

const RAD = Math.PI / 180
const TWENTY_FIVE_7 = 25 ** 7

const hueOf = (a: number, b: number): number => {
  if (a === 0 && b === 0) return 0
  const h = Math.atan2(b, a) / RAD
  return h < 0 ? h + 360 : h
}

/**
 * Colour difference CIEDE2000 with unit weights.
 * Source: CIE 142-2001; G. Sharma, W. Wu, E. Dalal, "The CIEDE2000 color-difference formula: implementation notes,
 * supplementary test data, and mathematical observations", 2005, equations 2 to 22.
 * @param one,two CIE L*a*b* @returns dE00 >= 0
 */
export function ciede2000(one: Triple, two: Triple): number {
  const meanC = (Math.hypot(one[1], one[2]) + Math.hypot(two[1], two[2])) / 2
  const g = 0.5 * (1 - Math.sqrt(meanC ** 7 / (meanC ** 7 + TWENTY_FIVE_7)))
  const [a1, a2] = [one[1] * (1 + g), two[1] * (1 + g)]
  const [c1, c2] = [Math.hypot(a1, one[2]), Math.hypot(a2, two[2])]
  const [h1, h2] = [hueOf(a1, one[2]), hueOf(a2, two[2])]

  const dL = two[0] - one[0]
  const dC = c2 - c1
  const dh = c1 * c2 === 0 ? 0 : wrap(h2 - h1)
  const dH = 2 * Math.sqrt(c1 * c2) * Math.sin((dh / 2) * RAD)

  const L = (one[0] + two[0]) / 2
  const C = (c1 + c2) / 2
  const h = c1 * c2 === 0 ? h1 + h2 : meanHue(h1, h2)

  const T =
    1 -
    0.17 * Math.cos((h - 30) * RAD) +
    0.24 * Math.cos(2 * h * RAD) +
    0.32 * Math.cos((3 * h + 6) * RAD) -
    0.2 * Math.cos((4 * h - 63) * RAD)
  const sL = 1 + (0.015 * (L - 50) ** 2) / Math.sqrt(20 + (L - 50) ** 2)
  const sC = 1 + 0.045 * C
  const sH = 1 + 0.015 * C * T
  const rotation = 30 * Math.exp(-(((h - 275) / 25) ** 2))
  const rT = -2 * Math.sqrt(C ** 7 / (C ** 7 + TWENTY_FIVE_7)) * Math.sin(2 * rotation * RAD)
  const [l, c, hh] = [dL / sL, dC / sC, dH / sH]
  return Math.sqrt(l * l + c * c + hh * hh + rT * c * hh)
}

const wrap = (d: number): number => (d > 180 ? d - 360 : d < -180 ? d + 360 : d)

function meanHue(h1: number, h2: number): number {
  if (Math.abs(h1 - h2) <= 180) return (h1 + h2) / 2
  return h1 + h2 < 360 ? (h1 + h2 + 360) / 2 : (h1 + h2 - 360) / 2
}
