import { NO_MARKS, NO_TRIMS, SHIPPED_RECIPES, changeSettings, type Recipe, type Step } from '@fogbath/core'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiError, api } from '../src/api/client'
import type { Production, Shot, Trial } from '../src/api/types'
import { useBenchStore } from '../src/stores/bench'

const plain = SHIPPED_RECIPES[0]!
const withSettings = (settings: Record<string, unknown>): Recipe => changeSettings(plain, 'bath-1', settings)
const trialOf = (id: number, shotId: number, recipe: Recipe = plain, revision = 1): Trial => ({
  ...{ id, shotId, revision, recipe },
  name: 'A',
})
const shotOf = (id: number, more: Partial<Shot> = {}): Shot => ({
  ...{ id, revision: 1, productionId: 1, mediumId: 1, name: `shot ${id}`, position: id },
  ...{ first: 0, last: 47, still: 20, encoding: 'bt1886', trims: NO_TRIMS, marks: NO_MARKS },
  trialId: 10 * id,
  medium: {} as Shot['medium'],
  trials: [trialOf(10 * id, id)],
  ...more,
})
const stale = (current: object): ApiError => new ApiError(409, 'changed elsewhere', { current })

/** The server as the store sees it: rows with revisions, a stale write is refused with the row. */
function fakeServer(shots: Shot[]) {
  const rows = new Map(shots.map((s) => [s.id, s]))
  const whole = (): Production => ({ id: 1, revision: 1, name: 'P', notes: '', shots: [...rows.values()] })
  vi.spyOn(api, 'shot').mockImplementation(async (id) => rows.get(id)!)
  vi.spyOn(api, 'production').mockImplementation(async () => whole())
  const histories = new Map<number, { revision: number; past: Step[]; future: Step[] }>()
  const historyOf = (id: number) => histories.get(id) ?? { revision: 0, past: [], future: [] }
  vi.spyOn(api, 'history').mockImplementation(async (id) => historyOf(id))
  vi.spyOn(api, 'changeHistory').mockImplementation(async (id, change) => {
    const { revision, past, future } = historyOf(id)
    if (revision !== change.revision) throw stale({ revision })
    histories.set(id, {
      revision: revision + 1,
      past: [...past.slice(change.past.drop, change.past.drop + change.past.keep), ...change.past.add],
      future: [...future.slice(0, change.future.keep), ...change.future.add],
    })
    return { revision: revision + 1 }
  })
  vi.spyOn(api, 'changeShot').mockImplementation(async (id, { revision, ...fields }) => {
    const row = rows.get(id)!
    if (row.revision !== revision) throw stale(row)
    rows.set(id, { ...row, ...fields, revision: revision + 1 })
    return rows.get(id)!
  })
  vi.spyOn(api, 'changeTrial').mockImplementation(async (id, { revision, ...fields }) => {
    const shot = [...rows.values()].find((s) => s.trials.some((t) => t.id === id))!
    const trial = shot.trials.find((t) => t.id === id)!
    if (trial.revision !== revision) throw stale(trial)
    const saved = { ...trial, ...fields, revision: revision + 1 }
    rows.set(shot.id, { ...shot, trials: shot.trials.map((t) => (t.id === id ? saved : t)) })
    return saved
  })
  return {
    historyOf,
    histories,
    shot: (id: number) => rows.get(id)!,
    trial: (id: number) => [...rows.values()].flatMap((s) => s.trials).find((t) => t.id === id)!,
    /** Somebody else's change. */
    elsewhere: async (work: () => Promise<unknown>) => work(),
  }
}

beforeEach(() => {
  setActivePinia(createPinia())
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
  vi.restoreAllMocks()
})
const rest = (): Promise<unknown> => vi.advanceTimersByTimeAsync(1500)

describe('saving the bench', () => {
  it('writes line and trims within a second, each once for many steps', async () => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    for (let v = 90; v > 50; v -= 10) bench.setSettings('bath-1', { bleachPrint: v })
    bench.setTrims({ ...NO_TRIMS, exposure: 0.5 })
    expect(bench.saveState).toBe('changed')
    await vi.advanceTimersByTimeAsync(1000)
    expect(bench.saveState).toBe('saved')
    expect(server.trial(10).recipe.baths[0]!.settings['bleachPrint']).toBe(60)
    expect(server.shot(1).trims.exposure).toBe(0.5)
    expect(api.changeTrial).toHaveBeenCalledTimes(1)
  })

  it('brings trims and marks of two windows together where they differ, without asking', async () => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    await server.elsewhere(() => api.changeShot(1, { revision: 1, trims: { ...NO_TRIMS, tint: 7 } }))
    bench.setTrims({ ...NO_TRIMS, exposure: -1 })
    await rest()
    expect(bench.conflict).toBeNull()
    expect(server.shot(1).trims).toMatchObject({ exposure: -1, tint: 7 })
    expect(bench.shot!.trims).toMatchObject({ exposure: -1, tint: 7 })
  })

  it('asks where both changed the same trim, and writes what is chosen', async () => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    await server.elsewhere(() => api.changeShot(1, { revision: 1, trims: { ...NO_TRIMS, exposure: 2 } }))
    bench.setTrims({ ...NO_TRIMS, exposure: -1 })
    await rest()
    expect(bench.conflict).toMatchObject({ what: 'shot', merged: null })
    expect(server.shot(1).trims.exposure).toBe(2)
    bench.settle('mine')
    await rest()
    expect(server.shot(1).trims.exposure).toBe(-1)
    expect(bench.saveState).toBe('saved')
  })

  it.each([
    ['both', { bleachPrint: 40, push: 1 }],
    ['mine', { bleachPrint: 100, push: 1 }],
    ['theirs', { bleachPrint: 40, push: 0 }],
  ] as const)('settles a line changed in two windows: %s', async (which, expected) => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    await server.elsewhere(() => api.changeTrial(10, { revision: 1, recipe: withSettings({ bleachPrint: 40 }) }))
    bench.setSettings('bath-1', { push: 1 })
    await rest()
    expect(bench.conflict?.merged).not.toBeNull()
    bench.settle(which)
    await rest()
    expect(server.trial(10).recipe.baths[0]!.settings).toMatchObject(expected)
    expect(bench.recipe.baths[0]!.settings).toMatchObject(expected)
    if (which !== 'theirs') return
    await bench.undo()
    expect(bench.recipe.baths[0]!.settings['push']).toBe(1)
  })
})

describe('undo', () => {
  it('is one for line, trims and other shots, and reaches over a reload', async () => {
    const server = fakeServer([shotOf(1), shotOf(2)])
    const first = useBenchStore()
    await first.open(1)
    first.setSettings('bath-1', { push: 2 })
    first.setTrims({ ...NO_TRIMS, tint: 3 })
    await rest()
    await first.putOn([first.shots[1]!], () => withSettings({ push: 2 }))
    expect(server.trial(20).recipe.baths[0]!.settings['push']).toBe(2)

    await rest()
    expect(first.saveState).toBe('saved')

    setActivePinia(createPinia())
    const bench = useBenchStore()
    await bench.open(1)
    await bench.undo()
    expect(server.trial(20).recipe.baths[0]!.settings['push']).toBe(0)
    expect(bench.shot!.trims.tint).toBe(3)
    await bench.undo()
    expect(bench.shot!.trims.tint).toBe(0)
    expect(bench.recipe.baths[0]!.settings['push']).toBe(2)
    await bench.undo()
    expect(bench.recipe.baths[0]!.settings['push']).toBe(0)
    for (let i = 0; i < 3; i++) await bench.redo()
    await rest()
    expect(server.trial(20).recipe.baths[0]!.settings['push']).toBe(2)
    expect(server.shot(1).trims.tint).toBe(3)
    expect(server.trial(10).recipe.baths[0]!.settings['push']).toBe(2)
  })

  it('opens the trial that a step belongs to', async () => {
    const two = shotOf(1, { trials: [trialOf(10, 1), { ...trialOf(11, 1), name: 'B' }] })
    fakeServer([two])
    const bench = useBenchStore()
    await bench.open(1)
    bench.setSettings('bath-1', { push: 2 })
    await bench.chooseTrial(bench.shot!.trials[1]!)
    expect(bench.trial!.name).toBe('B')
    await bench.undo()
    expect(bench.trial!.id).toBe(10)
    expect(bench.recipe.baths[0]!.settings['push']).toBe(0)
  })
})

describe('copied baths', () => {
  it('go behind the chosen one in their own stretch, with ids of their own, in one step', async () => {
    fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    bench.duplicate('bath-1')
    expect(bench.recipe.baths).toHaveLength(2)
    expect(bench.chosen).toBe(bench.recipe.baths[1]!.id)
    bench.marked = ['bath-1']
    bench.copy()
    bench.paste()
    expect(bench.recipe.baths).toHaveLength(4)
    expect(new Set(bench.recipe.baths.map((b) => b.id)).size).toBe(4)
    await bench.undo()
    expect(bench.recipe.baths).toHaveLength(2)
  })

  it('writes each step of undo once, and takes over when another window wrote its own', async () => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    bench.setSettings('bath-1', { bleachPrint: 40 })
    await rest()
    bench.setSettings('bath-1', { push: 1 })
    await rest()
    const sent = () => vi.mocked(api.changeHistory).mock.calls.map(([, change]) => change)
    expect(sent()).toMatchObject([
      { revision: 0, past: { drop: 0, keep: 0 }, future: { keep: 0, add: [] } },
      { revision: 1, past: { drop: 0, keep: 1 }, future: { keep: 0, add: [] } },
    ])
    for (const { past } of sent()) expect(past.add).toHaveLength(1)
    await bench.undo()
    await rest()
    expect(sent()[2]).toMatchObject({ past: { keep: 1, add: [] }, future: { keep: 0 } })
    expect(sent()[2]!.future.add).toHaveLength(1)

    server.histories.set(1, { ...server.historyOf(1), revision: 9 })
    bench.setSettings('bath-1', { bleachPrint: 10 })
    await rest()
    expect(bench.saveState).toBe('saved')
    expect(server.historyOf(1).revision).toBe(10)
    expect(sent().at(-1)).toMatchObject({ revision: 9, past: { drop: 0, keep: 0 } })
    expect(sent().at(-1)!.past.add).toHaveLength(2)
  })
})
