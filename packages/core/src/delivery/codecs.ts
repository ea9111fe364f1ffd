import type { ClipCodec, ClipFormat, Container, Packing, StillFormat } from './format'

const FIRST_THINGS_FIRST = ['-movflags', '+faststart+write_colr'] as const

export const CONTAINERS = {
  mp4: { ending: 'mp4', muxer: 'mp4', type: 'video/mp4', flags: FIRST_THINGS_FIRST, sound: ['aac', '-b:a', '256k'] },
  mov: { ending: 'mov', muxer: 'mov', type: 'video/quicktime', flags: FIRST_THINGS_FIRST, sound: ['pcm_s24le'] },
  mkv: { ending: 'mkv', muxer: 'matroska', type: 'video/x-matroska', flags: [], sound: ['pcm_s24le'] },
  mxf: { ending: 'mxf', muxer: 'mxf', type: 'application/mxf', flags: [], sound: ['pcm_s24le', '-ar', '48000'] },
} as const satisfies Readonly<Record<string, Container>>

const packed = (pixelFormat: string, ...options: string[]): Packing => ({ pixelFormat, options })
const ANY_SIZE = { width: 16, height: 16 }
const VIDEO = {
  float: false,
  encoding: null,
  colour: 'ycbcr',
  quality: null,
  alpha: null,
  compressed: false,
  least: ANY_SIZE,
} as const
const SMALL = 'Small, for looking at and for approval.'
const EVERY_FRAME = 'For the edit: every frame stands alone.'
const HALF_WIDTH = 'Chroma at half the width; no alpha.'
const HALF_SIZE = 'Chroma at half the size, a trace of the detail; no alpha.'
/** Constant rate factors: about where a difference is not seen, measured, and seen at once (common practice). */
const crf = (usual: number, least: number) => ({ option: '-crf', usual, best: 0, least })

const h264 = (bits: 8 | 10): ClipCodec => ({
  ...VIDEO,
  label: `H.264, ${bits} bit`,
  bits,
  codec: ['libx264', '-preset', 'medium'],
  packing: {
    even: bits === 10 ? packed('yuv420p10le', '-profile:v', 'high10') : packed('yuv420p', '-profile:v', 'high'),
    odd: packed(bits === 10 ? 'yuv444p10le' : 'yuv444p'),
  },
  quality: crf(12, 40),
  takes: bits === 10 ? SMALL : 'Plays everywhere, also where 10 bits do not.',
  loses: bits === 10 ? HALF_SIZE : `8 bit. ${HALF_SIZE}`,
  perPixel: 1.5,
})
const hevc = (bits: 8 | 10): ClipCodec => ({
  ...VIDEO,
  label: `HEVC, ${bits} bit`,
  bits,
  codec: ['libx265', '-preset', 'medium', '-tag:v', 'hvc1', '-x265-params', 'log-level=error'],
  packing: {
    even: bits === 10 ? packed('yuv420p10le') : packed('yuv420p'),
    odd: packed(bits === 10 ? 'yuv444p10le' : 'yuv444p'),
  },
  quality: crf(14, 40),
  takes: bits === 10 ? 'Smaller than H.264, and high range for screens that have it.' : 'Smaller than H.264.',
  loses: bits === 10 ? HALF_SIZE : `8 bit. ${HALF_SIZE}`,
  perPixel: 1,
})
const prores = (name: string, profile: string, perPixel: number): ClipCodec => ({
  ...VIDEO,
  label: `ProRes ${name}`,
  bits: 10,
  codec: ['prores_ks', '-vendor', 'apl0'],
  packing: {
    even: packed('yuv422p10le', '-profile:v', profile),
    odd: packed('yuv444p10le', '-profile:v', '4444'),
  },
  takes: EVERY_FRAME,
  loses: HALF_WIDTH,
  perPixel,
})
/** VC-3 (SMPTE ST 2019-1) in resolutions of its own; below that size there are none. */
const dnxhr = (name: string, profile: string, bits: 8 | 10, full: boolean, perPixel: number): ClipCodec => ({
  ...VIDEO,
  label: `DNxHR ${name}`,
  bits,
  codec: ['dnxhd', '-profile:v', `dnxhr_${profile}`],
  packing: { even: packed(full ? 'yuv444p10le' : bits === 10 ? 'yuv422p10le' : 'yuv422p'), odd: null },
  least: { width: 256, height: 120 },
  takes: EVERY_FRAME,
  loses: full ? 'A trace of the detail; no alpha.' : bits === 10 ? HALF_WIDTH : `8 bit. ${HALF_WIDTH}`,
  perPixel,
})

export const CODECS = {
  h264: h264(10),
  h264of8: h264(8),
  hevc: hevc(10),
  hevcOf8: hevc(8),
  proresLt: prores('422 LT', 'lt', 3.3),
  prores422: prores('422', 'standard', 4.6),
  proresHq: prores('422 HQ', 'hq', 7),
  prores4444: {
    ...prores('4444', '4444', 10),
    packing: {
      even: packed('yuv444p10le', '-profile:v', '4444'),
      odd: packed('yuv444p10le', '-profile:v', '4444'),
    },
    alpha: packed('yuva444p10le', '-profile:v', '4444', '-alpha_bits', '16'),
    takes: 'A master for the edit, with alpha where the footage has it.',
    loses: 'A trace of the detail.',
  },
  dnxhrSq: dnxhr('SQ', 'sq', 8, false, 4.6),
  dnxhrHq: dnxhr('HQ', 'hq', 8, false, 7),
  dnxhrHqx: dnxhr('HQX', 'hqx', 10, false, 7),
  dnxhr444: dnxhr('444', '444', 10, true, 14),
  ffv1: {
    ...VIDEO,
    label: 'FFV1, 16 bit, lossless',
    bits: 16,
    colour: 'rgb',
    codec: ['ffv1', '-level', '3', '-g', '1', '-slicecrc', '1'],
    packing: { even: packed('gbrp16le'), odd: packed('gbrp16le') },
    takes: 'For keeping: what was worked out, to the bit, each frame with a checksum.',
    loses: 'Nothing of 16 bits; no alpha.',
    perPixel: 36,
  },
  vp9: {
    ...VIDEO,
    label: 'VP9, 10 bit',
    bits: 10,
    codec: ['libvpx-vp9', '-b:v', '0', '-row-mt', '1', '-cpu-used', '3'],
    packing: { even: packed('yuv420p10le'), odd: packed('yuv444p10le') },
    quality: crf(15, 55),
    takes: 'For the web, without fees.',
    loses: HALF_SIZE,
    perPixel: 1,
  },
  av1: {
    ...VIDEO,
    label: 'AV1, 10 bit',
    bits: 10,
    codec: ['libsvtav1', '-preset', '8'],
    packing: { even: packed('yuv420p10le'), odd: null },
    least: { width: 64, height: 64 },
    quality: crf(18, 55),
    takes: 'The smallest, for the web, without fees.',
    loses: HALF_SIZE,
    perPixel: 0.6,
  },
} as const satisfies Readonly<Record<string, ClipCodec>>

/** A codec in a container. @param endings that mean it and no other */
export const clip = (codec: ClipCodec, container: Container, endings: readonly string[] = []): ClipFormat => ({
  ...codec,
  moving: true,
  container,
  endings,
  ending: container.ending,
})

type StillTexts = Pick<StillFormat, 'label' | 'takes' | 'loses' | 'perPixel'> &
  Partial<Pick<StillFormat, 'float' | 'encoding' | 'quality' | 'alpha' | 'compressed'>>

/** @param endings that mean it; where none does, the one it has */
export const still = (
  endings: readonly string[] | string,
  bits: StillFormat['bits'],
  codec: StillFormat['codec'],
  packing: Packing,
  texts: StillTexts,
): StillFormat => ({
  moving: false,
  float: false,
  encoding: null,
  quality: null,
  alpha: null,
  compressed: false,
  ...texts,
  endings: typeof endings === 'string' ? [] : endings,
  ending: typeof endings === 'string' ? endings : endings[0]!,
  bits,
  codec,
  packing,
})
export { packed }
