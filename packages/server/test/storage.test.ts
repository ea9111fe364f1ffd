import { existsSync, mkdirSync, readFileSync, utimesSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { NO_TRIMS, SHIPPED_RECIPES } from '@fogbath/core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { Medium, Render, Shot } from '../src/db/models'
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
    ...{ label: 'one', format: 'mp4', state, first: 0, count: 1, done: 0, mediumId: media[0]!.id },
    ...{ encoding: 'bt1886', recipe: SHIPPED_RECIPES[0]!, trims: NO_TRIMS, shotId: null },
  })
const sweep = async (dryRun: boolean) =>
  (await rig.app.inject({ method: 'POST', url: '/api/sweep', payload: { dryRun } })).json<{ swept: object[] }>().swept

it('tells what lies where, and removes what nobody needs, and nothing else', async () => {
  const [kept, unused, young] = media as [Medium, Medium, Medium]
  // Two lost their shots, one of them long ago.
  await Shot.destroy({ where: { mediumId: [unused.id, young.id] } })
  await unused.sequelize!.query('UPDATE medium SET updated_at = NOW() - INTERVAL 2 DAY WHERE id = ?', {
    replacements: [unused.id],
  })
  const [done, failed, cancelled] = [await render('done'), await render('failed'), await render('cancelled')]
  const [strange, fresh] = ['ab'.padEnd(64, '0'), 'ab'.padEnd(64, '1')]
  const goes = [
    ...[put('media/incoming-old/file', 1000, 3), put(`media/ab/${strange}`, 2000, 3)],
    ...[
      put(`cache/${strange}/160/0.rgb`, 300, 3),
      put(`cache/${kept.sha256}/160/1.rgb.part`, 4, 3),
      put('renders/99999/render.mp4', 40, 3),
    ],
    ...[put(`renders/${cancelled.id}/part-00000000.mp4`, 5, 3), put(`renders/${done.id}/part-00000000.mp4`, 6, 3)],
    put('imports/left/backup.zip', 700, 30),
  ]
  utimesSync(join(rig.folder, 'cache', strange), new Date(0), new Date(0))
  const stays = [
    ...[put('media/incoming-now/file', 1, 0), put(`media/ab/${fresh}`, 1, 0)],
    ...[put(`cache/${kept.sha256}/160/0.rgb`, 1, 3), put(`renders/${done.id}/render.mp4`, 1, 3)],
    ...[put(`renders/${failed.id}/part-00000000.mp4`, 1, 3), put('imports/waiting/backup.zip', 1, 3)],
  ]
  const pathOf = (m: Medium): string => join(rig.folder, 'media', m.sha256.slice(0, 2), m.sha256)
  const told = [
    { kind: 'upload', count: 1, bytes: 1000 },
    { kind: 'footage', count: 2, bytes: 2000 + Number(unused.size) },
    { kind: 'cache', count: 2, bytes: 304 },
    { kind: 'render', count: 3, bytes: 51 },
    { kind: 'import', count: 1, bytes: 700 },
  ]
  const use = (await rig.app.inject({ url: '/api/storage' })).json<Record<string, unknown>>()
  expect(use).toHaveProperty('canGo', told)
  expect(use['renders']).toBe(40 + 5 + 6 + 1 + 1)
  expect(use['cache']).toBe(305)
  expect(await sweep(true)).toEqual(told)
  for (const path of [...goes, ...stays, ...media.map(pathOf)]) expect(existsSync(path), path).toBe(true)

  expect(await sweep(false)).toEqual(told)
  for (const path of [...goes, pathOf(unused)]) expect(existsSync(path), path).toBe(false)
  for (const path of [...stays, pathOf(kept), pathOf(young)]) expect(existsSync(path), path).toBe(true)
  expect((await Medium.findAll({ order: [['id', 'ASC']] })).map((m) => m.id)).toEqual([kept.id, young.id])
  expect(await sweep(false)).toEqual([])
})

it('keeps footage without a row while the database knows of none at all, until somebody asks for it to go', async () => {
  for (const table of ['shot', 'render', 'medium']) await rig.context.db.query(`DELETE FROM ${table}`)
  const path = put(`media/cd/${'cd'.padEnd(64, '2')}`, 10, 3)
  await rig.context.storage.sweep(false, true)
  expect(existsSync(path)).toBe(true)
  await sweep(false)
  expect(existsSync(path)).toBe(false)
})
