import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, statSync, utimesSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Render, Reply, ROUTES, Shot } from '@fogbath/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Medium } from '../src/db/models'
import { Proxies, needsProxy } from '../src/media/proxies'
import { makeRig, multipart, readPixels, type Rig } from './helpers'

const folder = mkdtempSync(join(tmpdir(), 'fogbath-proxies-'))
const ffmpeg = (...args: string[]): void => void execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', ...args])
let rig: Rig
let shots: Shot[]
beforeAll(async () => {
  rig = await makeRig()
  ffmpeg(
    '-i',
    'gradients=s=1600x900:r=24:d=1.25:speed=0.1:seed=5:nb_colors=2:c0=0x904020:c1=0x2040a0:x0=0:y0=0:x1=1600:y1=900',
    '-pix_fmt',
    'yuv422p10le',
    '-c:v',
    'ffv1',
    join(folder, 'wide.mkv'),
  )
  const made = await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Proxies' } })
  const url = `/api/productions/${made.json<{ id: number }>().id}/media`
  const file = { name: 'wide.mkv', bytes: readFileSync(join(folder, 'wide.mkv')) }
  shots = (await rig.app.inject({ method: 'POST', url, ...multipart([file]) })).json<{ shots: Shot[] }>().shots
  const medium = (await Medium.findByPk(shots[0]!.mediumId))!
  expect(medium.info.speed).toBeGreaterThan(1)
  // As if this machine were slow: two frames a second.
  await medium.update({ info: { ...medium.info, speed: 2 } })
})
afterAll(async () => {
  await rig.close()
  rmSync(folder, { recursive: true, force: true })
})
const frame = (width: number, at = 0, more = '') =>
  rig.app.inject(`/api/media/${shots[0]!.mediumId}/frames/${at}?width=${width}${more}`)
const isProxy = ({ headers }: { headers: object }): boolean => 'x-frame-proxy' in headers
const listed = async () => (await rig.app.inject('/api/storage')).json<Reply<typeof ROUTES.storage>>().proxies
const mean = (a: Buffer, b: Buffer): number => {
  let sum = 0
  for (let i = 0; i < a.length; i += 2) sum += Math.abs(a.readUInt16LE(i) - b.readUInt16LE(i))
  return sum / (a.length / 2) / 65535
}

it('a proxy is needed where footage decodes slower than it plays, and is long enough', () => {
  const info = { fps: '24/1', frames: 100, speed: 20 } as never as Parameters<typeof needsProxy>[0]
  expect(needsProxy(info)).toBe(true)
  expect(needsProxy({ ...info, speed: 60 })).toBe(false)
  expect(needsProxy({ ...info, frames: 10 })).toBe(false)
  const { speed: _, ...unmeasured } = info
  expect(needsProxy(unmeasured as typeof info)).toBe(false)
})

describe('a proxy', () => {
  it('is made in the background when footage is looked at, and shown from then on, but for wide pictures and renders', async () => {
    const first = await frame(640)
    expect(isProxy(first)).toBe(false)
    await expect.poll(async () => (await listed()).list.map((p) => p.state), { timeout: 60_000 }).toEqual(['made'])
    const { list, bytes, budget, folder: place } = await listed()
    expect([list[0]!.name, list[0]!.bytes, place]).toEqual(['wide.mkv', bytes, join(rig.folder, 'proxies')])
    expect(bytes).toBeGreaterThan(1000)
    expect(budget).toBe(20e9)
    const again = await frame(640)
    expect(isProxy(again)).toBe(true)
    expect(again.headers['x-frame-width']).toBe('640')
    // It looks the same: on the whole within a two-hundredth.
    expect(mean(again.rawPayload, first.rawPayload)).toBeLessThan(0.005)
    expect(mean((await frame(640, 29)).rawPayload, first.rawPayload)).toBeGreaterThan(0.01)
    expect(isProxy(await frame(1600))).toBe(false)
    // Another reading is another proxy.
    expect(isProxy(await frame(320, 0, '&range=full'))).toBe(false)
    await expect.poll(async () => (await listed()).list.length, { timeout: 60_000 }).toBe(2)

    const asked = await rig.app.inject({
      method: 'POST',
      url: `/api/shots/${shots[0]!.id}/renders`,
      payload: { format: 'png' },
    })
    const { id } = asked.json<Render>()
    const state = async () => (await rig.app.inject(`/api/renders/${id}`)).json<Render>().state
    await expect.poll(state, { timeout: 60_000 }).toBe('done')
    const rendered = join(rig.folder, 'renders', String(id))
    const [png] = readdirSync(rendered).filter((name) => name.endsWith('.png'))
    expect(readPixels(join(rendered, png!)).length).toBe(3 * 1600 * 900)
  })

  it('comes back when it was removed and its footage is looked at', async () => {
    const [one] = (await listed()).list.filter((p) => !p.key.includes('.'))
    const path = join(rig.folder, 'proxies', `${one!.key}.mp4`)
    expect((await rig.app.inject({ method: 'DELETE', url: `/api/proxies/${one!.key}` })).statusCode).toBe(204)
    expect(existsSync(path)).toBe(false)
    expect((await rig.app.inject({ method: 'DELETE', url: '/api/proxies/..%2fmedia' })).statusCode).toBe(400)
    expect(isProxy(await frame(960))).toBe(false)
    await expect.poll(() => existsSync(path), { timeout: 60_000 }).toBe(true)
  })

  it('goes when the budget is spent, the one that was used longest ago first', async () => {
    const small = join(folder, 'small')
    const source = { type: 'file', path: join(folder, 'wide.mkv') } as const
    const { info } = (await Medium.findByPk(shots[0]!.mediumId))!
    const made = async (proxies: Proxies, sha256: string) => {
      await proxies.of({ sha256, info }, source)
      await expect.poll(() => existsSync(join(small, `${sha256}.mp4`)), { timeout: 60_000 }).toBe(true)
    }
    const [a, b, c] = ['a', 'b', 'c'].map((letter) => letter.repeat(64)) as [string, string, string]
    const first = new Proxies(small)
    await made(first, a)
    await made(first, b)
    await first.close()
    const { size } = statSync(join(small, `${a}.mp4`))
    utimesSync(join(small, `${b}.mp4`), 1, 1)
    const tight = new Proxies(small, 2.5 * size)
    await made(tight, c)
    await expect.poll(() => readdirSync(small).sort(), { timeout: 10_000 }).toEqual([`${a}.mp4`, `${c}.mp4`])
    await tight.close()
  })

  it('of light holds it within an eighth of a stop, and a thirty-second on the whole, far above white', async () => {
    const path = join(folder, 'light')
    execFileSync('mkdir', ['-p', path])
    const light = `color=gray:s=64x64:r=24,format=gbrpf32le,geq=r='0.02+X/8':g='0.02+X/8':b='0.02+X/8'`
    ffmpeg('-i', light, '-frames:v', '30', '-pix_fmt', 'gbrpf32le', join(path, '%06d.exr'))
    const source = { type: 'sequence', pattern: join(path, '%06d.exr'), start: 0, frames: 30, fps: '24/1' } as const
    const { describe: known } = await import('../src/media/reach')
    const { decodeFrames } = await import('../src/media/decode')
    const info = { ...(await known(source, 'light')), speed: 1 }
    const proxies = new Proxies(join(folder, 'lights'))
    const footage = { sha256: 'd'.repeat(64), info }
    await proxies.of(footage, source)
    await expect.poll(() => proxies.of(footage, source), { timeout: 60_000 }).not.toBeNull()
    const proxy = (await proxies.of(footage, source))!
    const rows: Float32Array[] = []
    for (const of of [{ source, info }, proxy])
      for await (const { data } of decodeFrames(of.source, of.info, { first: 7, count: 1 }))
        rows.push(data as Float32Array)
    await proxies.close()
    const [own, small] = rows as [Float32Array, Float32Array]
    const apart = Array.from({ length: 62 }, (_, i) => 3 * (32 * 64 + 1 + i)).map((at) =>
      Math.abs(Math.log2(small[at]! / own[at]!)),
    )
    expect(Math.max(...apart)).toBeLessThan(1 / 8)
    expect(apart.reduce((sum, v) => sum + v, 0) / apart.length).toBeLessThan(1 / 32)
    expect(own[3 * (32 * 64 + 60)]).toBeGreaterThan(7)
  })
})
