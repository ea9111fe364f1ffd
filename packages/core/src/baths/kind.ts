import type { Static, TObject } from 'typebox'
import type { Matrix3 } from '../colour/matrix'
import type { Domain } from '../kernels/domain'
import type { PointFunction } from '../kernels/lut3d'
import type { Family } from './emblem'
import type { View } from './views'

/** Where on the line a bath may stand. Process baths turn scene light into display light. */
export const STRETCHES = ['prepare', 'process', 'finish'] as const
type Stretch = (typeof STRETCHES)[number]

/**
 * A step of a bath's work. Steps that look at one colour at a time are baked into LUTs; steps that look at
 * neighbours (`space`) stand between two LUTs.
 */
export type Stage =
  | {
      readonly at: 'point'
      /** What comes in: scene light for the first stage of a process, densities after a split. */
      readonly takes: Domain
      readonly point: PointFunction
      /** The records the film sees, where they are three independent ones: LUTs then stand along them. */
      readonly records?: Matrix3
      /** Worked out for every pixel, not by a LUT: for simple sums that bend too sharply for a grid. */
      readonly exact?: true
    }
  | { readonly at: 'space'; readonly space: SpaceStep }

/** Work on neighbouring pixels. Lengths are in per mille of the picture's width, so that they mean the same at any size. */
export type SpaceStep =
  | { readonly kind: 'shift'; readonly records: readonly [Shift, Shift, Shift] }
  | { readonly kind: 'blur'; readonly sigmas: readonly [number, number, number] }
  | { readonly kind: 'field'; readonly field: Field; readonly smooth: boolean }

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

/** What the documentation says of a kind beside its settings. */
interface Notes {
  /** The shipped recipe that shows it best. */
  readonly recipe: string
  readonly about: string
  /** How it is modelled, and where the numbers come from. */
  readonly model: string
}

/**
 * A kind of bath. Adding one: a folder here with its settings and its film, and its name in `kinds.ts`.
 */
export interface Kind<S extends TObject = TObject> {
  readonly id: string
  readonly label: string
  /** The label where there is little room; at most 16 letters. */
  readonly short: string
  readonly family: Family
  readonly stretch: Stretch
  /** One sentence for the palette. */
  readonly summary: string
  readonly notes: Notes
  readonly schema: S
  /** What a new bath of this kind takes in. */
  readonly takes: 'camera' | 'line'
  /**
   * The bath at work. Process stages take scene light and end in display-linear light (not yet fitted to the gamut).
   * `settings` are complete and valid.
   */
  readonly stages: (settings: Static<S>) => readonly Stage[]
  /** Why these settings change nothing, or null when they do change something. */
  readonly idle: (settings: Static<S>) => string | null
  /** What is drawn beside the settings. */
  readonly views: (settings: Static<S>) => readonly View[]
}

/** Types a kind by its schema, then forgets the type so that all kinds fit one list. */
export const defineKind = <S extends TObject>(kind: Kind<S>): Kind => kind as unknown as Kind
