import type { ChartName, Recipe, Trims } from '@fogbath/core'

/** Footage, a picture file, a chart drawn as scene light, or footage with a chart in its right half. */
export type Source = ShotSource | FileSource | ChartSource
/** A picture that the browser can decode, at an address that the page made. */
export interface FileSource {
  readonly type: 'file'
  readonly url: string
  readonly encoding: 'srgb'
  readonly half?: ChartName
}
export interface ChartSource {
  readonly type: 'chart'
  readonly chart: ChartName
  readonly encoding: string
}
export interface ShotSource {
  readonly type: 'shot'
  readonly mediumId: number
  readonly encoding: string
  readonly half?: ChartName
}

/** What the page asks of the picture worker. The newest question wins; older ones are dropped unanswered. */
export interface PictureRequest {
  readonly source: Source
  readonly frame: number
  /** Width of the picture to work at. */
  readonly width: number
  readonly recipe: Recipe
  readonly trims: Trims
  /** Number of baths after which the picture is looked at, or null for the whole line. */
  readonly tap: number | null
  readonly compare: Compare
  readonly scope: ScopeKind
  readonly scopeOf: ScopeOf
  /** Code value at which the footage's own grey card lies, or null. */
  readonly greyCode: number | null
  /** A bath whose mask is shown in black and white instead of the picture, or null. */
  readonly mask: string | null
  /** A bath under whose mask readings are taken, or null for the whole picture. */
  readonly under: string | null
  /** Who may draw; a resting picture is always the processor's. */
  readonly by: Painter
}

/** `auto`: whichever is quicker on this machine. */
export type Painter = 'auto' | 'graphics' | 'processor'
export type Painted = Exclude<Painter, 'auto'>

export type Compare =
  | { readonly mode: 'off' | 'footage' }
  | { readonly mode: 'wipe'; readonly at: number; readonly upright: boolean; readonly against: Against }
  | { readonly mode: 'pair'; readonly against: Against }
/** The other side of a comparison: the footage, another treatment, a kept still picture, or another shot. */
export type Against =
  | { readonly type: 'footage' }
  | { readonly type: 'recipe'; readonly recipe: Recipe; readonly trims: Trims }
  | { readonly type: 'still'; readonly key: string }
  | {
      readonly type: 'shot'
      readonly source: ShotSource
      readonly frame: number
      readonly recipe: Recipe
      readonly trims: Trims
    }

/** What a bath does to a frame. */
export interface BathChange {
  /** How far it moves the frame at most, in code values 0..1. */
  readonly moved: number
  readonly mask: MaskSeen | null
}
interface MaskSeen {
  /** Its greatest value on this frame, 0..1. */
  readonly most: number
  readonly picture: ImageBitmap
}

export type ScopeKind = 'waveform' | 'parade' | 'vector' | 'histogram'
export type ScopeOf = 'picture' | 'footage' | 'both'

export interface PictureAnswer {
  readonly width: number
  readonly height: number
  readonly frame: number
  readonly by: Painted
  /** Milliseconds from question to drawn picture. */
  readonly took: number
  /** When it was drawn, milliseconds of the epoch. */
  readonly shownAt: number
}

/** Colours of a test strip as CSS-ready 8-bit triples, wedge first, then patches. */
export type StripColours = readonly (readonly [number, number, number])[]

/** What the page must know of a clip to decode it itself. */
export interface ClipTraits {
  readonly width: number
  readonly height: number
  readonly frames: number
  readonly bits: number
  readonly matrix: string
}

export interface PlayRequest {
  /** The clip that is played, where the page may decode it. */
  readonly clip: (ClipTraits & { readonly mediumId: number }) | null
  readonly first: number
  readonly last: number
  readonly fps: number
  readonly loop: boolean
}
