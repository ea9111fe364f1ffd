import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { encodingOfParameters } from '@fogbath/core/encodings'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { OwnEncoding } from '../src/db/models'
import { HOUSE_LOG } from '../../core/test/house-log'
import { makeFootage, makeRig, multipart, readPixels, type Rig } from './helpers'

let rig: Rig
let footage: ReturnType<typeof makeFootage>
let production: number
let shot: Record<string, any>
const send = async (method: 'GET' | 'POST' | 'PATCH' | 'DELETE', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: (reply.body ? reply.json() : null) as Record<string, any> }
}
const list = async () => (await send('GET', '/api/encodings')).body as unknown as Record<string, any>[]
const { id: ID, ...CCT } = encodingOfParameters(HOUSE_LOG)
beforeAll(async () => {
  rig = await makeRig()
  footage = makeFootage(rig.folder)
  production = (await send('POST', '/api/productions', { name: 'Cameras' })).body['id']
  const bytes = readFileSync(footage.png)
  await rig.app.inject({
    method: 'POST',
    url: `/api/productions/${production}/media`,
    ...multipart([{ name: 'a.png', bytes }]),
  })
  shot = (await send('GET', `/api/productions/${production}`)).body['shots'][0]
})
afterAll(() => rig.close())
const take = async (encoding: string) => {
  const { revision } = (await send('GET', `/api/shots/${shot['id']}`)).body
  return send('PATCH', `/api/shots/${shot['id']}`, { revision, encoding })
}
/** The first frame of a finished render, without loss. */
async function rendered(): Promise<Uint16Array> {
  const { id } = (await send('POST', `/api/shots/${shot['id']}/renders`, { format: 'mkv' })).body
  await expect
    .poll(
      async () =>
        ((await send('GET', '/api/renders')).body['items'] as Record<string, any>[]).find((r) => r['id'] === id)![
          'state'
        ],
      {
        timeout: 60_000,
      },
    )
    .toBe('done')
  const { rawPayload } = await rig.app.inject({ method: 'GET', url: `/api/renders/${id}/file` })
  const path = join(rig.folder, `${id}.mkv`)
  writeFileSync(path, rawPayload)
  return readPixels(path)
}

describe('encodings of one’s own', () => {
  it('are kept once by what they do, and renamed by keeping them again', async () => {
    expect(await list()).toEqual([])
    const made = await send('POST', '/api/encodings', CCT)
    expect([made.status, made.body]).toMatchObject([
      201,
      { definition: { id: ID, name: 'House log' }, delivered: true, uses: 0 },
    ])
    await send('POST', '/api/encodings', { ...CCT, name: 'Stage log' })
    expect((await list()).map((e) => e['definition'].name)).toEqual(['Stage log'])
  })

  it('are refused where they make no light, and where they are none', async () => {
    const flat = {
      name: 'flat',
      refers: 'scene',
      from: '',
      ops: [{ op: 'range', scale: 0, offset: 1, least: null, most: null }],
    }
    const told = await send('POST', '/api/encodings', flat)
    expect([told.status, told.body['message']]).toEqual([
      400,
      "The encoding 'flat' makes the same light of every code.",
    ])
    const odd = await send('POST', '/api/encodings', { ...flat, ops: [{ op: 'warp' }] })
    expect([odd.status, odd.body['message']]).toMatchObject([
      400,
      expect.stringMatching(/'flat' has a step that cannot be worked out/),
    ])
    expect((await send('POST', '/api/encodings', { ...flat, refers: 'camera' })).body['message']).toMatch(
      /refers is "camera"; it must be one of: display, scene/,
    )
  })

  it('are what shots are taken for, and renders work with them', async () => {
    expect((await take('own-0123456789abcdef')).body['message']).toMatch(
      /The encoding own-0123456789abcdef is not here/,
    )
    expect((await take('log-z')).body['message']).toMatch(/encoding is "log-z"; it must be one of: bt1886, srgb/)
    await take('acescct')
    const shipped = await rendered()
    expect((await take(ID)).body['encoding']).toBe(ID)
    expect(await rendered()).toEqual(shipped)
    const refused = await send('DELETE', `/api/encodings/${ID}`)
    expect([refused.status, refused.body['message']]).toMatchObject([
      400,
      expect.stringMatching(/is in use: 2 shots, proofs or renders/),
    ])
  })

  it('go along in backups, and come back with the shots that need them', async () => {
    const { rawPayload } = await rig.app.inject({ method: 'GET', url: `/api/productions/${production}/along` })
    // As on another machine, where it never was.
    await OwnEncoding.destroy({ where: { id: ID } })
    const brought = await rig.app.inject({
      method: 'POST',
      url: '/api/imports',
      ...multipart([{ name: 'all.zip', bytes: rawPayload }]),
    })
    expect(brought.statusCode).toBe(201)
    const accepted = await send('POST', `/api/imports/${brought.json<{ key: string }>().key}/accept`)
    expect(accepted.status).toBe(200)
    expect(await list()).toMatchObject([{ definition: { id: ID, name: 'Stage log', ops: CCT.ops } }])
    const { items } = (await send('GET', '/api/productions')).body
    const [came] = items as Record<string, any>[]
    expect(came!['shots'][0]['encoding']).toBe(ID)
    expect((await send('DELETE', `/api/productions/${came!['id']}?revision=${came!['revision']}`)).status).toBe(204)
  })

  it('are deleted when nothing is taken for them any more', async () => {
    await take('bt1886')
    for (const { id } of (await send('GET', '/api/renders')).body['items'] as { id: number }[])
      await send('DELETE', `/api/renders/${id}`)
    expect((await send('DELETE', `/api/encodings/${ID}`)).status).toBe(204)
    expect(await list()).toEqual([])
    expect((await send('DELETE', `/api/encodings/${ID}`)).status).toBe(404)
  })
})
