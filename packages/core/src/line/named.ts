import { newBath } from './complete'
import { RECIPE_VERSION, type Bath, type Recipe } from './recipe'

/** A bath as a recipe names it: kind, settings, and how it is laid. */
type Named = readonly [kind: string, settings?: Record<string, unknown>, how?: Partial<Bath>]

export const named = (id: string, name: string, summary: string, tag: string, ...baths: readonly Named[]): Recipe => ({
  version: RECIPE_VERSION,
  ...{ id, name, summary, tags: [tag], strength: 100 },
  baths: baths.map(([kind, settings, how], i) => ({ ...newBath(kind, `bath-${i + 1}`, settings), ...how })),
})

export const PRINT: Named = ['colour-print']
