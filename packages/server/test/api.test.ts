import { readFileSync, readdirSync } from 'node:fs'
import { mkdirSync, symlinkSync, copyFileSync } from 'node:fs'
import { basename, join } from 'node:path'
import { changeBath, changeSettings } from '@fogbath/core/line'
import { newPart, withPart } from '@fogbath/core/masks'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makeBroken, makeFootage, makeRig, multipart, readPixels, type Rig } from './helpers'

let rig: Rig
let footage: ReturnType<typeof makeFootage>
beforeAll(async () => {
  rig = await makeRig()
  footage = makeFootage(rig.folder)
})
afterAll(() => rig.close())

const send = async (method: 'GET' | 'POST' | 'PATCH' | 'DELETE', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: (reply.body ? reply.json() : null) as Record<string, any> }
}
const upload = async (production: number, ...paths: string[]) => {
  const body = multipart(paths.map((p) => ({ name: basename(p), bytes: readFileSync(p) })))
  const reply = await rig.app.inject({ method: 'POST', url: `/api/productions/${production}/media`, ...body })
  return { status: reply.statusCode, body: reply.json() as Record<string, any> }
}
const newProduction = async (name = 'Test') => (await send('POST', '/api/productions', { name })).body

describe('productions', () => {
  it('are made, read, changed, copied and deleted', async () => {
    const made = await newProduction('The lock')
    expect(
      (await send('PATCH', `/api/productions/${made['id']}`, { revision: 1, name: 'The gate' })).body,
    ).toMatchObject({ name: 'The gate', revision: 2 })
    await upload(made['id'], footage.png)
    const copy = await send('POST', `/api/productions/${made['id']}/copy`)
    expect(copy.status).toBe(201)
    const whole = await send('GET', `/api/productions/${copy.body['id']}`)
    expect(whole.body).toMatchObject({ name: 'The gate (copy)' })
    expect(whole.body['shots']).toHaveLength(1)
    expect(whole.body['shots'][0].trials).toHaveLength(1)
    expect((await send('DELETE', `/api/productions/${copy.body['id']}?revision=1`)).status).toBe(204)
    expect((await send('GET', `/api/productions/${copy.body['id']}`)).status).toBe(404)
  })

  it('refuse a stale write with 409 and the state as it is', async () => {
    const made = await newProduction()
    await send('PATCH', `/api/productions/${made['id']}`, { revision: 1, name: 'First' })
    const late = await send('PATCH', `/api/productions/${made['id']}`, { revision: 1, name: 'Second' })
    expect(late.status).toBe(409)
    expect(late.body['message']).toMatch(/you have revision 1, it is now at 2/)
    expect(late.body['details'].current.name).toBe('First')
    expect((await send('DELETE', `/api/productions/${made['id']}?revision=1`)).status).toBe(409)
  })

  it.each([
    [{}, /body lacks 'name'/],
    [{ name: '' }, /body\/name is ""/],
    [{ name: 5 }, /body\/name is 5; it must be of type string/],
    [{ name: 'x', colour: 1 }, /has 'colour', which is not known there/],
  ])('refuse the body %j and say why', async (body, says) => {
    const reply = await send('POST', '/api/productions', body)
    expect(reply.status).toBe(400)
    expect(reply.body['message']).toMatch(says)
  })
})

describe('media', () => {
  it('takes in every kind, knows what it is, and keeps it once', async () => {
    const production = await newProduction()
    const reply = await upload(production['id'], ...Object.values(footage))
    expect(reply.body['files'].filter((f: { message?: string }) => f.message)).toEqual([])
    const infos = Object.fromEntries(reply.body['shots'].map((s: any) => [s.medium.name, s]))
    expect(infos['clip.mp4'].medium.info).toMatchObject({
      kind: 'clip',
      width: 160,
      height: 96,
      frames: 48,
      fps: '24/1',
      bits: 10,
      encoding: 'bt1886',
    })
    expect(infos['still.png'].medium.info).toMatchObject({ kind: 'still', bits: 16, encoding: 'srgb' })
    expect(infos['still.exr'].medium.info).toMatchObject({ float: true, encoding: 'linear' })
    expect(infos['still.jpg'].medium.info.warnings[0]).toMatch(/8 bits/)
    expect(infos['still.dpx'].medium.info).toMatchObject({ bits: 10 })
    const again = await upload(production['id'], footage.clip)
    expect(again.body['shots'].filter((s: any) => s.mediumId === infos['clip.mp4'].mediumId)).toHaveLength(2)
  })

  it('refuses broken files one by one, takes the good one, leaves nothing behind', async () => {
    const production = await newProduction()
    const before = readdirSync(join(rig.folder, 'media'), { recursive: true }).length
    const broken = makeBroken(rig.folder, footage)
    for (const { path, says } of Object.values(broken)) {
      const reply = await upload(production['id'], path)
      expect(reply.status).toBe(422)
      expect(reply.body['message']).toMatch(says)
      expect(reply.body['message']).toContain(basename(path))
    }
    expect(readdirSync(join(rig.folder, 'media'), { recursive: true })).toHaveLength(before)
    const mixed = await upload(production['id'], broken['text']!.path, footage.png)
    expect(mixed.status).toBe(201)
    expect(mixed.body['files'].map((f: { message?: string }) => Boolean(f.message))).toEqual([true, false])
    expect((await send('GET', `/api/productions/${production['id']}`)).body['shots']).toHaveLength(1)
  })

  it('reads an upload to its end when one of its files is too large, and takes the next', async () => {
    const production = await newProduction()
    const large = { name: 'large.mkv', bytes: Buffer.alloc(34e6, 7) }
    const body = multipart([large, { name: 'good.png', bytes: readFileSync(footage.png) }])
    const reply = await rig.app.inject({ method: 'POST', url: `/api/productions/${production['id']}/media`, ...body })
    expect(reply.statusCode).toBe(201)
    const { files } = reply.json<{ files: { name: string; message?: string; shotId?: number }[] }>()
    expect(files[0]!.message).toBe('large.mkv is larger than 30 MB, the most that is taken in.')
    expect(files[1]).toMatchObject({ name: 'good.png' })
    expect(files[1]!.shotId).toBeGreaterThan(0)
    expect(readdirSync(join(rig.folder, 'media')).filter((f) => f.startsWith('incoming'))).toEqual([])
  })
  it('serves frames with 16 bits at any width, equal to what ffmpeg reads', async () => {
    const production = await newProduction()
    const { body } = await upload(production['id'], footage.png, footage.ffv1, footage.exr)
    const [png, ffv1, exr] = ['still.png', 'clip.mkv', 'still.exr'].map(
      (n) => body['shots'].find((s: any) => s.medium.name === n).mediumId,
    )
    const frame = async (id: number, n: number, width = 160) => {
      const reply = await rig.app.inject({ url: `/api/media/${id}/frames/${n}?width=${width}` })
      return {
        reply,
        data: new Uint16Array(
          reply.rawPayload.buffer.slice(
            reply.rawPayload.byteOffset,
            reply.rawPayload.byteOffset + reply.rawPayload.length,
          ),
        ),
      }
    }
    const still = await frame(png, 0)
    expect(still.reply.headers).toMatchObject({
      'x-frame-width': '160',
      'x-frame-height': '96',
      'x-frame-format': 'u16',
    })
    expect(still.data).toEqual(readPixels(footage.png))
    expect((await frame(ffv1, 7)).data).toEqual(readPixels(footage.ffv1, 7))
    expect((await frame(png, 0, 80)).data).toHaveLength(80 * 48 * 3)
    expect((await frame(exr, 0)).reply.headers['x-frame-format']).toBe('f16')
    expect((await send('GET', `/api/media/${png}/frames/9?width=160`)).status).toBe(404)
    expect((await send('GET', `/api/media/${png}/frames/0?width=1`)).body['message']).toMatch(
      /width is 1; it must lie between 16 and 8192/,
    )
  })

  it('keeps its cache within the budget', async () => {
    const { FrameCache } = await import('../src/media/frames')
    const { probe } = await import('../src/media/probe')
    const folder = join(rig.folder, 'small-cache')
    const cache = new FrameCache(folder, 500_000)
    const source = { type: 'file' as const, path: footage.clip }
    const info = await probe(source, 'clip')
    for (let i = 0; i < 48; i += 6) await cache.frame(source, info, 'abc', i, 160)
    const bytes =
      readdirSync(folder, { recursive: true, withFileTypes: true }).filter((e) => e.isFile()).length * 160 * 96 * 6
    expect(bytes).toBeLessThanOrEqual(500_000 + 160 * 96 * 6)
  })

  it('picks from the watched folder, as files or as a sequence, and nothing outside it', async () => {
    const production = await newProduction()
    const watched = join(rig.folder, 'watched')
    mkdirSync(watched, { recursive: true })
    for (const n of [1, 2, 3]) copyFileSync(footage.png, join(watched, `s.${n}.png`))
    symlinkSync('/etc/passwd', join(watched, 'out.png'))
    expect((await send('GET', '/api/watched')).body['files'].length).toBeGreaterThanOrEqual(3)
    const picked = await send('POST', `/api/productions/${production['id']}/pick`, {
      paths: ['s.1.png', 's.2.png', 's.3.png'],
      asSequence: true,
    })
    expect(picked.status).toBe(201)
    expect(picked.body['shots'][0].medium.info).toMatchObject({ kind: 'sequence', frames: 3, fps: '24/1' })
    for (const path of ['out.png', '../still.png'])
      expect(
        (await send('POST', `/api/productions/${production['id']}/pick`, { paths: [path], asSequence: false })).status,
      ).toBe(403)
    expect(
      (await send('POST', `/api/productions/${production['id']}/pick`, { paths: ['none.png'], asSequence: false }))
        .status,
    ).toBe(404)
  })
})

describe('shots and trials', () => {
  it('change with a revision, keep within the footage, and hold whole recipes', async () => {
    const production = await newProduction()
    const { body } = await upload(production['id'], footage.clip)
    const shot = body['shots'][0]
    expect(shot).toMatchObject({ first: 0, last: 47, still: 24, name: 'clip' })
    expect((await send('PATCH', `/api/shots/${shot.id}`, { revision: 2, encoding: 'acescct', first: 4 })).status).toBe(
      409,
    )
    const changed = await send('PATCH', `/api/shots/${shot.id}`, {
      revision: shot.revision,
      encoding: 'acescct',
      first: 4,
    })
    expect(changed.body).toMatchObject({ encoding: 'acescct', first: 4 })
    expect(
      (await send('PATCH', `/api/shots/${shot.id}`, { revision: changed.body['revision'], last: 99 })).body['message'],
    ).toMatch(/must lie within 0 to 47/)
    expect(
      (await send('PATCH', `/api/shots/${shot.id}`, { revision: changed.body['revision'], encoding: 'nonsense' })).body[
        'message'
      ],
    ).toMatch(/must be one of: bt1886/)
    const trial = shot.trials[0]
    const recipe = changeSettings(SHIPPED_RECIPES[1]!, 'bath-1', { bleachPrint: 35 })
    expect(
      (await send('PATCH', `/api/trials/${trial.id}`, { revision: 1, recipe })).body['recipe'].baths[0].settings
        .bleachPrint,
    ).toBe(35)
    const wrong = changeSettings(recipe, 'bath-1', { bleachPrint: 140 })
    expect((await send('PATCH', `/api/trials/${trial.id}`, { revision: 2, recipe: wrong })).body['message']).toBe(
      'body/recipe/baths/0/settings/bleachPrint is 140; it must be <= 100.',
    )
    const strange = changeSettings(recipe, 'bath-1', { sharpness: 1 })
    expect((await send('PATCH', `/api/trials/${trial.id}`, { revision: 2, recipe: strange })).body['message']).toMatch(
      /has 'sharpness', which is not known there/,
    )
    const masked = (settings: object) =>
      changeBath(recipe, 'bath-1', { mask: withPart(null, newPart('ellipse', settings as Record<string, unknown>)) })
    const put = async (r: object) => (await send('PATCH', `/api/trials/${trial.id}`, { revision: 2, recipe: r })).body
    expect((await put(masked({ width: 900 })))['message']).toBe(
      'body/recipe/baths/0/mask/parts/0/settings/width is 900; it must be <= 200.',
    )
    const hollow = { ...recipe, baths: [{ ...recipe.baths[0]!, mask: { parts: [] } }] }
    expect((await put(hollow))['message']).toMatch(/mask/)
    const second = await send('POST', `/api/shots/${shot.id}/trials`, { name: 'B', recipe: masked({ x: 25 }) })
    expect(second.body['recipe'].baths[0].mask.parts[0]).toMatchObject({ type: 'ellipse', settings: { x: 25, y: 50 } })
    expect(second.status).toBe(201)
    expect((await send('DELETE', `/api/trials/${trial.id}?revision=2`)).body['message']).toMatch(/choose another first/)
    expect((await send('DELETE', `/api/trials/${second.body['id']}?revision=1`)).status).toBe(204)
  })
})

describe('the edges', () => {
  it('limits bodies and requests, sets a policy for pages, and answers unknown addresses', async () => {
    expect((await send('GET', '/api/nothing')).body).toMatchObject({ error: 'not-found' })
    expect((await send('GET', '/api/shots/0')).status).toBe(400)
    expect((await send('GET', '/api/shots/999999')).body['message']).toBe('There is no shot 999999.')
    const small = await makeRig({ bodyLimit: 300, requestsPerMinute: 5 })
    try {
      const big = await small.app.inject({
        method: 'POST',
        url: '/api/productions',
        payload: { name: 'x', notes: 'y'.repeat(500) },
      })
      expect(big.statusCode).toBe(413)
      const first = await small.app.inject({ url: '/api/health' })
      expect(first.headers['content-security-policy']).toContain("default-src 'self'")
      let last = 0
      for (let i = 0; i < 6; i++) last = (await small.app.inject({ url: '/api/health' })).statusCode
      expect(last).toBe(429)
    } finally {
      await small.close()
    }
  })
})
