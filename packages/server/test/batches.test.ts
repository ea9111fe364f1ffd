import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Reply, ROUTES, Shot, TakenFile } from '@fogbath/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makeRig, multipart, type Rig } from './helpers'

const folder = mkdtempSync(join(tmpdir(), 'fogbath-batches-'))
let rig: Rig
let production: number
beforeAll(async () => {
  rig = await makeRig()
  production = (await post('/api/productions', { name: 'Batches' })).json<{ id: number }>().id
})
afterAll(async () => {
  await rig.close()
  rmSync(folder, { recursive: true, force: true })
})
const post = (url: string, payload: object) => rig.app.inject({ method: 'POST', url, payload })
const sha = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex')

/** A still of one grey. */
function still(name: string, grey: number, size = '32x18'): { name: string; bytes: Buffer } {
  const path = join(folder, name)
  const [wide, high] = size.split('x').map(Number) as [number, number]
  const raw = ['-f', 'rawvideo', '-pix_fmt', 'rgb24', '-s', size, '-i', 'pipe:0', '-frames:v', '1']
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...raw, path], { input: Buffer.alloc(3 * wide * high, grey) })
  return { name, bytes: readFileSync(path) }
}
const bring = (files: { name: string; bytes: Buffer }[], fps = '25') =>
  rig.app.inject({ method: 'POST', url: `/api/productions/${production}/sequence?fps=${fps}`, ...multipart(files) })
const shotOf = async (id: number): Promise<Shot> => (await rig.app.inject(`/api/shots/${id}`)).json<Shot>()
/** Red of the first pixel, 0..255. */
async function greyOf(shot: Shot, frame: number): Promise<number> {
  const { rawPayload } = await rig.app.inject(`/api/media/${shot.mediumId}/frames/${frame}?width=32`)
  return rawPayload.readUInt16LE(0) >> 8
}

describe('numbered stills that are uploaded', () => {
  it('are one sequence, at the rate that is asked for', async () => {
    const reply = await bring(
      [10, 11, 12].map((n) => still(`lock.${n}.png`, 10 * n)),
      '24000/1001',
    )
    expect(reply.statusCode).toBe(201)
    const shot = await shotOf(reply.json<TakenFile>().shotId!)
    expect(shot.medium.info).toMatchObject({ kind: 'sequence', frames: 3, fps: '24000/1001', width: 32 })
    expect(shot.medium.info.warnings.join()).not.toContain('missing')
    expect([await greyOf(shot, 0), await greyOf(shot, 2)]).toEqual([100, 120])
  })

  it('show the one before where some are missing, which are named; the sequence keeps its length', async () => {
    const numbers = [1001, 1002, 1004, 1008]
    const shot = await shotOf(
      (await bring(numbers.map((n, i) => still(`gap.${n}.png`, 40 + 20 * i)))).json<TakenFile>().shotId!,
    )
    expect(shot.medium.info.frames).toBe(8)
    expect(shot.medium.info.warnings).toContain(
      'Frames are missing: 1003, 1005 to 1007; the one before is shown there.',
    )
    const seen = []
    for (let frame = 0; frame < 8; frame++) seen.push(await greyOf(shot, frame))
    expect(seen).toEqual([40, 60, 60, 80, 80, 80, 80, 100])
    // The same again is the same footage.
    const again = await shotOf(
      (await bring(numbers.map((n, i) => still(`gap.${n}.png`, 40 + 20 * i)))).json<TakenFile>().shotId!,
    )
    expect(again.mediumId).toBe(shot.mediumId)
  })

  it('are refused by name where one is no still, of another size or damaged, and nothing of them stays', async () => {
    const good = [1, 2].map((n) => still(`bad.${n}.png`, 50 + n))
    const says = async (file: { name: string; bytes: Buffer }) =>
      (await bring([...good, file])).json<{ message: string }>().message
    expect(await says(still('bad.3.png', 90, '30x18'))).toBe('bad.3.png is 30x18, but the sequence is 32x18.')
    expect(await says({ name: 'bad.3.png', bytes: Buffer.from('no picture') })).toMatch(/bad.3.png is not a picture/)
    const { bytes } = still('bad.3.png', 90, '32x18')
    const cut = Buffer.from(bytes)
    // Within the packed picture.
    cut.fill(0, cut.indexOf('IDAT') + 6, cut.indexOf('IDAT') + 20)
    expect(await says({ name: 'bad.3.png', bytes: cut })).toMatch(/bad.3.png cannot be decoded: it is damaged/)
    expect(await says(still('bad.900.png', 90))).toMatch(
      /are 3 stills of 900 numbers; of a sequence most must be there/,
    )
    expect(readdirSync(join(rig.folder, 'media')).filter((n) => n.startsWith('incoming'))).toEqual([])
  })
})

describe('footage that is here already', () => {
  it('is known by the hash of its file, or by those of its stills', async () => {
    const one = still('one.png', 33)
    const stills = [1, 2, 3].map((n) => still(`known.${n}.png`, 60 + n))
    const url = `/api/productions/${production}/media`
    await rig.app.inject({ method: 'POST', url, ...multipart([one]) })
    const shot = await shotOf((await bring(stills)).json<TakenFile>().shotId!)
    const asked = await post('/api/media/known', {
      footage: [
        { hashes: [sha(one.bytes)], ending: '' },
        { hashes: stills.map(({ bytes }) => sha(bytes)), ending: '.png' },
        { hashes: stills.map(({ bytes }) => sha(bytes)).reverse(), ending: '.png' },
        { hashes: [sha(Buffer.from('another'))], ending: '' },
      ],
    })
    expect(asked.json<(number | null)[]>()).toEqual([expect.any(Number), shot.mediumId, null, null])
  })
})

describe('footage that went missing', () => {
  it('is found in the watched folder by its length and contents, under whatever name', async () => {
    const names = ['gone.png', 'lost.png', 'away.png']
    const files = names.map((name, i) => still(name, 200 + i))
    const own = (await post('/api/productions', { name: 'Missing' })).json<{ id: number }>().id
    await rig.app.inject({ method: 'POST', url: `/api/productions/${own}/media`, ...multipart(files) })
    for (const { bytes } of files) rmSync(join(rig.folder, 'media', sha(bytes).slice(0, 2), sha(bytes)))
    const listed = (await rig.app.inject(`/api/productions/${own}/missing`)).json<Reply<typeof ROUTES.missing>>()
    expect(listed.map(({ name, size, head }) => [name, size, head])).toEqual(
      files.map(({ name, bytes }) => [name, bytes.length, sha(bytes.subarray(0, 1e6))]),
    )
    const watched = join(rig.folder, 'watched')
    mkdirSync(join(watched, 'deep'), { recursive: true })
    writeFileSync(join(watched, 'deep', 'renamed.png'), files[0]!.bytes)
    writeFileSync(join(watched, 'lost.png'), files[1]!.bytes)
    // Of the right length and name, and something else.
    writeFileSync(join(watched, 'away.png'), Buffer.alloc(files[2]!.bytes.length, 7))
    const found = await post(`/api/productions/${own}/find`, {})
    expect(found.json()).toEqual({ found: ['gone.png', 'lost.png'], missing: ['away.png'] })
    const { shots } = (await rig.app.inject(`/api/productions/${own}`)).json<{ shots: Shot[] }>()
    expect(shots.map((s) => s.medium.state)).toEqual(['here', 'here', 'missing'])
    expect(await greyOf(shots[0]!, 0)).toBe(200)
  })

  it('is found when it is a sequence, gaps and all, among others that are as long', async () => {
    const own = (await post('/api/productions', { name: 'Missing stills' })).json<{ id: number }>().id
    const numbers = [1, 2, 4, 5]
    const stills = numbers.map((n, i) => still(`gate.${n}.png`, 140 + i))
    const url = `/api/productions/${own}/sequence`
    expect((await rig.app.inject({ method: 'POST', url, ...multipart(stills) })).statusCode).toBe(201)
    const whole = [0, 1, 1, 2, 3].map((i) => sha(stills[i]!.bytes))
    const kept = createHash('sha256').update(whole.join('')).update('.png').digest('hex')
    rmSync(join(rig.folder, 'media', kept.slice(0, 2), kept), { recursive: true })
    const listed = (await rig.app.inject(`/api/productions/${own}/missing`)).json<Reply<typeof ROUTES.missing>>()
    expect(listed).toMatchObject([{ name: 'gate.1.png', sequence: '.png' }])
    // The same stills in another order have the same length.
    for (const [folder, order] of [['other', [3, 2, 1, 0]] as const, ['scans', [0, 1, 2, 3]] as const]) {
      mkdirSync(join(rig.folder, 'watched', folder), { recursive: true })
      for (const [i, from] of order.entries())
        writeFileSync(join(rig.folder, 'watched', folder, `frame ${numbers[i]}.png`), stills[from]!.bytes)
      const found = (await post(`/api/productions/${own}/find`, {})).json<{ found: string[] }>()
      expect(found.found).toEqual(folder === 'scans' ? ['gate.1.png'] : [])
    }
    const { shots } = (await rig.app.inject(`/api/productions/${own}`)).json<{ shots: Shot[] }>()
    expect(shots.map((s) => [s.medium.state, s.medium.info.frames])).toEqual([['here', 5]])
    expect(await greyOf(shots[0]!, 2)).toBe(141)
  })
})
