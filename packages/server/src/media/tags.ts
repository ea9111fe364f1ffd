import { basename } from 'node:path'
import type { MediaInfo } from '@fogbath/contract'
import type { EncodingRef } from '@fogbath/core/encodings'
import { taggedEncoding, type Marked } from './marks'

/** What ffprobe says of a stream of pictures. */
export interface Stream {
  codec_name?: string
  width?: number
  height?: number
  pix_fmt?: string
  bits_per_raw_sample?: string
  color_space?: string
  color_range?: string
  chroma_location?: string
  color_transfer?: string
  color_primaries?: string
  r_frame_rate?: string
  avg_frame_rate?: string
  nb_frames?: string
  nb_read_packets?: string
  sample_aspect_ratio?: string
  field_order?: string
  side_data_list?: { rotation?: number }[]
  tags?: Tags
}
export interface Tags {
  timecode?: string
  major_brand?: string
}

export const STILL_CODECS = ['png', 'tiff', 'mjpeg', 'exr', 'dpx', 'bmp', 'webp', 'jpegxl', 'jpeg2000', 'ppm', 'pgm']

/** Frames per second as a fraction, as the file says; what it does not know it calls 0/0. */
export const frameRate = (s: Stream): string =>
  [s.avg_frame_rate, s.r_frame_rate].find((rate) => rate && !/^0\/|\/0$/.test(rate)) ?? '25/1'

/** Bits a value. @param said the bits that a decoder says are used of a larger word, or 0 */
export function bitsOf(pixelFormat: string, said: number): number {
  if (pixelFormat.includes('f32')) return 32
  if (pixelFormat.includes('f16')) return 16
  // Words of more than a byte have an order: the number before it is the bits of a value or of a pixel.
  const digits = /(?<!\d)(\d+)(?:le|be)$/.exec(pixelFormat)?.[1] ?? ''
  const bits = OF_A_PIXEL[digits] ?? Number(digits.slice(-2))
  if (bits === 16 || bits <= 8) return said > 8 && said < 16 ? said : Math.max(8, bits)
  return bits
}

/** Bits a value where the name tells those of a pixel. */
const OF_A_PIXEL: Record<string, number> = { '48': 16, '64': 16, '20': 10, '565': 6, '555': 5, '444': 4 }

type Guessed = Readonly<Record<string, string>>

/** Matrix and range, guessed by size and kind where the file does not say; with what they were guessed from. */
export function colourOf(
  stream: Stream,
  codec: string,
  height: number,
): Pick<MediaInfo, 'matrix' | 'range'> & { guessed: Guessed } {
  const format = stream.pix_fmt ?? ''
  const rgb = /rgb|bgr|gbr|gray|pal8|mono|ya/.test(format)
  const names: Record<string, string> = {
    bt709: '709',
    smpte170m: '170m',
    bt470bg: '470bg',
    bt2020nc: '2020_ncl',
    bt2020c: '2020_cl',
    fcc: 'fcc',
    // So it is written there.
    smpte240m: 'smpte2400m',
  }
  const jpeg = codec === 'mjpeg'
  const fallback = jpeg || height < 720 ? '470bg' : '709'
  const matrix = rgb ? 'gbr' : names[stream.color_space ?? '']
  const saidRange = stream.color_range === 'pc' || stream.color_range === 'tv' || format.startsWith('yuvj')
  return {
    matrix: matrix ?? fallback,
    range: rgb || stream.color_range === 'pc' || format.startsWith('yuvj') ? 'full' : 'limited',
    guessed: {
      ...(!matrix && { matrix: jpeg ? 'as JPEG has it' : `from its height of ${height} lines` }),
      ...(!rgb && !saidRange && { range: 'as video usually is' }),
    },
  }
}

/**
 * The encoding that a file says it has, or the likeliest one, with what that was guessed from.
 * @param marked what a still names in its own way, or a sentence why that cannot be read
 */
export function encodingSaid(
  stream: Stream,
  codec: string,
  label: string,
  { still, marked }: { readonly still: boolean; readonly marked: Marked | string | null },
): { encoding: EncodingRef; guessed: Guessed } {
  if (/acescct/i.test(basename(label))) return { encoding: 'acescct', guessed: { encoding: 'from its name' } }
  if (marked && typeof marked !== 'string') {
    const { encoding, guessed } = marked
    return { encoding, guessed: guessed ? { encoding: guessed } : {} }
  }
  const said = taggedEncoding(stream)
  if (codec === 'exr')
    return { encoding: 'linear', guessed: { encoding: 'because EXR holds light, in BT.709 colours' } }
  if (said) return { encoding: said, guessed: {} }
  const screen = (still || STILL_CODECS.includes(codec)) && codec !== 'dpx'
  return screen
    ? { encoding: 'srgb', guessed: { encoding: 'as still pictures usually are' } }
    : { encoding: 'bt1886', guessed: { encoding: 'as video usually is' } }
}

export function warningsFor(info: Pick<MediaInfo, 'bits' | 'kind' | 'codec'>, stream: Stream): string[] {
  const warnings: string[] = []
  if (info.bits <= 8) warnings.push('Only 8 bits deep: strong treatments will show banding.')
  if (stream.color_transfer === 'smpte2084' || stream.color_transfer === 'arib-std-b67')
    warnings.push(
      'High dynamic range: what is brighter than 203 cd/m² is drawn together below white, as the knee says.',
    )
  return warnings
}

/** What a stream says of the shape of its pixels and of its fields; nothing of what is usual. */
export function shapeOf({ sample_aspect_ratio, field_order = '' }: Stream): Pick<MediaInfo, 'pixels' | 'fields'> {
  const [across, down] = (sample_aspect_ratio ?? '1:1').split(':').map(Number)
  // The second letter says which field is shown first (ffmpeg, AVFieldOrder).
  const fields = /^[tb]t$/.test(field_order) ? 'top' : /^[tb]b$/.test(field_order) ? 'bottom' : undefined
  return {
    ...(across && down && across !== down && { pixels: `${across}:${down}` }),
    ...(fields && { fields }),
  }
}

/** A timecode as it is written here; nothing where there is none that can be read. */
export function timecodeSaid(text: string | undefined): Pick<MediaInfo, 'timecode'> {
  const [, whole, sign, frames] = /^(\d\d:\d\d:\d\d)([:;.])(\d\d)$/.exec(text ?? '') ?? []
  return whole && frames ? { timecode: `${whole}${sign === ':' ? ':' : ';'}${frames}` } : {}
}
