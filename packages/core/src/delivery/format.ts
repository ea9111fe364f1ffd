/** How pictures are packed: a pixel format in ffmpeg's words, and what its encoder is told for it. */
export interface Packing {
  readonly pixelFormat: string
  readonly options: readonly string[]
}

/** A setting of an encoder by which it gives up detail for size. */
interface Quality {
  readonly option: string
  /** The value when none is asked for, at the best and at the least quality that is of use. */
  readonly usual: number
  readonly best: number
  readonly least: number
}

/** What pictures are encoded by, whatever they are kept in. */
interface Common {
  /** As menus and lists show it. */
  readonly label: string
  /** Bits a channel of what is written; dithered to that where it is not float. */
  readonly bits: 8 | 10 | 12 | 16 | 32
  readonly float: boolean
  /** Encoder and its settings in ffmpeg's words. */
  readonly codec: readonly [string, ...string[]]
  /** The encoding id that it holds when none is asked for; null for that of display footage. */
  readonly encoding: 'linear' | null
  /** What it is good for, and what it cannot hold, a sentence each. */
  readonly takes: string
  readonly loses: string
  /** Null where it loses no more than bits. */
  readonly quality: Quality | null
  /** Whether how it is packed can be chosen. */
  readonly compressed: boolean
  /** How alpha goes along; null where it cannot. */
  readonly alpha: Packing | null
  /** Bits a pixel of an ordinary picture, for an estimate of its size (measured on the demo's frames). */
  readonly perPixel: number
}

/** An encoder of clips. */
export interface ClipCodec extends Common {
  /** Y'CbCr in limited range with the matrix that its tags name, or R'G'B' in full range as it comes. */
  readonly colour: 'ycbcr' | 'rgb'
  /** Subsampled chroma needs even sides; a picture with an odd one keeps full chroma instead of losing a column. Null: it is refused. */
  readonly packing: { readonly even: Packing; readonly odd: Packing | null }
  /** Smallest sides that it takes, pixels. */
  readonly least: { readonly width: number; readonly height: number }
}

/** Where clips are kept. */
export interface Container {
  readonly ending: string
  /** ffmpeg's name, and the media type (RFC 6838) it is sent as. */
  readonly muxer: string
  readonly type: string
  /** What it is told when it is written, and again when parts are joined. */
  readonly flags: readonly string[]
  /** What the sound of the footage becomes. */
  readonly sound: readonly string[]
}

/** Numbered pictures, a file each. */
export interface StillFormat extends Common {
  readonly moving: false
  /** Endings of files that mean it, without the dot; the first is the one that is written. Empty where another is meant by it. */
  readonly endings: readonly string[]
  readonly ending: string
  readonly packing: Packing
}

/** One file of all frames. */
export interface ClipFormat extends ClipCodec {
  readonly moving: true
  readonly endings: readonly string[]
  readonly ending: string
  readonly container: Container
}

export type DeliveryFormat = StillFormat | ClipFormat
