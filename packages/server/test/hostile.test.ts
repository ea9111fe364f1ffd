import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { changeSettings } from '@fogbath/core/line'
import { newPart, withPart } from '@fogbath/core/masks'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Imports } from '../src/backup/imports'
import { KeptMask, KeptRecipe, Medium, Production, RecipeVersion, Shot } from '../src/db/models'
import { INFO, backupOf, contentsWith, sha256Of, zipOf } from './archives'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

/** Backups that somebody brings, whoever made them. */

let rig: Rig
let footage: ReturnType<typeof makeFootage>
/** Footage that is here. */
let here: string
beforeAll(async () => {
  rig = await makeRig()
  footage = makeFootage(rig.folder)
  const { id } = (await send('POST', '/api/productions', { name: 'Here' })).body
  const form = multipart([{ name: 'clip.mp4', bytes: readFileSync(footage.clip) }])
  await rig.app.inject({ method: 'POST', url: `/api/productions/${id}/media`, ...form })
  here = (await Medium.findOne())!.sha256
})
afterAll(() => rig.close())

const send = async (method: 'GET' | 'POST' | 'DELETE' | 'PUT', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: (reply.body ? reply.json() : null) as Record<string, any> }
}
const bring = async (bytes: Buffer, name = 'crafted.zip') => {
  const reply = await rig.app.inject({ method: 'POST', url: '/api/imports', ...multipart([{ name, bytes }]) })
  return { status: reply.statusCode, body: reply.json<Record<string, any>>() }
}
const accept = (key: string, how = '') => send('POST', `/api/imports/${key}/accept${how}`)
const take = async (bytes: Buffer) => {
  const { status, body } = await bring(bytes)
  expect([status, body['message']]).toEqual([201, null])
  return accept(body['key'])
}
const nothingLeft = () => expect(readdirSync(join(rig.folder, 'imports'))).toEqual([])

describe('an archive that would take too much', () => {
  it('is refused by its directory, before anything is unpacked', async () => {
    const blown = `{"format":"fogbath-backup","entries":[${' '.repeat(30e6)}]}`
    const refused = await bring(await zipOf({ 'contents.json': '{}', 'manifest.json': blown }))
    expect([refused.status, refused.body['message']]).toEqual([
      422,
      'crafted.zip is damaged or no backup: manifest.json would unpack to more than 200 times its size. Nothing was changed.',
    ])
    // Each entry has a limit of its own, and all together the room on the disk; the directory may say anything.
    const large = async (name: string, size: number): Promise<Buffer> => {
      const bytes = await zipOf({ [name]: 'x', 'contents.json': '{}', 'manifest.json': '{}' })
      bytes.writeUInt32LE(size, bytes.indexOf(Buffer.from('PK\x01\x02', 'latin1')) + 24)
      return bytes
    }
    expect((await bring(await large('proofs/0.png', 25e6))).body['message']).toMatch(
      /proofs\/0\.png would unpack to more than is taken in \(24 MB\)/,
    )
    nothingLeft()
  })
  it('is refused where its text goes too deep or holds too much', async () => {
    const deep = (levels: number): string => `${'['.repeat(levels)}${']'.repeat(levels)}`
    for (const levels of [25, 5000, 200_000])
      expect((await bring(await backupOf(deep(levels)))).body['message']).toMatch(
        /contents\.json is nested more than 24 levels deep\. Nothing was changed/,
      )
    nothingLeft()
  })
  it('says what is missing before it unpacks anything', async () => {
    const contents = contentsWith('a'.repeat(64), { medium: { files: 1, size: 3 } })
    const { body } = await bring(await backupOf(contents, { [`media/${'b'.repeat(64)}`]: Buffer.alloc(5e6) }))
    expect(body['message']).toMatch(/media\/a{64} is missing/)
    nothingLeft()
  })
})

describe('contents that requests would be refused for', () => {
  const recipe = SHIPPED_RECIPES[0]!
  const png = (): Buffer => readFileSync(footage.png)
  const proof = (change: object) => ({
    name: 'P',
    frame: 0,
    width: 160,
    height: 96,
    encoding: 'bt1886',
    recipe,
    preparation: [],
    after: [],
    picture: 'proofs/0.png',
    ...change,
  })
  const step = { stack: 'past', kept: { key: 'aaaaaaaa', step: { kind: 'parts', trialId: null, preparation: [] } } }
  const kept = { key: 'weirstone1', name: 'Weir', sentence: '', tags: [], archived: false }
  const shelf = { ...kept, versions: [{ recipe, changes: [] }] }
  const mask = { key: 'maskstone1', name: 'Mask', mask: withPart(null, newPart('ellipse')), archived: false }
  it.each<[string, Parameters<typeof contentsWith>[1], RegExp]>([
    ['a shot without a trial', { shot: { trials: [], chosen: null } }, /trials.*fewer than 1/],
    ['a shot that runs backwards', { shot: { first: 9, last: 3 } }, /from frame 9 to 3; it must lie within 0 to 47/],
    ['a shot longer than its clip', { shot: { last: 48 } }, /from frame 0 to 48/],
    ['a telling frame beyond it', { shot: { still: 50 } }, /The still is frame 50/],
    ['a number that no column holds', { shot: { last: 1e15 } }, /last is 1000000000000000; it must be <= 2147483647/],
    ['a proof wider than any', { shot: { proofs: [proof({ width: 1e12 })] } }, /width is 1000000000000/],
    ['a proof that is not as wide as it says', { shot: { proofs: [proof({ width: 80 })] } }, /160x96 and not 80x96/],
    ['a step of undo twice', { shot: { edits: [step, step] } }, /step of undo of One aaaaaaaa twice/],
    ['a recipe of the shelf twice', { more: { shelf: [shelf, shelf] } }, /recipe of the shelf weirstone1 twice/],
    ['a mask twice', { more: { masks: [mask, mask] } }, /mask maskstone1 twice/],
    ['footage that says nothing of itself', { medium: { info: {} } }, /info lacks 'kind'/],
    ['a name with a zero character', { shot: { name: 'a\0b' } }, /holds a zero character/],
    ['a name of half a character', { shot: { name: 'a\ud800b' } }, /half a character/],
    [
      'a trial that another has',
      { shot: { trials: [1, 1].map((ref) => ({ ref, name: 'A', recipe })) } },
      /trial 1 twice/,
    ],
  ])('%s', async (_, change, words) => {
    const before = await Promise.all([Production.count(), Shot.count(), KeptRecipe.count()])
    const { status, body } = await bring(await backupOf(contentsWith(here, change), { 'proofs/0.png': png() }))
    expect([status, body['message']]).toEqual([422, expect.stringMatching(words)])
    expect(await Promise.all([Production.count(), Shot.count(), KeptRecipe.count()])).toEqual(before)
    nothingLeft()
  })
  it('footage that is shorter than it says is told before anything is taken in', async () => {
    const bytes = readFileSync(footage.ffv1)
    const sha256 = sha256Of(bytes)
    const medium = { files: 1, size: bytes.length, info: { ...INFO, frames: 48 } }
    const archive = await backupOf(contentsWith(sha256, { medium }), { [`media/${sha256}`]: bytes })
    expect((await bring(archive)).body['message']).toMatch(/from frame 0 to 47; it must lie within 0 to 11/)
    expect(await Medium.count({ where: { sha256 } })).toBe(0)
  })
})

describe('the shelf of a backup', () => {
  const versions = (...by: number[]) =>
    by.map((bleachPrint) => ({
      recipe: changeSettings(SHIPPED_RECIPES[1]!, SHIPPED_RECIPES[1]!.baths[0]!.id, { bleachPrint }),
      changes: [],
    }))
  const own = { key: 'sluicegate', name: 'Sluice gate', sentence: '', tags: [], archived: false }
  const archive = (...by: number[]) =>
    backupOf({ productions: [], media: [], shelf: [{ ...own, versions: versions(...by) }] })
  const onShelf = async () => {
    const rows = await KeptRecipe.findAll({ order: [['id', 'ASC']] })
    const all = rows.map(async ({ id, key, name, latest }) => {
      const lines = await RecipeVersion.findAll({ where: { keptRecipeId: id }, order: [['number', 'ASC']] })
      return [key === own.key, name, latest, lines.map((v) => v.recipe.baths[0]!.settings['bleachPrint'])]
    })
    return Promise.all(all)
  }
  const stateOf = async (bytes: Buffer) => {
    const { body } = await bring(bytes)
    await send('DELETE', `/api/imports/${body['key']}`)
    return body['preview'].shelf
  }
  it('is told before; missing versions are added, and what went another way comes beside, once', async () => {
    expect(await stateOf(await archive(10))).toEqual([{ name: 'Sluice gate', state: 'new' }])
    await take(await archive(10))
    expect(await stateOf(await archive(10, 20))).toEqual([{ name: 'Sluice gate', state: 'newer' }])
    await take(await archive(10, 20))
    expect(await onShelf()).toEqual([[true, 'Sluice gate', 2, [10, 20]]])
    expect(await stateOf(await archive(10))).toEqual([{ name: 'Sluice gate', state: 'older' }])
    await take(await backupOf({ productions: [], media: [], shelf: [{ ...own, notes: 'x', versions: versions(10) }] }))
    expect(await stateOf(await archive(10, 35))).toEqual([{ name: 'Sluice gate', state: 'conflict' }])
    await take(await archive(10, 35))
    const beside = [
      [true, 'Sluice gate', 2, [10, 20]],
      [false, 'Sluice gate (from a backup)', 2, [10, 35]],
    ]
    expect(await onShelf()).toEqual(beside)
    await take(
      await backupOf({ productions: [], media: [], shelf: [{ ...own, notes: 'y', versions: versions(10, 35) }] }),
    )
    expect(await onShelf()).toEqual(beside)
  })
  it('another mask under a key that is here comes beside as well', async () => {
    const mask = (type: 'ellipse' | 'rectangle') => ({
      key: 'maskofgate',
      name: 'Gate',
      mask: withPart(null, newPart(type)),
      archived: false,
    })
    for (const type of ['ellipse', 'rectangle', 'rectangle'] as const)
      await take(
        await backupOf(
          { productions: [], media: [], masks: [mask(type)], favourites: [] },
          {},
          { id: undefined, madeAt: `${Math.random()}` },
        ),
      )
    expect((await KeptMask.findAll({ order: [['id', 'ASC']] })).map((m) => m.name)).toEqual([
      'Gate',
      'Gate (from a backup)',
    ])
  })
})

describe('a restore', () => {
  it('is a job that anybody can look at, and is never done twice unasked', async () => {
    const archive = await backupOf(contentsWith(here))
    const first = await bring(archive)
    const key = first.body['key'] as string
    expect(first.body).toMatchObject({ name: 'crafted.zip', state: 'waiting', preview: { taken: null } })
    expect(((await send('GET', '/api/imports')).body as unknown as object[]).at(-1)).toEqual(first.body)
    // Asked for by several at once, it is done once.
    const before = await Production.count()
    const all = await Promise.all(Array.from({ length: 5 }, () => accept(key)))
    expect(all.map((r) => [r.status, r.body['state']])).toEqual(Array(5).fill([200, 'taken']))
    expect(await Production.count()).toBe(before + 1)
    expect((await send('GET', `/api/imports/${key}`)).body['productions']).toEqual(all[0]!.body['productions'])
    const again = await bring(archive)
    expect(Date.parse(again.body['preview'].taken)).toBeLessThanOrEqual(Date.now())
    expect((await accept(again.body['key'])).body['productions']).toEqual(all[0]!.body['productions'])
    expect(await Production.count()).toBe(before + 1)
    const third = await bring(archive)
    expect((await accept(third.body['key'], '?again=1')).body['productions']).not.toEqual(all[0]!.body['productions'])
    expect(await Production.count()).toBe(before + 2)
  })
  it('goes on after a restart: what was proved waits, what came whole is proved', async () => {
    const { body } = await bring(await backupOf(contentsWith(here), {}, { madeAt: 'another' }))
    const folder = join(rig.folder, 'imports')
    // A second one, of which only the file is there.
    const half = '00000000-0000-4000-8000-000000000000'
    const { mkdirSync } = await import('node:fs')
    mkdirSync(join(folder, half))
    writeFileSync(join(folder, half, 'backup.zip'), await backupOf(contentsWith(here), {}, { madeAt: 'third' }))
    rig = await rig.restart()
    await rig.context.imports.resume()
    for (const key of [body['key'], half])
      await expect
        .poll(async () => (await send('GET', `/api/imports/${key}`)).body['state'], { timeout: 60_000 })
        .toBe('waiting')
    expect((await accept(half)).body['state']).toBe('taken')
    expect(existsSync(join(folder, half))).toBe(false)
    await send('DELETE', `/api/imports/${body['key']}`)
    nothingLeft()
  })
  it('that takes its time is answered while it is proved, and is looked at again', async () => {
    const hasty = new Imports(join(rig.folder, 'hasty'), rig.context.db, rig.context.store, 0)
    const archive = await backupOf(contentsWith(here), {}, { madeAt: 'slow' })
    const { key } = await hasty.receive(Readable.from([archive]), 'slow.zip')
    expect(await hasty.settled(key)).toMatchObject({ state: 'proving', preview: null })
    await expect.poll(() => hasty.get(key).state, { timeout: 60_000 }).toBe('waiting')
    await hasty.drop(key)
    await hasty.close()
  })
  it('of footage that is nowhere is done on request, and its shots wait for it', async () => {
    const bytes = readFileSync(footage.png)
    const sha256 = sha256Of(bytes)
    const still = { ...INFO, kind: 'still', frames: 1, fps: '0/1' }
    const shot = { last: 0, still: 0 }
    const contents = contentsWith(sha256, { shot, medium: { name: 'gate.png', size: bytes.length, info: still } })
    const { body } = await bring(await backupOf(contents))
    expect(body['preview'].missing).toEqual(['gate.png'])
    expect((await accept(body['key'])).status).toBe(400)
    expect(await Medium.count({ where: { sha256 } })).toBe(0)
    const done = await accept(body['key'], '?missing=1')
    expect(done.status).toBe(200)
    const [id] = done.body['productions'] as number[]
    const states = async () =>
      (await send('GET', `/api/productions/${id}`)).body['shots'].map((s: any) => s.medium.state)
    expect(await states()).toEqual(['missing'])
    const form = multipart([{ name: 'gate.png', bytes }])
    await rig.app.inject({ method: 'POST', url: `/api/productions/${id}/media`, ...form })
    expect(await states()).toEqual(['here'])
  })
})

describe('a backup that is written', () => {
  const archiveOf = async (url = '/api/backup') => rig.app.inject({ url })
  it('goes on without footage that is missing or damaged, and names it', async () => {
    const medium = (await Medium.findOne({ where: { sha256: here } }))!
    const path = rig.context.store.pathOf(here)
    const whole = readFileSync(path)
    const changed = Buffer.from(whole)
    changed[200]! ^= 1
    for (const bytes of [null, changed]) {
      const { rmSync } = await import('node:fs')
      if (bytes) writeFileSync(path, bytes)
      else rmSync(path)
      const reply = await archiveOf()
      expect(reply.statusCode).toBe(200)
      if (!bytes)
        expect(JSON.parse(decodeURIComponent(String(reply.headers['x-missing-footage'])))).toEqual([medium.name])
      const brought = await bring(reply.rawPayload, 'all.zip')
      expect(brought.status).toBe(201)
      expect(brought.body['preview']).toMatchObject({ left: ['clip.mp4'], missing: ['clip.mp4'] })
      await send('DELETE', `/api/imports/${brought.body['key']}`)
      writeFileSync(path, whole)
    }
    expect((await archiveOf()).headers['x-missing-footage']).toBeUndefined()
  })
  it('leaves nothing behind, neither files nor connections, when it was fetched', async () => {
    for (let i = 0; i < 4; i++) await archiveOf()
    await expect.poll(() => readdirSync(join(rig.folder, 'backups'))).toEqual([])
    expect((await send('GET', '/api/storage')).body['backups']).toEqual({ reading: 0, waiting: 0 })
  })
})
