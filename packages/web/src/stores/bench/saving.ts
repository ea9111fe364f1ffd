import { mergeFields, mergeRecipes, type Recipe } from '@fogbath/core'
import { computed, ref, shallowRef } from 'vue'
import { ApiError, api } from '../../api/client'
import type { Shot, Trial } from '../../api/types'
import { remember } from '../../bench/history'
import { makeSaver, type SaveState } from '../../bench/saver'
import type { BenchLog } from './log'
import type { BenchState } from './state'

/** What was changed in another window at the same time, until it is settled. */
export interface Conflict {
  readonly what: 'line' | 'shot'
  readonly theirs: Trial | Shot
  /** Both changes brought together, where that loses nothing. */
  readonly merged: Recipe | null
}

const ORDER: readonly SaveState[] = ['conflict', 'refused', 'offline', 'saving', 'changed', 'saved']

/** Keeps line and shot saved, and settles what was changed elsewhere meanwhile. */
export function benchSaving(s: BenchState, log: BenchLog) {
  const conflict = shallowRef<Conflict | null>(null)
  /** What of the shot's own fields waits to be saved. */
  const pending = ref<Partial<Pick<Shot, 'trims' | 'marks'>>>({})

  const line = makeSaver(async () => {
    const now = s.trial.value
    if (!now) return
    const sent = s.recipe.value
    const saved = await api.changeTrial(now.id, { revision: now.revision, recipe: sent }).catch((error: unknown) => {
      const theirs = currentOf<Trial>(error)
      if (theirs) conflict.value = { what: 'line', theirs, merged: mergeRecipes(now.recipe, sent, theirs.recipe) }
      throw error
    })
    if (s.trial.value?.id === saved.id) s.trial.value = saved
    s.noteTrial(saved)
  })

  const own = makeSaver(async () => {
    const there = s.shotThere.value
    const fields = pending.value
    if (!there || Object.keys(fields).length === 0) return
    pending.value = {}
    try {
      note(await api.changeShot(there.id, { revision: there.revision, ...fields }))
    } catch (error) {
      pending.value = { ...fields, ...pending.value }
      if (error instanceof ApiError && error.status === 409) return mergeShot(there, await api.shot(there.id))
      throw error
    }
  })

  /** A stale shot is saved again when the fields that wait were not touched elsewhere; else the user is asked. */
  async function mergeShot(base: Shot, theirs: Shot): Promise<void> {
    const pick = (shot: Shot) => ({ ...shot.trims, marks: shot.marks })
    const mine = pick({ ...base, ...pending.value })
    const merged = mergeFields(pick(base), mine, pick(theirs))
    if (!merged) {
      conflict.value = { what: 'shot', theirs, merged: null }
      throw new ApiError(409, 'The shot was changed elsewhere.')
    }
    const { marks, ...trims } = merged
    pending.value = {}
    note(await api.changeShot(theirs.id, { revision: theirs.revision, marks, trims }))
  }

  /** What has been changed here since stays. */
  function note(saved: Shot): void {
    s.noteShot(saved)
    if (s.shot.value?.id === saved.id) s.shot.value = { ...saved, ...pending.value }
  }

  function saveShot(fields: Partial<Pick<Shot, 'trims' | 'marks'>>): void {
    if (!s.shot.value) return
    s.shot.value = { ...s.shot.value, ...fields }
    pending.value = { ...pending.value, ...fields }
    own.touch()
  }

  /** Saves what is unsaved, before the bench turns to something else. */
  async function leave(): Promise<void> {
    await Promise.all([line.flush(), own.flush(), log.flush()])
  }

  /** After a conflict: take what is there, write ours over it, or both brought together. */
  function settle(which: 'theirs' | 'mine' | 'both'): void {
    const found = conflict.value
    conflict.value = null
    if (!found) return
    if (found.what === 'line') settleLine(found, which)
    else settleShot(found.theirs as Shot, which)
  }

  function settleLine({ theirs, merged }: Conflict, which: 'theirs' | 'mine' | 'both'): void {
    const trial = theirs as Trial
    line.reset()
    s.trial.value = trial
    s.noteTrial(trial)
    if (which === 'theirs') {
      // What was made here stays one undo away.
      s.history.value = remember(s.history.value, { kind: 'recipe', trialId: trial.id, recipe: s.recipe.value })
      log.touch()
      s.recipe.value = trial.recipe
    }
    if (which !== 'theirs') {
      if (which === 'both' && merged) s.recipe.value = merged
      line.touch()
    }
  }

  function settleShot(theirs: Shot, which: 'theirs' | 'mine' | 'both'): void {
    own.reset()
    const waiting = pending.value
    pending.value = {}
    s.noteShot(theirs)
    if (which !== 'theirs') saveShot(waiting)
  }

  const state = computed(
    () => ORDER.find((x) => [line, own, log].some((saver) => saver.state.value === x)) ?? ('saved' as SaveState),
  )
  const message = computed(() => line.message.value || own.message.value || log.message.value)
  return { conflict, line, keepHistory: log.touch, saveShot, leave, settle, state, message }
}
export type BenchSaving = ReturnType<typeof benchSaving>

/** The row as the server has it now, from a refusal of a stale write. */
const currentOf = <T>(error: unknown): T | null =>
  error instanceof ApiError && error.status === 409 ? ((error.details['current'] as T | undefined) ?? null) : null
