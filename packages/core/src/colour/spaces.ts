import { diagonal, invert, multiply, transform, type Matrix3, type Triple } from './matrix'

/** CIE xy chromaticities of three primaries and the white. */
export interface Primaries {
  readonly red: readonly [number, number]
  readonly green: readonly [number, number]
  readonly blue: readonly [number, number]
  readonly white: readonly [number, number]
}

/** ITU-R BT.709-6, item 1.3; IEC 61966-2-1 (sRGB) uses the same. */
export const BT709: Primaries = { red: [0.64, 0.33], green: [0.3, 0.6], blue: [0.15, 0.06], white: [0.3127, 0.329] }
/** ITU-R BT.2020-2, table 3. */
export const BT2020: Primaries = {
  red: [0.708, 0.292],
  green: [0.17, 0.797],
  blue: [0.131, 0.046],
  white: [0.3127, 0.329],
}
/** ACES AP1 (Academy S-2014-004), the primaries of ACEScct. */
export const AP1: Primaries = {
  red: [0.713, 0.293],
  green: [0.165, 0.83],
  blue: [0.128, 0.044],
  white: [0.32168, 0.33767],
}

/** ACES AP0 (SMPTE ST 2065-1:2012), the primaries of ACES2065-1. */
export const AP0: Primaries = {
  red: [0.7347, 0.2653],
  green: [0, 1],
  blue: [0.0001, -0.077],
  white: [0.32168, 0.33767],
}
/** P3 with the white of D65 (SMPTE EG 432-1:2010, annex; the primaries are those of RP 431-2). */
export const P3: Primaries = { red: [0.68, 0.32], green: [0.265, 0.69], blue: [0.15, 0.06], white: [0.3127, 0.329] }

/** XYZ with Y = 1 of a chromaticity. */
export const xyzOf = ([x, y]: readonly [number, number]): [number, number, number] => [x / y, 1, (1 - x - y) / y]

/** Linear RGB to XYZ, white at Y = 1 (SMPTE RP 177, 1993, section 3.3). */
export function rgbToXyz(p: Primaries): Matrix3 {
  const [r, g, b] = [xyzOf(p.red), xyzOf(p.green), xyzOf(p.blue)]
  const columns: Matrix3 = [
    [r[0], g[0], b[0]],
    [r[1], g[1], b[1]],
    [r[2], g[2], b[2]],
  ]
  return multiply(columns, diagonal(transform(invert(columns), xyzOf(p.white))))
}

/** Bradford cone response (Lam 1985; as used in ICC.1:2010, annex E). */
export const BRADFORD: Matrix3 = [
  [0.8951, 0.2664, -0.1614],
  [-0.7502, 1.7135, 0.0367],
  [0.0389, -0.0685, 1.0296],
]

/** Cone response of CIECAM02 (CIE 159:2004, equation 6). */
export const CAT02: Matrix3 = [
  [0.7328, 0.4296, -0.1624],
  [-0.7036, 1.6975, 0.0061],
  [0.003, 0.0136, 0.9834],
]

/** XYZ under one white to the corresponding XYZ under another (von Kries scaling in a space of cones). */
export function adaptation(from: Triple, to: Triple, cones = BRADFORD): Matrix3 {
  const a = transform(cones, from)
  const b = transform(cones, to)
  return multiply(invert(cones), multiply(diagonal([b[0] / a[0], b[1] / a[1], b[2] / a[2]]), cones))
}

/** Linear RGB of one set of primaries to another, adapting the white. */
export function rgbToRgb(from: Primaries, to: Primaries, cones = BRADFORD): Matrix3 {
  const adapt = adaptation(xyzOf(from.white), xyzOf(to.white), cones)
  return multiply(invert(rgbToXyz(to)), multiply(adapt, rgbToXyz(from)))
}

export const BT709_TO_XYZ = rgbToXyz(BT709)
export const XYZ_TO_BT709 = invert(BT709_TO_XYZ)
/** Luminance weights of linear BT.709 (0.2126, 0.7152, 0.0722). */
export const LUMA_709: Triple = BT709_TO_XYZ[1]
export const D65_WHITE: Triple = xyzOf(BT709.white)
/** White of the space that colour profiles lead to (ICC.1:2022, 7.2.16). */
export const D50_WHITE: Triple = [0.9642, 1, 0.8249]

/** Luminance of linear BT.709 light. */
export const luminance = (rgb: ArrayLike<number>): number =>
  LUMA_709[0] * rgb[0]! + LUMA_709[1] * rgb[1]! + LUMA_709[2] * rgb[2]!
