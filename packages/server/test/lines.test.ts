import { readFileSync } from 'node:fs'
import { newBath, type Bath, type Recipe } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

interface Row {
  readonly id: number
  readonly revision: number
  readonly preparation: Bath[]
  readonly trials: { id: number; revision: number; recipe: Recipe; after: Bath[] }[]
}

let rig: Rig
let production: number
beforeAll(async () => {
  rig = await makeRig()
  const { clip } = makeFootage(rig.folder)
  const made = await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Lines' } })
  production = made.json<{ id: number }>().id
  const file = { name: 'clip.mp4', bytes: readFileSync(clip) }
  const url = `/api/productions/${production}/media`
  await rig.app.inject({ method: 'POST', url, ...multipart([file, file, file]) })
})
afterAll(() => rig.close())

const shots = async () =>
  (await rig.app.inject({ url: `/api/productions/${production}` })).json<{ shots: Row[] }>().shots
const sepia = SHIPPED_RECIPES.find((r) => r.id === 'sepia')!
const put = (url: string, payload: object) => rig.app.inject({ method: 'PUT', url, payload })

describe('lines of several trials', () => {
  it('are changed together', async () => {
    const lines = (await shots()).map(({ trials: [t] }) => ({ trialId: t!.id, revision: t!.revision, recipe: sepia }))
    const reply = await put('/api/lines', { lines })
    expect(reply.statusCode).toBe(200)
    expect(reply.json<{ trials: Row[] }>().trials.map((t) => t.revision)).toEqual([2, 2, 2])
    expect((await shots()).map((s) => s.trials[0]!.recipe.id)).toEqual(['sepia', 'sepia', 'sepia'])
  })

  it('stay as they are, all of them, when one was changed elsewhere or is gone', async () => {
    const before = await shots()
    const lines = before.map(({ trials: [t] }) => ({
      trialId: t!.id,
      revision: t!.revision,
      recipe: SHIPPED_RECIPES[1]!,
    }))
    const stale = lines.map((line, i) => (i === 2 ? { ...line, revision: 1 } : line))
    const reply = await put('/api/lines', { lines: stale })
    expect(reply.statusCode).toBe(409)
    expect(reply.json<{ message: string }>().message).toMatch(/you have revision 1, it is now at 2/)
    expect((await put('/api/lines', { lines: [...lines, { ...lines[0], trialId: 999 }] })).statusCode).toBe(404)
    const [bath] = sepia.baths
    const twins = { ...sepia, baths: [bath!, bath!] }
    expect((await put('/api/lines', { lines: [lines[0], { ...lines[1], recipe: twins }] })).statusCode).toBe(400)
    expect(await shots()).toEqual(before)
  })
})

describe('preparations of several shots', () => {
  const balance = (exposure: number) => [newBath('balance', 'shot', { exposure })]
  const change = async (exposures: readonly number[], revision?: number) =>
    (await shots()).map((s, i) => ({
      shotId: s.id,
      revision: revision ?? s.revision,
      preparation: balance(exposures[i]!),
    }))
  it('are changed together, beside looks and what stands behind them', async () => {
    const [first] = await shots()
    const { id, revision } = first!.trials[0]!
    const after = [newBath('timing', 'timed', { saturation: 50 })]
    const lines = [{ trialId: id, revision, after }]
    const reply = await put('/api/lines', { lines, preparations: await change([1, 2, 3]) })
    expect(reply.statusCode).toBe(200)
    const now = await shots()
    expect(now.map((s) => s.preparation[0]!.settings['exposure'])).toEqual([1, 2, 3])
    expect(now[0]!.trials[0]!.after).toEqual(after)
    expect(now[0]!.trials[0]!.recipe).toEqual(first!.trials[0]!.recipe)
    expect(reply.json<{ shots: { id: number }[] }>().shots.map((s) => s.id)).toEqual(now.map((s) => s.id))
  })
  it('stay, all of them, when one is stale or cannot stand there', async () => {
    const before = await shots()
    const stale = [...(await change([4, 5, 6])).slice(0, 2), { ...(await change([4, 5, 6], 99))[2]! }]
    expect((await put('/api/lines', { lines: [], preparations: stale })).statusCode).toBe(409)
    const wrong = [{ ...(await change([4, 5, 6]))[0]!, preparation: [newBath('glow', 'g')] }]
    const reply = await put('/api/lines', { lines: [], preparations: wrong })
    expect(reply.json<{ message: string }>().message).toMatch(/glow\) cannot stand here: before the look/)
    expect(await shots()).toEqual(before)
  })
})

describe('the order of shots', () => {
  it('is changed at once, and no shot is touched by it', async () => {
    const before = await shots()
    const wanted = [before[2]!.id, before[0]!.id, before[1]!.id]
    expect((await put(`/api/productions/${production}/order`, { shots: wanted })).statusCode).toBe(204)
    const after = await shots()
    expect(after.map((s) => s.id)).toEqual(wanted)
    const revisions = new Map(before.map((s) => [s.id, s.revision]))
    expect(after.map((s) => s.revision)).toEqual(wanted.map((id) => revisions.get(id)))
  })

  it('is refused where it leaves out shots or names strangers, and stays', async () => {
    const ids = (await shots()).map((s) => s.id)
    for (const wanted of [ids.slice(1), [...ids, 999], [...ids.slice(1), 999]]) {
      const reply = await put(`/api/productions/${production}/order`, { shots: wanted })
      expect(reply.statusCode).toBe(409)
      expect(reply.json<{ message: string }>().message).toMatch(/the production has 3 by now/)
    }
    expect((await put(`/api/productions/999/order`, { shots: ids })).statusCode).toBe(404)
    expect((await put(`/api/productions/${production}/order`, { shots: [ids[0], ids[0]] })).statusCode).toBe(400)
    expect((await shots()).map((s) => s.id)).toEqual(ids)
  })
})
