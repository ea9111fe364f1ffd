import { KINDS } from '@fogbath/core/baths'
import { LAY_MODES } from '@fogbath/core/lay'
import { newBath, type Bath, type Line, type Recipe } from '@fogbath/core/line'
import { newPart, withPart, type Mask, type PartType } from '@fogbath/core/masks'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'

const plain = newBath('colour-print', 'plain')
const recipeOf = (id: string): Recipe => SHIPPED_RECIPES.find((r) => r.id === id)!
const toned: Bath = { ...recipeOf('sepia').baths[0]!, id: 'toned' }
const line = (baths: readonly Bath[], more: Partial<Line> & { strength?: number } = {}): Line => ({
  preparation: more.preparation ?? [],
  recipe: { ...recipeOf('plain'), baths, ...(more.strength === undefined ? {} : { strength: more.strength }) },
  after: more.after ?? [],
})
const masked = (type: PartType, more: Partial<Mask> = {}): Bath => ({
  ...toned,
  takes: 'line',
  mask: { ...withPart(null, newPart(type)), soften: 4, ...more },
})

/** Lines by name: every recipe that ships, every kind of bath, way of laying, and mask. */
export function allLines(): Map<string, Line> {
  const all = new Map<string, Line>()
  for (const recipe of SHIPPED_RECIPES) all.set(`recipe ${recipe.id}`, { preparation: [], recipe, after: [] })
  for (const { id, sample, stretch } of KINDS) {
    const bath = newBath(id, 'one', sample)
    all.set(`kind ${id}`, stretch === 'prepare' ? line([plain], { preparation: [bath] }) : line([bath]))
  }
  for (const lay of LAY_MODES) all.set(`laid ${lay}`, line([plain, { ...toned, lay, strength: 70 }]))
  for (const type of ['ellipse', 'rectangle', 'gradient', 'outline', 'tone', 'colour'] as const)
    for (const reads of ['footage', 'line'] as const)
      all.set(`mask ${type} of the ${reads}`, line([plain, masked(type, { reads, invert: type === 'gradient' })]))
  all.set('part of the strength', line([toned], { strength: 40 }))
  return all
}
