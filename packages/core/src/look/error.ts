import { ciede2000 } from '../colour/difference'
import { greyNumber, lightOf, numbersOf, type Encoding } from '../encodings'
import { bt709ToLab } from '../colour/lab'
import { triple, type Triple, three } from '../colour/matrix'
import { BT1886 } from '../colour/transfer'
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
export function wideColours(e: Encoding): Triple[] {
  const random = seededRandom(1_412)
  // Where nothing says which number some light has, all of them count.
  const brightest = e.refers === 'scene' && e.encode ? greyNumber(e, 0.18 * 16) : 1
  const darkest = e.encode ? greyNumber(e, 0) : 0
  const codes = Array.from({ length: WIDE }, (_, i): Triple => {
    if (i % 8 === 0) {
      const grey = random()
      return [grey, grey, grey]
    }
    return [random(), random(), random()]
  })
  // Scene-linear numbers are spread as the eye would: most of them dark.
  const spread = (v: number): number => (e.numbers === 'light' ? v ** 2.4 : v)
  return codes.map((c) => triple(c.map((v) => darkest + (brightest - darkest) * spread(v))))
}

/**
 * The error of one way to code values against another. What is meant for a screen is cut off at black and white, as it is there.
 * @param gives the encoding of what both give
 */
export function lookError(
  file: PointFunction,
  line: PointFunction,
  gives: Encoding,
  colours: readonly Triple[],
): LookError {
  const out = three()
  const lightOut = lightOf(gives)
  const seen = (f: PointFunction, c: Triple) => {
    f(...c, out)
    if (gives.refers === 'display') for (let k = 0; k < 3; k++) out[k] = Math.min(1, Math.max(0, out[k]!))
    lightOut(out[0], out[1], out[2], out)
    return bt709ToLab([out[0], out[1], out[2]])
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
export function coloursOfPicture(pixels: Float32Array, n: number, takes: Encoding): Triple[] {
  const every = Math.max(1, Math.floor(n / MOST))
  const meant = (v: number): number => (takes.refers === 'display' ? BT1886.decode(v) : v)
  const numbers = numbersOf(takes)
  const out = three()
  return Array.from({ length: Math.floor(n / every) }, (_, i) => {
    const at = 4 * i * every
    numbers(meant(pixels[at]!), meant(pixels[at + 1]!), meant(pixels[at + 2]!), out)
    return [out[0], out[1], out[2]]
  })
}

export const tellError = ({ mean, most, worst }: LookError): string =>
  `mean ${mean.toFixed(2)}, 99th percentile ${most.toFixed(2)}, worst ${worst.toFixed(2)}`
