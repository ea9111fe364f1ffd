import { customAlphabet } from 'nanoid'
import { STRETCHES } from '../baths/kind'
import { kindById } from '../baths/kinds'
import { allBaths, newBath } from './complete'
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
  baths: recipe.baths.map(asNewBath),
})

/** A bath, and those in it, with ids that none has had. */
function asNewBath(bath: Bath): Bath {
  const own = { ...bath, id: newId() }
  return inside(own) ? { ...own, settings: { ...own.settings, baths: inside(own)!.map(asNewBath) } } : own
}

/** The baths in a strand; undefined for any other bath. */
const inside = (bath: Bath): readonly Bath[] | undefined => kindById(bath.kind).strand?.(bath.settings)

/** Each bath of a list, and of the strands in it, as what becomes of it: itself, others, nothing. */
export function eachBath(baths: readonly Bath[], become: (bath: Bath) => readonly Bath[]): Bath[] {
  return baths.flatMap(become).map((bath) => {
    const own = inside(bath)
    if (!own) return bath
    const changed = eachBath(own, become)
    const same = changed.length === own.length && changed.every((b, i) => b === own[i])
    return same ? bath : { ...bath, settings: { ...bath.settings, baths: changed } }
  })
}

/** A bath of the line or of a strand in it. */
export const findBath = (recipe: Pick<Recipe, 'baths'>, id: string | null): Bath | undefined =>
  allBaths(recipe).find((b) => b.id === id)

/** Index of the bath of the line that is the one named, or holds it; -1 when there is none. */
export const placeInLine = (recipe: Pick<Recipe, 'baths'>, id: string | null): number =>
  recipe.baths.findIndex((b) => b.id === id || inside(b)?.some((own) => own.id === id))

/** Whether two lines do the same, whichever baths they are made of. */
export const sameTreatment = (a: Recipe, b: Recipe): boolean => treatmentOf(a) === treatmentOf(b)

/** What a line does, as a text: two lines that do the same have the same. */
export const treatmentOf = ({ baths, strength, keys }: Recipe): string =>
  JSON.stringify([strength, eachBath(baths, (x) => [{ ...x, id: '' }]), keys])

/** Puts a bath at the end of its stretch, or right behind another bath where that is allowed. */
export function insertBath(recipe: Recipe, bath: Bath, behind?: string): Recipe {
  const stretch = stretchOf(bath)
  const own = asNewBath(bath)
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
  baths: eachBath(recipe.baths, (b) => (b.id === id ? [] : [b])),
})

export function duplicateBath(recipe: Recipe, id: string): Recipe {
  if (!findBath(recipe, id)) return recipe
  return { ...recipe, baths: eachBath(recipe.baths, (b) => (b.id === id ? [b, asNewBath(b)] : [b])) }
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
  baths: eachBath(recipe.baths, (b) => [b.id === id ? { ...b, ...change } : b]),
})

export const changeSettings = (recipe: Recipe, id: string, settings: Record<string, unknown>): Recipe => ({
  ...recipe,
  baths: eachBath(recipe.baths, (b) => [b.id === id ? { ...b, settings: { ...b.settings, ...settings } } : b]),
})

/** Why a bath changes nothing whatever the picture, or null. What depends on the picture shows on its strip. */
export function whyIdle(bath: Bath): string | null {
  if (!bath.in) return 'lifted out'
  const { strength: lane, ...lanes } = bath.keys ?? {}
  if (bath.strength === 0 && !lane) return 'its strength is 0 %'
  if (bath.under && bath.lay === 'normal')
    return 'it lies under an opaque picture (normal mode): swap the order or choose another mode'
  // What changes over the shot does something in some of its frames.
  return Object.keys(lanes).length > 0 ? null : kindById(bath.kind).idle(bath.settings)
}
