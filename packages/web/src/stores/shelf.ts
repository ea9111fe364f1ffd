import { MOST_LETTERS, type Recipe } from '@fogbath/core/line'
import { lookTitle } from '@fogbath/core/recipes'
import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { api, type KeptTexts } from '../api/client'
import type { KeptRecipe } from '@fogbath/contract'

/** Tags as they are typed, with commas between. */
export const tagsIn = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((t) => t.trim().slice(0, MOST_LETTERS.tag))
      .filter(Boolean),
  ),
]

export type Texts = Pick<KeptRecipe, KeptTexts>

/** Recipes of one's own, as the server has them. */
export const useShelfStore = defineStore('shelf', () => {
  const kept = shallowRef<readonly KeptRecipe[]>([])
  /** Keys of those that stand first; of one’s own, or ids of those that came with the program. */
  const favourites = shallowRef<ReadonlySet<string>>(new Set())
  const there = computed(() => kept.value.filter((row) => !row.archived))

  let asked = 0
  /** The newest answer counts, whichever comes last. */
  async function load(): Promise<readonly KeptRecipe[]> {
    const mine = ++asked
    const [rows, marked] = await Promise.all([api.shelf(), api.favourites()])
    if (mine === asked) [kept.value, favourites.value] = [rows, new Set(marked)]
    return rows
  }

  /** The recipe that a line came from, and the number of its version; null for any other line. */
  function originOf(line: Pick<Recipe, 'id'>): { row: KeptRecipe; number: number } | null {
    const [, key, number] = /^shelf-([a-z0-9]+)-(\d+)$/.exec(line.id) ?? []
    const row = kept.value.find((r) => r.key === key)
    return row ? { row, number: Number(number) } : null
  }

  /** What a look is called, with a word where it has become another than its recipe. */
  function titleOf(look: Recipe): string {
    const own = originOf(look)
    // Of an older version only the newest one is known here.
    return own && own.number !== own.row.latest ? look.name : lookTitle(look, own?.row.recipe)
  }

  /** Keeps a line as a recipe of its own. @returns the line as it is on the shelf */
  async function keep(texts: Texts, recipe: Recipe): Promise<Recipe> {
    const { id } = await api.keepRecipe({ ...texts, recipe })
    return lineOf(id)
  }

  /** Keeps a line as the newest version of a recipe. */
  async function addVersion(row: KeptRecipe, recipe: Recipe): Promise<Recipe> {
    await api.addVersion(row.id, row.revision, recipe)
    return lineOf(row.id)
  }

  async function lineOf(id: number): Promise<Recipe> {
    return (await load()).find((row) => row.id === id)!.recipe
  }

  async function change(row: KeptRecipe, what: Partial<Texts & Pick<KeptRecipe, 'archived'>>): Promise<void> {
    await api.changeKept(row.id, { revision: row.revision, ...what }).finally(load)
  }

  const mark = async (key: string, on: boolean): Promise<void> => {
    await api.markFavourite(key, on).finally(load)
  }

  return { kept, there, favourites, load, originOf, titleOf, keep, addVersion, change, mark }
})
