import { readFileSync } from 'node:fs'
import { MOST_STEPS, newBath, changeSettings, type KeptStep, type Step } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
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
  kind: 'parts',
  trialId: 1,
  recipe: changeSettings(SHIPPED_RECIPES[1]!, 'bath-1', { bleachPrint }),
})
const balance = (exposure: number): Step => ({
  kind: 'parts',
  trialId: null,
  preparation: [newBath('balance', 'shot', { exposure })],
})
const patch = async (payload: object) => {
  const reply = await rig.app.inject({ method: 'PATCH', url, payload })
  return { status: reply.statusCode, body: reply.body ? reply.json<Record<string, unknown>>() : {} }
}
const read = async () => (await rig.app.inject({ url })).json<{ past: KeptStep[]; future: KeptStep[] }>()
const keys = async () => {
  const { past, future } = await read()
  return { past: past.map((s) => s.key), future: future.map((s) => s.key) }
}
const kept = (key: string, step: Step): KeptStep => ({ key: key.padEnd(8, '0'), step })
const key = (name: string): string => name.padEnd(8, '0')
const none = { remove: [] as string[], add: [] as KeptStep[] }

it('holds two stacks, changed by what comes on top and by what goes', async () => {
  expect(await read()).toEqual({ past: [], future: [] })
  const first = [kept('a', line(10)), kept('b', balance(1)), kept('c', line(20))]
  expect((await patch({ past: { ...none, add: first }, future: none })).status).toBe(204)
  // Undone once: the newest step goes from one stack to the other, under a new name.
  const undone = kept('d', line(30))
  await patch({ past: { ...none, remove: [key('c')] }, future: { ...none, add: [undone] } })
  expect(await read()).toEqual({ past: first.slice(0, 2), future: [undone] })
  const many = kept('e', { kind: 'shots', trials: [{ trialId: 1, recipe: SHIPPED_RECIPES[2]! }] })
  await patch({ past: { remove: [key('a')], add: [many] }, future: { ...none, remove: [key('d')] } })
  expect(await read()).toEqual({ past: [first[1], many], future: [] })
})

it('adds the steps of two windows to each other; neither takes those of the other away', async () => {
  await patch({ past: { ...none, add: [kept('mine1', balance(2))] }, future: none })
  await patch({
    past: { ...none, add: [kept('theirs1', balance(3))] },
    future: { ...none, add: [kept('theirs2', balance(4))] },
  })
  // This window knows nothing of theirs: it takes its own back and makes another.
  await patch({
    past: { remove: [key('mine1')], add: [kept('mine2', balance(5))] },
    future: { ...none, remove: [key('gone')] },
  })
  const now = await keys()
  expect(now.past.slice(-2)).toEqual([key('theirs1'), key('mine2')])
  expect(now.future).toEqual([key('theirs2')])
})

it('takes many windows that write at once, each step once', async () => {
  const before = (await keys()).past.length
  const windows = Array.from({ length: 12 }, (_, i) => kept(`w${i}x`, balance(i / 4)))
  // Each is sent twice, as after an answer that got lost.
  const sent = [...windows, ...windows].map((s) => patch({ past: { ...none, add: [s] }, future: none }))
  expect((await Promise.all(sent)).map((r) => r.status)).toEqual(Array(24).fill(204))
  const { past } = await keys()
  expect(past).toHaveLength(before + 12)
  expect(new Set(past).size).toBe(past.length)
})

it('refuses what is no step or no name; nothing is changed', async () => {
  const before = await read()
  const said = async (add: unknown[]) =>
    (await patch({ past: { ...none, add }, future: none })).body['message'] as string
  expect(await said([{ key: key('x'), step: { kind: 'spell' } }])).toMatch(
    /add\/0\/step\/kind is "spell"; it must be one of: parts, shots/,
  )
  expect(await said([{ key: 'No name!', step: balance(1) }])).toMatch(/key is "No name!"/)
  expect(await said([kept('x', balance(90))])).toMatch(/preparation\/0\/settings\/exposure is 90; it must be <= 8/)
  const wrong: Step = { kind: 'parts', trialId: 1, recipe: { ...SHIPPED_RECIPES[1]!, strength: 101 } }
  expect(await said([kept('x', wrong)])).toMatch(/recipe\/strength is 101; it must be <= 100/)
  // The good step before the bad one is not kept either.
  const [bath] = SHIPPED_RECIPES[1]!.baths
  const twins: Step = { kind: 'parts', trialId: 1, recipe: { ...SHIPPED_RECIPES[1]!, baths: [bath!, bath!] } }
  expect(await said([kept('x', balance(3)), kept('y', twins)])).toMatch(/Two baths/)
  expect(await read()).toEqual(before)
  expect((await rig.app.inject({ url: '/api/shots/9999/history' })).statusCode).toBe(404)
})

it('holds the most steps there may be, the newest of them, and goes with its shot', async () => {
  const add = Array.from({ length: MOST_STEPS }, (_, i) => kept(`n${i}x`, line(i)))
  expect((await patch({ past: { ...none, add: add.slice(0, 60) }, future: none })).status).toBe(204)
  expect((await patch({ past: { ...none, add: add.slice(60) }, future: none })).status).toBe(204)
  expect((await read()).past).toEqual(add)
  await patch({ past: { ...none, add: [kept('last', balance(1))] }, future: none })
  expect((await keys()).past).toEqual([...add.slice(1).map((s) => s.key), key('last')])
  const gone = `/api/productions/${production.id}?revision=${production.revision}`
  expect((await rig.app.inject({ method: 'DELETE', url: gone })).statusCode).toBe(204)
  expect(await Edit.count()).toBe(0)
})
