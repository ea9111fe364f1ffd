import { STRAIGHT } from '../film/ends'
import { compileMaskWork, compileWork } from '../plan/compile'
import type { BathWork, LineWork } from '../plan/work'
import { SLOT, type Plan } from '../plan/plan'
import type { PointStage } from '../stages/stage'
import { atWork, workOf } from './bath'
import type { Bath, Recipe } from './recipe'
import { entryOf, type Refers } from './entry'
import { NO_TRIMS, trimStages, type Trims } from './trims'

export interface CompileOptions {
  readonly trims?: Trims
  /** What the numbers of the footage mean; scene light when left out. */
  readonly refers?: Refers
  /** The runner is handed scene light as well, see {@link compileScene}; without it the line works it out itself. */
  readonly given?: boolean
  /** From display code values (BT.1886) to those of the delivery; see recodeStages. */
  readonly shown?: readonly PointStage[]
  /** What a line does to colours alone: its steps on neighbours are left out, as a table of colours has to. */
  readonly colours?: boolean
}

const coloursOf = ({ stages, strand, ...rest }: BathWork): BathWork => ({
  ...rest,
  stages: stages.filter(({ at }) => at !== 'space'),
  ...(strand && { strand: strand.map(coloursOf) }),
})

const lineWork = (
  baths: readonly Bath[],
  strength: number,
  { trims = NO_TRIMS, refers = 'scene', given = false, shown = [], colours = false }: CompileOptions,
): LineWork => ({
  ...entryOf(trims, refers),
  ...(given && { given, scene: trimStages(trims) }),
  straight: STRAIGHT,
  baths: baths.filter(atWork).map((bath) => (colours ? coloursOf(workOf(bath)) : workOf(bath))),
  strength,
  shown,
})

/** Compiles a line. */
export const compileLine = (recipe: Recipe, options: CompileOptions = {}): Plan =>
  compileWork(lineWork(recipe.baths, recipe.strength, options))

/** Footage to the scene light that lines take where it is given, before trims; its result is in the place of a line's. */
export const compileScene = (refers: Refers): Plan => {
  const register = 'own' as const
  const stages = entryOf(NO_TRIMS, refers).scene.map((stage) => ({ do: 'stage', stage }) as const)
  const ends = [
    { do: 'load', slot: SLOT.CAMERA, register },
    { do: 'store', slot: SLOT.LINE, register },
  ] as const
  return { ops: [{ op: 'run', steps: [ends[0], ...stages, ends[1]] }] }
}

/** Only what is needed to see the mask of one bath. Null when the bath has none. */
export function compileMask(recipe: Recipe, bathId: string, options: CompileOptions = {}): Plan | null {
  const at = recipe.baths.findIndex((b) => b.id === bathId)
  const mask = recipe.baths[at]?.mask
  return mask ? compileMaskWork(lineWork(recipe.baths.slice(0, at), 100, options), bathId, mask) : null
}
