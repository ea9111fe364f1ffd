import { insertInLine, type Bath, type Line, type Recipe, type ShotLine, type Step } from '@fogbath/core/line'
import { ApiError, api } from '../../api/client'
import type { Shot, Trial } from '@fogbath/contract'
import type { BenchEdits } from './edits'
import type { BenchSaving } from './saving'
import type { BenchState } from './state'

type ShotsStep = Extract<Step, { kind: 'shots' }>

/** Working on many shots at once. */
export function benchShots(s: BenchState, saving: BenchSaving, edits: BenchEdits) {
  const currentTrial = (shot: Shot): Trial => shot.trials.find((t) => t.id === shot.trialId) ?? shot.trials[0]!
  const trialAnywhere = (id: number): Trial | undefined =>
    s.shots.value.flatMap((shot) => shot.trials).find((t) => t.id === id)

  const shotOf = (trial: Trial): Shot | undefined => s.shots.value.find((shot) => shot.id === trial.shotId)

  /** Changes looks and preparations of several shots, all or none. Trials that are gone are left out. */
  async function write(lines: readonly ShotLine[]): Promise<void> {
    const known = lines.flatMap((line) => {
      const trial = trialAnywhere(line.trialId)
      const shot = trial && shotOf(trial)
      return shot ? [{ ...line, trial, shot }] : []
    })
    if (known.length === 0) return
    const saved = await api.changeLines({
      lines: known.flatMap(({ trial: { id, revision }, recipe, after }) =>
        recipe || after ? [{ trialId: id, revision, ...(recipe && { recipe }), ...(after && { after }) }] : [],
      ),
      preparations: known.flatMap(({ shot: { id, revision }, preparation }) =>
        preparation ? [{ shotId: id, revision, preparation }] : [],
      ),
    })
    for (const trial of saved.trials) s.noteTrial(trial)
    for (const shot of saved.shots) s.noteShot(shot)
  }

  /** Changes several shots as one step of undo. */
  async function changeShots(before: readonly ShotLine[], after: readonly ShotLine[]): Promise<void> {
    // Remembered first: when the answer gets lost the shots may have been changed all the same.
    const takeBack = edits.keep({ kind: 'shots', trials: before }, '')
    try {
      await write(after)
    } catch (error) {
      if (error instanceof ApiError && error.status !== 0) takeBack()
      throw error
    }
  }

  /** Gives shots a new look each; what they add around it stays. */
  async function putOn(targets: readonly Shot[], make: (old: Recipe, shot: Shot) => Recipe): Promise<void> {
    await saving.leave()
    const before = targets.map(currentTrial).map(({ id, recipe }) => ({ trialId: id, recipe }))
    await changeShots(
      before,
      before.map(({ trialId, recipe }, i) => ({ trialId, recipe: make(recipe, targets[i]!) })),
    )
  }

  /** Prepares several shots anew, each in its own way; their looks stay. */
  async function prepare(targets: readonly Shot[], make: (shot: Shot) => readonly Bath[]): Promise<void> {
    await saving.leave()
    const now = targets.map((target) => s.shots.value.find((shot) => shot.id === target.id) ?? target)
    const line = (shot: Shot, preparation: readonly Bath[]) => ({ trialId: currentTrial(shot).id, preparation })
    await changeShots(
      now.map((shot) => line(shot, shot.preparation)),
      now.map((shot) => line(shot, make(shot))),
    )
  }

  /** Adds baths to other shots, each where it belongs there. */
  async function addBaths(targets: readonly Shot[], baths: readonly Bath[]): Promise<void> {
    await saving.leave()
    const before = targets.map((shot) => {
      const { id, recipe, after } = currentTrial(shot)
      return { trialId: id, line: { preparation: shot.preparation, recipe, after } }
    })
    const own = ({ preparation, recipe, after }: Line) => ({ preparation, recipe, after })
    await changeShots(
      before.map(({ trialId, line }) => ({ trialId, ...own(line) })),
      before.map(({ trialId, line }) => ({
        trialId,
        ...own(baths.reduce((made, bath) => insertInLine(made, bath), line)),
      })),
    )
  }

  const restoreShots = (step: ShotsStep): Promise<void> => write(step.trials)

  const shotsNow = (step: ShotsStep): ShotsStep => ({
    kind: 'shots',
    trials: step.trials.map((line) => {
      const trial = trialAnywhere(line.trialId)
      const shot = trial && shotOf(trial)
      return {
        trialId: line.trialId,
        ...(line.recipe && { recipe: trial?.recipe ?? line.recipe }),
        ...(line.after && { after: trial?.after ?? line.after }),
        ...(line.preparation && { preparation: shot?.preparation ?? line.preparation }),
      }
    }),
  })

  return { currentTrial, putOn, prepare, addBaths, restoreShots, shotsNow }
}
