import { type Recipe } from '@fogbath/core/line'
import { measuresOf } from '@fogbath/core/readings'
import type { KeptRecipe, RecipeUse } from '@fogbath/contract'

/** A recipe as the shelf shows it; `kept` for one's own. */
export interface ShelfEntry {
  readonly key: string
  readonly name: string
  readonly sentence: string
  readonly tags: readonly string[]
  readonly recipe: Recipe
  readonly kept: KeptRecipe | null
  /** Stands before the others of its group. */
  readonly favourite: boolean
}

const keptEntry = (row: KeptRecipe) => ({
  key: row.key,
  name: row.name,
  sentence: row.sentence,
  tags: row.tags,
  recipe: row.recipe,
  kept: row,
})
const shippedEntry = (recipe: Recipe) => ({
  key: recipe.id,
  name: recipe.name,
  sentence: recipe.summary,
  tags: recipe.tags,
  recipe,
  kept: null,
})

/** By what the shelf can be put in order. */
export const ORDERS = {
  families: 'by families',
  used: 'lately used first',
  made: 'lately made first',
  colour: 'most coloured first',
  light: 'lightest first',
} as const
export type Order = keyof typeof ORDERS

export interface Sought {
  readonly search: string
  /** A tag that all have, or null. */
  readonly tag: string | null
  /** Whether what was archived is looked through, in place of what was not. */
  readonly archived: boolean
  /** Whether only favourites are looked for. */
  readonly favourites: boolean
  readonly order: Order
}

/** Recipes of one's own, and the keys of favourites. */
export interface Shelf {
  readonly kept: readonly KeptRecipe[]
  readonly favourites: ReadonlySet<string>
}

export interface Group {
  readonly title: string
  readonly list: readonly ShelfEntry[]
}

/** What was found, one's own first and the others by their first tag, or all of it in an order. */
export function groupsOf(
  shipped: readonly Recipe[],
  { kept, favourites: marked }: Shelf,
  uses: readonly RecipeUse[],
  { search, tag, archived, favourites, order }: Sought,
): Group[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean)
  const found = (e: ShelfEntry): boolean => {
    const text = `${e.name} ${e.sentence} ${e.tags.join(' ')}`.toLowerCase()
    return (
      words.every((word) => text.includes(word)) &&
      (tag === null || e.tags.includes(tag)) &&
      (!favourites || e.favourite)
    )
  }
  const ordered = (entries: readonly Omit<ShelfEntry, 'favourite'>[]): ShelfEntry[] =>
    entries
      .map((e) => ({ ...e, favourite: marked.has(e.key) }))
      .filter(found)
      .sort((a, b) => Number(b.favourite) - Number(a.favourite))
  const own = kept
    .filter((row) => row.archived === archived)
    .sort((a, b) => b.id - a.id)
    .map(keptEntry)
  const others = archived ? [] : shipped.map(shippedEntry)
  const groups =
    order === 'families'
      ? [{ title: archived ? 'Archived' : 'Your own', list: ordered(own) }, ...families(ordered(others))]
      : [{ title: ORDERS[order], list: inOrder(ordered([...own, ...others]), order, uses) }]
  return groups.filter(({ list }) => list.length > 0)
}

function families(list: readonly ShelfEntry[]): Group[] {
  const titles = [...new Set(list.map((e) => e.tags[0] ?? ''))]
  return titles.map((title) => ({ title, list: list.filter((e) => (e.tags[0] ?? '') === title) }))
}

function inOrder(
  list: readonly ShelfEntry[],
  order: Exclude<Order, 'families'>,
  uses: readonly RecipeUse[],
): ShelfEntry[] {
  const rank = (e: ShelfEntry): number => {
    if (order === 'used') return lastUse(e, uses)
    if (order === 'made') return e.kept ? Date.parse(e.kept.versions[0]?.createdAt ?? '') || 0 : 0
    const { colourfulness, lightness } = measured(e.recipe)
    return order === 'colour' ? colourfulness : lightness
  }
  return [...list]
    .map((e) => [e, rank(e)] as const)
    .sort((a, b) => b[1] - a[1])
    .map(([e]) => e)
}

/** When a shot was last given the recipe, in any version, or changed it; 0 for never. */
const lastUse = ({ key, kept }: ShelfEntry, uses: readonly RecipeUse[]): number =>
  uses.reduce(
    (last, { id, last: at }) =>
      (kept ? id.startsWith(`shelf-${key}-`) : id === key) ? Math.max(last, Date.parse(at)) : last,
    0,
  )

const measures = new WeakMap<Recipe, ReturnType<typeof measuresOf>>()
function measured(recipe: Recipe): ReturnType<typeof measuresOf> {
  const known = measures.get(recipe) ?? measuresOf(recipe)
  measures.set(recipe, known)
  return known
}

/** All tags that are there, in the order of the alphabet. */
export const tagsOf = (shipped: readonly Recipe[], kept: readonly KeptRecipe[]): string[] =>
  [...new Set([...shipped, ...kept].flatMap((r) => r.tags))].sort((a, b) => a.localeCompare(b))

/** A row of the list: a heading, or so many tiles beside each other. */
export type Row = { readonly title: string } | { readonly tiles: readonly ShelfEntry[] }

export const rowsOf = (groups: readonly Group[], across: number): Row[] =>
  groups.flatMap(({ title, list }) => [
    { title },
    ...Array.from({ length: Math.ceil(list.length / across) }, (_, i) => ({
      tiles: list.slice(i * across, (i + 1) * across),
    })),
  ])
