import { basename } from 'node:path'
import type { MediaInfo } from './probe'

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
  side_data_list?: { rotation?: number }[]
}

export const STILL_CODECS = ['png', 'tiff', 'mjpeg', 'exr', 'dpx', 'bmp', 'webp', 'jpegxl', 'jpeg2000', 'ppm', 'pgm']

/** Frames per second as a fraction, as the file says. */
export const frameRate = (s: Stream): string =>
  s.avg_frame_rate && !s.avg_frame_rate.startsWith('0/') ? s.avg_frame_rate : (s.r_frame_rate ?? '25/1')

/** Bits a value. @param said the bits that a decoder says are used of a larger word, or 0 */
export function bitsOf(pixelFormat: string, said: number): number {
  if (pixelFormat.includes('f32')) return 32
  if (pixelFormat.includes('f16')) return 16
  // Words of more than a byte have an order: the number before it is the bits of a value or of a pixel.
  const digits = /(\d+)(?:le|be)$/.exec(pixelFormat)?.[1] ?? ''
  const bits = OF_A_PIXEL[digits] ?? Number(digits.slice(-2))
  if (bits === 16 || bits <= 8) return said > 8 && said < 16 ? said : Math.max(8, bits)
  return bits
}

/** Bits a value where the name tells those of a pixel. */
const OF_A_PIXEL: Record<string, number> = { '48': 16, '64': 16, '20': 10, '565': 6, '555': 5, '444': 4 }

/** Matrix and range, guessed by size and kind where the file does not say. */
export function colourOf(stream: Stream, codec: string, height: number): Pick<MediaInfo, 'matrix' | 'range'> {
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
  return {
    matrix: rgb ? 'gbr' : (names[stream.color_space ?? ''] ?? fallback),
    range: rgb || stream.color_range === 'pc' || format.startsWith('yuvj') ? 'full' : 'limited',
  }
}

export function guessEncoding(stream: Stream, codec: string, label: string): string {
  if (/acescct/i.test(basename(label))) return 'acescct'
  if (codec === 'exr') return 'linear'
  if (stream.color_transfer === 'iec61966-2-1') return 'srgb'
  if (stream.color_primaries === 'bt2020' || stream.color_transfer?.startsWith('bt2020')) return 'bt2020'
  if (STILL_CODECS.includes(codec) && codec !== 'dpx') return 'srgb'
  return 'bt1886'
}

export function warningsFor(info: Pick<MediaInfo, 'bits' | 'kind' | 'codec'>, stream: Stream): string[] {
  const warnings: string[] = []
  if (info.bits <= 8) warnings.push('Only 8 bits deep: strong treatments will show banding.')
  if (stream.color_transfer === 'smpte2084' || stream.color_transfer === 'arib-std-b67')
    warnings.push('Tagged as high dynamic range; convert it to one of the listed encodings first.')
  if (info.kind === 'clip' && stream.r_frame_rate !== stream.avg_frame_rate && stream.avg_frame_rate !== '0/0')
    warnings.push('The frame rate may vary; frames are taken at the average rate.')
  return warnings
}
