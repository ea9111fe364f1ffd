import type { Recipe, Trims } from '@fogbath/core'

/** One thing that was changed on a shot, as it was before: a trial's line, the trims, or lines put on other shots. */
export type Step =
  | { readonly kind: 'recipe'; readonly trialId: number; readonly recipe: Recipe }
  | { readonly kind: 'trims'; readonly trims: Trims }
  | { readonly kind: 'shots'; readonly trials: readonly { readonly trialId: number; readonly recipe: Recipe }[] }

/** What undo brings back, for one shot. */
export interface History {
  readonly past: readonly Step[]
  readonly future: readonly Step[]
}

export const EMPTY: History = { past: [], future: [] }
const MOST = 100

/** Remembers what was there before a change; what had been undone is gone. */
export const remember = (h: History, before: Step): History => ({
  past: [...h.past, before].slice(-MOST),
  future: [],
})

/** What is to be brought back, and the history after that. */
export interface Turn {
  readonly history: History
  readonly step: Step
}

/** @param now the present state of the same thing that a step holds */
export function undo(h: History, now: (like: Step) => Step): Turn | null {
  const step = h.past[h.past.length - 1]
  return step ? { step, history: { past: h.past.slice(0, -1), future: [now(step), ...h.future] } } : null
}

export function redo(h: History, now: (like: Step) => Step): Turn | null {
  const [step, ...future] = h.future
  return step ? { step, history: { past: [...h.past, now(step)], future } } : null
}

const keyOf = (shotId: number): string => `fogbath.undo.${shotId}`

/** Histories live in the browser's storage, so that they survive a reload. */
export function loadHistory(shotId: number): History {
  try {
    return JSON.parse(localStorage.getItem(keyOf(shotId)) ?? 'null') ?? EMPTY
  } catch {
    return EMPTY
  }
}

export function storeHistory(shotId: number, history: History): void {
  try {
    localStorage.setItem(keyOf(shotId), JSON.stringify(history))
  } catch {
    // The storage is full: the older half is given up so that the newer steps stay.
    const half = { past: history.past.slice(-Math.floor(history.past.length / 2)), future: [] }
    localStorage.removeItem(keyOf(shotId))
    if (history.past.length > 1) storeHistory(shotId, half)
  }
}
