import { mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { changeSettings, type Recipe } from '@fogbath/core/line'
import { newPart, withPart } from '@fogbath/core/masks'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { type SharedRecipe } from '@fogbath/core/shelf'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { parseRecipe, parseShared } from '../src/validate'
import { makeRig, type Rig } from './helpers'

let rig: Rig
beforeAll(async () => {
  rig = await makeRig()
})
afterAll(() => rig.close())
/** Another machine, in place of this one: only one database at a time can be worked with. */
async function elsewhere(): Promise<void> {
  await rig.close()
  rig = await makeRig()
}

const bypass = SHIPPED_RECIPES.find((r) => r.id === 'bleach-bypass')!
const softer = (by: number): Recipe => changeSettings(bypass, bypass.baths[0]!.id, { bleachPrint: by })

async function call<T>(
  method: 'GET' | 'POST' | 'PATCH',
  url: string,
  payload?: object,
): Promise<{ status: number; body: T }> {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: reply.json<T>() }
}
interface Row {
  id: number
  revision: number
  key: string
  name: string
  latest: number
  notes: string
  maker: string
  recipe: Recipe
}
const shelf = async () => (await call<Row[]>('GET', '/api/shelf')).body
const kept = async (name: string): Promise<Row> => {
  const texts = { name, sentence: 'Hard and cold.', notes: 'For the lock.', maker: 'Ada' }
  return (await call<Row>('POST', '/api/shelf', { ...texts, recipe: bypass })).body
}
const grown = async (by: number, row: Row): Promise<Row> =>
  (await call<Row>('POST', `/api/shelf/${row.id}/versions`, { revision: row.revision, recipe: softer(by) })).body
const fileOf = async (id: number) => (await call<SharedRecipe>('GET', `/api/shelf/${id}/file`)).body
const asFile = (shared: object, name = 'one.json') => ({ name, text: JSON.stringify(shared) })
type Looked = { file: string; state: string; versions: number; own: number; problem: string | null }
const look = async (...files: object[]) => (await call<Looked[]>('POST', '/api/shelf/preview', { files })).body
const bring = (...files: object[]) => call<{ taken: number }>('POST', '/api/shelf/import', { files })

describe('a recipe as a file', () => {
  it('goes to another machine with its texts and all versions, and is known there again', async () => {
    const row = await grown(20, await kept('Lock bypass'))
    const file = await fileOf(row.id)
    expect(file).toMatchObject({ form: 2, name: 'Lock bypass', maker: 'Ada', notes: 'For the lock.', picture: null })
    expect(file.versions.map((v) => v.changes.length > 0)).toEqual([false, true])
    await grown(35, row)
    const later = await fileOf(row.id)

    await elsewhere()
    expect((await look(asFile(file)))[0]).toMatchObject({ state: 'new', versions: 2, own: 0 })
    expect((await bring(asFile(file))).body).toEqual({ taken: 1 })
    const [there] = await shelf()
    expect(there).toMatchObject({ key: row.key, name: 'Lock bypass', latest: 2, maker: 'Ada', notes: 'For the lock.' })
    expect(there!.recipe.baths[0]!.settings['bleachPrint']).toBe(20)
    expect((await look(asFile(file)))[0]).toMatchObject({ state: 'same', versions: 2, own: 2 })
    expect((await bring(asFile(file))).body).toEqual({ taken: 0 })

    // What it has more is brought, and what is further there stays.
    expect((await look(asFile(later)))[0]!.state).toBe('newer')
    expect((await bring(asFile(later))).body).toEqual({ taken: 1 })
    expect(await shelf()).toMatchObject([{ latest: 3, revision: 2 }])
    expect((await look(asFile(file)))[0]!.state).toBe('older')
    expect((await bring(asFile(file))).body).toEqual({ taken: 0 })
    expect(await shelf()).toMatchObject([{ latest: 3 }])
  })
  it('that went another way is in conflict: it is taken beside, or not at all', async () => {
    const [there] = await shelf()
    const own = await fileOf(there!.id)
    const away = { ...own, versions: [...own.versions.slice(0, 2), { ...own.versions[2]!, recipe: softer(77) }] }
    expect((await look(asFile(away)))[0]!.state).toBe('conflict')
    expect((await bring(asFile(away))).body).toEqual({ taken: 0 })
    expect((await bring({ ...asFile(away), beside: true })).body).toEqual({ taken: 1 })
    const rows = await shelf()
    expect(rows.map((r) => r.name).sort()).toEqual(['Lock bypass', 'Lock bypass (from a file)'])
    expect(rows.find((r) => r.name === 'Lock bypass')!.recipe.baths[0]!.settings['bleachPrint']).toBe(35)
    expect(rows.find((r) => r.name !== 'Lock bypass')!.key).not.toBe(there!.key)
  })
  it('that is broken is named with the reason, and the whole of what came with it stays outside', async () => {
    const good = await fileOf((await kept('Another')).id)
    const broken = { ...good, key: 'x'.repeat(12), versions: [{ ...good.versions[0]!, recipe: { baths: 7 } }] }
    const unknown = { ...good, key: 'unknown123' }
    const files = [asFile(unknown, 'good.json'), asFile(broken, 'bad.json'), { name: 'no.json', text: '{' }]
    const looked = await look(...files)
    expect(looked.map((l) => l.state)).toEqual(['new', 'broken', 'broken'])
    expect(looked[1]!.problem).toMatch(/bad\.json\/versions\/0\/recipe/)
    expect(looked[2]!.problem).toMatch(/no\.json is not JSON/)
    const count = (await shelf()).length
    expect((await bring(...files)).status).toBe(400)
    expect(await shelf()).toHaveLength(count)
  })
  it.each([
    [{ form: 3 }, /form 3; this version reads 1 to 2/],
    [{ form: 2, key: 'K' }, /one\.json/],
    [[], /must be a JSON object/],
  ])('of the shape %j is refused', async (value, why) => {
    expect((await look(asFile(value)))[0]!.problem).toMatch(why)
  })
})

describe('files of earlier forms', () => {
  const sample = readFileSync(join(import.meta.dirname, 'earlier/recipe-form-1.json'), 'utf8')

  it('are brought up step by step: a bare recipe gets texts, a version, and settings that came since', () => {
    const shared = parseShared(sample, 'old.json')
    expect(shared).toMatchObject({ form: 2, name: 'Kept long ago', sentence: 'As it was.', maker: '', picture: null })
    expect(shared.versions).toHaveLength(1)
    // The sample was written before there was grain.
    expect(sample).not.toContain('grain')
    expect(shared.versions[0]!.recipe.baths[0]!.settings).toMatchObject({ bleachPrint: 25, grain: 0 })
  })
  it('keep one key, so that the same file is known again, and other lines another', () => {
    const key = parseShared(sample, 'old.json').key
    expect(parseShared(sample, 'again.json').key).toBe(key)
    const changed = JSON.stringify({ ...(JSON.parse(sample) as object), strength: 50 })
    expect(parseShared(changed, 'c.json').key).not.toBe(key)
  })
  it('serve as recipe files, and so do those of the shelf', async () => {
    const file = await fileOf((await shelf()).find((r) => r.name === 'Lock bypass')!.id)
    expect(parseRecipe(JSON.stringify(file), 'shared.json').baths[0]!.settings['bleachPrint']).toBe(35)
    expect(parseRecipe(sample, 'old.json').name).toBe('Kept long ago')
  })
})

describe('the shared folder', () => {
  interface Shared {
    folder: string
    files: (Looked & { recipe: SharedRecipe | null })[]
  }
  const list = async () => (await call<Shared>('GET', '/api/shared')).body

  it('shows what appears in it, and names what cannot be read', async () => {
    const folder = join(rig.folder, 'shared')
    mkdirSync(folder, { recursive: true })
    expect((await list()).files).toEqual([])
    const [row] = await shelf()
    const file = await fileOf(row!.id)
    writeFileSync(join(folder, 'from-afar.json'), JSON.stringify({ ...file, key: 'farfarfar1' }))
    writeFileSync(join(folder, 'half.json'), '{"form": 2, "name"')
    writeFileSync(join(folder, 'notes.txt'), 'no recipe')
    const { files } = await list()
    expect(files.map((f) => [f.file, f.state])).toEqual([
      ['from-afar.json', 'new'],
      ['half.json', 'broken'],
    ])
    expect(files[1]!.problem).toMatch(/half\.json is not JSON/)
    // Mended, it is read again.
    writeFileSync(join(folder, 'half.json'), JSON.stringify({ ...file, key: 'nearnear22', name: 'Mended' }))
    expect((await list()).files[1]).toMatchObject({ state: 'new', name: 'Mended', problem: null })
  })
  it('takes what is shared under a name of its own, and writes over nothing', async () => {
    const row = await kept('Wet & cold')
    const share = () => call<{ file: string }>('POST', `/api/shelf/${row.id}/share`, { picture: null })
    const { file } = (await share()).body
    expect(file).toBe('wet-cold-v1.json')
    // The same once more is the same file; another recipe of the same name is not.
    expect((await share()).body.file).toBe(file)
    const twin = await kept('Wet & cold')
    const second = await call<{ file: string }>('POST', `/api/shelf/${twin.id}/share`, { picture: null })
    expect(second.body.file).toBe('wet-cold-v1-2.json')
    const names = readdirSync(join(rig.folder, 'shared')).filter((name) => name.startsWith('wet'))
    expect(names).toEqual(['wet-cold-v1-2.json', 'wet-cold-v1.json'])
    expect((await list()).files.find((f) => f.file === file)).toMatchObject({ state: 'same' })
  })
})

describe('masks on the shelf', () => {
  it('are kept, renamed and archived, and what is no mask is refused', async () => {
    const own = withPart(null, newPart('ellipse'))
    const wrong = { ...own, parts: [{ ...own.parts[0]!, settings: { x: 'left' } }] }
    const made = await call<{ id: number; revision: number; name: string }>('POST', '/api/masks', {
      name: 'Sky',
      mask: own,
    })
    expect(made.status).toBe(201)
    const renamed = await call<{ name: string }>('PATCH', `/api/masks/${made.body.id}`, {
      revision: 1,
      name: 'Upper sky',
      archived: true,
    })
    expect(renamed.body).toMatchObject({ name: 'Upper sky', archived: true, mask: own })
    expect((await call<object[]>('GET', '/api/masks')).body).toHaveLength(1)
    expect((await call('POST', '/api/masks', { name: 'Bad', mask: wrong })).status).toBe(400)
    expect((await call('POST', '/api/masks', { name: 'None', mask: null })).status).toBe(400)
  })
})

it('tells how often a line is in use', async () => {
  const uses = await call<{ id: string; count: number }[]>('GET', '/api/shelf/uses')
  expect(uses).toEqual({ status: 200, body: [] })
})
