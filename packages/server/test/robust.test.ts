import { execFileSync } from 'node:child_process'
import { appendFileSync, copyFileSync, readFileSync, truncateSync } from 'node:fs'
import { join } from 'node:path'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Shot, Trial } from '../src/db/models'
import { probe } from '../src/media/probe'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

let rig: Rig
let footage: ReturnType<typeof makeFootage>
beforeAll(async () => {
  rig = await makeRig()
  footage = makeFootage(rig.folder)
})
afterAll(() => rig.close())

const post = async (url: string, payload: object) => {
  const reply = await rig.app.inject({ method: 'POST', url, payload })
  return { status: reply.statusCode, body: reply.json<Record<string, any>>() }
}
const production = async (name: string) =>
  (await post('/api/productions', { name })).body as { id: number; revision: number }
const upload = (id: number) =>
  rig.app.inject({
    method: 'POST',
    url: `/api/productions/${id}/media`,
    ...multipart([{ name: 'still.png', bytes: readFileSync(footage.png) }]),
  })

describe('at the same moment', () => {
  it('a trial is chosen and deleted: whichever comes second is refused, and no shot points nowhere', async () => {
    const { id } = await production('Races')
    await upload(id)
    const [shot] = await Shot.findAll({ where: { productionId: id } })
    const keep = shot!.trialId!
    for (let i = 0; i < 25; i++) {
      const made = await Trial.create({ shotId: shot!.id, name: `T${i}`, recipe: SHIPPED_RECIPES[0]! })
      await shot!.reload()
      const choose = rig.app.inject({
        method: 'PATCH',
        url: `/api/shots/${shot!.id}`,
        payload: { revision: shot!.revision, trialId: made.id },
      })
      const remove = rig.app.inject({ method: 'DELETE', url: `/api/trials/${made.id}?revision=1` })
      const statuses = (await Promise.all(i % 2 ? [choose, remove] : [remove, choose])).map((r) => r.statusCode).sort()
      expect([
        [200, 400],
        [204, 404],
      ]).toContainEqual(statuses)
      await shot!.reload()
      expect(await Trial.findByPk(shot!.trialId!)).not.toBeNull()
      const back = { revision: shot!.revision, trialId: keep }
      await rig.app.inject({ method: 'PATCH', url: `/api/shots/${shot!.id}`, payload: back })
    }
  })

  it('shots are added by many: each gets a place of its own', async () => {
    const { id } = await production('Places')
    const medium = (await Shot.findAll())[0]!.mediumId
    const asked = Array.from({ length: 12 }, () => post(`/api/productions/${id}/shots`, { mediumId: medium }))
    expect((await Promise.all(asked)).map((r) => r.status)).toEqual(Array(12).fill(201))
    const places = (await Shot.findAll({ where: { productionId: id } })).map((s) => s.position).sort((a, b) => a - b)
    expect(places).toEqual(Array.from({ length: 12 }, (_, i) => i))
  })

  it('footage is brought in and its production deleted: told in words, nothing left half', async () => {
    for (let i = 0; i < 6; i++) {
      const { id, revision } = await production(`Gone ${i}`)
      const [taken, gone] = await Promise.all([
        upload(id),
        rig.app.inject({ method: 'DELETE', url: `/api/productions/${id}?revision=${revision}` }),
      ])
      expect(gone.statusCode).toBe(204)
      expect([201, 404, 409, 422]).toContain(taken.statusCode)
      expect(await Shot.count({ where: { productionId: id } })).toBe(0)
    }
  })
})

describe('bodies', () => {
  const deep = (levels: number): object => JSON.parse(`${'{"a":'.repeat(levels)}1${'}'.repeat(levels)}`) as object
  it('that go too deep, or hold half a character, are refused in words', async () => {
    for (const levels of [25, 60, 30_000]) {
      const payload = `{"name":"x","notes":${'['.repeat(levels)}${']'.repeat(levels)}}`
      const headers = { 'content-type': 'application/json' }
      const reply = await rig.app.inject({ method: 'POST', url: '/api/productions', payload, headers })
      expect([reply.statusCode, reply.json<{ message: string }>().message]).toEqual([
        400,
        expect.stringMatching(/is nested more than 24 levels deep/),
      ])
    }
    expect((await post('/api/productions', { name: 'x', notes: deep(3) })).body['message']).toMatch(
      /must be of type string/,
    )
    for (const name of ['a\ud800b', '\udc00'])
      expect((await post('/api/productions', { name })).body['message']).toBe(
        'body/name holds half a character (a lone surrogate).',
      )
    expect((await post('/api/productions', { ['\ud83d']: 1, name: 'x' })).status).toBe(400)
    expect((await post('/api/productions', { name: 'Whole 🎞️ one' })).body['name']).toBe('Whole 🎞️ one')
  })
})

describe('a still with something behind it', () => {
  it('is whole; one that is cut short is not', async () => {
    const [more, cut] = [join(rig.folder, 'more.png'), join(rig.folder, 'cut.png')]
    copyFileSync(footage.png, more)
    appendFileSync(more, Buffer.alloc(4))
    const info = await probe({ type: 'file', path: more }, 'more.png')
    expect(info).toMatchObject({ kind: 'still', frames: 1, width: 160 })
    copyFileSync(more, cut)
    truncateSync(cut, readFileSync(footage.png).length >> 1)
    await expect(probe({ type: 'file', path: cut }, 'cut.png')).rejects.toThrow(/cut.png/)
  })
  it('of more than 36 megapixels is refused by its size', async () => {
    const path = join(rig.folder, 'huge.png')
    const grey = ['-f', 'lavfi', '-i', 'color=gray:s=10000x4000:d=0.1', '-frames:v', '1', '-pix_fmt', 'gray', path]
    execFileSync('ffmpeg', ['-v', 'error', ...grey])
    await expect(probe({ type: 'file', path }, 'huge.png')).rejects.toThrow(
      /10000x4000; the largest picture is .* 36 megapixels/,
    )
  })
})

describe('listening for renders', () => {
  it('may be begun and ended many times', async () => {
    const address = await rig.app.listen({ host: '127.0.0.1', port: 0 })
    for (let i = 0; i < 20; i++) {
      const stop = new AbortController()
      const reply = await fetch(`${address}/api/renders/events`, { signal: stop.signal })
      expect(reply.headers.get('content-type')).toBe('text/event-stream')
      stop.abort()
    }
    await expect.poll(() => rig.context.queue.listenerCount('progress')).toBe(0)
  })
})
