import { customAlphabet } from 'nanoid'
import { STRETCHES } from '../baths/kind'
import { kindById } from '../baths/kinds'
import { newBath } from './complete'
import type { Bath, Recipe } from './recipe'

/** Changes to a line as pure functions: each gives a new recipe, the old one stays as it is. */

const stretchOf = (bath: Pick<Bath, 'kind'>): number => STRETCHES.indexOf(kindById(bath.kind).stretch)

/**
 * An id that no bath has had before, in this line or another: lines of two windows are brought together by ids, so one
 * that came back with another bath would join what does not belong together.
 */
export const newId = customAlphabet('0123456789abcdefghijklmnopqrstuvwxyz', 16)

/** A whole recipe as a new line: its baths are new ones, not those of the last line that was made from it. */
export const asNewLine = (recipe: Recipe): Recipe => ({
  ...recipe,
  baths: recipe.baths.map((bath) => ({ ...bath, id: newId() })),
})

/** Whether two lines do the same, whichever baths they are made of. */
export function sameTreatment(a: Recipe, b: Recipe): boolean {
  const told = ({ baths, strength }: Recipe): string => JSON.stringify([strength, baths.map((x) => ({ ...x, id: '' }))])
  return told(a) === told(b)
}

/** Puts a bath at the end of its stretch, or right behind another bath where that is allowed. */
export function insertBath(recipe: Recipe, bath: Bath, behind?: string): Recipe {
  const stretch = stretchOf(bath)
  const own = { ...bath, id: newId() }
  const first = recipe.baths.filter((b) => stretchOf(b) < stretch).length
  const end = recipe.baths.filter((b) => stretchOf(b) <= stretch).length
  const found = recipe.baths.findIndex((b) => b.id === behind)
  const at = found >= 0 && found + 1 >= first && found + 1 <= end ? found + 1 : end
  return { ...recipe, baths: [...recipe.baths.slice(0, at), own, ...recipe.baths.slice(at)] }
}

/** A new bath of a kind at its defaults. */
export function addKind(recipe: Recipe, kindId: string, behind?: string): Recipe {
  return insertBath(recipe, newBath(kindId, newId()), behind)
}

export const removeBath = (recipe: Recipe, id: string): Recipe => ({
  ...recipe,
  baths: recipe.baths.filter((b) => b.id !== id),
})

export function duplicateBath(recipe: Recipe, id: string): Recipe {
  const bath = recipe.baths.find((b) => b.id === id)
  return bath ? insertBath(recipe, bath, id) : recipe
}

/** Whether a bath may stand at an index: the stretches keep their order. */
export function moveBath(recipe: Recipe, id: string, to: number): Recipe {
  const from = recipe.baths.findIndex((b) => b.id === id)
  const bath = recipe.baths[from]
  if (!bath || to < 0 || to >= recipe.baths.length) return recipe
  const rest = recipe.baths.filter((b) => b.id !== id)
  const baths = [...rest.slice(0, to), bath, ...rest.slice(to)]
  const ordered = baths.every((b, i) => i === 0 || stretchOf(b) >= stretchOf(baths[i - 1]!))
  return ordered ? { ...recipe, baths } : recipe
}

export const changeBath = (recipe: Recipe, id: string, change: Partial<Omit<Bath, 'id' | 'kind'>>): Recipe => ({
  ...recipe,
  baths: recipe.baths.map((b) => (b.id === id ? { ...b, ...change } : b)),
})

export const changeSettings = (recipe: Recipe, id: string, settings: Record<string, unknown>): Recipe => ({
  ...recipe,
  baths: recipe.baths.map((b) => (b.id === id ? { ...b, settings: { ...b.settings, ...settings } } : b)),
})

/** Why a bath changes nothing whatever the picture, or null. What depends on the picture shows on its strip. */
export function whyIdle(bath: Bath): string | null {
  if (!bath.in) return 'lifted out'
  if (bath.strength === 0) return 'its strength is 0 %'
  if (bath.under && bath.lay === 'normal')
    return 'it lies under an opaque picture (normal mode): swap the order or choose another mode'
  return kindById(bath.kind).idle(bath.settings)
}
