import { KINDS, kindById, namedBy, type Family, type Kind } from '@fogbath/core/baths'
import {
  asNewLine,
  changeSettings,
  editAt,
  insertInLine,
  newBath,
  newId,
  type Bath,
  type Line,
  type Recipe,
} from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'

import type { KeptRecipe } from '@fogbath/contract'
import { addedTo } from '../../stores/bench/edits'

/** One thing that can be added: a bath, or a whole recipe in place of the look. */
export interface Entry {
  readonly id: string
  readonly type: 'bath' | 'recipe'
  readonly label: string
  readonly summary: string
  readonly family: string
  readonly emblem: Family
  /** The line that it makes of a line. */
  readonly make: (line: Line, behind: string | undefined) => Line
  /** The line that shows what it can do: a bath that does nothing at first is shown with other settings. */
  readonly show: (line: Line, behind: string | undefined) => Line
  readonly sampled: boolean
  /** Of a recipe: on what footage it was made. */
  readonly madeFor?: Recipe['madeFor']
}

function bathEntry(kind: Kind): Entry {
  const make: Entry['make'] = (line, behind) => insertInLine(line, newBath(kind.id, newId()), behind)
  const { sample } = kind
  const show: Entry['show'] = (line, behind) => {
    const made = make(line, behind)
    const added = addedTo(line, made)!
    return sample ? editAt(made, added, (part) => changeSettings(part, added, sample)) : made
  }
  return {
    id: kind.id,
    type: 'bath',
    label: kind.label,
    summary: kind.summary,
    family: kind.family.name,
    emblem: kind.family,
    make,
    show,
    sampled: sample !== undefined,
  }
}

/** Whether one name is the beginning of the other. */
const near = (a: string, b: string): boolean => {
  const [x, y] = [a.toLowerCase(), b.toLowerCase()]
  return x.startsWith(y) || y.startsWith(x)
}

function recipeEntry(recipe: Recipe): Entry {
  const make: Entry['make'] = (line) => ({ ...line, recipe: asNewLine(recipe) })
  const emblem = kindById(recipe.baths[0]!.kind).family
  return {
    id: recipe.id,
    type: 'recipe',
    label: KINDS.some(({ label }) => near(label, recipe.name)) ? `${recipe.name}, whole look` : recipe.name,
    summary: recipe.summary,
    family: recipe.tags[0] ?? emblem.name,
    emblem,
    make,
    show: (line) => ({ ...line, recipe }),
    sampled: false,
    ...(recipe.madeFor && { madeFor: recipe.madeFor }),
  }
}

/** Under which favourites, and the other recipes of one's own stand. */
const [FAVOURITES, SHELF] = ['Favourites', 'Shelf']

const keptEntry = ({ recipe, name, sentence, tags }: KeptRecipe): Entry => ({
  ...recipeEntry(recipe),
  label: name,
  summary: [sentence, ...tags].filter(Boolean).join(' · '),
  family: SHELF,
})

const ENTRIES: readonly Entry[] = [...KINDS.map(bathEntry), ...SHIPPED_RECIPES.map(recipeEntry)]

export const keyOfEntry = (e: Entry): string => `${e.type} ${e.id}`

/** How well a word finds an entry: by its name or the trade's own word for it, by parts of them, by its sentence; 0 not at all. */
function scoreOf(e: Entry, word: string): number {
  const name = e.label.toLowerCase()
  if (name.startsWith(word)) return 7
  const trade = e.type === 'bath' ? namedBy(e.id, word) : 0
  if (trade === 3) return 6
  if (name.includes(word)) return 5
  if (trade === 2) return 4
  if (`${e.summary} ${e.family} ${e.type}`.toLowerCase().includes(word)) return 2
  return trade
}

/**
 * What has all words of a search, the best hit first; among equals baths before looks, and favourites before others. Words are those of names and sentences, and those
 * by which the trade calls what a bath does; a whole term, such as 'hue vs sat', is looked for as one.
 */
export function findEntries(
  search: string,
  kept: readonly KeptRecipe[] = [],
  favourites: ReadonlySet<string> = new Set(),
): readonly Entry[] {
  const sought = search.trim().toLowerCase()
  const words = sought.split(/\s+/).filter(Boolean)
  const own = kept
    .filter((row) => row.recipe.baths.length > 0)
    .map((row) => ({ ...keptEntry(row), ...(favourites.has(row.key) && { family: FAVOURITES }) }))
  const others = ENTRIES.map((e) => (e.type === 'recipe' && favourites.has(e.id) ? { ...e, family: FAVOURITES } : e))
  const score = (e: Entry): number => {
    if (words.length === 0) return 1
    const each = words.map((word) => scoreOf(e, word))
    return Math.max(Math.min(...each), scoreOf(e, sought))
  }
  return [...own, ...others]
    .map((entry) => ({
      entry,
      score: score(entry),
      bath: entry.type === 'bath',
      favourite: entry.family === FAVOURITES,
    }))
    .filter((hit) => hit.score > 0)
    .sort((a, b) => b.score - a.score || Number(b.bath) - Number(a.bath) || Number(b.favourite) - Number(a.favourite))
    .map(({ entry }) => entry)
}

/** What becomes of the present line, by what is taken. */
const PARTS: readonly { readonly type: Entry['type']; readonly title: string; readonly note: string }[] = [
  { type: 'bath', title: 'Single baths', note: 'added to the line' },
  { type: 'recipe', title: 'Whole looks', note: 'in place of this look; the shot’s own baths stay' },
]

export interface BoardPart {
  readonly title: string
  readonly note: string
  readonly groups: readonly { readonly family: string; readonly list: readonly Entry[] }[]
}

/** Single baths and whole looks apart, the part that has the best hit first; looks by family, of which baths have hardly two each. */
export function groupEntries(entries: readonly Entry[]): BoardPart[] {
  const first = entries[0]?.type
  return PARTS.map(({ type, ...texts }) => {
    const own = entries.filter((e) => e.type === type)
    if (type === 'bath') return { ...texts, type, groups: own.length > 0 ? [{ family: '', list: own }] : [] }
    const names = [...new Set(own.map((e) => e.family))]
    return { ...texts, type, groups: names.map((family) => ({ family, list: own.filter((e) => e.family === family) })) }
  })
    .filter(({ groups }) => groups.length > 0)
    .sort((a, b) => Number(b.type === first) - Number(a.type === first))
}

/** The process of the line that a further one would print once more: the chosen one, or the last. */
export function processOf({ recipe }: Line, chosen: string | null): Bath | undefined {
  const all = recipe.baths.filter((bath) => kindById(bath.kind).stretch === 'process')
  return all.find((bath) => bath.id === chosen) ?? all.at(-1)
}
/** The line with a new bath in place of another one. */
export const inPlaceOf = (line: Line, old: Bath, kindId: string): Line => {
  const made = newBath(kindId, newId())
  return editAt(line, old.id, (part) => ({ ...part, baths: part.baths.map((b) => (b.id === old.id ? made : b)) }))
}
