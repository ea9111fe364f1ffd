import {
  KINDS,
  SHIPPED_RECIPES,
  addKind,
  asNewLine,
  changeSettings,
  kindById,
  type Family,
  type Kind,
  type Recipe,
} from '@fogbath/core'

import type { KeptRecipe } from '../../api/types'

/** One thing that can be added: a bath, or a whole recipe in place of the line. */
export interface Entry {
  readonly id: string
  readonly type: 'bath' | 'recipe'
  readonly label: string
  readonly summary: string
  readonly family: string
  readonly emblem: Family
  /** The line that it makes of a line. */
  readonly make: (line: Recipe, behind: string | undefined) => Recipe
  /** The line that shows what it can do: a bath that does nothing at first is shown with other settings. */
  readonly show: (line: Recipe, behind: string | undefined) => Recipe
  readonly sampled: boolean
}

function bathEntry(kind: Kind): Entry {
  const make: Entry['make'] = (line, behind) => addKind(line, kind.id, behind)
  const { sample } = kind
  const show: Entry['show'] = (line, behind) => {
    const made = make(line, behind)
    const known = new Set(line.baths.map((b) => b.id))
    const added = made.baths.find((b) => !known.has(b.id))!
    return sample ? changeSettings(made, added.id, sample) : made
  }
  return {
    ...{ id: kind.id, type: 'bath', label: kind.label, summary: kind.summary },
    ...{ family: kind.family.name, emblem: kind.family, make, show, sampled: sample !== undefined },
  }
}

function recipeEntry(recipe: Recipe): Entry {
  const make = (): Recipe => asNewLine(recipe)
  const emblem = kindById(recipe.baths[0]!.kind).family
  return {
    ...{ id: recipe.id, type: 'recipe', label: recipe.name, summary: recipe.summary },
    ...{ family: recipe.tags[0] ?? emblem.name, emblem, make, show: () => recipe, sampled: false },
  }
}

/** Under which favourites, and the other recipes of one's own stand. */
const [FAVOURITES, SHELF] = ['Favourites', 'Shelf']

const keptEntry = ({ recipe, name, sentence, tags }: KeptRecipe): Entry => ({
  ...recipeEntry(recipe),
  ...{ label: name, summary: [sentence, ...tags].filter(Boolean).join(' · '), family: SHELF },
})

const ENTRIES: readonly Entry[] = [...KINDS.map(bathEntry), ...SHIPPED_RECIPES.map(recipeEntry)]

export const keyOfEntry = (e: Entry): string => `${e.type} ${e.id}`

/** What has all words of a search, favourites first; what is called so comes before what is only described so. */
export function findEntries(
  search: string,
  kept: readonly KeptRecipe[] = [],
  favourites: ReadonlySet<string> = new Set(),
): readonly Entry[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean)
  const has = (text: string): boolean => words.every((w) => text.toLowerCase().includes(w))
  const own = kept
    .filter((row) => row.recipe.baths.length > 0)
    .map((row) => ({ ...keptEntry(row), ...(favourites.has(row.key) && { family: FAVOURITES }) }))
  const others = ENTRIES.map((e) => (e.type === 'recipe' && favourites.has(e.id) ? { ...e, family: FAVOURITES } : e))
  const all = [...own, ...others]
  const hits = [...all.filter((e) => e.family === FAVOURITES), ...all.filter((e) => e.family !== FAVOURITES)].filter(
    (e) => has(`${e.label} ${e.summary} ${e.family} ${e.type}`),
  )
  return [...hits.filter((e) => has(e.label)), ...hits.filter((e) => !has(e.label))]
}

/** By family; baths and whole lines of one name stand together. */
export function groupEntries(entries: readonly Entry[]): { family: string; list: readonly Entry[] }[] {
  const names = [...new Set(entries.map((e) => e.family))]
  return names.map((family) => ({ family, list: entries.filter((e) => e.family === family) }))
}
