import { ciede2000 } from '../colour/difference'
import { shared, slicesApart, slicesOf, type Labs } from './transport'

/** What a fit is to come to. */
export interface Target {
  /** What is off, to be made small; always as many numbers. */
  readonly off: (labs: Labs) => Float64Array
  /** How far a picture is away, as it is told. */
  readonly distance: (labs: Labs) => number
}

/** So that the squares of differences add up to their mean. @param count of what is compared, each by as many numbers */
const scaled = (v: Float64Array, count = v.length): Float64Array => v.map((x) => x / Math.sqrt(count))

/** Both show the same frame: differences pixel by pixel; those of strong colours count less, as they do to the eye (weights of CIE 1994). */
export const samePixels = (reference: Labs): Target => ({
  off: (labs) => {
    const apart = labs.flatMap((c, i) => {
      const [l, a, b] = reference[i]!
      const weight = 1 / (1 + 0.045 * Math.hypot(a, b))
      return [c[0] - l, weight * (c[1] - a), weight * (c[2] - b)]
    })
    return scaled(Float64Array.from(apart), labs.length)
  },
  distance: (labs) => labs.reduce((sum, c, i) => sum + ciede2000(c, reference[i]!), 0) / labs.length,
})

/** @param fitted where given, what only it or the reference holds within a reach is left out */
export function sameLook(reference: Labs, near?: { readonly fitted: Labs; readonly reach: number }): Target {
  const [own, there] = near ? shared(near.fitted, reference, near.reach) : [null, null]
  const wanted = slicesOf(reference, there)
  return {
    off: (labs) => scaled(slicesOf(labs, own).map((v, i) => v - wanted[i]!)),
    distance: (labs) => slicesApart(slicesOf(labs, own), wanted),
  }
}

/** Lightness alone, wherever it is. */
export function sameTones(reference: Labs): Target {
  const wanted = slicesOf(reference, null, true)
  const off = (labs: Labs): Float64Array => slicesOf(labs, null, true).map((v, i) => v - wanted[i]!)
  return { off: (labs) => scaled(off(labs)), distance: (labs) => Math.hypot(...scaled(off(labs))) }
}
