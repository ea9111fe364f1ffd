import { mergeLooks, type Look } from '@fogbath/core/line'
import type { Trial } from '@fogbath/contract'
import { ApiError, api } from '../../api/client'
import type { Ask, Settlement } from './conflicts'
import type { BenchLog } from './log'
import type { Outbox } from './saver'
import type { BenchState } from './state'

/** Keeps lines saved. @param ask puts what was changed elsewhere to the user */
export function lineSaving(s: BenchState, log: BenchLog, outbox: Outbox, ask: Ask) {
  async function writeLine(id: number): Promise<void> {
    const waiting = s.waitingLines.get(id)
    if (!waiting) return
    const { base, recipe, after } = waiting
    const saved = await api.changeTrial(id, { revision: base.revision, recipe, after }).catch((error: unknown) => {
      const theirs = currentOf<Trial>(error)
      if (theirs) ask({ what: 'line', theirs, merged: mergeLooks(base, waiting, theirs) })
      throw error
    })
    lineSaved(saved, waiting)
  }

  /** What has been changed here since it was sent goes on waiting, on the row as it is now. */
  function lineSaved(saved: Trial, sent: Look): void {
    const now = s.waitingLines.get(saved.id)
    if (now && (now.recipe !== sent.recipe || now.after !== sent.after))
      s.waitingLines.set(saved.id, { ...now, base: saved })
    else s.waitingLines.delete(saved.id)
    s.noteTrial(saved)
  }

  /** The line of the open trial has changed. */
  function saveLine(): void {
    const trial = s.trial.value
    if (!trial) return
    const base = s.waitingLines.get(trial.id)?.base ?? trial
    s.waitingLines.set(trial.id, { base, recipe: s.recipe.value, after: s.after.value })
    touchLine(trial.id)
  }
  const touchLine = (id: number): void => outbox.touch(`line ${id}`, () => writeLine(id))

  function settleLine(theirs: Trial, which: Settlement): void {
    const { id } = theirs
    const waiting = s.waitingLines.get(id)
    outbox.settle(`line ${id}`)
    s.noteTrial(theirs)
    if (!waiting) return
    const merged = mergeLooks(waiting.base, waiting, theirs)
    const { recipe, after } = which === 'theirs' ? theirs : which === 'both' && merged ? merged : waiting
    if (which === 'theirs') {
      s.waitingLines.delete(id)
      // What was made here stays one undo away.
      log.note(theirs.shotId, { kind: 'parts', trialId: id, recipe: waiting.recipe, after: waiting.after })
    } else {
      s.waitingLines.set(id, { base: theirs, recipe, after })
      touchLine(id)
    }
    if (s.trial.value?.id === id) s.turnTo({ recipe, after })
  }

  /** A trial was changed by this window in another way than by its line; its line goes on from there. */
  function noteOwn(saved: Trial): void {
    const waiting = s.waitingLines.get(saved.id)
    if (waiting) s.waitingLines.set(saved.id, { ...waiting, base: saved })
    s.noteTrial(saved)
  }

  return { saveLine, settleLine, noteOwn }
}

/** The row as the server has it now, from a refusal of a stale write. */
const currentOf = <T>(error: unknown): T | null =>
  error instanceof ApiError && error.status === 409 ? ((error.details['current'] as T | undefined) ?? null) : null
