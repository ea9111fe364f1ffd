import type { Static, TObject } from 'typebox'
import type { Laying } from '../lay/blend'
import type { Bath } from '../line/bath-schema'
import type { Stage } from '../stages/stage'
import type { Family } from './emblem'
import type { View } from './views'

/** Where on the line a bath may stand. Process baths turn scene light into display light. */
export const STRETCHES = ['prepare', 'process', 'finish'] as const
type Stretch = (typeof STRETCHES)[number]

/** What the documentation says of a kind beside its settings. */
interface Notes {
  /** The shipped recipe that shows it best, where there is one. */
  readonly recipe?: string
  readonly about: string
  /** How it is modelled, and where the numbers come from. */
  readonly model: string
}

/** Of a rectangle in shares of width and height. */
export interface Edges {
  readonly left: number
  readonly top: number
  readonly right: number
  readonly bottom: number
}

/**
 * A kind of bath. Adding one: a folder here with its settings and its film, and its name in `kinds.ts`.
 */
export interface Kind<S = Static<TObject>> {
  readonly id: string
  readonly label: string
  /** The label where there is little room; at most 16 letters. */
  readonly short: string
  readonly family: Family
  readonly stretch: Stretch
  /** One sentence for the palette. */
  readonly summary: string
  readonly notes: Notes
  readonly schema: TObject
  /** What a new bath of this kind takes in. Every process can take either; other kinds where they say so. */
  readonly takes: 'camera' | 'line'
  readonly takesEither?: true
  /** How a new bath of this kind is laid, where that is not all of it and over everything. */
  readonly laid?: Partial<Laying>
  /**
   * The bath at work. Process stages take scene light and end in display-linear light (not yet fitted to the gamut).
   * `settings` are complete and valid.
   */
  readonly stages: (settings: S) => readonly Stage[]
  /** Whether code values within 0..1 stay there, as those of a process do; of Finish kinds, where it is left out, they may not. */
  readonly inside?: (settings: S) => boolean
  /** Settings that show what it can do, for a kind that does nothing at its defaults. */
  readonly sample?: Partial<S>
  /** A rule that the schema cannot state: what is wrong with these settings and in which, or null. */
  readonly fault?: (settings: S) => { readonly setting: string; readonly rule: string } | null
  /** What is cut out of the picture in the end, in shares of its sides, or null. @param aspect width over height */
  readonly crop?: (settings: S, aspect: number) => Edges | null
  /** Where the picture itself is left when a border is painted around it, in shares of its sides, or null. */
  readonly within?: (settings: S, aspect: number) => Edges | null
  /** The baths that it holds, which work as a line of their own; such a kind has no stages. */
  readonly strand?: (settings: S) => readonly Bath[]
  /** Settings as an earlier version kept them, said as they are said now; what is not of that version is handed on. */
  readonly earlier?: (settings: Readonly<Record<string, unknown>>) => Record<string, unknown>
  /** Why these settings change nothing, or null when they do change something. */
  readonly idle: (settings: S) => string | null
  /** What is drawn beside the settings. */
  readonly views: (settings: S) => readonly View[]
}

/** Whether a bath of this kind may take the camera's picture or the line's, as one likes. */
export const takesEither = (kind: Kind): boolean => kind.stretch === 'process' || kind.takesEither === true

/**
 * Types a kind by its schema, then forgets the type so that all kinds fit one list. The schema alone says which settings
 * these are: to infer it from their uses as well took the compiler longer than all the rest of core.
 */
export const defineKind = <S extends TObject>(
  kind: Omit<Kind<NoInfer<Static<S>>>, 'schema'> & { readonly schema: S },
): Kind => kind as unknown as Kind
