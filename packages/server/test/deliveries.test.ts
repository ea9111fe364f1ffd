import { execFileSync } from 'node:child_process'
import { readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import type { KeptPreset, Render, Reply, ROUTES, Shot } from '@fogbath/contract'
import { EDITION } from '@fogbath/core/treat'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { sha256Of } from './archives'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

let rig: Rig
let shots: Shot[]
const send = async (method: 'GET' | 'POST' | 'PATCH' | 'DELETE', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: (reply.body ? reply.json() : null) as any }
}
beforeAll(async () => {
  rig = await makeRig()
  const footage = makeFootage(rig.folder)
  const alpha = join(rig.folder, 'alpha.png')
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=160x96:d=0.1',
    '-frames:v',
    '1',
    '-pix_fmt',
    'rgba',
    alpha,
  ])
  const { id } = (await send('POST', '/api/productions', { name: 'Harbour: two' })).body
  const files = [footage.clip, alpha].map((path) => ({ name: path.split('/').at(-1)!, bytes: readFileSync(path) }))
  const reply = await rig.app.inject({ method: 'POST', url: `/api/productions/${id}/media`, ...multipart(files) })
  ;({ shots } = reply.json<{ shots: Shot[] }>())
  const [clip] = shots
  await send('PATCH', `/api/shots/${clip!.id}`, { revision: clip!.revision, first: 10, last: 19 })
})
afterAll(() => rig.close())

type Plan = Reply<typeof ROUTES.planRenders>
const plan = async (delivery: object, of = shots.map((s) => s.id)): Promise<Plan> =>
  (await send('POST', '/api/renders/plan', { shots: of, delivery })).body
const rendered = async (delivery: object, shot = shots[0]!.id): Promise<Render> => {
  const { body, status } = await send('POST', `/api/shots/${shot}/renders`, delivery)
  expect(status).toBe(201)
  const state = async () => (await send('GET', `/api/renders/${body.id}`)).body.state
  await expect.poll(state, { timeout: 120_000 }).toBe('done')
  return (await send('GET', `/api/renders/${body.id}`)).body
}
/** Hashes of what was made; parts may still be on their way out. */
const filesOf = ({ id }: Render): string[] => {
  const folder = join(rig.folder, 'renders', String(id))
  const names = readdirSync(folder).filter((name) => !name.startsWith('part'))
  return names.sort().map((name) => sha256Of(readFileSync(join(folder, name))))
}

describe('the plan of renders', () => {
  it('names files, frames, sizes, the room that it takes, and what is lost', async () => {
    const found = await plan({ format: 'h264-8.mp4', size: { width: 320, height: 180, fit: 'whole' }, handles: 4 })
    expect(found.shots.map((s) => [s.name, s.first, s.count, s.width, s.height, s.problem])).toEqual([
      ['Harbour two clip A', 6, 18, 320, 180, null],
      ['Harbour two alpha A', 0, 1, 320, 180, null],
    ])
    expect(found.remarks).toEqual([
      expect.stringMatching(/^Written in /),
      'Loses: 8 bit. Chroma at half the size, a trace of the detail; no alpha.',
      'The alpha of 1 shot does not go along.',
      '2 shots are made larger than the footage.',
    ])
    expect(found.bytes).toBe(found.shots.reduce((sum, s) => sum + s.bytes, 0))
    expect(found.free).toBeGreaterThan(1e6)
    // Ten megabits a second for 18 frames of 24 a second, and for one: by hand.
    const rate = await plan({ format: 'mp4', rate: 10 }, [shots[0]!.id])
    expect(rate.shots[0]!.bytes).toBe(Math.round((10e6 * (10 / 24)) / 8))
  })
  it('says which shots cannot be rendered so, and the others with them', async () => {
    const small = await plan({ format: 'mxf' })
    expect(small.shots.map((s) => s.problem)).toEqual(
      Array(2).fill('DNxHR HQX takes pictures from 256x120 on; this one is 160x96.'),
    )
    expect((await send('POST', '/api/renders/plan', { shots: [999_999], delivery: { format: 'mp4' } })).status).toBe(
      404,
    )
    for (const [delivery, says] of [
      [{ format: 'avi' }, /format/],
      [{ format: 'mov', quality: 3 }, /has no quality/],
      [{ format: 'png', names: '{x}' }, /\{x\} stands for nothing/],
      [{ format: 'png', to: 'nonsense' }, /nonsense/],
    ] as const) {
      const { status, body } = await send('POST', `/api/shots/${shots[0]!.id}/renders`, delivery)
      expect([status, body.message]).toEqual([400, expect.stringMatching(says)])
    }
  })
  it('knows from the last render how long it takes', async () => {
    expect((await plan({ format: 'png' })).seconds).toBeNull()
    await rendered({ format: 'png' })
    await expect.poll(async () => (await plan({ format: 'png' })).seconds).not.toBeNull()
    const one = await plan({ format: 'png' }, [shots[0]!.id])
    const two = await plan({ format: 'png' }, [shots[0]!.id, shots[0]!.id])
    expect(one.seconds).toBeGreaterThan(0)
    expect(two.seconds! / one.seconds!).toBeCloseTo(2, 6)
  })
})

describe('a render', () => {
  it('carries handles, alpha and its name, and says what made it', async () => {
    const still = await rendered({ format: 'tif', alpha: true, names: '{shot} {date}' }, shots[1]!.id)
    expect(still).toMatchObject({ edition: EDITION, delivery: { alpha: true }, count: 1 })
    expect(EDITION).toMatch(/^[0-9a-f]{12}$/)
    expect(still.label).toMatch(/^alpha \d{4}-\d\d-\d\d$/)
    const [file] = readdirSync(join(rig.folder, 'renders', String(still.id)))
    const probed = execFileSync('ffprobe', [
      '-v',
      'error',
      '-show_entries',
      'stream=pix_fmt',
      '-of',
      'csv=p=0',
      join(rig.folder, 'renders', String(still.id), file!),
    ])
    expect(probed.toString().trim()).toBe('rgba64le')
    const clip = await rendered({ format: 'mkv', handles: 3 })
    expect([clip.first, clip.count, clip.done]).toEqual([7, 16, 16])
  })
  it('is made once more from its row alone, the same to the bit, whatever has become of the shot', async () => {
    // Containers write times and random names unless they are told not to.
    const formats = ['mkv', 'mov', 'mp4', 'png'] as const
    const all: Render[] = []
    for (const format of formats) all.push(await rendered({ format }))
    const [once] = all as [Render]
    const [shot] = shots
    const { revision } = (await send('GET', `/api/shots/${shot!.id}`)).body
    await send('PATCH', `/api/shots/${shot!.id}`, { revision, first: 0, last: 3, still: 1 })
    const again = async ({ id }: Render): Promise<Render> => {
      const { body } = await send('POST', `/api/renders/${id}/action`, { action: 'again' })
      expect(body.id).not.toBe(id)
      const state = async () => (await send('GET', `/api/renders/${body.id}`)).body.state
      await expect.poll(state, { timeout: 120_000 }).toBe('done')
      return body
    }
    for (const render of all) expect(filesOf(await again(render))).toEqual(filesOf(render))
    const body = await again(once)
    const file = await rig.app.inject(`/api/renders/${body.id}/file`)
    expect(file.headers['content-disposition']).toContain(encodeURIComponent('Harbour two clip A.mkv'))
  })
})

describe('presets', () => {
  it('are kept, changed, listed by name, and deleted', async () => {
    const keep = (name: string, delivery: object) => send('POST', '/api/presets', { name, delivery })
    const { body, status } = await keep(' House ', { format: 'hevc.mp4', quality: 60 })
    expect([status, body.name, body.delivery]).toEqual([201, 'House', { format: 'hevc.mp4', quality: 60 }])
    expect(await keep('House', { format: 'png' })).toMatchObject({
      status: 400,
      body: { message: 'There is a preset called House already.' },
    })
    expect((await keep('Wrong', { format: 'mov', quality: 5 })).body.message).toMatch(/has no quality/)
    expect((await keep('Lost', { format: 'png', to: 'own-encoding' })).status).toBe(400)
    await keep('Another', { format: 'png' })
    const changed = await send('PATCH', `/api/presets/${body.id}`, { revision: 1, delivery: { format: 'mp4' } })
    expect(changed.body).toMatchObject({ revision: 2, delivery: { format: 'mp4' } })
    expect((await send('PATCH', `/api/presets/${body.id}`, { revision: 1, name: 'Late' })).status).toBe(409)
    expect((await send('GET', '/api/presets')).body.map((p: KeptPreset) => p.name)).toEqual(['Another', 'House'])
    expect((await send('DELETE', `/api/presets/${body.id}?revision=2`)).status).toBe(204)
  })
})
