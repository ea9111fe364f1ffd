import { MOST_STEPS, type HistoryChange, type Step } from '@fogbath/core'

/** What undo brings back, for one shot. */
export interface History {
  readonly past: readonly Step[]
  readonly future: readonly Step[]
}

export const EMPTY: History = { past: [], future: [] }

/** Remembers what was there before a change; what had been undone is gone. */
export const remember = (h: History, before: Step): History => ({
  past: [...h.past, before].slice(-MOST_STEPS),
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

/** What is to be written so that the server's history becomes `now`. Steps are the same when they are one object. */
export function changeFrom(there: History, now: History): Pick<HistoryChange, 'past' | 'future'> {
  const drop = now.past.length ? Math.max(0, there.past.indexOf(now.past[0]!)) : 0
  const keep = sameFromBottom(there.past.slice(drop), now.past)
  // The next step of redo stands first, so that its stack is read from the end.
  const [theirs, ours] = [[...there.future].reverse(), [...now.future].reverse()]
  const kept = sameFromBottom(theirs, ours)
  return {
    past: { drop: keep ? drop : 0, keep, add: now.past.slice(keep) },
    future: { keep: kept, add: ours.slice(kept) },
  }
}

function sameFromBottom(a: readonly Step[], b: readonly Step[]): number {
  const at = a.findIndex((step, i) => step !== b[i])
  return at < 0 ? Math.min(a.length, b.length) : at
}
