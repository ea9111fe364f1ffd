import { readFileSync } from 'node:fs'
import { NO_MARKS, newBath } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

let rig: Rig
let shot: { id: number; revision: number; trials: { id: number }[] }
let png: Buffer
beforeAll(async () => {
  rig = await makeRig()
  const footage = makeFootage(rig.folder)
  png = readFileSync(footage.png)
  const { body: production } = await send('POST', '/api/productions', { name: 'Proofs' })
  const file = multipart([{ name: 'clip.mp4', bytes: readFileSync(footage.clip) }])
  const taken = await rig.app.inject({ method: 'POST', url: `/api/productions/${production['id']}/media`, ...file })
  shot = taken.json<{ shots: (typeof shot)[] }>().shots[0]!
})
afterAll(() => rig.close())

const send = async (method: 'GET' | 'POST' | 'PATCH' | 'DELETE', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: (reply.body ? reply.json() : null) as Record<string, any> }
}
const proof = (picture: Buffer, more: object = {}) => ({
  name: 'Silver, first',
  frame: 12,
  recipe: SHIPPED_RECIPES[1],
  preparation: [newBath('balance', 'shot', { exposure: 0.5 })],
  after: [newBath('timing', 'timed', { lightRed: 2 })],
  picture: picture.toString('base64'),
  ...more,
})

it('keeps a still with the recipe that made it, byte for byte, names and deletes it', async () => {
  const made = await send('POST', `/api/shots/${shot.id}/proofs`, proof(png))
  expect(made.status).toBe(201)
  expect(made.body).toMatchObject({ name: 'Silver, first', frame: 12, width: 160, height: 96, revision: 1 })
  expect(made.body['picture']).toBeUndefined()
  const list = await send('GET', `/api/shots/${shot.id}/proofs`)
  expect(list.body).toHaveLength(1)
  expect(list.body[0].recipe).toEqual(SHIPPED_RECIPES[1])
  const picture = await rig.app.inject({ url: `/api/proofs/${made.body['id']}/picture` })
  expect(picture.headers['content-type']).toBe('image/png')
  expect(picture.rawPayload.equals(png)).toBe(true)

  const named = await send('PATCH', `/api/proofs/${made.body['id']}`, { revision: 1, name: 'Chosen' })
  expect(named.body).toMatchObject({ name: 'Chosen', revision: 2 })
  expect(named.body['picture']).toBeUndefined()
  expect((await send('PATCH', `/api/proofs/${made.body['id']}`, { revision: 1, name: 'Late' })).status).toBe(409)
  expect((await send('DELETE', `/api/proofs/${made.body['id']}?revision=1`)).status).toBe(409)
  expect((await send('DELETE', `/api/proofs/${made.body['id']}?revision=2`)).status).toBe(204)
  expect((await send('GET', `/api/shots/${shot.id}/proofs`)).body).toEqual([])
})

it.each([
  ['no PNG', () => proof(Buffer.alloc(200, 7)), /is not a PNG file/],
  ['a header only in part', () => proof(png.subarray(0, 31)), /is not a PNG file/],
  ['a wrong recipe', () => proof(png, { recipe: { ...SHIPPED_RECIPES[1], strength: 120 } }), /strength is 120/],
  ['a frame before the first', () => proof(png, { frame: -1 }), /body\/frame is -1; it must be >= 0/],
])('refuses %s and keeps nothing', async (_, body, says) => {
  const reply = await send('POST', `/api/shots/${shot.id}/proofs`, body())
  expect(reply.status).toBe(400)
  expect(reply.body['message']).toMatch(says)
  expect((await send('GET', `/api/shots/${shot.id}/proofs`)).body).toEqual([])
})

it('refuses a side beyond the limit, named', async () => {
  const wide = Buffer.from(png)
  wide.writeUInt32BE(30000, 16)
  const reply = await send('POST', `/api/shots/${shot.id}/proofs`, proof(wide))
  expect(reply.body['message']).toMatch(/30000x96; each side must lie in 1 to 8192/)
})

it('keeps marks on the shot, and copies proofs and marks with the production', async () => {
  const before = (await send('GET', `/api/shots/${shot.id}`)).body
  expect(before['marks']).toEqual(NO_MARKS)
  const marks = { probes: [{ u: 0.25, v: 0.5, reach: 0.01 }], grey: 0.21 }
  const changed = await send('PATCH', `/api/shots/${shot.id}`, { revision: before['revision'], marks })
  expect(changed.body['marks']).toEqual(marks)
  const wrong = { probes: [{ u: 1.25, v: 0.5, reach: 0.01 }], grey: null }
  const refused = await send('PATCH', `/api/shots/${shot.id}`, { revision: changed.body['revision'], marks: wrong })
  expect(refused.body['message']).toMatch(/marks\/probes\/0\/u is 1.25; it must be <= 1/)
  await send('POST', `/api/shots/${shot.id}/proofs`, proof(png))
  const copy = await send('POST', `/api/productions/${before['productionId']}/copy`)
  const twin = (await send('GET', `/api/productions/${copy.body['id']}`)).body['shots'][0]
  expect(twin.marks).toEqual(marks)
  const copied = (await send('GET', `/api/shots/${twin.id}/proofs`)).body[0]
  expect(copied).toMatchObject({ name: 'Silver, first', width: 160 })
  expect((await rig.app.inject({ url: `/api/proofs/${copied.id}/picture` })).rawPayload.equals(png)).toBe(true)
})
