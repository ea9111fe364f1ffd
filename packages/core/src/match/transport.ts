import type { Triple } from '../colour/matrix'

/** Colours as L*, a*, b*. */
export type Labs = readonly Triple[]

/** How much each colour of a picture counts, 0..1. */
export type Weights = Float64Array

/** Ways through CIELAB along which pictures are compared: its axes, and what lies evenly between two and three of them. */
const WAYS: readonly Triple[] = [-1, 0, 1]
  .flatMap((l) => [-1, 0, 1].flatMap((a) => [-1, 0, 1].map((b): Triple => [l, a, b])))
  .filter(([l, a, b]) => l > 0 || (l === 0 && (a > 0 || (a === 0 && b > 0))))
  .map(([l, a, b]): Triple => {
    const length = Math.hypot(l, a, b)
    return [l / length, a / length, b / length]
  })
/** The way of lightness alone. */
const LIGHTNESS: Triple = [1, 0, 0]

/** Places in the order of a projection, 0..1, that are compared. */
const PLACES = Array.from({ length: 24 }, (_, i) => (i + 0.5) / 24)

/** Values of a projection at {@link PLACES}: its quantiles, straight between neighbours. */
function quantiles(labs: Labs, [x, y, z]: Triple, weights: Weights | null): number[] {
  const along = new Float64Array(labs.length)
  for (let i = 0; i < along.length; i++) {
    const c = labs[i]!
    along[i] = c[0] * x + c[1] * y + c[2] * z
  }
  return weights ? weighted(along, weights) : even(along.sort())
}

function even(sorted: Float64Array): number[] {
  const last = sorted.length - 1
  return PLACES.map((place) => {
    const at = Math.min(last, Math.max(0, place * sorted.length - 0.5))
    const below = Math.floor(at)
    return sorted[below]! + (at - below) * (sorted[Math.min(last, below + 1)]! - sorted[below]!)
  })
}

/** Numbers sort ten times as quickly as pairs: each carries its place behind its seventh decimal. */
const [FINE, MOST] = [1e7, 2 ** 13]

function weighted(along: Float64Array, weights: Weights): number[] {
  const packed = new Float64Array(along.length)
  let whole = 0
  for (let i = 0; i < packed.length; i++) {
    packed[i] = Math.round(along[i]! * FINE) * MOST + i
    whole += weights[i]!
  }
  packed.sort()
  const placeOf = (k: number): number => packed[k]! - Math.floor(packed[k]! / MOST) * MOST
  let [at, below, own, before] = [0, 0, placeOf(0), placeOf(0)]
  return PLACES.map((place) => {
    // Each colour stands in the middle of what it weighs.
    const wanted = place * whole
    while (at < packed.length - 1 && below + weights[own]! / 2 < wanted) {
      below += weights[own]!
      before = own
      own = placeOf(++at)
    }
    const gap = (weights[before]! + weights[own]!) / 2
    const share = gap > 0 ? Math.min(1, Math.max(0, (wanted - below + weights[before]! / 2) / gap)) : 1
    return along[before]! + share * (along[own]! - along[before]!)
  })
}

/**
 * What two pictures are compared by, when nothing is known of where anything is: the quantiles of their colours along several
 * ways. The root mean square of the differences is the sliced Wasserstein distance of second order (F. Pitié, A. Kokaram,
 * R. Dahyot 2007; J. Rabin, G. Peyré, J. Delon, M. Bernot 2011; from memory), in units of CIELAB.
 * @param tonesOnly along lightness alone
 */
export const slicesOf = (labs: Labs, weights: Weights | null = null, tonesOnly = false): Float64Array =>
  Float64Array.from((tonesOnly ? [LIGHTNESS] : WAYS).flatMap((way) => quantiles(labs, way, weights)))

/** Root mean square difference of two pictures' slices. */
export const slicesApart = (one: Float64Array, other: Float64Array): number =>
  Math.sqrt(one.reduce((sum, v, i) => sum + (v - other[i]!) ** 2, 0) / one.length)

/**
 * How much the colours of two pictures count when what only one of them holds is left out: each as far as the other picture
 * has as many colours near it.
 * @param reach how near that is, units of CIELAB
 */
export function shared(one: Labs, other: Labs, reach: number): readonly [Weights, Weights] {
  const [seen, seenThere] = [some(one), some(other)]
  const crowd = (of: Labs, at: Triple): number => {
    let sum = 0
    for (const c of of) {
      const d = (c[0] - at[0]) ** 2 + (c[1] - at[1]) ** 2 + (c[2] - at[2]) ** 2
      if (d < FAR * reach * reach) sum += Math.exp(-d / (2 * reach * reach))
    }
    return sum / of.length
  }
  const weights = (own: Labs, near: Labs, there: Labs): Weights =>
    Float64Array.from(own, (c) => Math.min(1, crowd(there, c) / Math.max(1e-9, crowd(near, c))))
  return [weights(one, seen, seenThere), weights(other, seenThere, seen)]
}

/** As many as tell how many there are. */
const WITNESSES = 250
/** Beyond so many reaches, squared, a colour does not count. */
const FAR = 16
const some = (labs: Labs): Labs => {
  const step = Math.max(1, Math.floor(labs.length / WITNESSES))
  return labs.filter((_, i) => i % step === 0)
}
