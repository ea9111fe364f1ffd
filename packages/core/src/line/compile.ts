import { STRAIGHT } from '../film/ends'
import { compileMaskWork, compileWork, type LineWork } from '../plan/compile'
import type { Plan } from '../plan/plan'
import type { PointStage } from '../stages/stage'
import { atWork, workOf } from './bath'
import type { Bath, Recipe } from './recipe'
import { entryOf, type Refers } from './entry'
import { NO_TRIMS, type Trims } from './trims'

export interface CompileOptions {
  readonly trims?: Trims
  /** What the numbers of the footage mean; scene light when left out. */
  readonly refers?: Refers
  /** From display code values (BT.1886) to those of the delivery; see recodeStages. */
  readonly shown?: readonly PointStage[]
}

const lineWork = (
  baths: readonly Bath[],
  strength: number,
  { trims = NO_TRIMS, refers = 'scene', shown = [] }: CompileOptions,
): LineWork => ({
  ...entryOf(trims, refers),
  straight: STRAIGHT,
  baths: baths.filter(atWork).map(workOf),
  strength,
  shown,
})

/** Compiles a line. */
export const compileLine = (recipe: Recipe, options: CompileOptions = {}): Plan =>
  compileWork(lineWork(recipe.baths, recipe.strength, options))

/** Only what is needed to see the mask of one bath. Null when the bath has none. */
export function compileMask(recipe: Recipe, bathId: string, options: CompileOptions = {}): Plan | null {
  const at = recipe.baths.findIndex((b) => b.id === bathId)
  const mask = recipe.baths[at]?.mask
  return mask ? compileMaskWork(lineWork(recipe.baths.slice(0, at), 100, options), bathId, mask) : null
}
