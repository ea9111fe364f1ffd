import { mergeFields, mergeRecipes, type Recipe } from '@fogbath/core'
import { computed, shallowRef } from 'vue'
import { ApiError, api } from '../../api/client'
import type { Shot, Trial } from '../../api/types'
import type { Outbox } from '../../bench/saver'
import type { BenchLog } from './log'
import type { BenchState, ShotFields } from './state'

/** What was changed in another window at the same time, until it is settled. */
export type Conflict =
  | {
      readonly what: 'line'
      readonly theirs: Trial
      /** Both changes brought together, where that loses nothing. */
      readonly merged: Recipe | null
    }
  | { readonly what: 'shot'; readonly theirs: Shot; readonly merged: null }

/** Somebody else may write again between reading a shot and writing it; after so many times it is tried again later. */
const MOST_ATTEMPTS = 5

/** Keeps lines and shots saved, and settles what was changed elsewhere meanwhile. */
export function benchSaving(s: BenchState, log: BenchLog, outbox: Outbox) {
  const conflicts = shallowRef<readonly Conflict[]>([])
  const conflict = computed(() => conflicts.value[0] ?? null)
  const ask = (found: Conflict): void => void (conflicts.value = [...conflicts.value, found])

  async function writeLine(id: number): Promise<void> {
    const waiting = s.waitingLines.get(id)
    if (!waiting) return
    const { base, recipe } = waiting
    const saved = await api.changeTrial(id, { revision: base.revision, recipe }).catch((error: unknown) => {
      const theirs = currentOf<Trial>(error)
      if (theirs) ask({ what: 'line', theirs, merged: mergeRecipes(base.recipe, recipe, theirs.recipe) })
      throw error
    })
    lineSaved(saved, recipe)
  }

  /** What has been changed here since it was sent goes on waiting, on the row as it is now. */
  function lineSaved(saved: Trial, sent: Recipe): void {
    const now = s.waitingLines.get(saved.id)
    if (now && now.recipe !== sent) s.waitingLines.set(saved.id, { base: saved, recipe: now.recipe })
    else s.waitingLines.delete(saved.id)
    s.noteTrial(saved)
  }

  /** The line of the open trial has changed. */
  function saveLine(): void {
    const trial = s.trial.value
    if (!trial) return
    const base = s.waitingLines.get(trial.id)?.base ?? trial
    s.waitingLines.set(trial.id, { base, recipe: s.recipe.value })
    touchLine(trial.id)
  }
  const touchLine = (id: number): void => outbox.touch(`line ${id}`, () => writeLine(id))

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

  /** A stale shot is saved again when the fields that wait were not touched elsewhere; else the user is asked. */
  function mergedFields(base: Shot, fields: ShotFields, theirs: Shot): ShotFields {
    const pick = (shot: Shot) => ({ ...shot.trims, marks: shot.marks })
    const merged = mergeFields(pick(base), pick({ ...base, ...fields }), pick(theirs))
    if (!merged) {
      ask({ what: 'shot', theirs, merged: null })
      throw new ApiError(409, 'The shot was changed elsewhere.')
    }
    const { marks, ...trims } = merged
    return { ...fields, marks, trims }
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

  /** After a conflict: take what is there, write ours over it, or both brought together. */
  function settle(which: 'theirs' | 'mine' | 'both'): void {
    const [found, ...others] = conflicts.value
    conflicts.value = others
    if (found?.what === 'line') settleLine(found.theirs, which)
    if (found?.what === 'shot') settleShot(found.theirs, which)
  }

  function settleLine(theirs: Trial, which: 'theirs' | 'mine' | 'both'): void {
    const { id } = theirs
    const waiting = s.waitingLines.get(id)
    outbox.settle(`line ${id}`)
    s.noteTrial(theirs)
    if (!waiting) return
    const merged = mergeRecipes(waiting.base.recipe, waiting.recipe, theirs.recipe)
    const recipe = which === 'theirs' ? theirs.recipe : which === 'both' && merged ? merged : waiting.recipe
    if (which === 'theirs') {
      s.waitingLines.delete(id)
      // What was made here stays one undo away.
      log.note(theirs.shotId, { kind: 'recipe', trialId: id, recipe: waiting.recipe })
    } else {
      s.waitingLines.set(id, { base: theirs, recipe })
      touchLine(id)
    }
    if (s.trial.value?.id === id) s.turnTo(recipe)
  }

  function settleShot(theirs: Shot, which: 'theirs' | 'mine' | 'both'): void {
    const waiting = s.waitingShots.get(theirs.id)
    outbox.settle(`shot ${theirs.id}`)
    s.waitingShots.delete(theirs.id)
    s.noteShot(theirs)
    if (which === 'theirs' || !waiting) return
    s.waitingShots.set(theirs.id, { base: theirs, fields: waiting.fields })
    touchShot(theirs.id)
  }

  /** A trial was changed by this window in another way than by its line; its line goes on from there. */
  function noteOwn(saved: Trial): void {
    const waiting = s.waitingLines.get(saved.id)
    if (waiting) s.waitingLines.set(saved.id, { ...waiting, base: saved })
    s.noteTrial(saved)
  }

  return {
    ...{ conflict, saveLine, saveShot, settle, noteOwn, keepHistory: log.touch },
    /** Saves all that waits, of this shot and of others, and fails where something could not be saved. */
    leave: outbox.flush,
    saveState: outbox.state,
    saveMessage: outbox.message,
  }
}
export type BenchSaving = ReturnType<typeof benchSaving>

/** The row as the server has it now, from a refusal of a stale write. */
const currentOf = <T>(error: unknown): T | null =>
  error instanceof ApiError && error.status === 409 ? ((error.details['current'] as T | undefined) ?? null) : null
