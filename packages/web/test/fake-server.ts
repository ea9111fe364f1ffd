import {
  NO_MARKS,
  changeSettings,
  newBath,
  settingsOf,
  type Bath,
  type KeptStep,
  type Recipe,
} from '@fogbath/core/line'
import type { BalanceSettings } from '@fogbath/core/baths'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { vi } from 'vitest'
import { ApiError, api } from '../src/api/client'
import type { Production, Shot, Trial } from '@fogbath/contract'

export const stamps = { createdAt: '2026-01-01T00:00:00.000Z', updatedAt: '2026-01-01T00:00:00.000Z' }
const plain = SHIPPED_RECIPES[0]!
export const withSettings = (settings: Record<string, unknown>): Recipe => changeSettings(plain, 'bath-1', settings)
export const trialOf = (id: number, shotId: number, recipe: Recipe = plain, revision = 1): Trial => ({
  id,
  shotId,
  revision,
  recipe,
  after: [],
  ...stamps,
  name: 'A',
})
/** A preparation of one balance, and what it is set to. */
export const balanced = (settings: Partial<BalanceSettings>): Bath[] => [newBath('balance', 'shot', { ...settings })]
export const balanceOf = ({ preparation }: Pick<Shot, 'preparation'>): BalanceSettings => settingsOf(preparation[0]!)
export const shotOf = (id: number, more: Partial<Shot> = {}): Shot => ({
  id,
  revision: 1,
  productionId: 1,
  mediumId: 1,
  name: `shot ${id}`,
  position: id,
  first: 0,
  last: 47,
  still: 20,
  encoding: 'bt1886',
  reading: {},
  preparation: balanced({}),
  marks: NO_MARKS,
  tracks: [],
  cut: null,
  trialId: 10 * id,
  ...stamps,
  medium: {} as Shot['medium'],
  trials: [trialOf(10 * id, id)],
  ...more,
})
const stale = (current: object): ApiError => new ApiError(409, 'changed elsewhere', { current })

/** The server as the store sees it: rows with revisions, a stale write is refused with the row. */
export function fakeServer(shots: Shot[]) {
  const rows = new Map(shots.map((s) => [s.id, s]))
  const whole = (): Production => ({ id: 1, revision: 1, name: 'P', notes: '', ...stamps, shots: [...rows.values()] })
  vi.spyOn(api, 'shot').mockImplementation(async (id) => rows.get(id)!)
  vi.spyOn(api, 'production').mockImplementation(async () => whole())
  const histories = new Map<number, { past: KeptStep[]; future: KeptStep[] }>()
  const historyOf = (id: number) => histories.get(id) ?? { past: [], future: [] }
  vi.spyOn(api, 'history').mockImplementation(async (id) => structuredClone(historyOf(id)))
  vi.spyOn(api, 'changeHistory').mockImplementation(async (id, change) => {
    const turned = (stack: KeptStep[], { remove, add }: { remove: readonly string[]; add: readonly KeptStep[] }) => [
      ...stack.filter(({ key }) => !remove.includes(key)),
      ...add,
    ]
    const { past, future } = historyOf(id)
    histories.set(id, { past: turned(past, change.past), future: turned(future, change.future) })
  })
  const changeShot: typeof api.changeShot = async (id, { revision, ...fields }) => {
    const row = rows.get(id)!
    if (row.revision !== revision) throw stale(row)
    rows.set(id, { ...row, ...fields, revision: revision + 1 })
    return rows.get(id)!
  }
  vi.spyOn(api, 'changeShot').mockImplementation(changeShot)
  const changeTrial: typeof api.changeTrial = async (id, { revision, ...fields }) => {
    const shot = [...rows.values()].find((s) => s.trials.some((t) => t.id === id))!
    const trial = shot.trials.find((t) => t.id === id)!
    if (trial.revision !== revision) throw stale(trial)
    const saved = { ...trial, ...fields, revision: revision + 1 }
    rows.set(shot.id, { ...shot, trials: shot.trials.map((t) => (t.id === id ? saved : t)) })
    return saved
  }
  vi.spyOn(api, 'changeTrial').mockImplementation(changeTrial)
  vi.spyOn(api, 'createTrial').mockImplementation(async (shotId, { name, recipe, after = [] }) => {
    const shot = rows.get(shotId)!
    const made = { ...trialOf(10 * shotId + shot.trials.length, shotId, recipe), name, after }
    rows.set(shotId, { ...shot, trials: [...shot.trials, made] })
    return made
  })
  vi.spyOn(api, 'deleteTrial').mockImplementation(async ({ id, shotId }) => {
    const shot = rows.get(shotId)!
    if (shot.trialId === id) throw new ApiError(400, 'This trial is the shot’s current one.')
    rows.set(shotId, { ...shot, trials: shot.trials.filter((t) => t.id !== id) })
  })
  // All or none, like the server's transaction.
  vi.spyOn(api, 'changeLines').mockImplementation(async ({ lines, preparations = [] }) => {
    const before = new Map(rows)
    try {
      const saved: Trial[] = []
      for (const { trialId, ...change } of lines) saved.push(await changeTrial(trialId, change))
      const prepared: Shot[] = []
      for (const { shotId, ...change } of preparations) prepared.push(await changeShot(shotId, change))
      return { trials: saved, shots: prepared }
    } catch (error) {
      for (const [id, row] of before) rows.set(id, row)
      throw error
    }
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
