import { insertBath, type Bath, type Recipe, type Step } from '@fogbath/core'
import { api } from '../../api/client'
import type { Shot, Trial } from '../../api/types'
import type { BenchEdits } from './edits'
import type { BenchSaving } from './saving'
import type { BenchState } from './state'

type ShotsStep = Extract<Step, { kind: 'shots' }>

/** Working on many shots at once. */
export function benchShots(s: BenchState, saving: BenchSaving, edits: BenchEdits) {
  const currentTrial = (shot: Shot): Trial => shot.trials.find((t) => t.id === shot.trialId) ?? shot.trials[0]!
  const trialAnywhere = (id: number): Trial | undefined =>
    s.shots.value.flatMap((shot) => shot.trials).find((t) => t.id === id)

  async function write(trialId: number, recipe: Recipe): Promise<void> {
    const known = trialAnywhere(trialId)
    if (!known) return
    const saved = await api.changeTrial(trialId, { revision: known.revision, recipe })
    const shot = s.shots.value.find((x) => x.id === saved.shotId)
    if (shot) s.noteShot({ ...shot, trials: shot.trials.map((t) => (t.id === saved.id ? saved : t)) })
  }

  /** Gives other shots a new line, as one step of undo; their trims stay. */
  async function putOn(targets: readonly Shot[], make: (old: Recipe) => Recipe): Promise<void> {
    await saving.leave()
    const before = targets.map(currentTrial).map((t) => ({ trialId: t.id, recipe: t.recipe }))
    for (const { trialId, recipe } of before) await write(trialId, make(recipe))
    edits.keep({ kind: 'shots', trials: before }, '')
  }

  const withBaths =
    (baths: readonly Bath[]) =>
    (old: Recipe): Recipe =>
      baths.reduce((line, bath) => insertBath(line, bath), old)

  async function restoreShots(step: ShotsStep): Promise<void> {
    for (const { trialId, recipe } of step.trials) await write(trialId, recipe)
  }

  const shotsNow = (step: ShotsStep): ShotsStep => ({
    kind: 'shots',
    trials: step.trials.map(({ trialId, recipe }) => ({ trialId, recipe: trialAnywhere(trialId)?.recipe ?? recipe })),
  })

  return { currentTrial, putOn, withBaths, restoreShots, shotsNow }
}
