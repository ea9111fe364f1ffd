import type { Recipe } from '@fogbath/core'

/** What undo brings back: recipes as plain data. */
export interface History {
  readonly past: readonly Recipe[]
  readonly future: readonly Recipe[]
}

export const EMPTY: History = { past: [], future: [] }
const MOST = 100

/** Remembers a recipe before it is changed; what had been undone is gone. */
export const remember = (h: History, before: Recipe): History => ({
  past: [...h.past, before].slice(-MOST),
  future: [],
})

export function undo(h: History, now: Recipe): { history: History; recipe: Recipe } | null {
  const recipe = h.past[h.past.length - 1]
  return recipe ? { recipe, history: { past: h.past.slice(0, -1), future: [now, ...h.future] } } : null
}

export function redo(h: History, now: Recipe): { history: History; recipe: Recipe } | null {
  const [recipe, ...future] = h.future
  return recipe ? { recipe, history: { past: [...h.past, now], future } } : null
}

const keyOf = (trialId: number): string => `fogbath.history.${trialId}`

/** Histories live in the browser's storage, so that they survive a reload. */
export function loadHistory(trialId: number): History {
  try {
    return JSON.parse(localStorage.getItem(keyOf(trialId)) ?? 'null') ?? EMPTY
  } catch {
    return EMPTY
  }
}

export function storeHistory(trialId: number, history: History): void {
  try {
    localStorage.setItem(keyOf(trialId), JSON.stringify(history))
  } catch {
    // The storage is full: the older half is given up so that the newer steps stay.
    const half = { past: history.past.slice(-Math.ceil(history.past.length / 2)), future: [] }
    localStorage.removeItem(keyOf(trialId))
    if (history.past.length > 1) storeHistory(trialId, half)
  }
}
