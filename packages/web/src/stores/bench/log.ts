import { ApiError, api } from '../../api/client'
import { EMPTY, changeFrom, type History } from '../../bench/history'
import { makeSaver } from '../../bench/saver'
import type { BenchState } from './state'

/** Keeps undo and redo of the shot on the server, so that they are there after a reload and in another browser. */
export function benchLog(s: BenchState) {
  /** What the server has, and how often it was written. */
  let there: { readonly history: History; readonly revision: number } = { history: EMPTY, revision: 0 }

  const saver = makeSaver(async () => {
    const shotId = s.shot.value?.id
    const now = s.history.value
    if (shotId === undefined || now === there.history) return
    const write = async (): Promise<number> =>
      (await api.changeHistory(shotId, { revision: there.revision, ...changeFrom(there.history, now) })).revision
    const revision = await write().catch((error: unknown) => {
      const current = error instanceof ApiError && error.status === 409 ? error.details['current'] : undefined
      if (!current) throw error
      // Another window wrote its steps. Those of this one are true for what is seen here: they take the place of all.
      there = { history: EMPTY, ...(current as { revision: number }) }
      return write()
    })
    there = { history: now, revision }
  })

  /** @returns what turns to the history of that shot, once the shot itself is there */
  async function load(shotId: number): Promise<() => void> {
    const { revision, past, future } = await api.history(shotId)
    return () => {
      there = { revision, history: { past, future: [...future].reverse() } }
      s.history.value = there.history
    }
  }

  return { load, touch: saver.touch, flush: saver.flush, state: saver.state, message: saver.message }
}
export type BenchLog = ReturnType<typeof benchLog>
