/** Work on neighbouring pixels. Lengths are in per mille of the picture's width, so that they mean the same at any size. */
export type SpaceStep =
  | { readonly kind: 'shift'; readonly records: readonly [Shift, Shift, Shift] }
  | { readonly kind: 'blur'; readonly sigmas: Sigmas }
  | { readonly kind: 'field'; readonly field: Field; readonly smooth: boolean }

/** One standard deviation a channel. */
export type Sigmas = readonly [number, number, number]

/**
 * Changes a pixel by its place: three factors and three sums, written to `out`. u and v run 0..1 over width and
 * height. A smooth field is worked out on a coarse grid and interpolated.
 */
export type Field = (u: number, v: number, aspect: number, out: Float64Array) => void

/** Displacement of one record: x to the right, y down, in per mille of the width; rotation in degrees, clockwise. */
export interface Shift {
  readonly x: number
  readonly y: number
  readonly rotation: number
}
