import { type Matrix3, type Triple, type Three, type Six } from '../colour/matrix'
import type { Projection } from '../spectra/projection'
import type { SpaceStep } from './space'

/** A per-colour function. `out` may be the array that holds the input; implementations read before they write. */
export type PointFunction = (r: number, g: number, b: number, out: Three) => void

/**
 * How the nodes of a table stand over the numbers that go in: 64 of them evenly in each octave from 2^from to 2^to,
 * for light, or evenly. Outside the end values hold; below the first octave it is the value of 0.
 */
export type Axis =
  | { readonly nodes: 'octaves'; readonly from: number; readonly to: number }
  | { readonly nodes: 'even'; readonly from: number; readonly to: number; readonly steps: number }

/** A function of one number. */
export interface Tone {
  /** Tones with the same key are the same function. */
  readonly key: string
  readonly axis: Axis
  /** Finite over the axis. */
  readonly f: (v: number) => number
}

/** A function of three numbers that is smooth over a box. */
export type Solid = {
  readonly key: string
  readonly from: Triple
  readonly to: Triple
  /** The value, a density say, that stands at a place of the box, along any of its sides. */
  readonly valueAt: (place: number) => number
} & (Absorbers | Given)

/** Light through absorbers. */
interface Absorbers {
  /**
   * Amounts of the absorbers of `projection` for three values: sums of what each of the values gives by itself, on which
   * cpu/bake.ts relies.
   */
  readonly amounts: (a: number, b: number, c: number, out: Float64Array) => void
  readonly projection: Projection
}

/** Numbers that were worked out before: this is exact, there is nothing behind it. */
interface Given {
  /** At nodes that stand evenly, as many a side as tables have; four floats each. */
  readonly nodes: () => Float32Array
  /** `light`: as tables hold light, see held.ts. `codes`: the numbers themselves. */
  readonly holds: 'light' | 'codes'
}

/** A colour for each number. */
export interface Ramp {
  readonly key: string
  readonly axis: Axis
  readonly f: (v: number, out: Three) => void
  /** What absorbs light in it, where that is what the colour comes from. */
  readonly absorbers?: {
    readonly amounts: (v: number, out: Float64Array) => void
    readonly projection: Projection
  }
}

/** What becomes of a pixel by how light it is: each channel is multiplied and added to. */
export interface Shade {
  readonly key: string
  readonly axis: Axis
  /** @param luma of the code values @param out three factors, three sums */
  readonly f: (luma: number, out: Six) => void
}

/** What becomes of a pixel by its hue and its chroma, in the plane of chroma.ts. */
export interface Hues {
  readonly key: string
  /** @param turn hue, 0..1 around the circle @param out turned by so much of the circle; chroma times; all channels times 1 + this · share */
  readonly f: (turn: number, out: Three) => void
  /** Chroma times, by chroma; null for 1. */
  readonly gain: Tone | null
  /** The chroma at which that share is 1; it rises in proportion up to there. */
  readonly full: number
}

type Tones = readonly [Tone | null, Tone | null, Tone | null]

/**
 * One stage of a bath's work, exact as it stands here; backends make tables of it.
 *
 * - `mix`: a matrix and an offset. `held`: results are held softly above this share of the incoming mean.
 * - `curves`: each channel through its own tone; null leaves it alone.
 * - `solid`: three numbers in, light through absorbers out.
 * - `ramp`: the first channel in, a colour out.
 * - `shade`: factors and sums by the luma of code values.
 * - `hues`: turned, drained and darkened by hue and chroma of code values.
 * - `chroma`: chroma of code values times, by chroma; luma stays. The tone stands over even steps.
 * - `fit`: display-linear light into 0..1, see {@link fitGamut}.
 * - `select`: how near a colour is to one of the picks, 0..1, into the first channel.
 * - `space`: work that looks at neighbouring pixels.
 */
export type Stage =
  | { readonly at: 'mix'; readonly matrix: Matrix3; readonly offset: Triple; readonly held?: number }
  | { readonly at: 'curves'; readonly tones: Tones }
  | { readonly at: 'solid'; readonly solid: Solid }
  | { readonly at: 'ramp'; readonly ramp: Ramp }
  | { readonly at: 'shade'; readonly shade: Shade }
  | { readonly at: 'hues'; readonly hues: Hues }
  | { readonly at: 'chroma'; readonly gain: Tone }
  | { readonly at: 'fit' }
  | { readonly at: 'select'; readonly picks: readonly Triple[]; readonly range: number; readonly soft: number }
  | { readonly at: 'space'; readonly space: SpaceStep }

/** Stages that look at one colour at a time. */
export type PointStage = Exclude<Stage, { at: 'space' }>

export const mix = (matrix: Matrix3, offset: Triple = [0, 0, 0], held?: number): PointStage =>
  held === undefined ? { at: 'mix', matrix, offset } : { at: 'mix', matrix, offset, held }

export const curves = (red: Tone | null, green: Tone | null, blue: Tone | null): PointStage => ({
  at: 'curves',
  tones: [red, green, blue],
})

/** The same tone for all three channels. */
export const evenCurves = (tone: Tone): PointStage => curves(tone, tone, tone)

/** A key that tells functions apart by what they are made from. */
export const cacheKey = (...made: readonly unknown[]): string => JSON.stringify(made)
