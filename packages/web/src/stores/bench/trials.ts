import type { Recipe } from '@fogbath/core'
import { api } from '../../api/client'
import type { Trial } from '../../api/types'
import type { BenchEdits } from './edits'
import type { BenchLog } from './log'
import type { BenchSaving } from './saving'
import type { BenchState } from './state'

/** Opening shots and their trials. */
export function benchTrials(s: BenchState, log: BenchLog, saving: BenchSaving, edits: BenchEdits) {
  async function open(shotId: number): Promise<void> {
    await saving.leave()
    s.problem.value = ''
    try {
      const [found, turnToHistory] = await Promise.all([api.shot(shotId), log.load(shotId)])
      if (s.production.value?.id !== found.productionId) s.production.value = await api.production(found.productionId)
      s.shot.value = found
      s.noteShot(found)
      turnToHistory()
      s.frame.value = Math.min(found.last, Math.max(found.first, found.still))
      s.range.value = [found.first, found.last]
      openTrial(found.trials.find((t) => t.id === found.trialId) ?? found.trials[0]!)
    } catch (error) {
      s.problem.value = error instanceof Error ? error.message : String(error)
    }
  }

  function openTrial(next: Trial): void {
    saving.line.reset()
    s.trial.value = next
    s.recipe.value = next.recipe
    s.tap.value = null
    s.marked.value = []
    s.part.value = null
    s.picking.value = false
    if (!next.recipe.baths.some((b) => b.id === s.chosen.value)) s.chosen.value = next.recipe.baths[0]?.id ?? null
  }

  const trialById = (id: number): Trial | undefined => s.shot.value?.trials.find((t) => t.id === id)

  async function chooseTrial(next: Trial): Promise<void> {
    await saving.leave()
    openTrial(trialById(next.id) ?? next)
    const shot = s.shotThere.value!
    s.noteShot(await api.changeShot(shot.id, { revision: shot.revision, trialId: next.id }))
  }

  async function addTrial(name: string, from: Recipe): Promise<void> {
    await saving.leave()
    const shot = s.shot.value!
    const made = await api.createTrial(shot.id, { name, recipe: from })
    s.noteShot({ ...shot, trials: [...shot.trials, made] })
    await chooseTrial(made)
  }

  async function renameTrial(id: number, name: string): Promise<void> {
    await saving.leave()
    const saved = await api.changeTrial(id, { revision: trialById(id)!.revision, name })
    s.noteTrial(saved)
    if (s.trial.value?.id === id) s.trial.value = saved
  }

  async function removeTrial(id: number): Promise<void> {
    const other = s.shot.value!.trials.find((t) => t.id !== id)
    if (s.trial.value?.id === id && other) await chooseTrial(other)
    await api.deleteTrial(trialById(id)!)
    s.noteShot({ ...s.shot.value!, trials: s.shot.value!.trials.filter((t) => t.id !== id) })
  }

  /** Brings back a line; one of another trial opens that trial first. What was deleted meanwhile stays deleted. */
  async function restoreLine(trialId: number, recipe: Recipe): Promise<void> {
    const known = trialById(trialId)
    if (!known) return
    if (trialId !== s.trial.value?.id) await chooseTrial(known)
    edits.put(recipe)
  }

  return { open, chooseTrial, addTrial, renameTrial, removeTrial, trialById, restoreLine }
}
export type BenchTrials = ReturnType<typeof benchTrials>
