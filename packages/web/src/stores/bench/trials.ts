import type { Look, Step } from '@fogbath/core/line'
import { api } from '../../api/client'
import type { Trial } from '@fogbath/contract'
import type { BenchEdits } from './edits'
import type { BenchLog } from './log'
import type { BenchSaving } from './saving'
import type { BenchState } from './state'
import { wordsOf } from '../errors'

type PartsStep = Extract<Step, { kind: 'parts' }>

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
      const wantedFrame = s.frameWanted.value?.shotId === shotId ? s.frameWanted.value.frame : found.still
      s.frameWanted.value = null
      s.frame.value = Math.min(found.last, Math.max(found.first, wantedFrame))
      s.range.value = [found.first, found.last]
      const wanted = s.shot.value!.trialId
      openTrial(found.trials.find((t) => t.id === wanted) ?? found.trials[0]!)
    } catch (error) {
      if (mine === run) s.problem.value = wordsOf(error)
    } finally {
      if (mine === run) s.opening.value = false
    }
  }

  /** The trial that was open before this one. */
  let before = 0

  function openTrial(next: Trial): void {
    if (s.trial.value && s.trial.value.id !== next.id && s.trial.value.shotId === next.shotId) before = s.trial.value.id
    s.trial.value = next
    s.tap.value = null
    s.marked.value = []
    s.part.value = null
    s.picking.value = false
    s.turnTo(s.waitingLines.get(next.id) ?? next)
  }

  const trialById = (id: number): Trial | undefined => s.shot.value?.trials.find((t) => t.id === id)

  function chooseTrial(next: Trial): void {
    openTrial(trialById(next.id) ?? next)
    saving.saveShot({ trialId: next.id })
  }

  /** To the trial that was open before, and back; where none was, to the next one. */
  function flipTrial(): void {
    const trials = s.shot.value?.trials ?? []
    const at = trials.findIndex((t) => t.id === s.trial.value?.id)
    const other = trials.find((t) => t.id === before && t.id !== s.trial.value?.id) ?? trials[(at + 1) % trials.length]
    if (other && other.id !== s.trial.value?.id) chooseTrial(other)
  }

  async function addTrial(name: string, { recipe, after }: Look): Promise<void> {
    const shot = s.shotThere.value!
    const made = await api.createTrial(shot.id, { name, recipe, after })
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

  /** Brings parts of a line back; those of another trial open it first. What was deleted meanwhile stays deleted. */
  function restoreParts({ trialId, kind: _, ...parts }: PartsStep): void {
    const known = trialId === null ? s.trial.value : trialById(trialId)
    if (!known) return
    if (known.id !== s.trial.value?.id) chooseTrial(known)
    edits.put({ ...s.line.value, ...parts })
  }

  /** The parts that a step tells of, as they are now. */
  function partsNow({ trialId, kind, ...parts }: PartsStep): PartsStep {
    const own = trialId === null || trialId === s.trial.value?.id
    const there = own ? s.line.value : { ...s.line.value, ...trialById(trialId) }
    const now = (['preparation', 'recipe', 'after'] as const).filter((part) => parts[part])
    return { kind, trialId, ...Object.fromEntries(now.map((part) => [part, there[part]])) }
  }

  return { open, chooseTrial, flipTrial, addTrial, renameTrial, removeTrial, trialById, restoreParts, partsNow }
}
