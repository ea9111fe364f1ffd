/**
 * What finished pictures can become: one table, from which the API's schema, the encoder, the join of parts, the queue, the
 * command line, the page's menus and the table in the README follow. A format is an entry here and a row in the test that
 * writes each of them and reads it back.
 */

/** How pictures are packed: a pixel format in ffmpeg's words, and what its encoder is told for it. */
export interface Packing {
  readonly pixelFormat: string
  readonly options: readonly string[]
}

interface Common {
  /** As menus and lists show it. */
  readonly label: string
  /** Endings of files that mean it, without the dot; the first is the one that is written. */
  readonly endings: readonly [string, ...string[]]
  /** Bits a channel of what is written; dithered to that where it is not float. */
  readonly bits: 10 | 16 | 32
  readonly float: boolean
  /** Encoder and its settings in ffmpeg's words. */
  readonly codec: readonly [string, ...string[]]
  /** The encoding id that it holds when none is asked for; null for that of display footage. */
  readonly encoding: 'linear' | null
  /** What it is good for, and what it cannot hold, a sentence each. */
  readonly takes: string
  readonly loses: string
}

/** Numbered pictures, a file each. */
interface StillFormat extends Common {
  readonly moving: false
  readonly packing: Packing
}

/** One file of all frames. */
interface ClipFormat extends Common {
  readonly moving: true
  /** ffmpeg's name of the container, and the media type (RFC 6838) it is sent as. */
  readonly container: string
  readonly type: string
  /** Y'CbCr in limited range with the matrix that its tags name, or R'G'B' in full range as it comes. */
  readonly colour: 'ycbcr' | 'rgb'
  /** Subsampled chroma needs even sides; a picture with an odd one keeps full chroma instead of losing a column. */
  readonly packing: { readonly even: Packing; readonly odd: Packing }
  /** What the container is told when it is written, and again when parts are joined. */
  readonly flags: readonly string[]
  /** What the sound of the footage becomes. */
  readonly sound: readonly string[]
}

export type DeliveryFormat = StillFormat | ClipFormat

const FIRST_THINGS_FIRST = ['-movflags', '+faststart+write_colr'] as const

export const DELIVERY_FORMATS = {
  mp4: {
    label: 'H.264, 10 bit',
    endings: ['mp4'],
    moving: true,
    bits: 10,
    float: false,
    encoding: null,
    container: 'mp4',
    type: 'video/mp4',
    colour: 'ycbcr',
    codec: ['libx264', '-preset', 'medium', '-crf', '12'],
    packing: {
      even: { pixelFormat: 'yuv420p10le', options: ['-profile:v', 'high10'] },
      odd: { pixelFormat: 'yuv444p10le', options: [] },
    },
    flags: FIRST_THINGS_FIRST,
    sound: ['aac', '-b:a', '256k'],
    takes: 'Small, for looking at and for approval.',
    loses: 'Chroma at half the size, a trace of the detail; no alpha.',
  },
  mov: {
    label: 'ProRes 422 HQ',
    endings: ['mov'],
    moving: true,
    bits: 10,
    float: false,
    encoding: null,
    container: 'mov',
    type: 'video/quicktime',
    colour: 'ycbcr',
    codec: ['prores_ks', '-vendor', 'apl0'],
    packing: {
      even: { pixelFormat: 'yuv422p10le', options: ['-profile:v', 'hq'] },
      odd: { pixelFormat: 'yuv444p10le', options: ['-profile:v', '4444'] },
    },
    flags: FIRST_THINGS_FIRST,
    sound: ['pcm_s24le'],
    takes: 'For the edit: every frame stands alone.',
    loses: 'Chroma at half the width; no alpha.',
  },
  mkv: {
    label: 'FFV1, 16 bit, lossless',
    endings: ['mkv'],
    moving: true,
    bits: 16,
    float: false,
    encoding: null,
    container: 'matroska',
    type: 'video/x-matroska',
    colour: 'rgb',
    codec: ['ffv1', '-level', '3', '-g', '1', '-slicecrc', '1'],
    packing: {
      even: { pixelFormat: 'gbrp16le', options: [] },
      odd: { pixelFormat: 'gbrp16le', options: [] },
    },
    flags: [],
    sound: ['pcm_s24le'],
    takes: 'For keeping: what was worked out, to the bit, each frame with a checksum.',
    loses: 'Nothing of 16 bits; no alpha.',
  },
  png: {
    label: 'PNG, 16 bit',
    endings: ['png'],
    moving: false,
    bits: 16,
    float: false,
    encoding: null,
    codec: ['png'],
    packing: { pixelFormat: 'rgb48be', options: [] },
    takes: 'Stills that every program opens.',
    loses: 'Nothing of 16 bits; no alpha.',
  },
  tif: {
    label: 'TIFF, 16 bit',
    endings: ['tif', 'tiff'],
    moving: false,
    bits: 16,
    float: false,
    encoding: null,
    codec: ['tiff'],
    packing: { pixelFormat: 'rgb48le', options: ['-compression_algo', 'lzw'] },
    takes: 'Stills for retouching and print.',
    loses: 'Nothing of 16 bits; no alpha.',
  },
  exr: {
    label: 'EXR, linear float',
    endings: ['exr'],
    moving: false,
    bits: 32,
    float: true,
    encoding: 'linear',
    codec: ['exr'],
    packing: { pixelFormat: 'gbrpf32le', options: ['-format', 'float', '-compression', 'zip16'] },
    takes: 'Scene and display light as numbers, for compositing.',
    loses: 'Nothing; no alpha.',
  },
} as const satisfies Readonly<Record<string, DeliveryFormat>>

export type DeliveryId = keyof typeof DELIVERY_FORMATS

export const DELIVERY_IDS = Object.keys(DELIVERY_FORMATS) as readonly DeliveryId[]

/** An entry of the table under its general type. */
export const deliveryFormat = (id: DeliveryId): DeliveryFormat => DELIVERY_FORMATS[id]

/** The format that a file's ending means, in any case of letters; undefined where it means none. */
export const deliveryByEnding = (ending: string): DeliveryId | undefined =>
  DELIVERY_IDS.find((id) => deliveryFormat(id).endings.includes(ending.toLowerCase()))

/** Endings that are written, with their dots, such as `.png .tif`. */
export const DELIVERY_ENDINGS: readonly string[] = DELIVERY_IDS.map((id) => `.${deliveryFormat(id).endings[0]}`)

/** The table as Markdown. */
export function deliveryTable(): string {
  const row = (id: DeliveryId): string => {
    const { label, endings, moving, takes, loses } = deliveryFormat(id)
    const written = endings.map((ending) => `\`.${ending}\``).join(', ')
    return `| ${written} | ${label} | ${moving ? 'one clip' : 'numbered stills'} | ${takes} | ${loses} |`
  }
  return [
    '| Ending | Format | Becomes | For | Loses |',
    '| --- | --- | --- | --- | --- |',
    ...DELIVERY_IDS.map(row),
  ].join('\n')
}
