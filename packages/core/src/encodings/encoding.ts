import type { Matrix3, Triple } from '../colour/matrix'
import { three } from '../colour/matrix'
import { BT709, rgbToRgb, type Primaries } from '../colour/spaces'
import type { Transfer } from '../colour/transfer'
import { FogBathError } from '../errors'
import { plainStages } from '../stages/plain'
import { cacheKey, evenCurves, mix, type Axis, type PointFunction, type PointStage, type Tone } from '../stages/stage'

/** What a file's numbers mean. */
export interface Encoding {
  readonly id: string
  readonly label: string
  readonly help: string
  /** `display`: already made for a screen, so it is unprinted first. `scene`: proportional to the light before the lens. */
  readonly refers: 'display' | 'scene'
  /** Whether the numbers are light themselves, without an upper end, or codes that mean something from about 0 to 1. */
  readonly numbers: 'light' | 'codes'
  /** From the numbers to linear BT.709 light: display white, or a scene's perfect white, at 1. Mid grey is 0.18. */
  readonly decode: readonly PointStage[]
  /** And back; null where there is no way back. */
  readonly encode: readonly PointStage[] | null
  /** How files are marked that hold it: ITU-T H.273 in ffmpeg's words. Left out where the standard has no mark. */
  readonly tags?: Tags
}

interface Tags {
  readonly primaries: 'bt709' | 'bt2020' | 'smpte432'
  readonly transfer: 'bt709' | 'iec61966-2-1' | 'bt2020-10' | 'smpte2084' | 'arib-std-b67'
}

/** Codes of footage; those of log curves reach a little below 0 and above 1. */
export const CODES: Axis = { nodes: 'even', from: -0.5, to: 1.5, steps: 32768 }
/** Light, down to a thousandth of an 8-bit code and up to that of a half float. */
export const LIGHT: Axis = { nodes: 'octaves', from: -40, to: 16 }

/** The stage that a curve of codes makes, each channel by itself. @param id of the encoding, of which the curve is a part */
export const decoding = (id: string, f: Transfer['decode']): PointStage =>
  evenCurves({ key: cacheKey('decode', id), axis: CODES, f })
export const encoding = (id: string, f: Transfer['encode']): PointStage =>
  evenCurves({ key: cacheKey('encode', id), axis: LIGHT, f })

/** Stages of a change of primaries; none where they are those of BT.709. */
export const toBt709 = (from: Primaries): PointStage[] => mixUnlessSame(from, rgbToRgb(from, BT709))
export const fromBt709 = (to: Primaries): PointStage[] => mixUnlessSame(to, rgbToRgb(BT709, to))
const mixUnlessSame = (own: Primaries, matrix: Matrix3): PointStage[] => (own === BT709 ? [] : [mix(matrix)])

type Texts = Omit<Encoding, 'numbers' | 'decode' | 'encode'>

/** One curve for all channels and primaries: what most encodings are. @param transfer null where the numbers are light */
export function simpleEncoding(texts: Texts, transfer: Transfer | null, primaries: Primaries): Encoding {
  const { id } = texts
  const curve = (stage: (t: Transfer) => PointStage): PointStage[] => (transfer ? [stage(transfer)] : [])
  return {
    ...texts,
    numbers: transfer ? 'codes' : 'light',
    decode: [...curve((t) => decoding(id, t.decode)), ...toBt709(primaries)],
    encode: [...fromBt709(primaries), ...curve((t) => encoding(id, t.encode))],
  }
}

/** Whether its codes are those of a screen: BT.709 colours, no more range. */
export const isOfScreens = ({ refers, decode }: Encoding): boolean =>
  refers === 'display' && decode.length === 1 && oneCurve(decode[0]) !== null

/** The function of a stage that is one for all channels alike; null for any other. */
export function oneCurve(stage: PointStage | undefined): Tone | null {
  if (stage?.at !== 'curves') return null
  const [red, green, blue] = stage.tones
  return red === green && green === blue ? red : null
}

/** Numbers of an encoding to linear BT.709 light, one colour at a time: the plain form. */
export const lightOf = ({ decode }: Encoding): PointFunction => plainStages(decode)

/** Linear BT.709 light to numbers of an encoding, one colour at a time. Throws where there is no way back. */
export const numbersOf = (e: Encoding): PointFunction => plainStages(wayBack(e))

/** The number that a grey of some light has. */
export function greyNumber(e: Encoding, light: number): number {
  const out = three()
  numbersOf(e)(light, light, light, out)
  return out[1]
}

/** Stages from linear BT.709 light to the numbers. Throws naming the encoding where there is no way back. */
export function wayBack({ label, encode }: Encoding): readonly PointStage[] {
  if (encode) return encode
  throw new FogBathError(
    'encoding',
    'encoding',
    `'${label}' can be read and not written: nothing says how light becomes its numbers.`,
  )
}

/** A colour as light: {@link lightOf} for a triple. */
export function lightOfColour(e: Encoding, numbers: Triple): Triple {
  const out = three()
  lightOf(e)(...numbers, out)
  return [out[0], out[1], out[2]]
}
