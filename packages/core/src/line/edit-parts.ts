import { kindById } from '../baths/kinds'
import { asLinked } from '../masks/edit'
import type { Mask } from '../masks/schema'
import { eachBath, insertBath, moveBath, placeInLine } from './edit'
import { mergeRecipes } from './merge'
import { PARTS, bathsOf, withBaths, type Line, type PartName } from './parts'
import { NOTHING, type Bath, type Recipe } from './recipe'

/** A trial's own: the look, and what stands behind it on its shot. */
export type Look = Pick<Line, 'recipe' | 'after'>

/** Edits one part as a line of its own; where nothing changes the line stays what it is. */
function editPart(line: Line, part: PartName, edit: (recipe: Recipe) => Recipe): Line {
  if (part === 'look') {
    const recipe = edit(line.recipe)
    return recipe === line.recipe ? line : { ...line, recipe }
  }
  const own = { ...NOTHING, baths: bathsOf(line)[part] }
  const made = edit(own)
  return made === own ? line : withBaths(line, part, made.baths)
}

/** In which part a bath stands, itself or in a strand; null when it is in none. */
export const partOf = (line: Line, id: string | null): PartName | null =>
  PARTS.find((part) => placeInLine({ baths: bathsOf(line)[part] }, id) >= 0) ?? null

/** Edits the part in which a bath stands. */
export function editAt(line: Line, id: string, edit: (recipe: Recipe) => Recipe): Line {
  const part = partOf(line, id)
  return part ? editPart(line, part, edit) : line
}

/** Gives a bath another mask; those that are linked with it change with it, wherever in the line they stand. */
export function changeMask(line: Line, id: string, mask: Mask | null): Line {
  const link = mask?.link
  const become = (bath: Bath): Bath => {
    if (bath.id === id) return { ...bath, mask }
    const own = bath.mask?.link
    return link && own && own.id === link.id ? { ...bath, mask: asLinked(mask, own) } : bath
  }
  return PARTS.reduce((made, part) => {
    const before = bathsOf(made)[part]
    const baths = eachBath(before, (b) => [become(b)])
    return baths.every((b, i) => b === before[i]) ? made : withBaths(made, part, baths)
  }, line)
}

/** Why a bath cannot stand in a part, or null. */
export function notIn(part: PartName, { kind, takes }: Pick<Bath, 'kind' | 'takes'>): string | null {
  const { stretch, strand, label } = kindById(kind)
  if (part === 'look') return null
  if (part === 'preparation')
    return stretch === 'prepare' ? null : `${label} works on a picture; before the look there is scene light only.`
  if (stretch !== 'finish' || strand) return `${label} is part of a look; behind the look stand baths of Finish.`
  return takes === 'line' ? null : `${label} takes the camera’s picture; behind the look it would leave the look out.`
}

/** Where a new bath belongs: with the one it is put behind where it can stand there, else where its kind usually stands. */
function partFor(line: Line, bath: Bath, behind: string | undefined): PartName {
  const near = partOf(line, behind ?? null)
  const { stretch } = kindById(bath.kind)
  if (stretch === 'process') return 'look'
  // Prepare baths of the look stand at its head; another one joins them only when it is put behind one of them.
  const own = line.recipe.baths.find((b) => b.id === behind)
  if (stretch === 'prepare') return own && kindById(own.kind).stretch === 'prepare' ? 'look' : 'preparation'
  if (bath.kind === 'timing') return 'after'
  return near === 'after' && !notIn('after', bath) ? 'after' : 'look'
}

/** Puts a bath into the part where it belongs, right behind another where that is allowed. */
export const insertInLine = (line: Line, bath: Bath, behind?: string): Line =>
  editPart(line, partFor(line, bath, behind), (recipe) => insertBath(recipe, bath, behind))

/** Moves a bath within its part, or over a joint into another. Where it cannot stand there the line stays what it is. */
export function moveInLine(line: Line, id: string, to: PartName, index: number): Line {
  const from = partOf(line, id)
  if (!from) return line
  if (from === to) return editPart(line, to, (recipe) => moveBath(recipe, id, index))
  const bath = bathsOf(line)[from].find((b) => b.id === id)
  if (!bath || notIn(to, bath)) return line
  const without = withBaths(
    line,
    from,
    bathsOf(line)[from].filter((b) => b.id !== id),
  )
  const behind = bathsOf(without)[to][index - 1]?.id
  return editPart(without, to, (recipe) => insertBath(recipe, bath, behind))
}

/** Two changes of the same list of baths brought together, see {@link mergeRecipes}. */
export function mergeBaths(
  base: readonly Bath[],
  mine: readonly Bath[],
  theirs: readonly Bath[],
): readonly Bath[] | null {
  const [b, m, t] = [base, mine, theirs].map((baths) => ({ ...NOTHING, baths })) as [Recipe, Recipe, Recipe]
  return mergeRecipes(b, m, t)?.baths ?? null
}

/** The same for what a trial holds. */
export function mergeLooks(base: Look, mine: Look, theirs: Look): Look | null {
  const recipe = mergeRecipes(base.recipe, mine.recipe, theirs.recipe)
  const after = mergeBaths(base.after, mine.after, theirs.after)
  return recipe && after && { recipe, after }
}
