import { ciede2000 } from '../colour/difference'
import type { Encoding } from '../colour/encodings'
import { bt709ToLab } from '../colour/lab'
import { transform, type Triple } from '../colour/matrix'
import { BT1886, LINEAR } from '../colour/transfer'
import { seededRandom } from '../numbers/random'
import type { PointFunction } from '../stages/stage'

/** How far a file is from the line itself, CIEDE2000. */
export interface LookError {
  readonly mean: number
  /** 99th percentile. */
  readonly most: number
  readonly worst: number
}

const WIDE = 4000

/** Colours all over what an encoding can say: its cube, greys, and saturated edges. Light up to four stops above mid grey. */
export function wideColours({ transfer, refers }: Encoding): Triple[] {
  const random = seededRandom(1_412)
  const brightest = refers === 'scene' ? transfer.encode(0.18 * 16) : 1
  const darkest = transfer.encode(0)
  const codes = Array.from({ length: WIDE }, (_, i): Triple => {
    if (i % 8 === 0) {
      const grey = random()
      return [grey, grey, grey]
    }
    return [random(), random(), random()]
  })
  // Scene-linear numbers are spread as the eye would: most of them dark.
  const spread = (v: number): number => (transfer === LINEAR ? v ** 2.4 : v)
  return codes.map((c) => c.map((v) => darkest + (brightest - darkest) * spread(v)) as unknown as Triple)
}

/**
 * The error of one way to code values against another. What is meant for a screen is cut off at black and white, as it is there.
 * @param gives the encoding of what both give
 */
export function lookError(
  file: PointFunction,
  line: PointFunction,
  { transfer, toBt709, refers }: Encoding,
  colours: readonly Triple[],
): LookError {
  const out = new Float64Array(3)
  const seen = (f: PointFunction, c: Triple) => {
    f(...c, out)
    if (refers === 'display') for (let k = 0; k < 3; k++) out[k] = Math.min(1, Math.max(0, out[k]!))
    const light = transform(toBt709, [transfer.decode(out[0]!), transfer.decode(out[1]!), transfer.decode(out[2]!)])
    return bt709ToLab(light)
  }
  const all = colours.map((c) => ciede2000(seen(file, c), seen(line, c))).sort((a, b) => a - b)
  return {
    mean: all.reduce((sum, v) => sum + v, 0) / all.length,
    most: all[Math.floor(0.99 * (all.length - 1))]!,
    worst: all.at(-1)!,
  }
}

const MOST = 4000

/** Colours of a picture as a line takes it, as numbers of an encoding that refers to the same; every so many pixels one. */
export function coloursOfPicture(pixels: Float32Array, n: number, { transfer, fromBt709, refers }: Encoding): Triple[] {
  const every = Math.max(1, Math.floor(n / MOST))
  const meant = refers === 'display' ? BT1886.decode : LINEAR.decode
  return Array.from({ length: Math.floor(n / every) }, (_, i) => {
    const at = 4 * i * every
    const light = transform(fromBt709, [meant(pixels[at]!), meant(pixels[at + 1]!), meant(pixels[at + 2]!)])
    return light.map(transfer.encode) as unknown as Triple
  })
}

export const tellError = ({ mean, most, worst }: LookError): string =>
  `mean ${mean.toFixed(2)}, 99th percentile ${most.toFixed(2)}, worst ${worst.toFixed(2)}`
