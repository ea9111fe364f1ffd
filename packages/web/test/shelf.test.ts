import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { describe, expect, it } from 'vitest'
import type { KeptRecipe } from '@fogbath/contract'
import { KINDS, THESAURUS } from '@fogbath/core/baths'
import { findEntries, groupEntries } from '../src/bench/board/entries'
import { groupsOf, rowsOf, type Sought } from '../src/shelf/entries'
import { stamps } from './fake-server'

const own = (id: number, key: string, name: string, more: Partial<KeptRecipe> = {}): KeptRecipe => ({
  id,
  key,
  name,
  revision: 1,
  sentence: '',
  maker: '',
  notes: '',
  tags: [],
  archived: false,
  latest: 1,
  ...stamps,
  recipe: { ...SHIPPED_RECIPES[0]!, id: `shelf-${key}-1` },
  versions: [{ number: 1, changes: [], createdAt: `2026-01-0${id}T00:00:00Z` }],
  ...more,
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
    groupEntries(findEntries(search, KEPT, new Set(favourites)))
      .find(({ title }) => title === 'Whole looks')!
      .groups.map(({ family, list }) => [family, ...list.map((e) => e.label)])

  it('begins with favourites, which stand nowhere else', () => {
    const sepia = SHIPPED_RECIPES.find((r) => r.id === 'sepia')!.name
    const all = families(['sepia', 'weir'])
    expect(all[0]).toEqual(['Favourites', 'Weir', sepia])
    expect(all[1]!.slice(0, 2)).toEqual(['Shelf', 'Cut'])
    const recipes = findEntries('', KEPT, new Set(['sepia', 'weir'])).filter((e) => e.type === 'recipe')
    expect(new Set(recipes.map((e) => e.id)).size).toBe(recipes.length)
  })

  it('knows what the trade calls things: the first hit does it', () => {
    const TABLE: Record<string, string> = {
      balance:
        'exposure|white balance|wb|kelvin|tint|black point|white point|highlight recovery|roll-off|brightness|color temperature',
      cdl: 'slope|power|primaries',
      'printer-lights': 'printer points|colour timing|rgb offset',
      'input-lut': 'lut|cube|log|3d lut',
      'colour-print': 'film look|film emulation|bleach bypass|push|pull|flash|print stock|silver retention',
      'black-and-white': 'bw|mono|monochrome|greyscale|toning|noir',
      'false-colour': 'infrared|ir',
      'aged-print': 'fading|washed out|nostalgia',
      contrast: 'contrast|pivot|punch',
      curves: 'tone curve|rgb curves',
      ranges: 'lift|gain|midtones|highlights|colour wheels|three-way|shadows',
      saturation: 'vibrance|desaturate|saturation',
      'hue-response': 'hsl|hue vs sat|secondaries',
      mixer: 'channel mixer|matrix',
      'split-by-hand': 'split toning|teal and orange',
      veil: 'photo filter|colour wash',
      overlay: 'blend|layer|soft light|multiply',
      'picked-colour': 'qualifier|replace colour|keyer',
      detail: 'sharpen|clarity|unsharp mask|denoise|noise reduction',
      softness: 'blur|soft focus|defocus',
      glow: 'bloom|mist|diffusion filter',
      haze: 'haze|fog|atmosphere',
      grain: 'film grain|noise',
      dust: 'scratches|dirt',
      weave: 'jitter|flicker|shake',
      frame: 'crop|letterbox|aspect ratio|border|matte',
      vignette: 'dark corners|falloff',
      strand: 'node|group|parallel',
    }
    const wrong = Object.entries(TABLE).flatMap(([id, words]) =>
      words.split('|').flatMap((word) => {
        const baths = findEntries(word).filter((e) => e.type === 'bath')
        return baths[0]?.id === id
          ? []
          : [
              `${word}: ${baths
                .slice(0, 3)
                .map((e) => e.id)
                .join()} instead of ${id}`,
            ]
      }),
    )
    expect(wrong).toEqual([])
    expect(Object.values(TABLE).flatMap((words) => words.split('|')).length).toBeGreaterThanOrEqual(80)
    // A name comes before a sentence, and whole looks are found by their words.
    expect(findEntries('faded')[0]!.label).toMatch(/^Faded/)
    expect(findEntries('vintage').length).toBeGreaterThan(1)
    expect(Object.keys(THESAURUS).sort()).toEqual(KINDS.map((kind) => kind.id).sort())
  })

  it('says what becomes of the line, and no whole look is called as a bath is', () => {
    // What is kept or marked does not turn it over.
    for (const entries of [findEntries(''), findEntries('', KEPT), findEntries('', KEPT, new Set(['weir', 'sepia']))])
      expect(groupEntries(entries).map(({ title }) => title)).toEqual(['Single baths', 'Whole looks'])
    expect(groupEntries(findEntries('sepia by mixer'))[0]!.title).toBe('Whole looks')
    const names = new Set(KINDS.map((kind) => kind.label.toLowerCase()))
    for (const e of findEntries('')) if (e.type === 'recipe') expect(names.has(e.label.toLowerCase())).toBe(false)
  })

  it('marks recipes, not the bath of the same id', () => {
    const bath = findEntries('', [], new Set(SHIPPED_RECIPES.map((r) => r.id))).filter((e) => e.type === 'bath')
    expect(bath.map((e) => e.family)).not.toContain('Favourites')
  })
})
