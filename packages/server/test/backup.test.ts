import { mkdirSync, readFileSync, readdirSync } from 'node:fs'
import { buffer } from 'node:stream/consumers'
import { basename, join } from 'node:path'
import { newBath, changeSettings } from '@fogbath/core/line'
import { newPart, withPart } from '@fogbath/core/masks'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import yazl from 'yazl'
import { Edit, Favourite, KeptRecipe, Medium, Production, Proof, Shot, Trial } from '../src/db/models'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

let rig: Rig
/** With footage, and without it. */
let whole: Buffer
let bare: Buffer
let footage: ReturnType<typeof makeFootage>

const send = async (method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: (reply.body ? reply.json() : null) as Record<string, any> }
}
const upload = async (url: string, ...files: { name: string; bytes: Buffer }[]) => {
  const reply = await rig.app.inject({ method: 'POST', url, ...multipart(files) })
  return { status: reply.statusCode, body: reply.json<Record<string, any>>() }
}
const bring = (bytes: Buffer, name = 'all.zip') => upload('/api/imports', { name, bytes })
const accept = (key: string, how = '') => send('POST', `/api/imports/${key}/accept${how}`)

/** All that a production holds, without the numbers of its rows. */
async function seen(name: string): Promise<object> {
  const production = await Production.findOne({ where: { name }, order: [['id', 'DESC']] })
  const shots = await Shot.findAll({ where: { productionId: production!.id }, order: [['position', 'ASC']] })
  const all = shots.map(async (shot) => {
    const of = { where: { shotId: shot.id }, order: [['id', 'ASC']] as [string, string][] }
    const trials = await Trial.findAll(of)
    const placeOf = (id: number): number => trials.findIndex((t) => t.id === id)
    const proofs = await Proof.findAll(of)
    const { name: own, first, last, still, encoding, preparation, marks } = shot
    return {
      own,
      first,
      last,
      still,
      encoding,
      preparation,
      marks,
      chosen: placeOf(shot.trialId!),
      medium: (await Medium.findByPk(shot.mediumId))!.sha256,
      trials: trials.map((t) => [t.name, t.recipe, t.after]),
      edits: (await Edit.findAll(of)).map(({ stack, key, step }) => [
        ...[stack, key],
        step.kind === 'parts' && step.trialId !== null ? [placeOf(step.trialId), step.recipe, step.after] : step,
      ]),
      proofs: proofs.map((p) => [
        ...[p.name, p.frame, p.width, p.height],
        ...[p.recipe, p.preparation, p.after, p.picture.toString('base64')],
      ]),
    }
  })
  return { name: production!.name, notes: production!.notes, shots: await Promise.all(all) }
}
let before: object
let clipBytes: Buffer

beforeAll(async () => {
  rig = await makeRig()
  footage = makeFootage(rig.folder)
  const { body: made } = await send('POST', '/api/productions', {
    name: 'The sluice',
    notes: 'Notes – with “signs” & ø.',
  })
  const files = [footage.clip, footage.png].map((path) => ({ name: basename(path), bytes: readFileSync(path) }))
  await upload(`/api/productions/${made['id']}/media`, ...files)
  mkdirSync(join(rig.folder, 'watched'), { recursive: true })
  const { body } = await send('GET', `/api/productions/${made['id']}`)
  const [clip] = body['shots']
  const preparation = [newBath('balance', 'shot', { exposure: 0.5 })]
  const after = [newBath('timing', 'timed', { saturation: 80 })]
  const line = changeSettings(SHIPPED_RECIPES[1]!, 'bath-1', { bleachPrint: 12 })
  const masked = { ...line, baths: line.baths.map((b) => ({ ...b, mask: withPart(null, newPart('ellipse')) })) }
  const { body: second } = await send('POST', `/api/shots/${clip.id}/trials`, { name: 'B', recipe: masked, after })
  await send('PATCH', `/api/shots/${clip.id}`, {
    revision: clip.revision,
    first: 3,
    last: 20,
    still: 7,
    trialId: second['id'],
    preparation,
    marks: {
      probes: [{ u: 0.25, v: 0.5, reach: 0.02 }],
      grey: 0.2,
      notes: [{ key: 'noted1', frame: 3, text: 'Mind the lamp', author: 'A', time: '2026-01-02T03:04:05.678Z' }],
    },
  })
  const picture = readFileSync(footage.png).toString('base64')
  const proof = { name: 'Chosen', frame: 7, recipe: masked, preparation: [], after, picture }
  expect((await send('POST', `/api/shots/${clip.id}/proofs`, proof)).status).toBe(201)
  const none = { remove: [], add: [] }
  const step = { kind: 'parts', trialId: second['id'], recipe: SHIPPED_RECIPES[0], after }
  const past = {
    remove: [],
    add: [
      { key: 'aaaaaaaa', step },
      { key: 'bbbbbbbb', step: { kind: 'parts', trialId: null, preparation } },
    ],
  }
  expect((await send('PATCH', `/api/shots/${clip.id}/history`, { past, future: none })).status).toBe(204)
  before = await seen('The sluice')
  clipBytes = readFileSync(footage.clip)
  whole = (await rig.app.inject({ url: '/api/backup' })).rawPayload
  bare = (await rig.app.inject({ url: `/api/productions/${made['id']}/along?media=0` })).rawPayload
  await rig.close()
  // Another machine, which has a production and a part of the footage already.
  rig = await makeRig()
  const { body: own } = await send('POST', '/api/productions', { name: 'Of this machine' })
  await upload(`/api/productions/${own['id']}/media`, files[1]!)
})
afterAll(() => rig.close())

const counts = async () => [
  ...(await Promise.all([
    Production.count(),
    Shot.count(),
    Trial.count(),
    Medium.count(),
    Proof.count(),
    Edit.count(),
  ])),
  readdirSync(join(rig.folder, 'imports')).length,
]

describe('a backup', () => {
  it('that lacks footage which is not here is told by name before, and changes nothing', async () => {
    const { status, body } = await bring(bare, 'along.zip')
    expect([status, body['preview'].missing]).toEqual([201, ['clip.mp4']])
    const state = await counts()
    const refused = await accept(body['key'])
    expect([refused.status, refused.body['message']]).toEqual([400, expect.stringContaining('clip.mp4')])
    expect(await counts()).toEqual(state)
    expect((await send('DELETE', `/api/imports/${body['key']}`)).status).toBe(204)
    expect((await accept(body['key'])).status).toBe(404)
  })

  it('that is damaged anywhere, cut short, strange or of a later version is refused in words, and nothing is changed', async () => {
    const state = await counts()
    const places = Array.from({ length: 40 }, (_, i) => Math.floor(((i + 0.5) * whole.length) / 40))
    const flipped = places.map((at) => {
      const bytes = Buffer.from(whole)
      bytes[at]! ^= 0x55
      return bytes
    })
    const cut = [0.1, 0.5, 0.99].map((share) => whole.subarray(0, Math.floor(share * whole.length)))
    const zipOf = (entries: Record<string, string>): Promise<Buffer> => {
      const zip = new yazl.ZipFile()
      for (const [name, text] of Object.entries(entries)) zip.addBuffer(Buffer.from(text), name)
      zip.end()
      return buffer(zip.outputStream)
    }
    const later = JSON.stringify({ format: 'fogbath-backup', version: 99, news: true })
    // Its index says that a few bytes unpack to a gigabyte.
    const bomb = await zipOf({ 'contents.json': '{}', 'manifest.json': '{}' })
    bomb.writeUInt32LE(1e9, bomb.indexOf('PK\x01\x02') + 24)
    const strange = [
      bomb,
      Buffer.alloc(0),
      Buffer.from('no archive'),
      await zipOf({ 'notes.txt': 'hello' }),
      await zipOf({ 'contents.json': '{}', 'manifest.json': '{}' }),
      await zipOf({ 'contents.json': '{', 'manifest.json': later }),
    ]
    const { key, preview } = (await bring(whole)).body
    await send('DELETE', `/api/imports/${key}`)
    const said: string[] = []
    let harmless = 0
    for (const bytes of [...flipped, ...cut, ...strange]) {
      const { status, body } = await bring(bytes)
      if (status !== 201) said.push(`${status} ${body['message']}`)
      else {
        // Some bytes of an archive mean nothing, such as times: then all that it holds has been proved whole.
        expect(body['preview']).toEqual(preview)
        await send('DELETE', `/api/imports/${body['key']}`)
        harmless++
      }
    }
    expect(harmless).toBeLessThan(5)
    const sentence = /^422 all\.zip (is damaged or no backup: .+\. Nothing was changed\.|was made by a later version)/
    expect(said.filter((s) => !sentence.test(s))).toEqual([])
    expect(said.at(-1)).toMatch(/backup version 99; this one reads up to 1/)
    expect(await counts()).toEqual(state)
  })

  it('comes back whole beside what is there, and again beside itself', async () => {
    const own = await seen('Of this machine')
    const { status, body } = await bring(whole)
    expect([status, body['message']]).toEqual([201, null])
    expect(body['preview']).toEqual({
      productions: [{ name: 'The sluice', shots: 2, proofs: 1, there: false }],
      media: { here: 1, brought: 1, bytes: clipBytes.length },
      missing: [],
      left: [],
      shelf: [],
      masks: [],
      taken: null,
    })
    const taken = await accept(body['key'])
    expect([taken.status, taken.body['productions'].length]).toEqual([200, 1])
    expect(await seen('The sluice')).toEqual(before)
    expect(await seen('Of this machine')).toEqual(own)
    // Its footage can be looked at.
    const [shot] = (await send('GET', `/api/productions/${taken.body['productions'][0]}`)).body['shots']
    expect((await rig.app.inject({ url: `/api/media/${shot.mediumId}/frames/7?width=160` })).statusCode).toBe(200)
    const again = await bring(bare)
    expect(again.body['preview'].productions[0].there).toBe(true)
    expect((await accept(again.body['key'])).status).toBe(200)
    expect(await seen('The sluice')).toEqual(before)
    expect([await Production.count(), await Medium.count()]).toEqual([3, 2])
    expect(readdirSync(join(rig.folder, 'imports'))).toEqual([])
  })

  it('brings the shelf along, and leaves a recipe alone that is here already', async () => {
    const { body: kept } = await send('POST', '/api/shelf', { name: 'Sluice gate', recipe: SHIPPED_RECIPES[0] })
    const harder = changeSettings(SHIPPED_RECIPES[0]!, 'bath-1', { bleachPrint: 12 })
    await send('POST', `/api/shelf/${kept['id']}/versions`, { revision: 1, recipe: harder })
    const marks = [kept['key'] as string, 'sepia']
    for (const key of marks) await send('PUT', `/api/favourites/${key}`)
    const all = (await rig.app.inject({ url: '/api/backup' })).rawPayload
    const favourites = async () => (await send('GET', '/api/favourites')).body
    const shelf = async () => (await send('GET', '/api/shelf')).body as unknown as Record<string, any>[]
    const there = await shelf()
    const again = async () => {
      const { body } = await bring(all, 'shelf.zip')
      expect((await accept(body['key'], '?again=1')).status).toBe(200)
    }
    await again()
    expect([await shelf(), await favourites()]).toEqual([there, marks])
    await Favourite.destroy({ where: {} })
    await KeptRecipe.destroy({ where: {} })
    await again()
    const [row] = await shelf()
    expect([row!['name'], row!['key'], row!['latest'], row!['recipe']]).toEqual([
      ...['Sluice gate', kept['key'], 2],
      there[0]!['recipe'],
    ])
    expect(row!['versions'].map((v: { changes: string[] }) => v.changes)).toEqual([
      ['Colour print: bleach, print 100 → 12 %'],
      [],
    ])
    expect(await favourites()).toEqual(marks)
  })

  it('of what is not there is refused', async () => {
    expect((await send('GET', '/api/productions/9999/along')).status).toBe(404)
    expect((await send('GET', '/api/backup?media=yes')).status).toBe(400)
  })
})
