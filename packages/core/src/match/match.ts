import { kindById, KINDS } from '../baths/kinds'
import { ciede2000 } from '../colour/difference'
import { bt709ToLab } from '../colour/lab'
import type { Triple } from '../colour/matrix'
import { displayLight } from '../colour/transfer'
import { FogBathError } from '../errors'
import { newBath } from '../line/complete'
import { ownSettings, type OwnSetting } from '../line/changes'
import { entryOf, type Refers } from '../line/entry'
import { plainLine } from '../line/plain'
import type { Recipe } from '../line/recipe'
import type { Trims } from '../line/trims'
import { plainStages } from '../stages/plain'
import { leastSquares } from './least-squares'
import { missesOf } from './misses'
import { statisticsApart, statisticsOf, type Labs } from './statistics'

export interface MatchRequest {
  /** The footage as a line takes it, RGBA, and what its numbers mean. */
  readonly footage: Float32Array
  readonly refers: Refers
  readonly trims: Trims
  /** The reference, display code values (BT.1886), RGBA; of the same size where both show the same frame. */
  readonly reference: Float32Array
  readonly sameFrame: boolean
  /** Kinds of processes to try, and which of their settings may move; those shown first where nothing is said. */
  readonly kinds: readonly string[]
  readonly settings?: readonly string[]
}

export interface MatchProgress {
  readonly kind: string
  readonly step: number
  /** The distance so far. */
  readonly distance: number
}

export interface MatchResult {
  readonly recipe: Recipe
  readonly kind: string
  /** Between the untreated picture and the reference, and between the fitted one and it: mean CIEDE2000 of one frame, else the root mean square difference of statistics. */
  readonly before: number
  readonly after: number
  readonly moved: readonly OwnSetting[]
  /** What the process does not reach, in words. */
  readonly misses: readonly string[]
}

/** Pixels that are looked at. */
const SAMPLES = 700
/** Steps of the fit that compares processes, and of the one that finishes. */
const [TRIED, FINISHED] = [6, 30]
/** Pulls settings that nothing speaks for towards where they begin. */
const HOLD = 0.05

/** Kinds that can be fitted. */
export const MATCH_KINDS: readonly string[] = KINDS.filter((k) => k.stretch === 'process').map((k) => k.id)

interface NumberField {
  readonly type?: string
  readonly minimum?: number
  readonly maximum?: number
  readonly first?: boolean
  readonly title: string
}

/** Settings of a kind that a fit can move: its numbers; `first` for those that are ticked to begin with. */
export function movableSettings(kind: string): { key: string; title: string; first: boolean }[] {
  return Object.entries(kindById(kind).schema.properties as unknown as Record<string, NumberField>)
    .filter(([, f]) => f.type === 'number')
    .map(([key, { title, first = false }]) => ({ key, title, first }))
}

/**
 * Fits the settings of a process so that footage comes to look like a reference, and says how near it came and what stays
 * off. Throws where there is nothing to fit.
 * @param onProgress stops the fit by returning false; the best so far is the result
 */
export function matchReference(request: MatchRequest, onProgress?: (p: MatchProgress) => boolean | void): MatchResult {
  const { kinds } = request
  const scene = samplesOf(request)
  const problems = kinds.map((kind) => problemOf(request, scene, kind))
  let stopped = false
  const run = (problem: Problem, start: readonly number[], steps: number): Fit => {
    const onStep = ({ step }: { step: number }): boolean => {
      stopped ||= onProgress?.({ kind: problem.kind, step, distance: problem.distance(problem.best()) }) === false
      return !stopped
    }
    const { place, cost } = leastSquares(problem.residuals, start, { steps, onStep })
    return { problem, place, cost }
  }
  const tries = problems.length > 1 ? problems.flatMap((p) => (stopped ? [] : [run(p, p.start, TRIED)])) : []
  const best = tries.reduce<Fit | null>((a, b) => (a && a.cost <= b.cost ? a : b), null)
  const first = best ?? { problem: problems[0]!, place: problems[0]!.start, cost: Infinity }
  const fit = stopped ? first : run(first.problem, first.place, FINISHED)
  return resultOf(request, scene, fit)
}

interface Samples {
  /** The footage's own numbers. */
  readonly camera: readonly Triple[]
  readonly untreated: Labs
  readonly reference: Labs
}

const labOf = (r: number, g: number, b: number) => bt709ToLab([displayLight(r), displayLight(g), displayLight(b)])

function samplesOf({ footage, reference, refers, trims, sameFrame }: MatchRequest): Samples {
  if (sameFrame && footage.length !== reference.length)
    throw new FogBathError('range', 'reference', 'Pictures of the same frame must have the same size.')
  const toCode = plainStages(entryOf(trims, refers).untreated)
  const out = new Float64Array(3)
  const camera = spread(footage).map((at): Triple => [footage[at]!, footage[at + 1]!, footage[at + 2]!])
  return {
    camera,
    untreated: camera.map((c) => {
      toCode(...c, out)
      return labOf(out[0]!, out[1]!, out[2]!)
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

interface Problem {
  readonly kind: string
  readonly start: readonly number[]
  readonly residuals: (place: readonly number[]) => Float64Array
  readonly recipeAt: (place: readonly number[]) => Recipe
  readonly labsAt: (place: readonly number[]) => Labs
  readonly distance: (labs: Labs) => number
  /** The picture nearest to the reference so far. */
  readonly best: () => Labs
}

interface Fit {
  readonly problem: Problem
  readonly place: readonly number[]
  readonly cost: number
}

function problemOf(request: MatchRequest, scene: Samples, kind: string): Problem {
  const fields = kindById(kind).schema.properties as unknown as Record<string, Required<NumberField>>
  const wanted = request.settings
  const keys = movableSettings(kind).flatMap((s) => ((wanted ? wanted.includes(s.key) : s.first) ? [s.key] : []))
  if (keys.length === 0)
    throw new FogBathError('range', 'settings', `No setting of '${kindById(kind).label}' may move; tick at least one.`)
  const fresh = newBath(kind, 'matched')
  const start = keys.map((key) => ((fresh.settings[key] as number) - fields[key]!.minimum) / rangeOf(fields[key]!))
  const recipeAt = (place: readonly number[]): Recipe => ({
    ...{ version: 1, id: 'matched', name: `Matched ${kindById(kind).short.toLowerCase()}`, summary: '', tags: [] },
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

function treated({ trims, refers }: MatchRequest, recipe: Recipe, { camera }: Samples): Labs {
  const line = plainLine(recipe, trims, refers)
  const out = new Float64Array(3)
  return camera.map((c) => {
    line(...c, out)
    return labOf(out[0]!, out[1]!, out[2]!)
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

function resultOf(request: MatchRequest, scene: Samples, { problem, place }: Fit): MatchResult {
  const recipe = rounded(problem.recipeAt(place))
  const fitted = treated(request, recipe, scene)
  return {
    recipe,
    kind: problem.kind,
    before: problem.distance(scene.untreated),
    after: problem.distance(fitted),
    moved: ownSettings(recipe.baths[0]!),
    misses: missesOf(fitted, scene.reference, request.sameFrame),
  }
}

/** Settings with as many places as anybody would type. */
const rounded = (recipe: Recipe): Recipe => ({
  ...recipe,
  baths: recipe.baths.map((bath) => ({
    ...bath,
    settings: Object.fromEntries(
      Object.entries(bath.settings).map(([key, v]) => [key, typeof v === 'number' ? Number(v.toPrecision(4)) : v]),
    ),
  })),
})
