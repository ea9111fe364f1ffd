import type { MediaInfo } from '@fogbath/contract'
import { framesASecond, secondsOf } from '@fogbath/core/numbers'

/** Where decoding begins: at a moment, with so many frames made first that are not given. */
export interface Start {
  /** Seconds; 0 from the beginning. */
  readonly at: number
  readonly lead: number
}

/** Seconds before a frame at which footage without a steady rate is taken up; a picture that is held longer is not found. */
const LEAD_SECONDS = 10

/**
 * Whatever looks at more than one frame begins early: fields are made whole with the frame before, and of footage without a
 * steady rate the picture that is still held must be known.
 */
export function startOf(info: MediaInfo, first: number): Start {
  if (first === 0 || info.frames === 1) return { at: 0, lead: 0 }
  if (info.varies !== undefined) {
    const lead = Math.min(first, Math.ceil(LEAD_SECONDS * framesASecond(info.fps)))
    return { at: secondsOf(first - lead, info.fps), lead }
  }
  const lead = info.reading?.fields ? 1 : 0
  // Half a frame early, so that rounding never lands on the next one.
  return { at: Math.max(0, secondsOf(first - lead - 0.5, info.fps)), lead }
}

export const seekArgs = ({ at }: Start): string[] => (at > 0 ? ['-ss', at.toFixed(6)] : [])

/** What ffmpeg does to the frames on their way to planes of R'G'B' of a size. */
export function filters(info: MediaInfo, size: { width: number; height: number }, { lead }: Start): string {
  const { fields } = info.reading ?? {}
  return [
    ...(fields ? [`bwdif=mode=send_frame:parity=${fields === 'top' ? 'tff' : 'bff'}:deint=all`] : []),
    ...(info.varies === undefined ? [] : [`fps=fps=${info.fps}:start_time=0:round=near,tpad=stop_mode=clone:stop=2`]),
    ...(lead > 0 ? [`select=gte(n\\,${lead})`] : []),
    colours(info, size),
  ].join(',')
}

function colours(info: MediaInfo, { width, height }: { width: number; height: number }): string {
  const stored = info.stored ?? info
  const scaled = width !== stored.width || height !== stored.height
  const size = scaled ? `w=${width}:h=${height}:filter=spline36:` : ''
  if (info.float) {
    const planes = floatPlanes(info)
    return scaled ? `${planes},zscale=${size}matrixin=gbr:matrix=gbr:rangein=full:range=full` : planes
  }
  const made = `matrix=gbr:range=full:dither=none,format=gbrp16le`
  if (info.matrix === 'gbr')
    return `${wholePlanes(info)},zscale=${size}matrixin=gbr:rangein=full:${made}${fromVideoRange(info)}`
  const first = fullChroma(info, stored) || (scaled ? deeper(info) : '')
  const siting = info.reading?.chromaAt ? `chromalin=${info.reading.chromaAt}:` : ''
  return `${first}zscale=${size}${siting}matrixin=${info.matrix}:rangein=${info.range}:${made}`
}

/** Three planes of whole numbers; where only the lowest bits of words of 16 are used, those become all of the range. */
function wholePlanes({ bits, reading }: MediaInfo): string {
  if (reading?.bits) return `format=gbrp16le,${stretched(0, (2 ** reading.bits - 1) / 65535)}`
  return `format=${bits <= 8 ? 'gbrp' : bits === 10 || bits === 12 ? `gbrp${bits}le` : 'gbrp16le'}`
}

/** R'G'B' whose black is at 16 and white at 235 of 255, made whole; zimg takes red, green and blue as whole in any case. */
function fromVideoRange({ range, bits }: MediaInfo): string {
  if (range === 'full') return ''
  const step = 2 ** (bits - 8) / (2 ** bits - 1)
  return `,${stretched(16 * step, 235 * step)}`
}

/** Each channel from these values, 0..1, to black and white. A table (lutrgb) would end at 255 of 256 parts. */
const stretched = (black: number, white: number): string =>
  `colorlevels=${['r', 'g', 'b'].map((c) => `${c}imin=${black}:${c}imax=${white}`).join(':')}`

/**
 * Three planes of floats. Those of grey, or with alpha, are picked out as they are: a conversion of formats would cut off what is
 * brighter than 1, and weight grey as luma.
 */
function floatPlanes({ pixelFormat }: MediaInfo): string {
  if (pixelFormat.startsWith('gbrap')) return 'format=gbrapf32le,mergeplanes=0x000102:gbrpf32le'
  if (pixelFormat.startsWith('gray')) return 'format=grayf32le,mergeplanes=0x000000:gbrpf32le'
  return 'format=gbrpf32le'
}

/** zimg takes subsampled chroma only with even sides; pictures with an odd one are brought to 4:4:4 first. */
function fullChroma({ pixelFormat, range }: MediaInfo, { width, height }: { width: number; height: number }): string {
  const subsampled = /4(?:20|22|11|10|40)|^nv|^p[0-2]1/.test(pixelFormat)
  if (!subsampled || (width % 2 === 0 && height % 2 === 0)) return ''
  return `scale=flags=bicubic+accurate_rnd+full_chroma_inp:in_range=${range}:out_range=${range},format=yuv444p16le,`
}

/** Scaling rounds to the depth of what it is given, so that is made deeper first; in limited range that is a mere shift. */
function deeper({ pixelFormat, range }: MediaInfo): string {
  const chroma = /^yuv(420|422|444)p(?:9|1[024])?(?:le|be)?$/.exec(pixelFormat)?.[1]
  return chroma && range === 'limited' ? `format=yuv${chroma}p16le,` : ''
}
