import { fieldsOf } from '../baths/fields'
import { kindById } from '../baths/kinds'
import { ciede2000 } from '../colour/difference'
import { bt709ToLab } from '../colour/lab'
import { type Triple, three } from '../colour/matrix'
import { displayLight } from '../colour/transfer'
import { FogBathError } from '../errors'
import { newBath } from '../line/complete'
import type { Refers } from '../line/entry'
import type { Around } from '../line/parts'
import { plainLine, plainSteps } from '../line/plain'
import { NOTHING, type Recipe } from '../line/recipe'
import { statisticsApart, statisticsOf, type Labs } from './statistics'

export interface MatchRequest {
  /** The footage as a line takes it, RGBA, and what its numbers mean. */
  readonly footage: Float32Array
  readonly refers: Refers
  /** What the shot adds around the process. */
  readonly around: Around
  /** The reference, display code values (BT.1886), RGBA; of the same size where both show the same frame. */
  readonly reference: Float32Array
  readonly sameFrame: boolean
  /** Kinds of processes to try, and which of their settings may move; those shown first where nothing is said. */
  readonly kinds: readonly string[]
  readonly settings?: readonly string[]
}

/** Pixels that are looked at. */
const SAMPLES = 700
/** Pulls settings that nothing speaks for towards where they begin. */
const HOLD = 0.05

interface NumberField {
  readonly type?: string
  readonly minimum?: number
  readonly maximum?: number
  readonly first?: boolean
  readonly title: string
}

/** Settings of a kind that a fit can move: its numbers; `first` for those that are ticked to begin with. */
export function movableSettings(kind: string): { key: string; title: string; first: boolean }[] {
  return Object.entries(fieldsOf<NumberField>(kindById(kind).schema))
    .filter(([, f]) => f.type === 'number')
    .map(([key, { title, first = false }]) => ({ key, title, first }))
}

export interface Samples {
  /** The footage's own numbers. */
  readonly camera: readonly Triple[]
  readonly untreated: Labs
  readonly reference: Labs
}

const labOf = (r: number, g: number, b: number) => bt709ToLab([displayLight(r), displayLight(g), displayLight(b)])

export function samplesOf({ footage, reference, refers, around, sameFrame }: MatchRequest): Samples {
  if (sameFrame && footage.length !== reference.length)
    throw new FogBathError('range', 'reference', 'Pictures of the same frame must have the same size.')
  const toCode = plainSteps(NOTHING, { around, refers }).footage
  const out = three()
  const camera = spread(footage).map((at): Triple => [footage[at]!, footage[at + 1]!, footage[at + 2]!])
  return {
    camera,
    untreated: camera.map((c) => {
      toCode(...c, out)
      return labOf(out[0], out[1], out[2])
    }),
    reference: spread(reference).map((at) => labOf(reference[at]!, reference[at + 1]!, reference[at + 2]!)),
  }
}

/** Places of pixels all over a picture, by the golden section, so that no pattern is met. */
function spread(pixels: Float32Array): number[] {
  const n = pixels.length / 4
  if (n < 1) throw new FogBathError('range', 'picture', 'A picture without pixels cannot be matched.')
  const count = Math.min(n, SAMPLES)
  return Array.from({ length: count }, (_, i) => 4 * Math.floor(n * ((i * 0.6180339887498949) % 1)))
}

export interface Problem {
  readonly kind: string
  readonly start: readonly number[]
  readonly residuals: (place: readonly number[]) => Float64Array
  readonly recipeAt: (place: readonly number[]) => Recipe
  readonly labsAt: (place: readonly number[]) => Labs
  readonly distance: (labs: Labs) => number
  /** The picture nearest to the reference so far. */
  readonly best: () => Labs
}

export function problemOf(request: MatchRequest, scene: Samples, kind: string): Problem {
  const fields = fieldsOf<Required<NumberField>>(kindById(kind).schema)
  const wanted = request.settings
  const keys = movableSettings(kind).flatMap((s) => ((wanted ? wanted.includes(s.key) : s.first) ? [s.key] : []))
  if (keys.length === 0)
    throw new FogBathError('range', 'settings', `No setting of '${kindById(kind).label}' may move; tick at least one.`)
  const fresh = newBath(kind, 'matched')
  const start = keys.map((key) => ((fresh.settings[key] as number) - fields[key]!.minimum) / rangeOf(fields[key]!))
  const recipeAt = (place: readonly number[]): Recipe => ({
    version: 1,
    id: 'matched',
    name: `Matched ${kindById(kind).short.toLowerCase()}`,
    summary: '',
    tags: [],
    strength: 100,
    baths: [
      newBath(
        kind,
        'matched',
        Object.fromEntries(keys.map((key, k) => [key, fields[key]!.minimum + place[k]! * rangeOf(fields[key]!)])),
      ),
    ],
  })
  const labsAt = (place: readonly number[]): Labs => treated(request, recipeAt(place), scene)
  const difference = request.sameFrame ? pixelsApart(scene.reference) : picturesApart(scene.reference)
  let [best, least]: [Labs, number] = [scene.untreated, Infinity]
  const residuals = (place: readonly number[]): Float64Array => {
    const labs = labsAt(place)
    const apart = difference(labs)
    const cost = apart.reduce((sum, v) => sum + v * v, 0)
    if (cost < least) [best, least] = [labs, cost]
    return Float64Array.from([...apart, ...place.map((v, k) => HOLD * (v - start[k]!))])
  }
  return { kind, start, residuals, recipeAt, labsAt, distance: distanceOf(request, scene), best: () => best }
}

const rangeOf = ({ minimum, maximum }: NumberField): number => maximum! - minimum!

export function treated({ around, refers }: MatchRequest, recipe: Recipe, { camera }: Samples): Labs {
  const line = plainLine(recipe, around, refers)
  const out = three()
  return camera.map((c) => {
    line(...c, out)
    return labOf(out[0], out[1], out[2])
  })
}

/** Differences pixel by pixel; those of strong colours count less, as they do to the eye (weights of CIE 1994). */
const pixelsApart =
  (reference: Labs) =>
  (labs: Labs): Float64Array => {
    const scale = 1 / Math.sqrt(labs.length)
    return Float64Array.from(
      labs.flatMap((c, i) => {
        const [l, a, b] = reference[i]!
        const weight = scale / (1 + 0.045 * Math.hypot(a, b))
        return [scale * (c[0] - l), weight * (c[1] - a), weight * (c[2] - b)]
      }),
    )
  }

const picturesApart = (reference: Labs) => {
  const wanted = statisticsOf(reference)
  const scale = 1 / Math.sqrt(wanted.length)
  return (labs: Labs): Float64Array => statisticsOf(labs).map((v, i) => scale * (v - wanted[i]!))
}

function distanceOf({ sameFrame }: MatchRequest, { reference }: Samples): (labs: Labs) => number {
  if (sameFrame) return (labs) => labs.reduce((sum, c, i) => sum + ciede2000(c, reference[i]!), 0) / labs.length
  const wanted = statisticsOf(reference)
  return (labs) => statisticsApart(statisticsOf(labs), wanted)
}
