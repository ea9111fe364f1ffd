import { existsSync, mkdirSync, readFileSync, utimesSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { Medium, Render, Shot } from '../src/db/models'
import { RULES } from '../src/storage/rules'
import type { StorageUse } from '@fogbath/contract'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

const HOUR = 3_600_000
let rig: Rig
let media: Medium[]
beforeAll(async () => {
  rig = await makeRig()
  const footage = makeFootage(rig.folder)
  const made = await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Storage' } })
  const files = [footage.clip, footage.png, footage.tiff].map((path, i) => ({
    name: `${i}`,
    bytes: readFileSync(path),
  }))
  await rig.app.inject({
    method: 'POST',
    url: `/api/productions/${made.json<{ id: number }>().id}/media`,
    ...multipart(files),
  })
  media = await Medium.findAll({ order: [['id', 'ASC']] })
})
afterAll(() => rig.close())

/** A file of a number of bytes, last changed so many hours ago, with the folder around it. */
function put(path: string, bytes: number, hours: number): string {
  const whole = join(rig.folder, path)
  mkdirSync(dirname(whole), { recursive: true })
  writeFileSync(whole, Buffer.alloc(bytes))
  const then = new Date(Date.now() - hours * HOUR)
  utimesSync(whole, then, then)
  utimesSync(dirname(whole), then, then)
  return whole
}
const render = (state: Render['state']) =>
  Render.create({
    label: 'one',
    format: 'mp4',
    state,
    first: 0,
    count: 1,
    done: 0,
    mediumId: media[0]!.id,
    encoding: 'bt1886',
    recipe: SHIPPED_RECIPES[0]!,
    shotId: null,
  })
const use = async () => (await rig.app.inject({ url: '/api/storage' })).json<StorageUse>()
const sweep = async (dryRun: boolean) =>
  (await rig.app.inject({ method: 'POST', url: '/api/sweep', payload: { dryRun } })).json<{ swept: object[] }>().swept

it('tells what lies where, and removes what the program made and can make again, and nothing else', async () => {
  const [kept, unused, young] = media as [Medium, Medium, Medium]
  await Shot.destroy({ where: { mediumId: [unused.id, young.id] } })
  const [done, failed, cancelled] = [await render('done'), await render('failed'), await render('cancelled')]
  const strange = 'ab'.padEnd(64, '0')
  const goes = [
    put('media/incoming-old/file', 1000, 3),
    ...[put(`cache/${strange}/160/0.rgb`, 300, 3), put(`cache/${kept.sha256}/160/1.rgb.part`, 4, 3)],
    ...[put('renders/99999/part-00000000.mp4', 40, 3), put('renders/99999/whole.mp4', 9, 3)],
    ...[put(`renders/${cancelled.id}/part-00000000.mp4`, 5, 3), put(`renders/${done.id}/part-00000000.mp4`, 6, 3)],
    ...[put('imports/left/backup.zip', 700, 30), put('backups/left/proofs/0.png', 80, 2)],
  ]
  for (const folder of [`cache/${strange}`, 'renders/99999', 'backups/left', 'media/incoming-old'])
    utimesSync(join(rig.folder, folder), new Date(0), new Date(0))
  const stays = [
    ...[put('media/incoming-now/file', 1, 0), put(`media/ab/${'ab'.padEnd(64, '1')}`, 1, 0)],
    ...[put(`cache/${kept.sha256}/160/0.rgb`, 1, 3), put(`renders/${done.id}/render.mp4`, 1, 3)],
    ...[put(`renders/${failed.id}/part-00000000.mp4`, 1, 3), put('imports/waiting/backup.zip', 1, 3)],
  ]
  const pathOf = (m: Medium): string => join(rig.folder, 'media', m.sha256.slice(0, 2), m.sha256)
  const told = [
    { kind: 'upload', count: 1, bytes: 1000 },
    { kind: 'cache', count: 2, bytes: 304 },
    { kind: 'render', count: 5, bytes: 40 + 9 + 5 + 6 + 49 },
    { kind: 'import', count: 1, bytes: 700 },
    { kind: 'backup', count: 1, bytes: 80 },
  ]
  const before = await use()
  expect(before.canGo).toEqual(told)
  expect([before.renders, before.cache]).toEqual([40 + 9 + 5 + 6 + 1 + 1, 305])
  expect(before.unused.map((m) => [m.id, m.name, m.state])).toEqual([
    [young.id, '2', 'here'],
    [unused.id, '1', 'here'],
  ])
  expect(await sweep(true)).toEqual(told)
  for (const path of [...goes, ...stays, ...media.map(pathOf)]) expect(existsSync(path), path).toBe(true)

  expect(await sweep(false)).toMatchObject(told.map(({ kind }) => ({ kind })))
  for (const path of goes) expect(existsSync(path), path).toBe(false)
  for (const path of [...stays, ...media.map(pathOf)]) expect(existsSync(path), path).toBe(true)
  expect((await Medium.findAll({ order: [['id', 'ASC']] })).map((m) => m.id)).toEqual(media.map((m) => m.id))
  expect(await sweep(false)).toEqual([])
})

it('each rule is written down for those who ask what goes', () => {
  const page = readFileSync(join(import.meta.dirname, '../../../docs/reliability.md'), 'utf8').replaceAll(/\s+/g, ' ')
  for (const { kind, words } of RULES) expect(page).toContain(`| ${kind} | ${words} |`)
  expect(RULES.map((rule) => rule.kind)).not.toContain('footage')
})

it('an upload goes by its last write, and not while it is under way', async () => {
  const slow = put('media/incoming-slow/file', 10, 0)
  utimesSync(dirname(slow), new Date(0), new Date(0))
  expect(await sweep(false)).toEqual([])
  expect(existsSync(slow)).toBe(true)
  // A stream that stands still for hours, as a clock that is set forward makes every one.
  const { store, storage } = rig.context
  const { PassThrough } = await import('node:stream')
  const standing = new PassThrough()
  const taken = store.take(standing, 'slow.png').catch((error: Error) => error.message)
  standing.write(readFileSync(join(rig.folder, 'still.png')).subarray(0, 100))
  const { readdirSync } = await import('node:fs')
  const open = (): string[] => readdirSync(join(rig.folder, 'media')).filter((n) => n.startsWith('incoming-'))
  await expect.poll(() => open().length).toBe(3)
  for (const name of open())
    for (const path of [join(rig.folder, 'media', name, 'file'), join(rig.folder, 'media', name)])
      utimesSync(path, new Date(0), new Date(0))
  await storage.sweep(false)
  expect(open()).toHaveLength(1)
  standing.end(readFileSync(join(rig.folder, 'still.png')).subarray(100))
  expect(await taken).toMatchObject({ medium: { name: '1' } })
})
