import type { ChartName } from '@fogbath/core/charts'
import type { Reading } from '@fogbath/core/footage'
import type { Line } from '@fogbath/core/line'
import type { Order } from '@fogbath/core/treat'

/** Where a frame comes from: footage, what was rendered, a picture file, a chart drawn as scene light, or footage with a chart in its right half. */
export type Source = ShotSource | RenderSource | FileSource | ChartSource
/** The file of a finished render. */
interface RenderSource {
  readonly type: 'render'
  readonly renderId: number
  readonly half?: ChartName
}
/** A picture that the browser can decode, at an address that the page made. */
interface FileSource {
  readonly type: 'file'
  readonly url: string
  readonly half?: ChartName
}
export interface ChartSource {
  readonly type: 'chart'
  readonly chart: ChartName
}
/** Footage, and how it is read. */
export interface FootageSource {
  readonly mediumId: number
  readonly reading: Reading
}
export interface ShotSource extends FootageSource {
  readonly type: 'shot'
  readonly half?: ChartName
}

/** A frame, and what is done to it. */
export interface FrameOrder {
  readonly source: Source
  readonly frame: number
  readonly order: Order
}
/** A frame through its order, at a width. */
export interface Wanted extends FrameOrder {
  readonly width: number
}

/**
 * What the page asks of the picture worker: all that the canvas, the scope and the figures of the picture depend on.
 * The newest question wins; older ones are dropped unanswered.
 */
export interface PictureRequest extends Wanted {
  /** Number of baths after which the picture is looked at, or null for the whole line. */
  readonly tap: number | null
  readonly compare: Compare
  readonly scope: ScopeKind
  readonly scopeOf: ScopeOf
  /** Width and height of the scope, pixels. */
  readonly scopeSize: readonly [width: number, height: number]
  /** Code value at which the footage's own grey card lies, or null. */
  readonly greyCode: number | null
  /** A bath whose mask is shown instead of the picture, and how; null for none. */
  readonly mask: { readonly bath: string; readonly view: MaskView } | null
  /** A bath under whose mask readings are taken, or null for the whole picture. */
  readonly under: string | null
  /** A bath under whose mask the picture's own skin lies, or null. */
  readonly skin: string | null
  /** Who may draw; a resting picture is always the processor's. */
  readonly by: Painter
}

/**
 * A mask by itself, white on black; as a colour over the picture in grey; the picture where it lets through, in grey elsewhere; or
 * only its outline on the picture.
 */
export const MASK_VIEWS = ['white', 'over', 'within', 'outline'] as const
export type MaskView = (typeof MASK_VIEWS)[number]

/** `auto`: whichever is quicker on this machine. */
export type Painter = 'auto' | 'graphics' | 'processor'
/** `table`: one look-up in place of the line, see core's Drafts; only while something moves. */
export type Painted = Exclude<Painter, 'auto'> | 'table'

export type Compare =
  | { readonly mode: 'off' | 'footage' }
  | { readonly mode: 'wipe'; readonly at: number; readonly upright: boolean; readonly against: Against }
  | { readonly mode: 'pair'; readonly against: Against }
/** The other side of a comparison: the footage, another line, a kept still picture, or another shot. */
export type Against =
  | { readonly type: 'footage' }
  | { readonly type: 'line'; readonly line: Line }
  | { readonly type: 'still'; readonly key: string }
  | ({ readonly type: 'shot' } & FrameOrder)

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
  /** It was made of a small copy of the footage. */
  readonly proxy: boolean
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
  /** How many times as fast; below 0 backwards. */
  readonly speed: number
  readonly loop: boolean
}
