import { encodingOf, type EncodingRef } from '@fogbath/core/encodings'
import { deliveryFormat, chosenArgs, type ClipFormat, type Delivery, type Packing } from '@fogbath/core/delivery'
import { Fault } from '../errors'
import { burnInFilter, slateFilter, type BurnIn, type Slate } from './burn-in'

/** What frames are written as. */
export interface Shape {
  readonly delivery: Delivery
  /** Of the frames as they come, pixels. */
  readonly width: number
  readonly height: number
  /** Encoding of the code values. */
  readonly encoding: EncodingRef
  /** A fourth channel comes along. */
  readonly alpha?: boolean
  /** What is written into the picture. */
  readonly burnIn?: BurnIn | null
  /** What stands on a black frame before the others. */
  readonly slate?: Slate | null
}

interface Size {
  readonly width: number
  readonly height: number
}
const even = (v: number): number => Math.max(2, 2 * Math.round(v / 2))

/** Size of the written picture. @throws Fault where its format has none so small or odd */
export function writtenSize({ delivery, width, height }: Shape): Size {
  const { width: across, height: down } = delivery.size ?? { width, height }
  const size = { width: across, height: down }
  const format = deliveryFormat(delivery.format)
  if (!format.moving) return size
  const { least, packing, label } = format
  if (size.width < least.width || size.height < least.height)
    throw new Fault(
      'invalid',
      `${label} takes pictures from ${least.width}x${least.height} on; this one is ${size.width}x${size.height}.`,
    )
  if (!packing.odd && (size.width % 2 === 1 || size.height % 2 === 1))
    throw new Fault('invalid', `${label} takes even sides; this picture is ${size.width}x${size.height}.`)
  return size
}

/** Pixels as they come to ffmpeg: interleaved whole numbers, or planes of floats. */
export const rawFormat = ({ delivery, alpha }: Pick<Shape, 'delivery' | 'alpha'>): string =>
  deliveryFormat(delivery.format).float ? (alpha ? 'gbrapf32le' : 'gbrpf32le') : alpha ? 'rgba64le' : 'rgb48le'

/** What is done to frames on their way to the encoder: another size (Lanczos), words, and the matrix that the tags name. */
export function pictureFilters(shape: Shape): string[] {
  const { delivery, alpha, burnIn, slate } = shape
  const format = deliveryFormat(delivery.format)
  const packing = packingOf(shape)
  const work = format.float ? rawFormat(shape) : alpha ? 'gbrap16le' : 'gbrp16le'
  const sized = sizeFilters(shape, work)
  const size = writtenSize(shape)
  const words = [
    ...(slate ? slateFilter(slate, size) : []),
    ...(burnIn ? burnInFilter(burnIn, size, Boolean(slate)) : []),
  ]
  // JPEG is Y'CbCr by BT.601 in full range, whatever it shows (ITU-T T.871).
  const jpeg = packing.pixelFormat.startsWith('yuvj')
  if (jpeg) return [...sized, ...words, zscaled('matrix=470bg:range=full'), 'format=yuv444p']
  if (format.bits >= 16) return [...sized, ...words]
  const whole = [...sized, ...words, `format=${work}`, ...(alpha ? [alphaOf(format.bits)] : [])]
  if (!format.moving) return [...whole, ZSCALE, `format=${PLANES[packing.pixelFormat] ?? packing.pixelFormat}`]
  const { matrix } = marksOf(shape.encoding)
  return [...whole, zscaled(`matrix=${matrix}:range=limited`), `format=${packing.pixelFormat}`]
}

/** Rounds to the nearest code; what ffmpeg does by itself shifts bits, which takes white for one code more than it is. */
const ZSCALE = 'zscale=dither=none'
const zscaled = (to: string): string => `${ZSCALE}:matrixin=gbr:rangein=full:${to}`
/** Alpha is shifted by zscale too (tried): made less before by as much as its most lies under a power of two. */
const alphaOf = (bits: number): string => `colorlevels=aomax=${((2 ** bits - 1) * 2 ** (16 - bits)) / 65535}`
/** The same bits in planes, which is what zscale knows; packing them is no conversion. */
const PLANES: Readonly<Record<string, string>> = { rgb24: 'gbrp', rgba: 'gbrap' }

function sizeFilters(shape: Shape, work: string): string[] {
  const { width, height, delivery } = shape
  const to = writtenSize(shape)
  if (to.width === width && to.height === height) return []
  const zscale = ({ width: w, height: h }: Size): string => `format=${work},zscale=w=${w}:h=${h}:filter=lanczos`
  const fit = delivery.size?.fit ?? 'stretch'
  if (fit === 'stretch') return [zscale(to)]
  const [across, down] = [to.width / width, to.height / height]
  const scale = fit === 'whole' ? Math.min(across, down) : Math.max(across, down)
  const made = { width: even(width * scale), height: even(height * scale) }
  const [w, h] = [Math.min(made.width, to.width), Math.min(made.height, to.height)]
  const [x, y] = [Math.abs(to.width - made.width) >> 1, Math.abs(to.height - made.height) >> 1]
  if (fit === 'whole') return [zscale({ width: w, height: h }), `pad=${to.width}:${to.height}:${x}:${y}`]
  return [
    zscale({ width: Math.max(made.width, to.width), height: Math.max(made.height, to.height) }),
    `crop=${to.width}:${to.height}`,
  ]
}

function packingOf(shape: Shape): Packing {
  const format = deliveryFormat(shape.delivery.format)
  if (shape.alpha && format.alpha) return format.alpha
  if (!format.moving) return format.packing
  const { width, height } = writtenSize(shape)
  return (width % 2 === 1 || height % 2 === 1 ? format.packing.odd : null) ?? format.packing.even
}

/** Marks of an encoding (ITU-T H.273 in ffmpeg's words), and the matrix that goes with its primaries. */
function marksOf(encoding: EncodingRef) {
  const { primaries, transfer } = encodingOf(encoding).tags ?? { primaries: 'bt709', transfer: 'bt709' }
  const wide = primaries === 'bt2020'
  return { primaries, transfer, matrix: wide ? '2020_ncl' : '709', space: wide ? 'bt2020nc' : 'bt709' }
}

/** The encoder, what it packs, and how its pictures are marked. */
export function encoderArgs(shape: Shape): string[] {
  const format = deliveryFormat(shape.delivery.format)
  const { pixelFormat, options } = packingOf(shape)
  const packed = ['-c:v', ...format.codec, ...chosenArgs(shape.delivery), '-pix_fmt', pixelFormat, ...options]
  if (!format.moving) return packed
  const { primaries, transfer, space } = marksOf(shape.encoding)
  const colour =
    format.colour === 'ycbcr'
      ? ['-colorspace', space, '-color_range', 'tv']
      : ['-colorspace', 'rgb', '-color_range', 'pc']
  return [
    ...colour,
    '-color_primaries',
    primaries,
    '-color_trc',
    transfer,
    ...packed,
    ...masteringArgs(format, transfer),
  ]
}

/** A screen of P3 colours with 1000 cd/m2, as pictures of high range are made on (SMPTE ST 2086; common practice). */
const MASTERED = 'master-display=G(13250,34500)B(7500,3000)R(34000,16000)WP(15635,16450)L(10000000,1)'
function masteringArgs({ codec }: ClipFormat, transfer: string): string[] {
  if (codec[0] !== 'libx265' || transfer !== 'smpte2084') return []
  return ['-x265-params', `log-level=error:hdr10=1:repeat-headers=1:${MASTERED}`]
}
