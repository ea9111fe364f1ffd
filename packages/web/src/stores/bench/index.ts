import { defineStore } from 'pinia'
import type { Step } from '@fogbath/core'
import { watch } from 'vue'
import { makeOutbox } from '../../bench/saver'
import { unsaved } from '../unsaved'
import { benchEdits, type Restorers } from './edits'
import { benchLog } from './log'
import { benchSaving } from './saving'
import { benchShots } from './shots'
import { benchState } from './state'
import { benchTrials } from './trials'

/** The shot on the bench: its current trial, the line being worked on, undo, saving. */
export const useBenchStore = defineStore('bench', () => {
  const s = benchState()
  const outbox = makeOutbox()
  const log = benchLog(s, outbox)
  const saving = benchSaving(s, log, outbox)
  const edits = benchEdits(s, saving)
  const trials = benchTrials(s, log, saving, edits)
  const shots = benchShots(s, saving, edits)

  const restore: Restorers = {
    recipe: (step) => trials.restoreLine(step.trialId, step.recipe),
    shots: shots.restoreShots,
    now: (like: Step): Step => {
      if (like.kind === 'trims') return { kind: 'trims', trims: s.shot.value!.trims }
      if (like.kind === 'shots') return shots.shotsNow(like)
      const own = like.trialId === s.trial.value?.id
      const recipe = own ? s.recipe.value : (trials.trialById(like.trialId)?.recipe ?? like.recipe)
      return { kind: 'recipe', trialId: like.trialId, recipe }
    },
  }

  const waits = () => (saving.saveState.value === 'saved' ? '' : saving.saveMessage.value || 'Work is being saved.')
  watch(waits, (words) => (unsaved.value = words), { immediate: true })

  return {
    ...s,
    ...saving,
    ...edits,
    ...trials,
    ...shots,
    undo: () => edits.undo(restore),
    redo: () => edits.redo(restore),
  }
})
