import Fraction from 'fraction.js'
import Type, { type Static } from 'typebox'
import { FogBathError } from '../errors'
import { framesASecond } from '../numbers/frame-rate'

const oneOf = <T extends string>(...values: readonly T[]) => Type.Unsafe<T>({ type: 'string', enum: [...values] })
const ratio = (description: string) => Type.String({ pattern: '^[1-9][0-9]{0,4}:[1-9][0-9]{0,4}$', description })

/** Y'CbCr matrices that can be chosen, in zscale's words; ITU-R BT.709, BT.601 (both line systems have one) and BT.2020. */
export const MATRICES = { '709': 'BT.709', '470bg': 'BT.601', '2020_ncl': 'BT.2020' } as const
/** Where chroma samples can lie against luma, in ffmpeg's words. */
export const SITINGS = { left: 'left', center: 'centre', topleft: 'top left' } as const
/** Widest picture of a proxy, pixels; wider ones are looked at in the footage itself. */
export const PROXY_WIDTH = 1280
/** Which field of a frame is the older one. */
export const FIELDS = { top: 'upper', bottom: 'lower' } as const
/** Frames a second that footage of no steady rate is conformed to, and that numbered stills are shown at. */
export const RATES = ['24000/1001', '24/1', '25/1', '30000/1001', '30/1', '48/1', '50/1', '60000/1001', '60/1'] as const

/** How footage is read where that is not left to what its file says. */
export const ReadingSchema = Type.Object(
  {
    matrix: Type.Optional(oneOf(...(Object.keys(MATRICES) as (keyof typeof MATRICES)[]))),
    range: Type.Optional(oneOf('limited', 'full')),
    chromaAt: Type.Optional(oneOf(...(Object.keys(SITINGS) as (keyof typeof SITINGS)[]))),
    bits: Type.Optional(
      Type.Integer({ minimum: 8, maximum: 15, description: 'Bits that are used of words of 16, the lowest ones.' }),
    ),
    fields: Type.Optional(
      Type.Unsafe<keyof typeof FIELDS>({
        type: 'string',
        enum: Object.keys(FIELDS),
        description: 'Two fields a frame become one picture; the older one is named.',
      }),
    ),
    pixels: Type.Optional(ratio('Width to height of a pixel, which becomes square by scaling.')),
    fps: Type.Optional(oneOf(...RATES)),
  },
  { additionalProperties: false },
)
export type Reading = Static<typeof ReadingSchema>

/** What probing says of footage, as far as readings go. */
export interface Probed {
  readonly kind: 'clip' | 'still' | 'sequence'
  readonly width: number
  readonly height: number
  readonly frames: number
  readonly fps: string
  readonly bits: number
  readonly float: boolean
  readonly matrix: string
  readonly range: 'limited' | 'full'
  readonly chromaAt?: string
  readonly reach?: { readonly low: number; readonly high: number; readonly middle?: number }
  /** Seconds of a clip whose rate is not steady. */
  readonly varies?: number
  /** Sides of its file, where those of the picture are others. */
  readonly stored?: { readonly width: number; readonly height: number }
  /** How it is read, beside what the file says. */
  readonly reading?: Reading
}

/**
 * What is known of footage once it is read in a way of one's own: its size, length, rate, matrix, range.
 * @throws FogBathError naming what does not apply to this footage
 */
export function readAs<T extends Probed>(info: T, reading: Reading): T {
  if (Object.keys(reading).length === 0) return info
  checkReading(info, reading)
  const { matrix, range, chromaAt, bits, fps, pixels } = reading
  const as: T = {
    ...info,
    ...(matrix && { matrix }),
    ...(range && { range }),
    ...(chromaAt && { chromaAt }),
    ...(bits && { bits }),
    ...(fps && { fps }),
    ...(pixels && squared(info, pixels)),
    reading,
  }
  const frames = info.varies !== undefined && fps ? conformed(info.varies, fps) : info.frames
  const reach = range && range !== info.range && info.reach ? moved(info.reach, range) : info.reach
  return { ...as, frames, ...(reach && { reach }) }
}

/** Frames that so many seconds have at a rate. */
export const conformed = (seconds: number, fps: string): number =>
  Math.max(1, new Fraction(seconds).mul(fps).round().valueOf())

/** The rate of the list that lies nearest to so many frames a second. */
export const nearestRate = (wanted: number): (typeof RATES)[number] => {
  const apart = (rate: string): number => Math.abs(Math.log(framesASecond(rate) / wanted))
  return RATES.reduce((best, rate) => (apart(rate) < apart(best) ? rate : best))
}

function checkReading(info: Probed, { matrix, chromaAt, bits, fps, fields }: Reading): void {
  const refuse = (setting: string, rule: string): never => {
    throw new FogBathError('range', setting, `This footage cannot be read with ${setting}: ${rule}.`)
  }
  if (info.matrix === 'gbr' && matrix) refuse('another matrix', 'it holds red, green and blue, and no matrix')
  if (info.matrix === 'gbr' && chromaAt) refuse('another siting', 'it holds red, green and blue at every pixel')
  if (bits && (info.float || info.matrix !== 'gbr' || info.bits <= bits))
    refuse(`${bits} bits`, 'only red, green and blue in words of more bits may use fewer of them')
  if (fps && info.varies === undefined && info.kind !== 'sequence')
    refuse(`${fps} frames a second`, 'only a clip whose rate is not steady, or numbered stills, can have another one')
  if (fields && info.kind !== 'clip') refuse('fields', 'only a clip has them')
}

/** A side grows, so that nothing is lost; even, as formats for delivery want it. */
function squared({ width, height }: Probed, pixels: string): Pick<Probed, 'width' | 'height' | 'stored'> {
  const [across, down] = pixels.split(':').map(Number) as [number, number]
  if (across === down) return { width, height }
  const grown = (side: number, by: number): number => 2 * Math.round((side * by) / 2)
  const stored = { width, height }
  return across > down
    ? { width: grown(width, across / down), height, stored }
    : { width, height: grown(height, down / across), stored }
}

/** Codes of one range read as the other: video range has black at 16 and white at 235 of 255 (ITU-R BT.709). */
function moved({ low, high, middle }: NonNullable<Probed['reach']>, to: 'limited' | 'full'): Probed['reach'] {
  const at = (code: number): number => (to === 'limited' ? (255 * code - 16) / 219 : (16 + 219 * code) / 255)
  const held = (code: number): number => Math.min(1, Math.max(0, at(code)))
  return { low: held(low), high: held(high), ...(middle !== undefined && { middle: held(middle) }) }
}

/** Sentences on what is unusual in footage as it is read now. */
export function remarksOf(
  info: Probed & {
    readonly warnings: readonly string[]
    readonly pixels?: string
    readonly fields?: keyof typeof FIELDS
  },
): string[] {
  const { pixels, fields, varies, fps, reading = {} } = info
  const rate = Number(framesASecond(fps).toFixed(3))
  return [
    ...info.warnings,
    ...(pixels && !reading.pixels ? [`Its pixels are ${pixels}, and are worked on as if they were square.`] : []),
    ...(fields && !reading.fields ? ['Interlaced: each frame is worked on with both of its fields as they are.'] : []),
    ...(varies === undefined
      ? []
      : [`Its rate is not steady: it is conformed to ${rate} frames a second, some are shown twice or left out.`]),
  ]
}

/** A reading as a short word for addresses and names of folders; empty where nothing is set. */
export const keyOfReading = (reading: Reading | undefined): string =>
  Object.entries(reading ?? {})
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, value]) => `${name}-${String(value).replace(/[/:]/, 'x')}`)
    .join('.')
