import { FogBathError } from '../errors'
import { checkRecipe } from './complete'
import { MOST_BATHS, type Recipe } from './recipe'

/** Plain data is the same when it is written the same. */
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)

/**
 * Brings two changes of the same flat object together: a field that only one side changed is taken from that side.
 * @returns null where both changed a field, each in its own way
 */
export function mergeFields<T extends object>(base: T, mine: T, theirs: T): T | null {
  const merged = { ...theirs }
  for (const key of Object.keys({ ...base, ...mine }) as (keyof T)[]) {
    if (same(mine[key], base[key])) continue
    if (!same(theirs[key], base[key]) && !same(theirs[key], mine[key])) return null
    if (key in mine) merged[key] = mine[key]
    // What may be left out was taken away.
    else delete merged[key]
  }
  return merged
}

/**
 * The same for recipes, bath by bath and setting by setting. Only one side may have added, removed or moved baths.
 * @returns null where the two cannot be brought together without losing something, or where what comes out is no line
 */
export function mergeRecipes(base: Recipe, mine: Recipe, theirs: Recipe): Recipe | null {
  const ids = (r: Recipe): string[] => r.baths.map((b) => b.id)
  const [mineMoved, theirsMoved] = [!same(ids(mine), ids(base)), !same(ids(theirs), ids(base))]
  if (mineMoved && theirsMoved && !same(ids(mine), ids(theirs))) return null
  const whole = mergeFields({ ...base, baths: [] }, { ...mine, baths: [] }, { ...theirs, baths: [] })
  if (!whole) return null
  const baths: Recipe['baths'][number][] = []
  for (const id of ids(mineMoved ? mine : theirs)) {
    const [b, m, t] = [base, mine, theirs].map((r) => r.baths.find((x) => x.id === id))
    const merged = mergeBath(b, m, t)
    if (!merged) return null
    baths.push(merged)
  }
  const gone = ids(base).filter((id) => !baths.some((b) => b.id === id))
  // A bath that one side took away must not have been worked on by the other.
  const worked = gone.some((id) => [mine, theirs].some((r) => r.baths.some((b) => b.id === id && changed(base, b))))
  return worked ? null : valid({ ...whole, baths })
}

type Bath = Recipe['baths'][number]

const changed = (base: Recipe, bath: Bath): boolean =>
  !same(
    base.baths.find((b) => b.id === bath.id),
    bath,
  )

function mergeBath(base: Bath | undefined, mine: Bath | undefined, theirs: Bath | undefined): Bath | null {
  if (!base || !mine || !theirs) {
    const one = mine ?? theirs!
    return mine && theirs && !same(mine, theirs) ? null : one
  }
  // Settings of one kind mean nothing to another.
  if (mine.kind !== theirs.kind) return null
  const outer = mergeFields({ ...base, settings: {} }, { ...mine, settings: {} }, { ...theirs, settings: {} })
  const settings = mergeFields(base.settings, mine.settings, theirs.settings)
  return outer && settings ? { ...outer, settings } : null
}

/** Two good lines can make a bad one: too many baths, or an order that is not allowed. */
function valid(merged: Recipe): Recipe | null {
  try {
    return merged.baths.length > MOST_BATHS ? null : checkRecipe(merged)
  } catch (error) {
    if (error instanceof FogBathError) return null
    throw error
  }
}
