import { transform, type Triple } from './matrix'
import { BT709_TO_XYZ, D65_WHITE, XYZ_TO_BT709 } from './spaces'

const EPSILON = (6 / 29) ** 3
const KAPPA = (29 / 6) ** 2 / 3

/** The cube root of CIE L*a*b* and its straight beginning. */
export const labCurve = (t: number): number => (t > EPSILON ? Math.cbrt(t) : KAPPA * t + 4 / 29)

/** CIE 1976 L*a*b* (CIE 15:2018, 8.2.1). @param xyz Y of white = 1 @param white of the same scale. L* 0..100. */
function xyzToLab(xyz: Triple, white: Triple = D65_WHITE): [number, number, number] {
  const [x, y, z] = [labCurve(xyz[0] / white[0]), labCurve(xyz[1] / white[1]), labCurve(xyz[2] / white[2])]
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)]
}

/** Linear BT.709 light (white 1,1,1) to CIE L*a*b* under D65. */
export const bt709ToLab = (rgb: Triple): [number, number, number] => xyzToLab(transform(BT709_TO_XYZ, rgb))

const back = (f: number): number => (f > 6 / 29 ? f ** 3 : (f - 4 / 29) / KAPPA)

/** The inverse of {@link bt709ToLab}; colours that BT.709 cannot hold come out below 0 or above 1. */
export function labToBt709([l, a, b]: Triple): [number, number, number] {
  const y = (l + 16) / 116
  const xyz: Triple = [D65_WHITE[0] * back(y + a / 500), D65_WHITE[1] * back(y), D65_WHITE[2] * back(y - b / 200)]
  return transform(XYZ_TO_BT709, xyz)
}

/** Chroma C*ab. */
export const chroma = (lab: Triple): number => Math.hypot(lab[1], lab[2])

/** Hue angle h_ab in degrees, 0..360; 0 for a neutral. */
export function hue(lab: Triple): number {
  const degrees = (Math.atan2(lab[2], lab[1]) * 180) / Math.PI
  return degrees < 0 ? degrees + 360 : degrees
}
