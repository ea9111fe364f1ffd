import type { Recipe } from '@fogbath/core'
import type { KeptRecipe } from '../api/types'

/** A recipe as the shelf shows it; `kept` for one's own. */
export interface ShelfEntry {
  readonly key: string
  readonly name: string
  readonly sentence: string
  readonly tags: readonly string[]
  readonly recipe: Recipe
  readonly kept: KeptRecipe | null
}

const keptEntry = (row: KeptRecipe): ShelfEntry => ({
  ...{ key: row.key, name: row.name, sentence: row.sentence, tags: row.tags, recipe: row.recipe, kept: row },
})
const shippedEntry = (recipe: Recipe): ShelfEntry => ({
  ...{ key: recipe.id, name: recipe.name, sentence: recipe.summary, tags: recipe.tags, recipe, kept: null },
})

export interface Sought {
  readonly search: string
  /** Whether what was archived is looked through, in place of what was not. */
  readonly archived: boolean
}

/** One's own recipes, favourites first and then the newest, before those that come with the program, by their first tag. */
export function groupsOf(
  shipped: readonly Recipe[],
  kept: readonly KeptRecipe[],
  { search, archived }: Sought,
): { title: string; list: readonly ShelfEntry[] }[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean)
  const found = (e: ShelfEntry): boolean => {
    const text = `${e.name} ${e.sentence} ${e.tags.join(' ')}`.toLowerCase()
    return words.every((word) => text.includes(word))
  }
  const own = kept
    .filter((row) => row.archived === archived)
    .sort((a, b) => Number(b.favourite) - Number(a.favourite) || b.id - a.id)
    .map(keptEntry)
    .filter(found)
  const others = archived ? [] : shipped.map(shippedEntry).filter(found)
  const titles = [...new Set(others.map((e) => e.tags[0] ?? ''))]
  const groups = [
    { title: archived ? 'Archived' : 'Your own', list: own },
    ...titles.map((title) => ({ title, list: others.filter((e) => (e.tags[0] ?? '') === title) })),
  ]
  return groups.filter(({ list }) => list.length > 0)
}
