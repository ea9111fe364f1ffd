import { execFileSync } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Render, Reply, ROUTES, Shot } from '@fogbath/contract'
import { EDITION } from '@fogbath/core/treat'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { sha256Of } from './archives'
import { makeRig, multipart, readPixels, type Rig } from './helpers'

let rig: Rig
let production: number
/** Two clips with a tone of 440 and 880 Hz, one without sound, one of another rate, one of another size. */
let shots: Shot[]
const send = async (method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: (reply.body ? reply.json() : null) as any }
}
const ffmpeg = (...args: string[]): Buffer => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { maxBuffer: 1e9 })
const at = (...names: string[]): string => join(rig.folder, ...names)

beforeAll(async () => {
  rig = await makeRig()
  const draw = (name: string, seed: number, { size = '160x96', rate = 24, tone = 0, timecode = '' }): Buffer => {
    const sound = tone > 0 ? ['-f', 'lavfi', '-i', `sine=frequency=${tone}:d=1`, '-c:a', 'pcm_s16le'] : []
    const time = timecode ? ['-timecode', timecode] : []
    const picture = ['-f', 'lavfi', '-i', `gradients=s=${size}:r=${rate}:d=1:speed=0.03:seed=${seed}`]
    ffmpeg(
      ...picture,
      ...sound,
      '-pix_fmt',
      'yuv422p10le',
      '-c:v',
      'prores_ks',
      '-colorspace',
      'bt709',
      ...time,
      at(name),
    )
    return readFileSync(at(name))
  }
  production = (await send('POST', '/api/productions', { name: 'Harbour' })).body.id
  const files = [
    { name: 'one.mov', bytes: draw('one.mov', 1, { tone: 440, timecode: '01:00:00:00' }) },
    { name: 'two.mov', bytes: draw('two.mov', 2, { tone: 880 }) },
    { name: 'mute.mov', bytes: draw('mute.mov', 3, {}) },
    { name: 'quick.mov', bytes: draw('quick.mov', 4, { rate: 25 }) },
    { name: 'large.mov', bytes: draw('large.mov', 5, { size: '320x192' }) },
  ]
  const reply = await rig.app.inject({
    method: 'POST',
    url: `/api/productions/${production}/media`,
    ...multipart(files),
  })
  ;({ shots } = reply.json<{ shots: Shot[] }>())
  for (const [i, [first, last]] of (
    [
      [2, 9],
      [4, 15],
      [0, 3],
    ] as const
  ).entries())
    await send('PATCH', `/api/shots/${shots[i]!.id}`, { revision: shots[i]!.revision, first, last })
})
afterAll(() => rig.close())

const ended = async ({ id }: { id: number }): Promise<Render> => {
  const of = async () => (await send('GET', `/api/renders/${id}`)).body as Render
  await expect.poll(async () => (await of()).state, { timeout: 120_000 }).toMatch(/done|failed/)
  const render = await of()
  expect(render.state, render.message).toBe('done')
  return render
}
const rendered = async (body: object, shot = 0): Promise<Render> => {
  const made = await send('POST', `/api/shots/${shots[shot]!.id}/renders`, body)
  expect([made.status, made.body.message]).toEqual([201, ''])
  return ended(made.body)
}
const fileOf = ({ id }: Render): string => {
  const folder = at('renders', String(id))
  return join(
    folder,
    readdirSync(folder).find((name) => !name.startsWith('part'))!,
  )
}
const probe = (path: string): { streams: any[]; format: any } =>
  JSON.parse(
    execFileSync('ffprobe', [
      '-v',
      'error',
      '-count_packets',
      '-show_streams',
      '-show_format',
      '-of',
      'json',
      path,
    ]).toString(),
  )
const ids = (...which: number[]): number[] => which.map((i) => shots[i]!.id)
/** Sound of a file in one channel at 48 000 samples a second. */
function heard(path: string): Float32Array {
  const bytes = ffmpeg('-i', path, '-map', '0:a:0', '-ac', '1', '-ar', '48000', '-f', 'f32le', 'pipe:1')
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
}
/** Zero crossings a second, halved: the frequency of a lone tone. */
function toneOf(samples: Float32Array): number {
  let crossings = 0
  for (let i = 1; i < samples.length; i++) if (samples[i - 1]! < 0 !== samples[i]! < 0) crossings++
  return (crossings / 2 / samples.length) * 48_000
}
const loudest = (samples: Float32Array): number => samples.reduce((most, v) => Math.max(most, Math.abs(v)), 0)

describe('one file of several shots', () => {
  it('has their frames and their sound in order, each as it is alone', async () => {
    const delivery = { format: 'mkv' }
    const { status, body } = await send('POST', `/api/productions/${production}/renders`, {
      shots: ids(1, 2, 0),
      delivery,
    })
    expect([status, body.label, body.count, body.shotId]).toEqual([201, 'Harbour in order', 24, null])
    const one = fileOf(await ended(body))
    const alone = [
      fileOf(await rendered(delivery, 1)),
      fileOf(await rendered(delivery, 2)),
      fileOf(await rendered(delivery, 0)),
    ]
    for (const [frame, path, own] of [
      [0, 0, 0],
      [11, 0, 11],
      [12, 1, 0],
      [16, 2, 0],
      [23, 2, 7],
    ] as const)
      expect(sha256Of(Buffer.from(readPixels(one, frame).buffer))).toBe(
        sha256Of(Buffer.from(readPixels(alone[path]!, own).buffer)),
      )
    const samples = heard(one)
    expect(samples.length).toBe(48_000)
    // Half a second of 880 Hz, silence for a sixth of a second, 440 Hz for a third.
    expect(toneOf(samples.subarray(2_000, 22_000))).toBeCloseTo(880, -1)
    expect(loudest(samples.subarray(24_000, 32_000))).toBe(0)
    expect(toneOf(samples.subarray(33_000, 47_000))).toBeCloseTo(440, -1)
  })
  it('says which shot keeps it from being made, and why', async () => {
    const plan = async (delivery: object, ...which: number[]): Promise<Reply<typeof ROUTES.planRenders>> =>
      (await send('POST', '/api/renders/plan', { shots: ids(...which), delivery, joined: true })).body
    const found = await plan({ format: 'mov' }, 0, 3, 4)
    expect(found.shots.map((s) => s.problem)).toEqual([
      null,
      'It has 25 frames a second, the first shot 24 frames a second; shots of one file have one rate.',
      'It has 320x192, the first shot 160x96; choose a size for all.',
    ])
    const sized = await plan({ format: 'mov', size: { width: 160, height: 96, fit: 'whole' } }, 0, 4)
    expect([sized.name, ...sized.shots.map((s) => s.problem)]).toEqual(['Harbour in order', null, null])
    expect((await plan({ format: 'png' }, 0, 1)).shots[0]!.problem).toMatch(/one file of all is a clip/)
    const refused = await send('POST', `/api/productions/${production}/renders`, {
      shots: ids(0, 3),
      delivery: { format: 'mov' },
    })
    expect([refused.status, refused.body.message]).toEqual([400, expect.stringMatching(/25 frames a second/)])
  })
})

it('footage of one file of several shots is kept, whichever shot it is of', async () => {
  const clip = ['-f', 'lavfi', '-i', 'gradients=s=160x96:r=24:d=0.2:seed=9', '-c:v', 'ffv1', '-pix_fmt', 'yuv444p10le']
  ffmpeg(...clip, at('late.mkv'))
  const file = { name: 'late.mkv', bytes: readFileSync(at('late.mkv')) }
  const url = `/api/productions/${production}/media`
  const taken = (await rig.app.inject({ method: 'POST', url, ...multipart([file]) })).json<{ shots: Shot[] }>()
  const late = taken.shots.find((s) => s.name === 'late')
  const body = { shots: [shots[0]!.id, late!.id], delivery: { format: 'mkv', to: 'bt1886' } }
  const made = await send('POST', `/api/productions/${production}/renders`, body)
  await ended(made.body)
  const { revision } = (await send('GET', `/api/shots/${late!.id}`)).body
  expect((await send('DELETE', `/api/shots/${late!.id}?revision=${revision}`)).status).toBe(204)
  const medium = `/api/media/${late!.mediumId}`
  const refused = await send('DELETE', medium)
  expect([refused.status, refused.body?.message]).toEqual([400, expect.stringMatching(/used by 0 shots and 1 renders/)])
  expect((await send('DELETE', `/api/renders/${made.body.id}`)).status).toBe(204)
  expect((await send('DELETE', medium)).status).toBe(204)
})

describe('a slate', () => {
  it('stands before a clip; timecode, sound and pictures begin behind it', async () => {
    const [plain, slated] = [await rendered({ format: 'mov' }), await rendered({ format: 'mov', slate: true })]
    const [without, withIt] = [fileOf(plain), fileOf(slated)]
    const { streams, format } = probe(withIt)
    expect(streams.find((s) => s.codec_type === 'video').nb_read_packets).toBe('9')
    // Footage begins at 01:00:00:00 and the shot at its frame 2: the slate lies one before.
    expect(format.tags.timecode ?? streams.find((s) => s.tags?.timecode).tags.timecode).toBe('01:00:00:01')
    expect(readPixels(withIt, 1)).toEqual(readPixels(without, 0))
    const board = readPixels(withIt, 0)
    const light = board.filter((v) => v > 30_000).length / board.length
    expect(light).toBeGreaterThan(0.005)
    expect(light).toBeLessThan(0.2)
    const samples = heard(withIt)
    expect(loudest(samples.subarray(0, 1900))).toBeLessThan(1e-4)
    expect(loudest(samples.subarray(2100, 4000))).toBeGreaterThan(0.05)
  })
  it('is refused where it has no place', async () => {
    const made = await send('POST', `/api/shots/${shots[0]!.id}/renders`, { format: 'tif', slate: true })
    expect([made.status, made.body.message]).toEqual([400, expect.stringMatching(/a slate goes before clips/)])
  })
})

describe('renders in line', () => {
  const waiting = async (): Promise<number[]> => (await send('GET', '/api/renders/line')).body.map((r: Render) => r.id)
  it('stand aside and go on, are put in order, and take up the parts that they have', async () => {
    const make = async (shot: number): Promise<Render> =>
      (await send('POST', `/api/shots/${shots[shot]!.id}/renders`, { format: 'png' })).body
    const act = (id: number, action: string) => send('POST', `/api/renders/${id}/action`, { action })
    const [one, two, three] = [await make(0), await make(1), await make(2)]
    for (const { id } of [three, two, one]) await act(id, 'pause')
    for (const render of [one, two, three]) {
      const { state } = (await send('GET', `/api/renders/${render.id}`)).body as Render
      expect(['paused', 'done']).toContain(state)
    }
    const left = (await waiting()).filter((id) => [one.id, two.id, three.id].includes(id))
    const turned = [...left].reverse()
    const put = await send('PUT', '/api/renders/line', { ids: turned })
    expect([put.status, put.body.map((r: Render) => r.id)]).toEqual([200, turned])
    for (const id of left) expect((await act(id, 'resume')).status).toBe(200)
    for (const id of left) await ended({ id })
    expect((await act(one.id, 'resume')).body.message).toMatch(/only a paused one can go on/)
    expect((await act(one.id, 'pause')).body.message).toMatch(/is done and cannot be paused/)
    expect((await send('PUT', '/api/renders/line', { ids: [one.id] })).body.message).toMatch(/is not in line/)
  })
})

describe('the folder of deliveries', () => {
  it('takes what is done, never over what is there unless that was said', async () => {
    const first = await rendered({ format: 'mov', put: 'new' })
    const there = at('deliveries', 'Harbour one A.mov')
    expect(first.message).toBe('')
    expect(sha256Of(readFileSync(there))).toBe(sha256Of(readFileSync(fileOf(first))))
    const plan = (await send('POST', '/api/renders/plan', { shots: ids(0, 1), delivery: { format: 'mov' } })).body
    expect([plan.folder, plan.there]).toEqual([at('deliveries'), ['Harbour one A']])
    writeFileSync(there, 'somebody’s own')
    const second = await rendered({ format: 'mov', put: 'new' })
    expect(second.message).toMatch(/something there has that name already/)
    expect(readFileSync(there, 'utf8')).toBe('somebody’s own')
    await rendered({ format: 'mov', put: 'over' })
    expect(sha256Of(readFileSync(there))).toBe(sha256Of(readFileSync(fileOf(second))))
    expect(readdirSync(at('deliveries')).filter((name) => name.startsWith('.'))).toEqual([])
  })
  it('takes stills as a folder of their own', async () => {
    const names = '{shot} stills'
    await rendered({ format: 'jpg', names, put: 'new' })
    const folder = at('deliveries', 'one stills')
    expect(readdirSync(folder)).toEqual([2, 3, 4, 5, 6, 7, 8, 9].map((n) => `frame.00000${n}.jpg`))
    writeFileSync(join(folder, 'own.txt'), 'mine')
    expect((await rendered({ format: 'jpg', names, put: 'new' })).message).toMatch(/has that name already/)
    expect((await rendered({ format: 'jpg', names, put: 'over' })).message).toBe('')
    expect(existsSync(join(folder, 'own.txt'))).toBe(true)
  })
  it('is told of where it cannot be written, and the render stays', async () => {
    rmSync(at('deliveries'), { recursive: true })
    writeFileSync(at('deliveries'), 'a file')
    const render = await rendered({ format: 'mov', put: 'new' })
    expect([render.state, render.message]).toEqual(['done', expect.stringMatching(/^It is not in .*Download it/)])
    rmSync(at('deliveries'))
    mkdirSync(at('deliveries'))
  })
})

it('many renders are fetched as one archive, stills in a folder each', async () => {
  const all = [
    await rendered({ format: 'mov' }),
    await rendered({ format: 'mov' }),
    await rendered({ format: 'png' }, 2),
  ]
  const reply = await rig.app.inject(`/api/renders/archive?ids=${all.map((r) => r.id).join(',')}`)
  expect([reply.statusCode, reply.headers['content-type']]).toEqual([200, 'application/zip'])
  writeFileSync(at('all.zip'), reply.rawPayload)
  const list = execFileSync('/usr/bin/python3', ['-m', 'zipfile', '-l', at('all.zip')]).toString()
  const names = list
    .split('\n')
    .slice(1)
    .map((line) => line.replace(/ +\d{4}-.*$/, ''))
    .filter(Boolean)
  expect(names).toEqual([
    'Harbour one A.mov',
    'Harbour one A (2).mov',
    ...[0, 1, 2, 3].map((n) => `Harbour mute A/frame.00000${n}.png`),
  ])
  execFileSync('/usr/bin/python3', ['-m', 'zipfile', '-t', at('all.zip')])
  expect((await rig.app.inject('/api/renders/archive?ids=999999')).statusCode).toBe(404)
  expect((await rig.app.inject('/api/renders/archive?ids=1;2')).statusCode).toBe(400)
})

it('frames of what was rendered are those of its file', async () => {
  for (const format of ['mkv', 'png'] as const) {
    const render = await rendered({ format })
    const reply = await rig.app.inject(`/api/renders/${render.id}/frames/3?width=160`)
    expect([reply.statusCode, reply.headers['x-frame-width'], reply.headers['x-frame-format']]).toEqual([
      200,
      '160',
      'u16',
    ])
    const codes = new Uint16Array(
      reply.rawPayload.buffer.slice(reply.rawPayload.byteOffset, reply.rawPayload.byteOffset + reply.rawPayload.length),
    )
    const path = format === 'mkv' ? fileOf(render) : at('renders', String(render.id), 'frame.000005.png')
    expect(codes).toEqual(readPixels(path, format === 'mkv' ? 3 : 0))
    expect((await rig.app.inject(`/api/renders/${render.id}/frames/8`)).statusCode).toBe(404)
  }
})

it('a JPEG holds the profile of its encoding, which an independent reader takes for it', async () => {
  const render = await rendered({ format: 'jpg', to: 'p3' })
  const path = join(at('renders', String(render.id)), 'frame.000002.jpg')
  const program = `
import io, sys
from PIL import Image, ImageCms
image = Image.open(sys.argv[1])
image.load()
profile = ImageCms.ImageCmsProfile(io.BytesIO(image.info['icc_profile']))
srgb = ImageCms.createProfile('sRGB')
patch = Image.new('RGB', (1, 1), (200, 100, 50))
seen = ImageCms.profileToProfile(patch, profile, srgb).getpixel((0, 0))
print(ImageCms.getProfileDescription(profile).strip(), *seen)`
  const said = execFileSync('/usr/bin/python3', ['-c', program, path]).toString().trim()
  // Display P3 (200, 100, 50) in sRGB, by colorjs.io.
  const [, label, r, g, b] = /^(.*) (\d+) (\d+) (\d+)$/.exec(said)!
  expect(label).toMatch(/P3/)
  for (const [seen, wanted] of [
    [r, 214.9],
    [g, 92.6],
    [b, 31],
  ] as const)
    expect(Math.abs(Number(seen) - wanted)).toBeLessThan(2)
  expect(render.edition).toBe(EDITION)
})

it('pictures are read by an independent program as they were written', async () => {
  const program = `
import json, sys
from PIL import Image
image = Image.open(sys.argv[1]).convert('RGB')
print(json.dumps([image.size, [image.getpixel((x, y)) for x, y in json.loads(sys.argv[2])]]))`
  const places = [
    [0, 0],
    [80, 48],
    [159, 95],
    [20, 70],
  ] as const
  // PIL knows these of ours; it takes the upper eight bits of sixteen. Eight bits are dithered by up to one code.
  for (const format of ['png', 'png-8', 'jpg'] as const) {
    const render = await rendered({ format })
    const path = at('renders', String(render.id), `frame.000002.${format === 'jpg' ? 'jpg' : 'png'}`)
    const said = execFileSync('/usr/bin/python3', ['-c', program, path, JSON.stringify(places)]).toString()
    const [size, seen] = JSON.parse(said) as [[number, number], number[][]]
    expect(size).toEqual([160, 96])
    const whole = readPixels(fileOf(await rendered({ format: 'mkv' })))
    for (const [i, [x, y]] of places.entries())
      for (const k of [0, 1, 2])
        expect(Math.abs(seen[i]![k]! - whole[3 * (y * 160 + x) + k]! / 257), `${format} at ${x}, ${y}`).toBeLessThan(
          { png: 1.01, 'png-8': 1.51, jpg: 6 }[format],
        )
  }
})

it('light in EXR is packed as it is asked for, and is the same light', async () => {
  const probeOf = (render: Render): [number, string] => {
    const path = at('renders', String(render.id), 'frame.000002.exr')
    // OpenEXR, 'Standard Attributes': the byte behind the type and the length of `compression`.
    const bytes = readFileSync(path)
    const place = bytes.indexOf('compression\0compression\0')
    return [bytes[place + 'compression\0compression\0'.length + 4]!, sha256Of(Buffer.from(readPixels(path).buffer))]
  }
  const made: [number, string][] = []
  for (const compression of ['none', 'rle', 'zip1', 'zip16'] as const)
    made.push(probeOf(await rendered({ format: 'exr', compression })))
  // NO_COMPRESSION 0, RLE 1, ZIPS 2, ZIP 3.
  expect(made.map(([byte]) => byte)).toEqual([0, 1, 2, 3])
  expect(new Set(made.map(([, light]) => light)).size).toBe(1)
  const refused = await send('POST', `/api/shots/${shots[0]!.id}/renders`, { format: 'tif', compression: 'rle' })
  expect([refused.status, refused.body.message]).toEqual([400, expect.stringMatching(/has no compression/)])
})
