import { createHash } from 'node:crypto'
import { readFileSync, writeFileSync } from 'node:fs'
import { buffer } from 'node:stream/consumers'
import { join } from 'node:path'
import { changeSettings, preparationOfTrims, type Recipe } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { QueryTypes } from 'sequelize'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import yazl from 'yazl'
import type { ContentsShot } from '../src/backup/contents'
import { proveBackup } from '../src/backup/prove'
import { addShelf } from '../src/backup/shelf'
import { readProduction, readRest } from '../src/backup/unpacked'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

/** What an earlier version kept: a recipe from before there were grain, halation and the others among its settings. */
const EARLIER = readFileSync(join(import.meta.dirname, 'earlier/recipe-before-texture.json'), 'utf8')
const shipped = SHIPPED_RECIPES.find((r) => r.id === 'bleach-bypass-half')!
/** The same recipe with the settings of today: what has come since changes nothing. The shipped one is timed in part now. */
const today = changeSettings(shipped, shipped.baths[0]!.id, { silverTimed: 100 })

const TRIMS = { exposure: 0.5, temperature: 12, tint: 0, lightRed: 0, lightGreen: 0, lightBlue: -2 }

let rig: Rig
beforeAll(async () => {
  rig = await makeRig()
})
afterAll(() => rig.close())
const send = async (method: 'GET' | 'POST' | 'PATCH', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: (reply.body ? reply.json() : null) as Record<string, any> }
}

describe('what an earlier version kept', () => {
  it('lacks settings that there are now, so that it tries something', () => {
    const [bath] = (JSON.parse(EARLIER) as Recipe).baths
    expect(Object.keys(bath!.settings).length).toBeLessThan(Object.keys(today.baths[0]!.settings).length - 5)
  })

  it('is a whole recipe when it comes from the database, in trials and in undo, and can be written again', async () => {
    const { clip } = makeFootage(rig.folder)
    const { body: made } = await send('POST', '/api/productions', { name: 'Kept' })
    const url = `/api/productions/${made['id']}/media`
    await rig.app.inject({ method: 'POST', url, ...multipart([{ name: 'clip.mp4', bytes: readFileSync(clip) }]) })
    const { body } = await send('GET', `/api/productions/${made['id']}`)
    const [shot] = body['shots']
    const [trial] = shot.trials
    const step = JSON.stringify({ kind: 'recipe', trialId: trial.id, recipe: JSON.parse(EARLIER) as unknown })
    const { db } = rig.context
    const write = (sql: string, replacements: unknown[]) => db.query(sql, { type: QueryTypes.UPDATE, replacements })
    await write('UPDATE trial SET recipe = ? WHERE id = ?', [EARLIER, trial.id])
    await write(
      "INSERT INTO edit (shot_id, stack, `key`, position, step, created_at, updated_at) VALUES (?, 'past', 'kept12345678', 1, ?, NOW(), NOW())",
      [shot.id, step],
    )
    const now = (await send('GET', `/api/shots/${shot.id}`)).body['trials'][0]
    expect(now.recipe).toEqual(today)
    expect((await send('GET', `/api/shots/${shot.id}/history`)).body['past'][0].step.recipe).toEqual(today)
    const change = { revision: now.revision, recipe: now.recipe }
    expect((await send('PATCH', `/api/trials/${now.id}`, change)).status).toBe(200)
  })

  it('is a whole recipe when it comes from a backup', async () => {
    const recipe = JSON.parse(EARLIER) as Recipe
    const sha256 = 'a'.repeat(64)
    const kept = { key: 'kept12345678', step: { kind: 'recipe', trialId: 1, recipe } }
    const shot = {
      name: 'One',
      medium: sha256,
      first: 0,
      last: 3,
      still: 1,
      encoding: 'bt1886',
      trims: TRIMS,
      marks: null,
      chosen: 1,
      trials: [{ ref: 1, name: 'A', recipe }],
      edits: [{ stack: 'past', kept }],
      proofs: [],
    }
    const info = {
      kind: 'clip',
      width: 160,
      height: 96,
      frames: 4,
      fps: '24/1',
      codec: 'h264',
      pixelFormat: 'yuv420p',
      bits: 8,
      float: false,
      matrix: '709',
      range: 'limited',
      encoding: 'bt1886',
      warnings: [],
    }
    const medium = { sha256, name: 'clip.mp4', size: 10, sequence: '', files: 0, info }
    const own = { key: 'weirstone1', name: 'Weir', sentence: '', tags: [], favourite: true, archived: false }
    const shelf = [{ ...own, versions: [{ recipe, changes: [] }] }]
    const all = { productions: [{ name: 'Kept', notes: '', shots: [shot] }], media: [medium], shelf }
    const contents = JSON.stringify(all)
    const hash = createHash('sha256').update(contents).digest('hex')
    const entries = [{ path: 'contents.json', sha256: hash, size: Buffer.byteLength(contents) }]
    const zip = new yazl.ZipFile()
    zip.addBuffer(Buffer.from(contents), 'contents.json')
    const manifest = { format: 'fogbath-backup', version: 1, madeAt: '2026-01-01T00:00:00Z', entries }
    zip.addBuffer(Buffer.from(JSON.stringify(manifest)), 'manifest.json')
    zip.end()
    const path = join(rig.folder, 'earlier.zip')
    writeFileSync(path, await buffer(zip.outputStream))
    await proveBackup({ file: path, folder: rig.folder, label: 'earlier.zip', here: [] }, () => undefined)
    const { value: one } = (await (await readProduction(rig.folder, 0)).shots.next()) as { value: ContentsShot }
    const read = await readRest(rig.folder)
    expect(one!.trials[0]!.recipe).toEqual(today)
    expect(one!.edits[0]!.kept.step).toEqual({ kind: 'parts', trialId: 1, recipe: today })
    // What was trimmed is a balance before the look, and nothing stands after it.
    expect([one!.preparation, one!.trials[0]!.after]).toEqual([preparationOfTrims(TRIMS), []])
    // Favourites were told with the recipe itself.
    await rig.context.db.transaction((transaction) => addShelf(read.shelf, transaction))
    expect((await send('GET', '/api/favourites')).body).toEqual(['weirstone1'])
    expect((await send('GET', '/api/shelf')).body).toMatchObject([
      { key: 'weirstone1', recipe: { baths: today.baths } },
    ])
  })
})
