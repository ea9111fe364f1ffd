import { mergeBaths, mergeMarks } from '@fogbath/core/line'
import type { Shot } from '@fogbath/contract'
import { ApiError, api } from '../../api/client'
import type { Ask, Settlement } from './conflicts'
import type { Outbox } from './saver'
import type { BenchState, ShotFields } from './state'

/** Somebody else may write again between reading a shot and writing it; after so many times it is tried again later. */
const MOST_ATTEMPTS = 5

/** Tracks of both; of one name that which was made here. */
const mergeTracks = (mine: Shot['tracks'], theirs: Shot['tracks']): Shot['tracks'] => [
  ...theirs.filter(({ id }) => !mine.some((track) => track.id === id)),
  ...mine,
]

/** Keeps a shot's own fields saved. @param ask puts what was changed elsewhere to the user */
export function shotSaving(s: BenchState, outbox: Outbox, ask: Ask) {
  async function writeShot(id: number): Promise<void> {
    const waiting = s.waitingShots.get(id)
    if (!waiting) return
    const { base, fields } = waiting
    let now = base
    for (let i = 0; i < MOST_ATTEMPTS; i++) {
      const change = now === base ? fields : mergedFields(base, fields, now)
      try {
        return shotSaved(await api.changeShot(id, { revision: now.revision, ...change }), fields)
      } catch (error) {
        if (!(error instanceof ApiError && error.status === 409)) throw error
        now = await api.shot(id)
      }
    }
    throw new ApiError(503, 'The shot is changed elsewhere all the time; saving it is tried again.')
  }

  /** A stale shot is saved again when what waits can be brought together with what was changed elsewhere; else the user is asked. */
  function mergedFields(base: Shot, fields: ShotFields, theirs: Shot): ShotFields {
    const mine = { ...base, ...fields }
    const marks = mergeMarks(base.marks, mine.marks, theirs.marks)
    const preparation = mergeBaths(base.preparation, mine.preparation, theirs.preparation)
    if (marks && preparation)
      return {
        ...fields,
        ...(fields.tracks && { tracks: mergeTracks(mine.tracks, theirs.tracks) }),
        marks,
        preparation,
      }
    ask({ what: 'shot', theirs, merged: null })
    throw new ApiError(409, 'The shot was changed elsewhere.')
  }

  function shotSaved(saved: Shot, sent: ShotFields): void {
    const now = s.waitingShots.get(saved.id)
    const later = Object.entries(now?.fields ?? {}).filter(([key, value]) => value !== sent[key as keyof ShotFields])
    if (later.length) s.waitingShots.set(saved.id, { base: saved, fields: Object.fromEntries(later) })
    else s.waitingShots.delete(saved.id)
    s.noteShot(saved)
  }

  function saveShot(fields: ShotFields): void {
    const there = s.shotThere.value
    if (!there) return
    const waiting = s.waitingShots.get(there.id)
    s.waitingShots.set(there.id, { base: waiting?.base ?? there, fields: { ...waiting?.fields, ...fields } })
    touchShot(there.id)
  }
  const touchShot = (id: number): void => outbox.touch(`shot ${id}`, () => writeShot(id))

  function settleShot(theirs: Shot, which: Settlement): void {
    const waiting = s.waitingShots.get(theirs.id)
    outbox.settle(`shot ${theirs.id}`)
    s.waitingShots.delete(theirs.id)
    s.noteShot(theirs)
    if (which === 'theirs' || !waiting) return
    s.waitingShots.set(theirs.id, { base: theirs, fields: waiting.fields })
    touchShot(theirs.id)
  }

  return { saveShot, settleShot }
}
