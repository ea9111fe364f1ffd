import { newBath } from './complete'
import { RECIPE_VERSION, type Bath, type Recipe } from './recipe'

const one = (kind: string, settings: Record<string, unknown> = {}): Bath => newBath(kind, 'bath-1', settings)

const recipe = (id: string, name: string, family: string, summary: string, ...baths: Bath[]): Recipe => ({
  version: RECIPE_VERSION,
  id,
  name,
  summary,
  tags: [family],
  strength: 100,
  baths,
})

/** Recipes that come with the program. */
export const SHIPPED_RECIPES: readonly Recipe[] = [
  recipe(
    'plain',
    'Plain print',
    'Silver and dye',
    'The colour negative printed as the lab would print it every day.',
    one('colour-print'),
  ),
  recipe(
    'bleach-bypass',
    'Bleach bypass',
    'Silver and dye',
    'All silver kept in the print: hard, deep and pale in colour.',
    one('colour-print', { bleachPrint: 0 }),
  ),
  recipe(
    'bleach-bypass-half',
    'Bleach bypass, half',
    'Silver and dye',
    'Half of the print’s silver kept: firmer and quieter, still in colour.',
    one('colour-print', { bleachPrint: 50 }),
  ),
  recipe(
    'silver-negative',
    'Silver in the negative',
    'Silver and dye',
    'The negative’s bleach cut short: steep contrast, bright lights, restrained colour.',
    one('colour-print', { bleachNegative: 30 }),
  ),
]
