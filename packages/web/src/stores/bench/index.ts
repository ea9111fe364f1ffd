import { defineStore } from 'pinia'
import type { Step } from '@fogbath/core/line'
import { watch } from 'vue'
import { makeOutbox } from './saver'
import { unsaved } from '../unsaved'
import { benchEdits, type Restorers } from './edits'
import { benchKeys } from './keys'
import { benchLog } from './log'
import { benchSaving } from './saving'
import { benchShots } from './shots'
import { benchState } from './state'
import { stepNames } from './step-names'
import { benchTrials } from './trials'

/** The shot on the bench: its current trial, the line being worked on, undo, saving. */
export const useBenchStore = defineStore('bench', () => {
  const s = benchState()
  const outbox = makeOutbox()
  const log = benchLog(s, outbox)
  const saving = benchSaving(s, log, outbox)
  const edits = benchEdits(s, saving)
  const keys = benchKeys(s, edits)
  const trials = benchTrials(s, log, saving, edits)
  const shots = benchShots(s, saving, edits)

  const restore: Restorers = {
    parts: trials.restoreParts,
    shots: shots.restoreShots,
    now: (like: Step): Step => (like.kind === 'shots' ? shots.shotsNow(like) : trials.partsNow(like)),
  }

  const waits = () => (saving.saveState.value === 'saved' ? '' : saving.saveMessage.value || 'Work is being saved.')
  watch(waits, (words) => (unsaved.value = words), { immediate: true })

  return {
    ...s,
    ...saving,
    ...edits,
    ...keys,
    ...trials,
    ...shots,
    undo: () => edits.undo(restore),
    redo: () => edits.redo(restore),
    stepNames: () => stepNames(s.history.value, restore.now),
  }
})
