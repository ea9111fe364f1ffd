import { insertBath, type Bath, type Recipe, type Step } from '@fogbath/core'
import { ApiError, api } from '../../api/client'
import type { Shot, Trial } from '../../api/types'
import type { BenchEdits } from './edits'
import type { BenchSaving } from './saving'
import type { BenchState } from './state'

type ShotsStep = Extract<Step, { kind: 'shots' }>
type Line = ShotsStep['trials'][number]

/** Working on many shots at once. */
export function benchShots(s: BenchState, saving: BenchSaving, edits: BenchEdits) {
  const currentTrial = (shot: Shot): Trial => shot.trials.find((t) => t.id === shot.trialId) ?? shot.trials[0]!
  const trialAnywhere = (id: number): Trial | undefined =>
    s.shots.value.flatMap((shot) => shot.trials).find((t) => t.id === id)

  /** Changes lines of several shots, all or none. Trials that are gone are left out. */
  async function write(lines: readonly Line[]): Promise<void> {
    const known = lines.flatMap(({ trialId, recipe }) => {
      const trial = trialAnywhere(trialId)
      return trial ? [{ trialId, recipe, revision: trial.revision }] : []
    })
    if (known.length) for (const saved of await api.changeLines(known)) s.noteTrial(saved)
  }

  /** Gives shots a new line each, as one step of undo; their trims stay. */
  async function putOn(targets: readonly Shot[], make: (old: Recipe, shot: Shot) => Recipe): Promise<void> {
    await saving.leave()
    const before = targets.map(currentTrial).map((t) => ({ trialId: t.id, recipe: t.recipe }))
    // Remembered first: when the answer gets lost the shots may have been changed all the same.
    const takeBack = edits.keep({ kind: 'shots', trials: before }, '')
    try {
      await write(before.map(({ trialId, recipe }, i) => ({ trialId, recipe: make(recipe, targets[i]!) })))
    } catch (error) {
      if (error instanceof ApiError && error.status !== 0) takeBack()
      throw error
    }
  }

  const withBaths =
    (baths: readonly Bath[]) =>
    (old: Recipe): Recipe =>
      baths.reduce((line, bath) => insertBath(line, bath), old)

  const restoreShots = (step: ShotsStep): Promise<void> => write(step.trials)

  const shotsNow = (step: ShotsStep): ShotsStep => ({
    kind: 'shots',
    trials: step.trials.map(({ trialId, recipe }) => ({ trialId, recipe: trialAnywhere(trialId)?.recipe ?? recipe })),
  })

  return { currentTrial, putOn, withBaths, restoreShots, shotsNow }
}
