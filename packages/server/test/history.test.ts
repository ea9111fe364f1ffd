import { readFileSync } from 'node:fs'
import { MOST_STEPS, NO_TRIMS, SHIPPED_RECIPES, changeSettings, type Step } from '@fogbath/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { Edit } from '../src/db/models'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

let rig: Rig
let url: string
let production: { id: number; revision: number }
beforeAll(async () => {
  rig = await makeRig()
  const footage = makeFootage(rig.folder)
  production = (await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Undo' } })).json()
  const file = multipart([{ name: 'clip.mp4', bytes: readFileSync(footage.clip) }])
  const taken = await rig.app.inject({ method: 'POST', url: `/api/productions/${production.id}/media`, ...file })
  url = `/api/shots/${taken.json<{ shots: { id: number }[] }>().shots[0]!.id}/history`
})
afterAll(() => rig.close())

const line = (bleachPrint: number): Step => ({
  ...{ kind: 'recipe', trialId: 1 },
  recipe: changeSettings(SHIPPED_RECIPES[1]!, 'bath-1', { bleachPrint }),
})
const trims = (exposure: number): Step => ({ kind: 'trims', trims: { ...NO_TRIMS, exposure } })
const patch = async (payload: object) => {
  const reply = await rig.app.inject({ method: 'PATCH', url, payload })
  return { status: reply.statusCode, body: reply.json<Record<string, any>>() }
}
const read = async () => (await rig.app.inject({ url })).json<{ revision: number; past: Step[]; future: Step[] }>()
const none = { keep: 0, add: [] as Step[] }

it('holds two stacks, changed by what comes on top, stays, and falls out below', async () => {
  expect(await read()).toEqual({ revision: 0, past: [], future: [] })
  const first = { revision: 0, past: { drop: 0, keep: 0, add: [line(10), trims(1), line(20)] }, future: none }
  expect(await patch(first)).toEqual({ status: 200, body: { revision: 1 } })
  // Undone once: the newest step goes from one stack to the other.
  await patch({ revision: 1, past: { drop: 0, keep: 2, add: [] }, future: { keep: 0, add: [line(30)] } })
  expect(await read()).toEqual({ revision: 2, past: [line(10), trims(1)], future: [line(30)] })
  const many = { kind: 'shots', trials: [{ trialId: 1, recipe: SHIPPED_RECIPES[2]! }] } as Step
  await patch({ revision: 2, past: { drop: 1, keep: 1, add: [many] }, future: none })
  expect(await read()).toEqual({ revision: 3, past: [trims(1), many], future: [] })
})

it('refuses a stale write, steps that are not there, too many, and what is no step; nothing is changed', async () => {
  const before = await read()
  const past = (change: object) => ({ revision: before.revision, past: { drop: 0, ...none, ...change }, future: none })
  const stale = await patch({ ...past({}), revision: 0 })
  expect(stale).toMatchObject({ status: 409, body: { details: { current: { revision: before.revision } } } })
  expect((await patch(past({ drop: 2, keep: 1 }))).body['message']).toBe(
    'The past has 2 steps; 2 dropped and 1 kept are more than that.',
  )
  const full = Array.from({ length: MOST_STEPS }, () => trims(2))
  expect((await patch(past({ keep: 1, add: full }))).body['message']).toMatch(/101 steps; 100 are the most/)
  expect((await patch(past({ add: [{ kind: 'spell' }] }))).body['message']).toMatch(
    /add\/0\/kind is "spell"; it must be one of: recipe, trims, shots/,
  )
  expect((await patch(past({ add: [trims(90)] }))).body['message']).toMatch(/trims\/exposure is 90; it must be <= 6/)
  const wrong = { ...line(10), recipe: { ...SHIPPED_RECIPES[1]!, strength: 101 } }
  expect((await patch(past({ add: [wrong] }))).body['message']).toMatch(/recipe\/strength is 101; it must be <= 100/)
  // The good step before the bad one is not kept either.
  const twins = { ...SHIPPED_RECIPES[1]!, baths: [SHIPPED_RECIPES[1]!.baths[0]!, SHIPPED_RECIPES[1]!.baths[0]!] }
  expect((await patch(past({ add: [trims(3), { ...line(1), recipe: twins }] }))).body['message']).toMatch(/Two baths/)
  expect(await read()).toEqual(before)
  expect((await rig.app.inject({ url: '/api/shots/9999/history' })).statusCode).toBe(404)
})

it('holds the most steps there may be, and goes with its shot', async () => {
  const { revision } = await read()
  const add = Array.from({ length: MOST_STEPS }, (_, i) => line(i))
  expect((await patch({ revision, past: { drop: 0, keep: 0, add }, future: none })).status).toBe(200)
  expect((await read()).past).toEqual(add)
  const gone = `/api/productions/${production.id}?revision=${production.revision}`
  expect((await rig.app.inject({ method: 'DELETE', url: gone })).statusCode).toBe(204)
  expect(await Edit.count()).toBe(0)
})
