import Type from 'typebox'
import { FogBathError } from '../errors'
import type { Span } from '../keys/lane'
import { MOST_TRACKS, TrackSchema, type Track } from '../tracking/kept'
import { kindById } from '../baths/kinds'
import { allBaths, checkRecipe } from './complete'
import { MOST_BATHS, RecipeSchema, type Bath, type Recipe } from './recipe'

/**
 * What a shot adds of its own around the look that is put on it. Both stay with the shot when another look comes:
 * `preparation` before it, on scene light, shared by all trials; `after` behind it, on the picture that the look makes.
 */
export interface Around {
  readonly preparation: readonly Bath[]
  readonly after: readonly Bath[]
}

/** What of a shot a line needs to know that changes over it. */
export interface ShotTime extends Span {
  readonly tracks: readonly Track[]
}

export const ShotTimeSchema = Type.Object(
  {
    first: Type.Integer({ minimum: 0 }),
    length: Type.Integer({ minimum: 1 }),
    tracks: Type.Array(TrackSchema, { maxItems: MOST_TRACKS }),
  },
  { additionalProperties: false },
)

/** The three parts that a picture goes through; the recipe is the look. */
export interface Line extends Around {
  readonly recipe: Recipe
  /** Left out where nothing changes over the shot. */
  readonly time?: ShotTime | undefined
}

export const NOTHING_AROUND: Around = { preparation: [], after: [] }

export const PARTS = ['preparation', 'look', 'after'] as const
export type PartName = (typeof PARTS)[number]

/** The baths of each part. */
export const bathsOf = ({ preparation, recipe, after }: Line): Readonly<Record<PartName, readonly Bath[]>> => ({
  preparation,
  look: recipe.baths,
  after,
})

/** All baths of the line itself, in their order. */
export const wholeLine = (line: Pick<Line, 'preparation' | 'recipe' | 'after'>): Bath[] => [
  ...line.preparation,
  ...line.recipe.baths,
  ...line.after,
]

/** A line with other baths in one part. */
export function withBaths(line: Line, part: PartName, baths: readonly Bath[]): Line {
  if (part === 'look') return { ...line, recipe: { ...line.recipe, baths } }
  return { ...line, [part]: baths }
}

export const BathsSchema = Type.Array(RecipeSchema.properties.baths.items, { maxItems: MOST_BATHS })
const RULES = {
  preparation: { stretch: 'prepare', rule: 'before the look stand baths of Prepare, which work on scene light' },
  after: { stretch: 'finish', rule: 'after the look stand baths of Finish, which work on the picture it makes' },
} as const

/** Rules that a schema cannot state, for a part that belongs to a shot. Throws naming the bath. */
export function checkPart(part: keyof typeof RULES, baths: readonly Bath[]): void {
  const { stretch, rule } = RULES[part]
  for (const [i, { kind, takes }] of baths.entries()) {
    const own = kindById(kind)
    if (own.stretch !== stretch || (part === 'after' && takes !== 'line'))
      throw new FogBathError('recipe', `${part}/${i}`, `Bath ${i + 1} (${kind}) cannot stand here: ${rule}.`)
  }
  checkRecipe({ baths } as Recipe)
}

/** The same for the line as a whole: each bath has its own id. */
export function checkAround(line: Line): void {
  checkPart('preparation', line.preparation)
  checkPart('after', line.after)
  const ids = allBaths({ baths: wholeLine(line) }).map((bath) => bath.id)
  const twice = ids.find((id, i) => ids.indexOf(id) !== i)
  if (twice) throw new FogBathError('recipe', 'baths', `Two baths have the id '${twice}'; each needs its own.`)
}
