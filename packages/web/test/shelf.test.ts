import { SHIPPED_RECIPES } from '@fogbath/core'
import { describe, expect, it } from 'vitest'
import type { KeptRecipe } from '../src/api/types'
import { findEntries, groupEntries } from '../src/bench/board/entries'
import { groupsOf, rowsOf, type Sought } from '../src/shelf/entries'

const own = (id: number, key: string, name: string, more: Partial<KeptRecipe> = {}): KeptRecipe => ({
  ...{ id, key, name, revision: 1, sentence: '', maker: '', notes: '', tags: [], archived: false, latest: 1 },
  ...{ createdAt: '2026-01-01T00:00:00Z', recipe: { ...SHIPPED_RECIPES[0]!, id: `shelf-${key}-1` } },
  ...{ versions: [{ number: 1, changes: [], createdAt: `2026-01-0${id}T00:00:00Z` }], ...more },
})
const KEPT = [own(1, 'weir', 'Weir'), own(2, 'cut', 'Cut'), own(3, 'gone', 'Gone', { archived: true })]
const ANY: Sought = { search: '', tag: null, archived: false, favourites: false, order: 'families' }
const shelf = (favourites: string[]) => ({ kept: KEPT, favourites: new Set(favourites) })
const namesIn = (sought: Partial<Sought>, favourites: string[] = []) =>
  groupsOf(SHIPPED_RECIPES, shelf(favourites), [], { ...ANY, ...sought }).map(
    ({ title, list }) => [title, ...list.map((e) => e.name)] as const,
  )

describe('the shelf', () => {
  it('has one’s own first, the newest in front, and a favourite before all of its group', () => {
    expect(namesIn({})[0]).toEqual(['Your own', 'Cut', 'Weir'])
    expect(namesIn({}, ['weir'])[0]).toEqual(['Your own', 'Weir', 'Cut'])
    const last = SHIPPED_RECIPES.filter((r) => r.tags[0] === 'Silver and dye').at(-1)!
    const silver = (favourites: string[]) => namesIn({}, favourites).find(([title]) => title === 'Silver and dye')!
    expect(silver([])[1]).not.toBe(last.name)
    expect(silver([last.id])[1]).toBe(last.name)
    expect([...silver([last.id])].sort()).toEqual([...silver([])].sort())
  })

  it('finds by all words, by a tag, among favourites and among what was archived', () => {
    const sepia = SHIPPED_RECIPES.find((r) => r.id === 'sepia')!.name
    expect(namesIn({ favourites: true }, ['sepia', 'cut', 'gone']).flatMap(([, ...names]) => names)).toEqual([
      'Cut',
      sepia,
    ])
    expect(namesIn({ archived: true })).toEqual([['Archived', 'Gone']])
    expect(namesIn({ search: 'weir zzz' })).toEqual([])
    expect(namesIn({ search: 'WEIR' })).toEqual([['Your own', 'Weir']])
  })

  it('is one list in an order, whatever is a favourite', () => {
    const [made] = namesIn({ order: 'made' }, ['weir'])
    expect(made!.slice(0, 3)).toEqual(['lately made first', 'Cut', 'Weir'])
    const [light, again] = [namesIn({ order: 'light' }), namesIn({ order: 'light' }, ['sepia'])]
    expect(new Set(again[0])).toEqual(new Set(light[0]))
  })

  it('is laid out in rows of so many tiles, each group from a heading on', () => {
    const groups = groupsOf(SHIPPED_RECIPES, shelf([]), [], { ...ANY, search: 'weir' })
    expect(rowsOf([...groups, ...groups], 3).map((row) => ('title' in row ? row.title : row.tiles.length))).toEqual([
      ...['Your own', 1],
      ...['Your own', 1],
    ])
  })
})

describe('the board', () => {
  const families = (favourites: string[], search = '') =>
    groupEntries(findEntries(search, KEPT, new Set(favourites))).map(({ family, list }) => [
      family,
      ...list.map((e) => e.label),
    ])

  it('begins with favourites, which stand nowhere else', () => {
    const sepia = SHIPPED_RECIPES.find((r) => r.id === 'sepia')!.name
    const all = families(['sepia', 'weir'])
    expect(all[0]).toEqual(['Favourites', 'Weir', sepia])
    expect(all[1]!.slice(0, 2)).toEqual(['Shelf', 'Cut'])
    const recipes = findEntries('', KEPT, new Set(['sepia', 'weir'])).filter((e) => e.type === 'recipe')
    expect(new Set(recipes.map((e) => e.id)).size).toBe(recipes.length)
  })

  it('marks recipes, not the bath of the same id', () => {
    const bath = findEntries('', [], new Set(SHIPPED_RECIPES.map((r) => r.id))).filter((e) => e.type === 'bath')
    expect(bath.map((e) => e.family)).not.toContain('Favourites')
  })
})
