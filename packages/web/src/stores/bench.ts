import {
  SHIPPED_RECIPES,
  changeBath,
  changeSettings,
  type Bath,
  type ChartName,
  type Recipe,
  type Trims,
} from '@fogbath/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { ApiError, api } from '../api/client'
import type { Production, Shot, Trial } from '../api/types'
import { EMPTY, loadHistory, redo, remember, storeHistory, undo, type History } from '../bench/history'
import { makeSaver } from '../bench/saver'

const MERGE_MS = 700

/** The shot on the bench: its current trial, the line being worked on, undo, saving. */
export const useBenchStore = defineStore('bench', () => {
  const production = shallowRef<Production | null>(null)
  const shot = shallowRef<Shot | null>(null)
  const trial = shallowRef<Trial | null>(null)
  const recipe = shallowRef<Recipe>(SHIPPED_RECIPES[0]!)
  /** A recipe that is only pointed at in the palette. */
  const preview = shallowRef<Recipe | null>(null)
  const chosen = ref<string | null>(null)
  const tap = ref<number | null>(null)
  const history = shallowRef<History>(EMPTY)
  const frame = ref(0)
  const chart = ref<ChartName | null>(null)
  const clipboard = shallowRef<Bath | null>(null)
  const problem = ref('')
  let lastKey = ''
  let lastTime = 0

  const saver = makeSaver(async () => {
    const now = trial.value
    if (!now) return
    const saved = await api.changeTrial(now.id, { revision: now.revision, recipe: recipe.value })
    if (trial.value?.id === saved.id) trial.value = { ...saved }
    noteTrial(saved)
  })
  const trimSaver = makeSaver(async () => {
    const now = shot.value
    if (now) noteShot(await api.changeShot(now.id, { revision: now.revision, trims: now.trims }))
  })

  const bath = computed(() => recipe.value.baths.find((b) => b.id === chosen.value) ?? null)
  const shots = computed(() => production.value?.shots ?? [])

  async function open(shotId: number): Promise<void> {
    await leave()
    problem.value = ''
    try {
      const found = await api.shot(shotId)
      if (production.value?.id !== found.productionId) production.value = await api.production(found.productionId)
      shot.value = found
      frame.value = found.still
      noteShot(found)
      openTrial(found.trials.find((t) => t.id === found.trialId) ?? found.trials[0]!)
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error)
    }
  }

  function openTrial(next: Trial): void {
    saver.reset()
    trial.value = next
    recipe.value = next.recipe
    history.value = loadHistory(next.id)
    tap.value = null
    if (!next.recipe.baths.some((b) => b.id === chosen.value))
      chosen.value = next.recipe.baths.find((b) => b.kind !== '')?.id ?? null
  }

  /** Saves what is unsaved before the bench turns to something else. */
  async function leave(): Promise<void> {
    await Promise.all([saver.flush(), trimSaver.flush()])
  }

  async function chooseTrial(next: Trial): Promise<void> {
    await leave()
    openTrial(shot.value!.trials.find((t) => t.id === next.id) ?? next)
    noteShot(await api.changeShot(shot.value!.id, { revision: shot.value!.revision, trialId: next.id }))
  }

  async function addTrial(name: string, from: Recipe): Promise<void> {
    await leave()
    const made = await api.createTrial(shot.value!.id, { name, recipe: from })
    shot.value = { ...shot.value!, trials: [...shot.value!.trials, made] }
    await chooseTrial(made)
  }

  async function renameTrial(id: number, name: string): Promise<void> {
    await leave()
    const known = shot.value!.trials.find((t) => t.id === id)!
    const saved = await api.changeTrial(id, { revision: known.revision, name })
    noteTrial(saved)
    if (trial.value?.id === id) trial.value = saved
  }

  async function removeTrial(id: number): Promise<void> {
    const known = shot.value!.trials.find((t) => t.id === id)!
    const other = shot.value!.trials.find((t) => t.id !== id)
    if (trial.value?.id === id && other) await chooseTrial(other)
    await api.deleteTrial(shot.value!.trials.find((t) => t.id === id) ?? known)
    shot.value = { ...shot.value!, trials: shot.value!.trials.filter((t) => t.id !== id) }
    noteShot(shot.value)
  }

  /**
   * Changes the line. Steps with the same key that follow each other quickly (a dragged slider) are one step of undo.
   */
  function change(next: Recipe, key = ''): void {
    if (next === recipe.value) return
    const now = Date.now()
    const merges = key !== '' && key === lastKey && now - lastTime < MERGE_MS
    if (!merges) history.value = remember(history.value, recipe.value)
    lastKey = key
    lastTime = now
    put(next)
  }

  function put(next: Recipe): void {
    recipe.value = next
    if (trial.value) storeHistory(trial.value.id, history.value)
    if (chosen.value && !next.baths.some((b) => b.id === chosen.value)) chosen.value = next.baths[0]?.id ?? null
    if (tap.value !== null && tap.value > next.baths.length) tap.value = null
    saver.touch()
  }

  function step(which: typeof undo): void {
    const result = which(history.value, recipe.value)
    if (!result) return
    lastKey = ''
    history.value = result.history
    put(result.recipe)
  }

  const setSettings = (id: string, settings: Record<string, unknown>): void =>
    change(changeSettings(recipe.value, id, settings), `${id}/${Object.keys(settings).join()}`)
  const setBath = (id: string, values: Partial<Omit<Bath, 'id' | 'kind'>>): void =>
    change(changeBath(recipe.value, id, values), `${id}/${Object.keys(values).join()}`)

  function setTrims(trims: Trims): void {
    shot.value = { ...shot.value!, trims }
    trimSaver.touch()
  }

  /** After a conflict: take what is on the server, or write ours over it. */
  async function settle(which: 'theirs' | 'mine'): Promise<void> {
    const fresh = await api.shot(shot.value!.id)
    const theirs = fresh.trials.find((t) => t.id === trial.value?.id) ?? fresh.trials[0]!
    noteShot(fresh)
    if (which === 'theirs') {
      history.value = remember(history.value, recipe.value)
      storeHistory(theirs.id, history.value)
      return openTrial(theirs)
    }
    saver.reset()
    trial.value = theirs
    saver.touch()
  }

  function noteTrial(saved: Trial): void {
    if (!shot.value || shot.value.id !== saved.shotId) return
    noteShot({ ...shot.value, trials: shot.value.trials.map((t) => (t.id === saved.id ? saved : t)) })
  }

  function noteShot(saved: Shot): void {
    if (shot.value?.id === saved.id) shot.value = saved
    if (production.value)
      production.value = {
        ...production.value,
        shots: production.value.shots.map((s) => (s.id === saved.id ? saved : s)),
      }
  }

  /** Puts a recipe on other shots' current trials; gives what they had, so that it can be taken back as one step. */
  async function putOn(
    targets: readonly Shot[],
    make: (old: Recipe) => Recipe,
  ): Promise<{ trial: Trial; recipe: Recipe }[]> {
    const before: { trial: Trial; recipe: Recipe }[] = []
    for (const target of targets) {
      const known = target.trials.find((t) => t.id === target.trialId) ?? target.trials[0]!
      if (known.id === trial.value?.id) {
        change(make(recipe.value))
        continue
      }
      const saved = await api.changeTrial(known.id, { revision: known.revision, recipe: make(known.recipe) })
      before.push({ trial: saved, recipe: known.recipe })
      noteShot({ ...target, trials: target.trials.map((t) => (t.id === saved.id ? saved : t)) })
    }
    return before
  }

  async function refresh(): Promise<void> {
    if (production.value)
      production.value = await api
        .production(production.value.id)
        .catch((e: unknown) => (e instanceof ApiError ? production.value : null))
  }

  return {
    ...{
      production,
      shot,
      trial,
      recipe,
      preview,
      chosen,
      tap,
      history,
      frame,
      chart,
      clipboard,
      problem,
      bath,
      shots,
    },
    ...{ saveState: saver.state, saveMessage: saver.message, trimState: trimSaver.state },
    ...{
      open,
      leave,
      chooseTrial,
      addTrial,
      renameTrial,
      removeTrial,
      change,
      setSettings,
      setBath,
      setTrims,
      settle,
      putOn,
      noteShot,
      refresh,
    },
    undo: () => step(undo),
    redo: () => step(redo),
  }
})
