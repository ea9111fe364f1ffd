import { type Triple, type Six } from '../colour/matrix'
import type { CoverShape } from './cover'
import type { Grain } from './grain'

/**
 * Work on neighbouring pixels. Lengths are in per mille of the picture's width, so that they mean the same at any size.
 *
 * - `shift`, `blur`: each record by its own amount
 * - `field`: by place
 * - `spread`: the picture joined with blurred copies of itself
 * - `haze`: a share of the veil, the blurred least channel v, is taken away: (p - k·v) / (1 - k·v); k below 0 adds it
 * - `grain`: noise in densities
 * - `cover`: shapes painted over a picture whose height is so many per mille of its width
 * - `moving`: steps that change from frame to frame
 */
export type SpaceStep =
  | { readonly kind: 'shift'; readonly records: readonly [Shift, Shift, Shift] }
  | { readonly kind: 'blur'; readonly sigmas: Sigmas }
  | { readonly kind: 'field'; readonly field: Field; readonly smooth: boolean }
  | { readonly kind: 'spread'; readonly spread: Spread }
  | { readonly kind: 'haze'; readonly sigma: number; readonly amount: number }
  | { readonly kind: 'grain'; readonly grain: Grain }
  | { readonly kind: 'cover'; readonly shapes: (height: number) => readonly CoverShape[] }
  | { readonly kind: 'moving'; readonly at: (frame: number) => readonly SpaceStep[] }

/** p' = keep · p + amounts · c(s₁·B₁(p) + s₂·B₂(p)), B being Gaussian blurs; of sigma 0 they are the picture itself. */
export interface Spread {
  readonly copies: readonly [Copy, Copy]
  readonly keep: Triple
  readonly amounts: Triple
  /** Differences below this count less, c(d) = d · smooth(|d| / least); 0 for all as they are. */
  readonly least?: number
  /** What the copies' sum is changed by before it is joined. */
  readonly over?: Field
}
interface Copy {
  readonly sigma: number
  readonly share: number
}

/** One standard deviation a channel. */
export type Sigmas = readonly [number, number, number]

/**
 * Changes a pixel by its place: three factors and three sums, written to `out`. u and v run 0..1 over width and
 * height. A smooth field is worked out on a coarse grid and interpolated.
 */
export type Field = (u: number, v: number, aspect: number, out: Six) => void

/** Displacement of one record: x to the right, y down, in per mille of the width; rotation in degrees, clockwise. */
export interface Shift {
  readonly x: number
  readonly y: number
  readonly rotation: number
}
