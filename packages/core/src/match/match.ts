import { KINDS } from '../baths/kinds'
import { ownSettings, type OwnSetting } from '../line/changes'
import type { Recipe } from '../line/recipe'
import type { GoesOn } from './least-squares'
import { missesOf } from './misses'
import { treated } from './problem'
import { MANY, samplesOf, type MatchRequest, type Samples } from './samples'
import { NEAR, Search, type MatchProgress } from './search'
import { sameLook, samePixels, type Target } from './target'
import type { Labs } from './transport'

export interface MatchResult {
  readonly recipe: Recipe
  readonly kind: string
  /** Between the untreated picture and the reference, and between the fitted one and it: mean CIEDE2000 of one frame, else the distance of the distributions of what both hold, CIELAB. */
  readonly before: number
  readonly after: number
  readonly moved: readonly OwnSetting[]
  /** What the process does not reach, in words. */
  readonly misses: readonly string[]
  /** Whether it was stopped before it had come as near as it can. */
  readonly stopped: boolean
}

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
  const scene = samplesOf(request, MANY)
  const search = new Search(request, scene, onProgress)
  const { problem, place } = await search.run()
  const recipe = rounded(problem.recipeAt(place))
  const fitted = treated(request, recipe, scene)
  const told = toldOf(request, scene, fitted)
  return {
    recipe,
    kind: problem.kind,
    before: told.distance(scene.untreated),
    after: told.distance(fitted),
    moved: ownSettings(recipe.baths[0]!),
    misses: missesOf(fitted, scene.reference, request.sameFrame),
    stopped: search.stopped,
  }
}

/** What the distances are told of: of other frames, the colours that both pictures hold. */
const toldOf = ({ sameFrame }: MatchRequest, { reference }: Samples, fitted: Labs): Target =>
  sameFrame ? samePixels(reference) : sameLook(reference, { fitted, reach: NEAR })

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
