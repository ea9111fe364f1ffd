import { KINDS } from '../baths/kinds'
import { ownSettings, type OwnSetting } from '../line/changes'
import type { Recipe } from '../line/recipe'
import { leastSquares, type GoesOn } from './least-squares'
import { missesOf } from './misses'
import { problemOf, samplesOf, treated, type MatchRequest, type Problem, type Samples } from './problem'

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
  /** Whether it was stopped before it had come as near as it can. */
  readonly stopped: boolean
}

/** Steps of the fit that compares processes, and of the one that finishes. */
const [TRIED, FINISHED] = [6, 30]
/** Kinds that can be fitted. */
export const MATCH_KINDS: readonly string[] = KINDS.filter((k) => k.stretch === 'process').map((k) => k.id)

/**
 * Fits the settings of a process so that footage comes to look like a reference, and says how near it came and what stays
 * off. Throws where there is nothing to fit.
 * @param onProgress stops the fit by returning false; the best so far is the result
 */
export async function matchReference(
  request: MatchRequest,
  onProgress?: (p: MatchProgress) => GoesOn,
): Promise<MatchResult> {
  const { kinds } = request
  const scene = samplesOf(request)
  const problems = kinds.map((kind) => problemOf(request, scene, kind))
  let stopped = false
  const run = async (problem: Problem, start: readonly number[], steps: number): Promise<Fit> => {
    const onStep = async ({ step }: { step: number }): Promise<boolean> => {
      const { kind, distance, best } = problem
      stopped ||= (await onProgress?.({ kind, step, distance: distance(best()) })) === false
      return !stopped
    }
    const { place, cost } = await leastSquares(problem.residuals, start, { steps, onStep })
    return { problem, place, cost }
  }
  let best: Fit | null = null
  if (problems.length > 1)
    for (const problem of problems) {
      if (stopped) break
      const tried = await run(problem, problem.start, TRIED)
      if (!best || tried.cost < best.cost) best = tried
    }
  const first = best ?? { problem: problems[0]!, place: problems[0]!.start, cost: Infinity }
  const fit = stopped ? first : await run(first.problem, first.place, FINISHED)
  return resultOf(request, scene, fit, stopped)
}

interface Fit {
  readonly problem: Problem
  readonly place: readonly number[]
  readonly cost: number
}

function resultOf(request: MatchRequest, scene: Samples, { problem, place }: Fit, stopped: boolean): MatchResult {
  const recipe = rounded(problem.recipeAt(place))
  const fitted = treated(request, recipe, scene)
  return {
    recipe,
    kind: problem.kind,
    before: problem.distance(scene.untreated),
    after: problem.distance(fitted),
    moved: ownSettings(recipe.baths[0]!),
    misses: missesOf(fitted, scene.reference, request.sameFrame),
    stopped,
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
