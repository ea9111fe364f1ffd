import type { Step } from '@fogbath/core/line'
import { api } from '../../api/client'
import { changeFrom, remember, type History } from './history'
import type { Outbox } from './saver'
import type { BenchState } from './state'

/** Keeps undo and redo of each shot on the server, so that they are there after a reload and in another browser. */
export function benchLog(s: BenchState, outbox: Outbox) {
  /** Of each shot that was opened: what this window has written, and what it has now. */
  const logs = new Map<number, { there: History; now: History }>()

  async function write(shotId: number): Promise<void> {
    const log = logs.get(shotId)
    if (!log || log.now === log.there) return
    const { now } = log
    await api.changeHistory(shotId, changeFrom(log.there, now))
    log.there = now
  }

  const save = (shotId: number): void => outbox.touch(`history of ${shotId}`, () => write(shotId))

  /** Says that the history of the open shot has changed. */
  function touch(): void {
    const log = logs.get(s.shotThere.value?.id ?? 0)
    if (!log || !s.shotThere.value) return
    log.now = s.history.value
    save(s.shotThere.value.id)
  }

  /** Remembers a step of any shot, open or not. */
  function note(shotId: number, before: Step): void {
    const log = logs.get(shotId)
    if (!log) return
    log.now = remember(log.now, before)
    if (s.shotThere.value?.id === shotId) s.history.value = log.now
    save(shotId)
  }

  /** @returns what turns to the history of that shot, once the shot itself is there */
  async function load(shotId: number): Promise<() => void> {
    const { past, future } = await api.history(shotId)
    return () => {
      const known = logs.get(shotId)
      const there = { past, future: [...future].reverse() }
      // Steps that could not be written yet are in no answer of the server.
      if (!known || known.now === known.there) logs.set(shotId, { there, now: there })
      s.history.value = logs.get(shotId)!.now
    }
  }

  return { load, touch, note }
}
export type BenchLog = ReturnType<typeof benchLog>
