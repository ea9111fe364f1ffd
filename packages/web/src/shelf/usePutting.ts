import { asNewLine, otherFootage } from '@fogbath/core/line'
import type { Shot } from '@fogbath/contract'
import { shallowRef, type Ref } from 'vue'
import { api } from '../api/client'
import { encodingOfRow } from '../api/encodings'
import { nextTrialName } from '../components/trialNames'
import { wordsOf } from '../stores/errors'
import type { ShelfEntry } from './entries'

/** A trial that was put on a shot, and the one that it had. */
interface Put {
  readonly shot: Shot
  readonly trialId: number
  readonly before: number
}

/** Puts recipes of the shelf on shots, each as a new trial, so that nothing is lost. */
export function usePutting(problem: Ref<string>) {
  /** What was put last, until it is taken back or something else is. */
  const done = shallowRef<{ readonly name: string; readonly warning: string; readonly puts: readonly Put[] } | null>(
    null,
  )

  async function putOne({ recipe }: ShelfEntry, shotId: number): Promise<Put> {
    const shot = await api.shot(shotId)
    const name = nextTrialName(shot.trials)
    const made = await api.createTrial(shot.id, { name, recipe: asNewLine(recipe) })
    await api.changeShot(shot.id, { revision: (await api.shot(shotId)).revision, trialId: made.id })
    return { shot, trialId: made.id, before: shot.trialId ?? shot.trials[0]!.id }
  }

  async function put(entry: ShelfEntry, shotIds: readonly number[]): Promise<void> {
    const puts: Put[] = []
    problem.value = ''
    try {
      for (const id of shotIds) puts.push(await putOne(entry, id))
    } catch (error) {
      problem.value = wordsOf(error)
    }
    // What was done before something failed can be taken back as well.
    const kinds = new Set(puts.map(({ shot }) => encodingOfRow(shot.encoding).refers))
    const warning = [...kinds].flatMap((refers) => otherFootage(entry.recipe, refers) ?? []).join(' ')
    if (puts.length > 0) done.value = { name: entry.name, warning, puts }
  }

  async function takeBack(): Promise<void> {
    const { puts } = done.value!
    problem.value = ''
    try {
      for (const { shot, trialId, before } of puts) {
        const now = await api.shot(shot.id)
        const made = now.trials.find((t) => t.id === trialId)
        if (!made) continue
        if (now.trialId === trialId) await api.changeShot(now.id, { revision: now.revision, trialId: before })
        await api.deleteTrial(made)
      }
      done.value = null
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  return { done, put, takeBack }
}
