import { MOST_STEPS, newId, type HistoryChange, type KeptStep, type StackChange, type Step } from '@fogbath/core/line'

/** What undo brings back, for one shot. */
export interface History {
  /** Oldest step first. */
  readonly past: readonly KeptStep[]
  /** The next step of redo first. */
  readonly future: readonly KeptStep[]
}

export const EMPTY: History = { past: [], future: [] }

const named = (step: Step): KeptStep => ({ key: newId(), step })

/** Remembers what was there before a change; what had been undone is gone. */
export const remember = (h: History, before: Step): History => ({
  past: [...h.past, named(before)].slice(-MOST_STEPS),
  future: [],
})

/** What is to be brought back, and the history after that. */
export interface Turn {
  readonly history: History
  readonly step: Step
}

/** @param now the present state of the same thing that a step holds */
export function undo(h: History, now: (like: Step) => Step): Turn | null {
  const last = h.past[h.past.length - 1]
  if (!last) return null
  return { step: last.step, history: { past: h.past.slice(0, -1), future: [named(now(last.step)), ...h.future] } }
}

export function redo(h: History, now: (like: Step) => Step): Turn | null {
  const [next, ...future] = h.future
  return next ? { step: next.step, history: { past: [...h.past, named(now(next.step))], future } } : null
}

/** What is to be written so that what this window has put on the server's stacks becomes `now`. */
export const changeFrom = (there: History, now: History): HistoryChange => ({
  past: stackChange(there.past, now.past),
  // The server's stacks both begin with what lies lowest.
  future: stackChange([...there.future].reverse(), [...now.future].reverse()),
})

function stackChange(there: readonly KeptStep[], now: readonly KeptStep[]): StackChange {
  const [before, after] = [there, now].map((stack) => new Set(stack.map(({ key }) => key))) as [
    Set<string>,
    Set<string>,
  ]
  return {
    remove: [...before].filter((key) => !after.has(key)),
    add: now.filter(({ key }) => !before.has(key)),
  }
}
