/** A transfer function: code value (0..1 for the ordinary range) to linear light and back. Odd-symmetric below 0 where the standard is silent. */
export interface Transfer {
  readonly decode: (code: number) => number
  readonly encode: (light: number) => number
}

const odd =
  (f: (v: number) => number): ((v: number) => number) =>
  (v) =>
    v < 0 ? -f(-v) : f(v)

/** IEC 61966-2-1:1999, section 5.2. */
export const SRGB: Transfer = {
  decode: odd((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)),
  encode: odd((v) => (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055)),
}

/** ITU-R BT.1886, annex 1, with a black of 0: light = code^2.4. */
export const BT1886_GAMMA = 2.4
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

/** ACEScc (Academy S-2014-003, section 4): log all the way, with what is darker than 2^-15 drawn together. */
export const ACESCC: Transfer = {
  decode: (v) => {
    if (v <= (9.72 - 15) / 17.52) return (2 ** (v * 17.52 - 9.72) - 2 ** -16) * 2
    return Math.min(65504, 2 ** (v * 17.52 - 9.72))
  },
  encode: (v) => {
    const light = v <= 0 ? 2 ** -16 : v < 2 ** -15 ? 2 ** -16 + v / 2 : v
    return (Math.log2(light) + 9.72) / 17.52
  },
}

/**
 * Printing density of a scanned negative, 0.002 a code of 10 bits (SMPTE ST 268:2014, 6; from memory), to the light that exposed it:
 * a gamma of 0.6, the base at code 95 and perfect white at 685 (common practice).
 */
const DENSITY_STEP = 0.002 / 0.6
const [BASE, WHITE] = [95, 685]
const UNEXPOSED = 10 ** ((BASE - WHITE) * DENSITY_STEP)
export const PRINTING_DENSITY: Transfer = {
  decode: (v) => (10 ** ((1023 * v - WHITE) * DENSITY_STEP) - UNEXPOSED) / (1 - UNEXPOSED),
  encode: (v) => (WHITE + Math.log10(Math.max(1e-6, v * (1 - UNEXPOSED) + UNEXPOSED)) / DENSITY_STEP) / 1023,
}

/**
 * ACESproxy (Academy S-2013-001, section 5.3), codes as shares of the highest one; only those from 64 to 940 (of 10 bits) say something.
 * @param bits 10 or 12
 */
export function acesProxy(bits: 10 | 12): Transfer {
  const [unit, top] = [2 ** (bits - 10), 2 ** bits - 1]
  const [least, most] = [64 * unit, 940 * unit]
  const within = (code: number): number => Math.min(most, Math.max(least, code))
  return {
    decode: (v) => 2 ** ((within(v * top) - 425 * unit) / (50 * unit) - 2.5),
    encode: (v) => (v <= 2 ** -9.72 ? least : within((Math.log2(v) + 2.5) * 50 * unit + 425 * unit)) / top,
  }
}

// ITU-R BT.2100-2, table 4.
const [M1, M2] = [2610 / 16384, (2523 / 4096) * 128]
const [C1, C2, C3] = [3424 / 4096, (2413 / 4096) * 32, (2392 / 4096) * 32]
/** PQ (SMPTE ST 2084:2014; ITU-R BT.2100-2, table 4): codes to cd/m2, up to 10 000. */
export const PQ: Transfer = {
  decode: (v) => {
    const root = Math.max(0, v) ** (1 / M2)
    return 10_000 * (Math.max(0, root - C1) / (C2 - C3 * root)) ** (1 / M1)
  },
  encode: (v) => {
    const power = (Math.max(0, v) / 10_000) ** M1
    return ((C1 + C2 * power) / (1 + C3 * power)) ** M2
  },
}

// ITU-R BT.2100-2, table 5.
const HLG_A = 0.17883277
const HLG_B = 1 - 4 * HLG_A
const HLG_C = 0.5 - HLG_A * Math.log(4 * HLG_A)
/** HLG's camera curve (ITU-R BT.2100-2, table 5): codes to scene light, 0..1. */
export const HLG: Transfer = {
  decode: odd((v) => (v <= 0.5 ? (v * v) / 3 : (Math.exp((v - HLG_C) / HLG_A) + HLG_B) / 12)),
  encode: odd((v) => (v <= 1 / 12 ? Math.sqrt(3 * v) : HLG_A * Math.log(12 * v - HLG_B) + HLG_C)),
}
/** The system gamma of a display of 1000 cd/m2 (table 5, note 5f). */
export const HLG_GAMMA = 1.2
