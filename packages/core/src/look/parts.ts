import { type Matrix3, type Triple, three } from '../colour/matrix'
import { FogBathError } from '../errors'
import { halfToNumber } from '../numbers/half'
import { readNodes, nodesOfValues } from '../stages/nodes'
import { chain, nothing, plainStages } from '../stages/plain'
import { mix, type PointFunction } from '../stages/stage'
import { seededRandom } from '../numbers/random'

/** Over which numbers a table of curves stands: all half floats, or so many steps from one number to another, outside of which the ends hold. */
export type Domain = 'half' | { readonly from: number; readonly to: number; readonly steps: number }

/** What a file of a look is made of: the simplest things that every reader of look-up tables knows. */
export type Part =
  | { readonly part: 'matrix'; readonly matrix: Matrix3; readonly offset: Triple }
  /** One function a channel. */
  | { readonly part: 'curves'; readonly domain: Domain; readonly f: readonly [Curve, Curve, Curve] }
  | { readonly part: 'grid'; readonly grid: Grid }
export type Curve = (v: number) => number
export type CurvesPart = Extract<Part, { part: 'curves' }>

/** Nodes a side where a grid has to follow edges: the gamut's, or those of whole baths. */
export const FINE = 65
/** Entries of tables over code values. */
export const STEPS = 4096

/** The same curve for all channels. */
export const evenPart = (domain: Domain, f: Curve): Part => ({ part: 'curves', domain, f: [f, f, f] })

/** Colours at even places of a box, three numbers each, the first side running fastest; outside, its surface holds. */
export interface Grid {
  readonly side: number
  readonly from: Triple
  readonly to: Triple
  readonly values: Float64Array
}

export function gridOf(side: number, from: Triple, to: Triple, f: PointFunction): Grid {
  const values = new Float64Array(3 * side ** 3)
  const out = three()
  const place = (i: number, k: 0 | 1 | 2): number => from[k] + ((to[k] - from[k]) * i) / (side - 1)
  for (let b = 0, at = 0; b < side; b++)
    for (let g = 0; g < side; g++)
      for (let r = 0; r < side; r++, at += 3) {
        f(place(r, 0), place(g, 1), place(b, 2), out)
        values.set(out, at)
      }
  return { side, from, to, values }
}

const HALFS = 65536
/** What stands at each half float; those that are no number hold what the greatest of their sign holds. */
const MEANT = Float64Array.from({ length: HALFS }, (_, i) => {
  const v = halfToNumber(i)
  return Number.isFinite(v) ? v : i < 0x8000 ? 65504 : -65504
})

/** The numbers at which a table of curves has its entries. */
const placesOf = (domain: Domain): Float64Array =>
  domain === 'half'
    ? MEANT
    : Float64Array.from(
        { length: domain.steps + 1 },
        (_, i) => domain.from + ((domain.to - domain.from) * i) / domain.steps,
      )

const ENTRIES = new WeakMap<CurvesPart, readonly Float64Array[]>()

/** What a table of curves holds, a list for each of its curves: one where all channels have the same, else three. */
export function entriesOf(part: CurvesPart): readonly Float64Array[] {
  let made = ENTRIES.get(part)
  if (!made) {
    const places = placesOf(part.domain)
    made = new Set(part.f).size === 1 ? [places.map(part.f[0])] : part.f.map((f) => places.map(f))
    ENTRIES.set(part, made)
  }
  return made
}

/** The parts as a reader of the file works them: tables are straight between entries, grids are read by tetrahedra. */
export const readParts = (parts: readonly Part[]): PointFunction => parts.map(readPart).reduce(chain, nothing)

function readPart(part: Part): PointFunction {
  if (part.part === 'matrix') return plainStages([mix(part.matrix, part.offset)])
  if (part.part === 'grid') {
    const { values, from, to } = part.grid
    const nodes = nodesOfValues(values)
    return readNodes({ from, to, nodes: () => nodes, holds: 'codes' })
  }
  const curves = entriesOf(part).map((entries) => readCurve(part.domain, entries))
  const [r, g = r, b = r] = curves as [Curve, Curve?, Curve?]
  return (x, y, z, out) => nothing(r(x), g(y), b(z), out)
}

function readCurve(domain: Domain, entries: Float64Array): Curve {
  const between = (i: number, share: number): number => entries[i]! + share * (entries[i + 1]! - entries[i]!)
  if (domain !== 'half') {
    const { from, to, steps } = domain
    return (v) => {
      const place = Math.min(steps, Math.max(0, ((v - from) / (to - from)) * steps))
      const i = Math.min(steps - 1, Math.floor(place))
      return between(i, place - i)
    }
  }
  return (v) => {
    const held = Math.min(65504, Math.abs(v))
    // Half floats of one sign stand in the order of their bits: steps of 2^(exponent - 10), and of 2^-24 below 2^-14.
    const exponent = Math.max(-14, Math.floor(Math.log2(held || 1e-30)))
    const place = (exponent + 14) * 1024 + held / 2 ** (exponent - 10)
    const i = Math.min(0x7bfe, Math.floor(place))
    return between((v < 0 ? 0x8000 : 0) + i, place - i)
  }
}

/** The 4096 entries of a file of curves alone. */
export const CURVE: Domain = { from: 0, to: 1, steps: 4095 }
/** How far a channel may follow the others before it counts as mixed: a sixteenth of an 8-bit code. */
const APART = 1 / 4096

/** A function as one curve a channel over 0..1. Throws where its channels mix. */
export function curvesAlone(whole: PointFunction): CurvesPart {
  const out = three()
  const channel =
    (k: 0 | 1 | 2): Curve =>
    (v) => {
      whole(v, v, v, out)
      return out[k]
    }
  const f = [channel(0), channel(1), channel(2)] as const
  const random = seededRandom(77)
  for (let i = 0; i < 200; i++) {
    const colour: Triple = [random(), random(), random()]
    const alone = colour.map((v, k) => f[k]!(v))
    whole(...colour, out)
    if (alone.some((v, k) => Math.abs(v - out[k]!) > APART))
      throw new FogBathError(
        'format',
        'curves',
        'A file of curves holds each channel alone, and this line mixes channels; write a table of colours (3D), or a .clf.',
      )
  }
  return { part: 'curves', domain: CURVE, f }
}
