import { conflictQueue, type Settlement } from './conflicts'
import { lineSaving } from './line-saving'
import type { BenchLog } from './log'
import type { Outbox } from './saver'
import { shotSaving } from './shot-saving'
import type { BenchState } from './state'

/** Keeps lines and shots saved, and settles what was changed elsewhere meanwhile. */
export function benchSaving(s: BenchState, log: BenchLog, outbox: Outbox) {
  const { conflict, ask, take } = conflictQueue()
  const { saveLine, settleLine, noteOwn } = lineSaving(s, log, outbox, ask)
  const { saveShot, settleShot } = shotSaving(s, outbox, ask)

  /** After a conflict. */
  function settle(which: Settlement): void {
    const found = take()
    if (found?.what === 'line') settleLine(found.theirs, which)
    if (found?.what === 'shot') settleShot(found.theirs, which)
  }

  return {
    conflict,
    saveLine,
    saveShot,
    settle,
    noteOwn,
    keepHistory: log.touch,
    /** Saves all that waits, of this shot and of others, and fails where something could not be saved. */
    leave: outbox.flush,
    saveState: outbox.state,
    saveMessage: outbox.message,
  }
}
export type BenchSaving = ReturnType<typeof benchSaving>
