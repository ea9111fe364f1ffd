import { execFileSync } from 'node:child_process'
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  utimesSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { Medium, Production, Render, Shot } from '../src/db/models'
import type { StorageUse } from '@fogbath/contract'
import { Storage } from '../src/storage/storage'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

/** Footage that a person brought is there whatever the database knows. */

let rig: Rig
let footage: ReturnType<typeof makeFootage>
let production: number
const drawn = mkdtempSync(join(tmpdir(), 'fogbath-drawn-'))
beforeAll(() => {
  footage = makeFootage(drawn)
})
afterAll(() => rmSync(drawn, { recursive: true, force: true }))
beforeEach(async () => {
  rig = await makeRig()
  production = await produce('Kept')
  await bring(production, footage.clip, 'Reel 3, é.mp4')
})
afterEach(() => rig.close())

const send = async (method: 'GET' | 'POST' | 'DELETE', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: (reply.body ? reply.json() : null) as Record<string, any> }
}
const produce = async (name: string): Promise<number> => (await send('POST', '/api/productions', { name })).body['id']
const bring = async (to: number, path: string, name: string) =>
  (
    await rig.app.inject({
      method: 'POST',
      url: `/api/productions/${to}/media`,
      ...multipart([{ name, bytes: readFileSync(path) }]),
    })
  ).json<{ files: Record<string, unknown>[]; shots: { medium: Medium & { state: string } }[] }>()
const use = async (): Promise<StorageUse> => (await rig.app.inject({ url: '/api/storage' })).json()
const pathOf = ({ sha256 }: Medium): string => join(rig.folder, 'media', sha256.slice(0, 2), sha256)
/** Makes a thing, and all in it, look a day old. */
function age(path: string): void {
  const then = new Date(Date.now() - 24 * 3_600_000)
  for (const name of [...readdirSync(path, { recursive: true }).map(String).reverse(), '.'])
    utimesSync(join(path, name), then, then)
}
/** What the start of a server does with footage. */
async function start(): Promise<void> {
  rig = await rig.restart()
  // At a start nothing is on its way, however young it is.
  await rig.context.storage.settle()
  for (const folder of ['media', 'renders']) if (existsSync(join(rig.folder, folder))) age(join(rig.folder, folder))
  await rig.context.storage.sweep(false)
}
async function emptyDatabase(): Promise<void> {
  for (const table of ['shot', 'render', 'medium', 'production']) await rig.context.db.query(`DELETE FROM ${table}`)
}

describe('a database that does not know the footage', () => {
  it('because it is empty: it is set aside with its name, and goes back when the database does', async () => {
    const medium = (await Medium.findOne())!
    const row = medium.toJSON()
    const bytes = readFileSync(pathOf(medium))
    await emptyDatabase()
    // As the start of an empty database does: other footage comes first.
    await bring(await produce('Demo'), footage.png, 'still.png')
    await start()
    expect(existsSync(pathOf(medium))).toBe(false)
    const { unknown } = await use()
    expect(unknown).toMatchObject([
      { key: medium.sha256, kind: 'footage', name: 'Reel 3, é.mp4', bytes: bytes.length, single: true },
    ])
    const picture = await rig.app.inject({ url: `/api/unknown/${medium.sha256}/picture` })
    expect([picture.statusCode, picture.headers['content-type']]).toEqual([200, 'image/jpeg'])
    expect((await rig.app.inject({ url: `/api/unknown/${medium.sha256}/file` })).rawPayload.equals(bytes)).toBe(true)
    // Nothing of it goes by itself, however often it is swept.
    for (let i = 0; i < 3; i++) await rig.context.storage.sweep(false)
    expect((await use()).unknown).toHaveLength(1)
    // The older database comes back.
    await Medium.create({ ...row, id: row.id + 100 })
    await start()
    expect(readFileSync(pathOf(medium)).equals(bytes)).toBe(true)
    expect((await use()).unknown).toEqual([])
  })

  it('because it is an older one: what came since is set aside and can be taken in again, sequences too', async () => {
    mkdirSync(join(rig.folder, 'watched'), { recursive: true })
    for (const i of [1, 2, 3])
      execFileSync('ffmpeg', [
        ...['-v', 'error', '-f', 'lavfi', '-i', `color=c=0x${i}0${i}0${i}0:s=64x36:d=0.1`, '-frames:v', '1'],
        join(rig.folder, 'watched', `wade.${i}.png`),
      ])
    const paths = [1, 2, 3].map((i) => `wade.${i}.png`)
    await send('POST', `/api/productions/${production}/pick`, { paths, asSequence: true })
    const sequence = (await Medium.findOne({ where: { sequence: '.png' } }))!
    await Shot.destroy({ where: { mediumId: sequence.id } })
    await sequence.destroy()
    await start()
    expect((await use()).unknown).toMatchObject([{ key: sequence.sha256, name: 'wade.1.png', single: false }])
    const taken = await send('POST', `/api/unknown/${sequence.sha256}/take`, { productionId: production })
    expect(taken.status).toBe(201)
    const again = (await Medium.findOne({ where: { sequence: '.png' } }))!
    expect([again.sha256, again.info]).toEqual([sequence.sha256, sequence.info])
    expect((await rig.app.inject({ url: `/api/media/${again.id}/frames/2?width=64` })).statusCode).toBe(200)
    expect(readdirSync(join(rig.folder, 'unknown'))).toEqual([])
  })

  it('and no note of it is there: its hash and picture are shown, and what it really holds is taken in', async () => {
    const medium = (await Medium.findOne())!
    rmSync(`${pathOf(medium)}.json`)
    await emptyDatabase()
    await start()
    expect((await use()).unknown).toMatchObject([{ key: medium.sha256, name: medium.sha256.slice(0, 12) }])
    production = await produce('New')
    expect((await send('POST', `/api/unknown/${medium.sha256}/take`, { productionId: production })).status).toBe(201)
    // How quickly it decodes is measured anew.
    expect((await Medium.findOne())!.info).toEqual({ ...medium.info, speed: expect.any(Number) })
  })

  it('a person can remove it, and only a person', async () => {
    const medium = (await Medium.findOne())!
    await emptyDatabase()
    await start()
    expect((await send('DELETE', `/api/unknown/${medium.sha256}`)).status).toBe(204)
    expect((await use()).unknown).toEqual([])
    expect((await send('GET', `/api/unknown/${medium.sha256}/picture`)).status).toBe(404)
    expect((await send('POST', `/api/unknown/..%2f..%2fmedia/take`, { productionId: 1 })).status).toBe(400)
  })

  it('a start that is cut off between two steps loses nothing', async () => {
    const medium = (await Medium.findOne())!
    mkdirSync(join(rig.folder, 'unknown', medium.sha256), { recursive: true })
    writeFileSync(join(rig.folder, 'unknown', medium.sha256, 'about.json'), '{"kind":')
    await start()
    expect(existsSync(pathOf(medium))).toBe(true)
    expect(readdirSync(join(rig.folder, 'unknown'))).toEqual([])
  })

  it('a finished render of an unknown row is set aside; a new render of the same number gets an empty folder', async () => {
    const folder = join(rig.folder, 'renders')
    mkdirSync(join(folder, '7'), { recursive: true })
    writeFileSync(join(folder, '7/render.mp4'), 'finished')
    await start()
    expect(existsSync(join(folder, '7'))).toBe(false)
    const [render] = (await use()).unknown
    expect(render).toMatchObject({ kind: 'render', name: 'Render 7' })
    const shot = (await Shot.findOne())!
    const next = await Render.create({
      label: 'x',
      format: 'mp4',
      state: 'cancelled',
      first: 0,
      count: 1,
      done: 0,
      mediumId: shot.mediumId,
      encoding: 'bt1886',
      recipe: SHIPPED_RECIPES[0]!,
      shotId: null,
    })
    mkdirSync(join(folder, String(next.id + 1)), { recursive: true })
    writeFileSync(join(folder, String(next.id + 1), 'render.mp4'), 'of another database')
    const made = await send('POST', `/api/shots/${shot.id}/renders`, { format: 'mp4' })
    expect(made.body['id']).toBe(next.id + 1)
    await expect.poll(async () => (await Render.findByPk(next.id + 1))!.state, { timeout: 60_000 }).toBe('done')
    expect(readFileSync(join(folder, String(next.id + 1), 'render.mp4')).includes('of another database')).toBe(false)
    expect((await use()).unknown).toHaveLength(2)
  })
})

describe('footage that nothing uses', () => {
  it('stays and is listed; where it was asked for it goes after so many days, by what the footage’s own note says', async () => {
    const medium = (await Medium.findOne())!
    await Shot.destroy({ where: {} })
    await start()
    expect((await use()).unused).toMatchObject([{ id: medium.id, name: 'Reel 3, é.mp4' }])
    const { db, store } = rig.context
    const storage = new Storage(rig.folder, db, store, { unusedDays: 30 })
    const note = `${pathOf(medium)}.json`
    const since = (days: number): void => {
      const before = JSON.parse(readFileSync(note, 'utf8')) as object
      const then = new Date(Date.now() - days * 24 * 3_600_000).toISOString()
      writeFileSync(note, JSON.stringify({ ...before, unusedSince: then }))
    }
    since(29)
    await storage.sweep(false)
    expect(existsSync(pathOf(medium))).toBe(true)
    // Used again and not any more: the days begin anew.
    since(31)
    await send('POST', `/api/productions/${production}/shots`, { mediumId: medium.id })
    await storage.sweep(false)
    await Shot.destroy({ where: {} })
    await storage.sweep(false)
    expect(existsSync(pathOf(medium))).toBe(true)
    since(31)
    await rig.context.storage.sweep(false)
    expect(existsSync(pathOf(medium))).toBe(true)
    await storage.sweep(false)
    expect([existsSync(pathOf(medium)), existsSync(note), await Medium.count()]).toEqual([false, false, 0])
  })
})

describe('lost footage', () => {
  const shots = async () => (await send('GET', `/api/productions/${production}`)).body['shots']
  it('is told on the shot and in Storage, asked for in words, and comes back by the same file, to the same shot', async () => {
    const medium = (await Medium.findOne())!
    renameSync(pathOf(medium), join(rig.folder, 'away'))
    expect((await shots())[0].medium.state).toBe('missing')
    expect((await use()).lost).toMatchObject([{ id: medium.id, state: 'missing' }])
    for (const url of [`/api/media/${medium.id}/file`, `/api/media/${medium.id}/frames/3?width=160`]) {
      const reply = await send('GET', url)
      expect([reply.status, reply.body['message']]).toEqual([
        404,
        'The footage Reel 3, é.mp4 is missing on the server; bring the same file in again.',
      ])
    }
    const { files } = await bring(production, footage.clip, 'another name.mp4')
    expect(files).toMatchObject([{ back: true }])
    expect(await shots()).toMatchObject([{ medium: { state: 'here', name: 'Reel 3, é.mp4' } }])
    expect((await rig.app.inject({ url: `/api/media/${medium.id}/frames/3?width=160` })).statusCode).toBe(200)
  })

  it('that was cut short or changed is found, by size at once and by hash at the start, and mended', async () => {
    const medium = (await Medium.findOne())!
    const whole = readFileSync(pathOf(medium))
    const { health } = rig.context.store
    expect(await health.prove(medium)).toBe('here')
    writeFileSync(pathOf(medium), whole.subarray(0, 100))
    expect((await shots())[0].medium.state).toBe('damaged')
    const changed = Buffer.from(whole)
    changed[whole.length >> 1]! ^= 1
    writeFileSync(pathOf(medium), changed)
    expect((await shots())[0].medium.state).toBe('here')
    expect(await health.proveAll([medium], new AbortController().signal)).toEqual([
      { name: 'Reel 3, é.mp4', state: 'damaged' },
    ])
    expect((await shots())[0].medium.state).toBe('damaged')
    // What was found is known after a restart as well, without reading it all again.
    rig = await rig.restart()
    expect(await rig.context.store.health.prove((await Medium.findOne())!)).toBe('damaged')
    await bring(production, footage.clip, 'x.mp4')
    expect(readFileSync(pathOf(medium)).equals(whole)).toBe(true)
    expect((await shots()).map((s: any) => s.medium.state)).toEqual(['here'])
  })

  it('comes back from the watched folder and from a backup', async () => {
    const medium = (await Medium.findOne())!
    const whole = readFileSync(pathOf(medium))
    const archive = (await rig.app.inject({ url: '/api/backup' })).rawPayload
    rmSync(pathOf(medium))
    mkdirSync(join(rig.folder, 'watched'), { recursive: true })
    writeFileSync(join(rig.folder, 'watched/found.mp4'), whole)
    await send('POST', `/api/productions/${production}/pick`, { paths: ['found.mp4'], asSequence: false })
    expect(await shots()).toHaveLength(1)
    expect(readFileSync(pathOf(medium)).equals(whole)).toBe(true)
    rmSync(pathOf(medium))
    const form = multipart([{ name: 'all.zip', bytes: archive }])
    const brought = (await rig.app.inject({ method: 'POST', url: '/api/imports', ...form })).json<any>()
    expect(brought.preview.media).toEqual({ here: 0, brought: 1, bytes: whole.length })
    expect((await send('POST', `/api/imports/${brought.key}/accept`)).status).toBe(200)
    expect(readFileSync(pathOf(medium)).equals(whole)).toBe(true)
    expect(await Production.count()).toBe(2)
  })
})
