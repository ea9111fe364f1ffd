import type { Recipe } from '@fogbath/core'
import { api } from '../../api/client'
import type { Trial } from '../../api/types'
import type { BenchEdits } from './edits'
import type { BenchLog } from './log'
import type { BenchSaving } from './saving'
import type { BenchState } from './state'
import { wordsOf } from '../../components/complain'

/** Opening shots and their trials. */
export function benchTrials(s: BenchState, log: BenchLog, saving: BenchSaving, edits: BenchEdits) {
  let run = 0

  /** The newest call wins. What could not be saved before goes on waiting and is there when its shot is opened again. */
  async function open(shotId: number): Promise<void> {
    const mine = ++run
    s.opening.value = true
    try {
      await saving.leave().catch(() => undefined)
      s.problem.value = ''
      const [found, turnToHistory] = await Promise.all([api.shot(shotId), log.load(shotId)])
      const other = s.production.value?.id !== found.productionId
      const production = other ? await api.production(found.productionId) : null
      if (mine !== run) return
      if (production) s.production.value = production
      s.shotThere.value = found
      s.noteShot(found)
      turnToHistory()
      s.frame.value = Math.min(found.last, Math.max(found.first, found.still))
      s.range.value = [found.first, found.last]
      const wanted = s.shot.value!.trialId
      openTrial(found.trials.find((t) => t.id === wanted) ?? found.trials[0]!)
    } catch (error) {
      if (mine === run) s.problem.value = wordsOf(error)
    } finally {
      if (mine === run) s.opening.value = false
    }
  }

  function openTrial(next: Trial): void {
    s.trial.value = next
    s.tap.value = null
    s.marked.value = []
    s.part.value = null
    s.picking.value = false
    s.turnTo(s.waitingLines.get(next.id)?.recipe ?? next.recipe)
  }

  const trialById = (id: number): Trial | undefined => s.shot.value?.trials.find((t) => t.id === id)

  function chooseTrial(next: Trial): void {
    openTrial(trialById(next.id) ?? next)
    saving.saveShot({ trialId: next.id })
  }

  async function addTrial(name: string, from: Recipe): Promise<void> {
    const shot = s.shotThere.value!
    const made = await api.createTrial(shot.id, { name, recipe: from })
    const now = s.shotThere.value?.id === shot.id ? s.shotThere.value : shot
    s.noteShot({ ...now, trials: [...now.trials, made] })
    if (s.shotThere.value?.id === shot.id) chooseTrial(made)
  }

  async function renameTrial(id: number, name: string): Promise<void> {
    await saving.leave()
    saving.noteOwn(await api.changeTrial(id, { revision: trialById(id)!.revision, name }))
  }

  async function removeTrial(id: number): Promise<void> {
    const other = s.shot.value!.trials.find((t) => t.id !== id)
    if (s.trial.value?.id === id && other) chooseTrial(other)
    // The server keeps the trial that it takes for the current one.
    await saving.leave()
    await api.deleteTrial(trialById(id)!)
    const shot = s.shotThere.value!
    s.noteShot({ ...shot, trials: shot.trials.filter((t) => t.id !== id) })
  }

  /** Brings back a line; one of another trial opens that trial first. What was deleted meanwhile stays deleted. */
  function restoreLine(trialId: number, recipe: Recipe): void {
    const known = trialById(trialId)
    if (!known) return
    if (trialId !== s.trial.value?.id) chooseTrial(known)
    edits.put(recipe)
  }

  return { open, chooseTrial, addTrial, renameTrial, removeTrial, trialById, restoreLine }
}
