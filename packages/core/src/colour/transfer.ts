/** A transfer function: code value (0..1 for the ordinary range) to linear light and back. Odd-symmetric below 0 where the standard is silent. */
export interface Transfer {
  readonly decode: (code: number) => number
  readonly encode: (light: number) => number
}

const odd =
  (f: (v: number) => number): ((v: number) => number) =>
  (v) =>
    v < 0 ? -f(-v) : f(v)

export const LINEAR: Transfer = { decode: (v) => v, encode: (v) => v }

/** IEC 61966-2-1:1999, section 5.2. */
export const SRGB: Transfer = {
  decode: odd((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)),
  encode: odd((v) => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055)),
}

/** ITU-R BT.1886, annex 1, with a black of 0: light = code^2.4. */
const BT1886_GAMMA = 2.4
export const BT1886: Transfer = {
  decode: odd((v) => v ** BT1886_GAMMA),
  encode: odd((v) => v ** (1 / BT1886_GAMMA)),
}

/** What a display shows of a code value (BT.1886): nothing below black. */
export const displayLight = (code: number): number => (code > 0 ? code ** BT1886_GAMMA : 0)
/** The code value (BT.1886) that shows a light; black for none. */
export const displayCode = (light: number): number => (light > 0 ? light ** (1 / BT1886_GAMMA) : 0)

// The exact constants of ITU-R BT.2020-2, table 4, note 1: the two branches meet in value and slope.
const ALPHA = 1.09929682680944
const BETA = 0.018053968510807
/** ITU-R BT.709-6, item 1.2 / BT.2020-2, table 4: the camera curve, with the exact constants of BT.2020. */
export const BT709_CURVE: Transfer = {
  decode: odd((v) => (v < 4.5 * BETA ? v / 4.5 : ((v + ALPHA - 1) / ALPHA) ** (1 / 0.45))),
  encode: odd((v) => (v < BETA ? 4.5 * v : ALPHA * v ** 0.45 - (ALPHA - 1))),
}

// Academy S-2016-001, section 4.
const CCT_BREAK = 0.0078125
const CCT_SLOPE = 10.5402377416545
const CCT_OFFSET = 0.0729055341958355
const CCT_CODE_BREAK = 0.155251141552511
/** ACEScct (Academy S-2016-001): a log encoding with a straight toe. Highest light 65504, as a half float. */
export const ACESCCT: Transfer = {
  decode: (v) => (v <= CCT_CODE_BREAK ? (v - CCT_OFFSET) / CCT_SLOPE : Math.min(65504, 2 ** (v * 17.52 - 9.72))),
  encode: (v) => (v <= CCT_BREAK ? CCT_SLOPE * v + CCT_OFFSET : (Math.log2(v) + 9.72) / 17.52),
}
