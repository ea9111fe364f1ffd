import {
  bathsUpToDate,
  changeBath,
  changeSettings,
  duplicateBath,
  insertBath,
  type Bath,
  type Marks,
  type Mask,
  type Recipe,
  type Step,
  type Trims,
} from '@fogbath/core'
import { redo, remember, undo } from '../../bench/history'
import type { BenchSaving } from './saving'
import type { BenchState } from './state'

const MERGE_MS = 700

/** How steps of other kinds are brought back; see trials.ts and shots.ts. */
export interface Restorers {
  readonly recipe: (step: Extract<Step, { kind: 'recipe' }>) => void
  readonly shots: (step: Extract<Step, { kind: 'shots' }>) => Promise<void>
  readonly now: (like: Step) => Step
}

/** Changes to the line and the shot, each with its step of undo. */
export function benchEdits(s: BenchState, saving: BenchSaving) {
  let lastThing = ''
  let lastTime = 0

  /**
   * Remembers what was there before a change. Changes of the same thing that follow each other quickly (a dragged
   * slider) are one step of undo.
   * @param key names what is changed in the shot; empty for what never merges
   * @returns what takes the step back, for a change that did not come about
   */
  function keep(before: Step, key: string): () => void {
    const now = Date.now()
    const thing = key && `${s.shotThere.value?.id}/${s.trial.value?.id}/${key}`
    const merges = thing !== '' && thing === lastThing && now - lastTime < MERGE_MS
    lastThing = thing
    lastTime = now
    if (merges) return () => undefined
    s.history.value = remember(s.history.value, before)
    const { key: own } = s.history.value.past.at(-1)!
    saving.keepHistory()
    return () => {
      s.history.value = { ...s.history.value, past: s.history.value.past.filter((kept) => kept.key !== own) }
      saving.keepHistory()
    }
  }

  function change(next: Recipe, key = ''): void {
    if (next === s.recipe.value) return
    if (s.trial.value) keep({ kind: 'recipe', trialId: s.trial.value.id, recipe: s.recipe.value }, key)
    put(next)
  }

  function put(next: Recipe): void {
    s.turnTo(next)
    saving.saveLine()
  }

  /** @param once what is done at a click is a step of undo of its own, however soon after another */
  const setSettings = (id: string, settings: Record<string, unknown>, once = false): void =>
    change(changeSettings(s.recipe.value, id, settings), once ? '' : `${id}/${Object.keys(settings).join()}`)
  const setBath = (id: string, values: Partial<Omit<Bath, 'id' | 'kind'>>): void =>
    change(changeBath(s.recipe.value, id, values), `${id}/${Object.keys(values).join()}`)

  /** @param key names what is changed, so that dragging it is one step of undo */
  const setMask = (id: string, mask: Mask | null, key: string): void =>
    change(changeBath(s.recipe.value, id, { mask }), `${id}/mask/${key}`)

  function setTrims(trims: Trims, key = 'trims'): void {
    keep({ kind: 'trims', trims: s.shot.value!.trims }, key)
    saving.saveShot({ trims })
  }
  const setMarks = (marks: Marks): void => saving.saveShot({ marks })

  /** The twin stands behind its original and is chosen. */
  function duplicate(id: string): void {
    const before = new Set(s.recipe.value.baths.map((b) => b.id))
    change(duplicateBath(s.recipe.value, id))
    s.chosen.value = s.recipe.value.baths.find((b) => !before.has(b.id))?.id ?? s.chosen.value
  }

  const copy = (): void => void (s.clipboard.value = [...s.baths.value])
  /** Puts the copied baths behind the chosen one, each in its own stretch. */
  function paste(): void {
    let behind = s.chosen.value ?? undefined
    let next = s.recipe.value
    // They may have been copied before an update.
    for (const bath of bathsUpToDate(s.clipboard.value)) {
      const before = new Set(next.baths.map((b) => b.id))
      next = insertBath(next, bath, behind)
      behind = next.baths.find((b) => !before.has(b.id))?.id
    }
    change(next)
    if (behind) s.chosen.value = behind
  }

  async function turn(which: typeof undo, restore: Restorers): Promise<void> {
    const before = s.history.value
    const turned = which(before, restore.now)
    if (!turned) return
    lastThing = ''
    s.history.value = turned.history
    saving.keepHistory()
    const { step } = turned
    if (step.kind === 'trims') saving.saveShot({ trims: step.trims })
    else if (step.kind === 'recipe') restore.recipe(step)
    else
      await restore.shots(step).catch((error: unknown) => {
        // Nothing was brought back: the step stays where it was.
        if (s.history.value === turned.history) s.history.value = before
        saving.keepHistory()
        throw error
      })
  }

  return {
    ...{ change, put, keep, setSettings, setBath, setMask, setTrims, setMarks, duplicate, copy, paste },
    undo: (restore: Restorers) => turn(undo, restore),
    redo: (restore: Restorers) => turn(redo, restore),
  }
}
export type BenchEdits = ReturnType<typeof benchEdits>
