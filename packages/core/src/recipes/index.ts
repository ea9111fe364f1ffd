import { completeRecipe } from '../line/complete'
import { sameTreatment } from '../line/edit'
import type { Recipe } from '../line/recipe'
import graded from './graded.json' with { type: 'json' }
import process from './process.json' with { type: 'json' }
import textured from './textured.json' with { type: 'json' }

/** Recipes as the files beside this one hold them: what stands in none is at its default. */
const whole = (recipes: readonly object[]): readonly Recipe[] => recipes.map((r) => completeRecipe(r) as Recipe)

/** Recipes of the chemistry alone. */
export const PROCESS_RECIPES = whole(process)

/**
 * Recipes that come with the program. Behind those of the chemistry: those in which grading stands around it, or does
 * what it did; and those that are made of grain, light in the film, lens and frame as much as of colour.
 */
export const SHIPPED_RECIPES: readonly Recipe[] = [...PROCESS_RECIPES, ...whole(graded), ...whole(textured)]

/**
 * What a look is called where it is told from others: 'Plain print, changed' where it does something else than the recipe whose
 * name it carries.
 * @param own the recipe that it came from, where that is known and none of the program's
 */
export function lookTitle(look: Recipe, own?: Recipe): string {
  const origin = own ?? SHIPPED_RECIPES.find((recipe) => recipe.id === look.id)
  return origin && !sameTreatment(origin, look) ? `${look.name}, changed` : look.name
}
