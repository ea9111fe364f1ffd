import { STRAIGHT } from '../film/ends'
import { compileMaskWork, compileWork } from '../plan/compile'
import type { BathWork, LineWork } from '../plan/work'
import { SLOT, type Plan } from '../plan/plan'
import type { PointStage } from '../stages/stage'
import { atWork, workOf } from './bath'
import type { Bath, Recipe } from './recipe'
import { entryOf, wayIn, type Refers } from './entry'
import { NOTHING_AROUND, PARTS, bathsOf, withBaths, type Around, type Line } from './parts'

export interface CompileOptions {
  /** What the shot adds around the recipe; nothing when left out. */
  readonly around?: Around
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

function lineWork(
  { preparation, recipe, after }: Line,
  { refers = 'scene', given = false, shown = [], colours = false }: CompileOptions,
): LineWork {
  const works = (baths: readonly Bath[]): BathWork[] => {
    const all = baths.filter(atWork).map(workOf)
    return colours ? all.map(coloursOf) : all
  }
  const { baths: taken, stages } = wayIn(preparation)
  return {
    ...entryOf(stages, refers),
    ...(given && { given, scene: stages }),
    straight: STRAIGHT,
    preparation: works(preparation.slice(taken)),
    baths: works(recipe.baths),
    strength: recipe.strength,
    after: works(after),
    shown,
  }
}

/** Compiles a line. */
export const compileLine = (recipe: Recipe, options: CompileOptions = {}): Plan =>
  compileWork(lineWork({ ...(options.around ?? NOTHING_AROUND), recipe }, options))

/** Footage to the scene light that lines take where it is given, before any preparation; its result is in the place of a line's. */
export const compileScene = (refers: Refers): Plan => {
  const register = 'own' as const
  const stages = entryOf([], refers).scene.map((stage) => ({ do: 'stage', stage }) as const)
  const ends = [
    { do: 'load', slot: SLOT.CAMERA, register },
    { do: 'store', slot: SLOT.LINE, register },
  ] as const
  return { ops: [{ op: 'run', steps: [ends[0], ...stages, ends[1]] }] }
}

/** Only what is needed to see the mask of one bath. Null when the bath has none. */
export function compileMask(recipe: Recipe, bathId: string, options: CompileOptions = {}): Plan | null {
  const line: Line = { ...(options.around ?? NOTHING_AROUND), recipe }
  for (const part of PARTS) {
    const baths = bathsOf(line)[part]
    const at = baths.findIndex((bath) => bath.id === bathId)
    const mask = baths[at]?.mask
    if (mask)
      return compileMaskWork(lineWork(withBaths(line, part, baths.slice(0, at)), options), { bath: bathId, mask, part })
  }
  return null
}
