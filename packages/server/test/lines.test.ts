import { readFileSync } from 'node:fs'
import { SHIPPED_RECIPES, type Recipe } from '@fogbath/core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

interface Row {
  readonly id: number
  readonly revision: number
  readonly trials: { id: number; revision: number; recipe: Recipe }[]
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
    expect(reply.json<Row[]>().map((t) => t.revision)).toEqual([2, 2, 2])
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

describe('the order of shots', () => {
  it('is changed at once, and no shot is touched by it', async () => {
    const before = await shots()
    const wanted = [before[2]!.id, before[0]!.id, before[1]!.id]
    expect((await put(`/api/productions/${production}/order`, { shots: wanted })).statusCode).toBe(204)
    const after = await shots()
    expect(after.map((s) => s.id)).toEqual(wanted)
    expect(after.map((s) => s.revision)).toEqual([1, 1, 1])
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
