/**
 * What encodings of cameras and files are made of: steps as data, which travel in recipes, rows and files. Words and formulas are those of the
 * Common LUT Format, version 3 (Academy S-2014-006); all numbers are floats, of which 1 is full.
 */
export type Op = MatrixOp | LogOp | ExponentOp | MoncurveOp | RangeOp | CdlOp | Lut1dOp | Lut3dOp | CurveOp

/** A number for each channel. */
export type PerChannel = readonly [red: number, green: number, blue: number]
export const same = (v: number): PerChannel => [v, v, v]

/** Row by row, then what is added. */
export interface MatrixOp {
  readonly op: 'matrix'
  readonly matrix: readonly [PerChannel, PerChannel, PerChannel]
  readonly offset: PerChannel
}

/** Section 4.6 (Log): linear to log, with a straight piece below `linBreak` where there is one. `back`: log to linear. */
export interface LogOp {
  readonly op: 'log'
  readonly back: boolean
  readonly base: number
  readonly logSlope: PerChannel
  readonly logOffset: PerChannel
  readonly linSlope: PerChannel
  readonly linOffset: PerChannel
  readonly linBreak: PerChannel | null
  /** Of the straight piece; null for the slope that the curve has at the break. */
  readonly linearSlope: PerChannel | null
}

/** Section 4.7 (Exponent), basic styles: a power; what is below 0 is cut off, mirrored or passed through. */
export interface ExponentOp {
  readonly op: 'exponent'
  readonly power: PerChannel
  readonly below: 'clamp' | 'mirror' | 'pass'
}

/** The same, monCurve styles: a power with a straight piece. `back`: the inverse. */
export interface MoncurveOp {
  readonly op: 'moncurve'
  readonly back: boolean
  readonly power: PerChannel
  readonly offset: PerChannel
  readonly mirror: boolean
}

/** Section 4.5 (Range): one straight line; cut off at its ends where it is clamped and they are there. */
export interface RangeOp {
  readonly op: 'range'
  readonly scale: number
  readonly offset: number
  readonly least: number | null
  readonly most: number | null
}

/** Ends of a range, each of which may be missing: those that go in, and what they become. */
export interface RangeEnds {
  readonly minIn: number | null
  readonly maxIn: number | null
  readonly minOut: number | null
  readonly maxOut: number | null
}
/** With all four ends it scales, with one pair it shifts. @param clamp whether the ends hold */
export function rangeOf({ minIn, maxIn, minOut, maxOut }: RangeEnds, clamp: boolean): RangeOp {
  const both = minIn !== null && maxIn !== null && minOut !== null && maxOut !== null
  const scale = both ? (maxOut - minOut) / (maxIn - minIn) : 1
  const offset = minIn !== null && minOut !== null ? minOut - scale * minIn : (maxOut ?? 0) - scale * (maxIn ?? 0)
  return { op: 'range', scale, offset, least: clamp ? minOut : null, most: clamp ? maxOut : null }
}

/** Section 4.8 (ASC_CDL). */
export interface CdlOp {
  readonly op: 'cdl'
  readonly back: boolean
  readonly slope: PerChannel
  readonly offset: PerChannel
  readonly power: PerChannel
  readonly saturation: number
  /** Between 0 and 1 after each step. */
  readonly clamp: boolean
}

/** Section 4.3 (LUT1D), straight between nodes. */
export interface Lut1dOp {
  readonly op: 'lut1d'
  readonly back: boolean
  /** Whether nodes stand on all half floats in the order of their bits; else evenly from `from` to `to`. */
  readonly half: boolean
  readonly from: PerChannel
  readonly to: PerChannel
  /** One number a node or three, see pack.ts. */
  readonly channels: 1 | 3
  readonly nodes: string
}

/** Section 4.4 (LUT3D), by tetrahedra; red runs fastest. */
export interface Lut3dOp {
  readonly op: 'lut3d'
  readonly side: number
  readonly from: PerChannel
  readonly to: PerChannel
  readonly nodes: string
}

/** A curve of a standard, by its name: codes to light, `back` light to codes. */
export interface CurveOp {
  readonly op: 'curve'
  readonly back: boolean
  readonly curve: 'pq' | 'hlg' | 'srgb' | 'bt1886' | 'bt709' | 'acescc' | 'acescct' | 'acesproxy'
}
