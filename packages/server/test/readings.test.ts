import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { MediaInfo, Render, Shot } from '@fogbath/contract'
import { readAs, remarksOf, type Reading } from '@fogbath/core/footage'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { decodeFrames } from '../src/media/decode'
import { probe } from '../src/media/probe'
import { makeRig, multipart, type Rig } from './helpers'

// Footage that is read in another way than its file says. Files are written by ffmpeg from numbers that stand here.

const folder = mkdtempSync(join(tmpdir(), 'fogbath-readings-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** A file of raw pictures, packed by ffmpeg. */
function written(name: string, raw: Buffer, size: string, format: string, ...more: string[]): string {
  const path = join(folder, name)
  const input = ['-f', 'rawvideo', '-pix_fmt', format, '-s', size, '-r', '25', '-i', 'pipe:0']
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...input, ...more, path], { input: raw })
  return path
}
const known = (path: string): Promise<MediaInfo> => probe({ type: 'file', path }, 'a file')

/** The middle of pictures, 0..1, decoded in one run. */
async function middles(path: string, info: MediaInfo, first = 0, count = 1): Promise<number[][]> {
  const found: number[][] = []
  for await (const { data, width, height } of decodeFrames({ type: 'file', path }, info, { first, count })) {
    const at = 3 * (width * (height >> 1) + (width >> 1))
    found.push([...data.subarray(at, at + 3)].map((v) => v / 65535))
  }
  return found
}
/** R'G'B' of 8-bit codes by the weights that a standard prints for red and blue. */
function byMatrix([y, b, r]: readonly number[], red: number, blue: number, full: boolean): number[] {
  const luma = full ? y! / 255 : (y! - 16) / 219
  const [cb, cr] = [b!, r!].map((c) => (c - 128) / (full ? 255 : 224)) as [number, number]
  const [R, B] = [luma + 2 * (1 - red) * cr, luma + 2 * (1 - blue) * cb]
  return [R, (luma - red * R - blue * B) / (1 - red - blue), B]
}
const near = (found: readonly number[], wanted: readonly number[], within = 0.0005): void => {
  for (const [i, v] of wanted.entries()) expect(Math.abs(found[i]! - v)).toBeLessThan(within)
}

/** A clip whose pictures come at these moments, in 25ths of a second. @param greyOf code of each */
function uneven(name: string, moments: readonly number[], greyOf: (n: number) => number): string {
  const shown = moments.map((m, n) => `eq(N\\,${n})*${m}`).join('+')
  const raw = Buffer.concat(moments.map((_, n) => Buffer.alloc(3 * 32 * 32, greyOf(n))))
  const timed = ['-vf', `setpts=(${shown})/25/TB`, '-fps_mode', 'vfr', '-c:v', 'ffv1']
  return written(name, raw, '32x32', 'rgb24', ...timed)
}

describe('matrix and range', () => {
  const codes = [150, 110, 140]
  const raw = Buffer.concat(codes.map((c) => Buffer.alloc(64 * 64, c)))
  // ITU-R BT.709-6 item 3.2, BT.601-7 table 1, BT.2020-2 table 4.
  it.each([
    [{}, 0.299, 0.114, false],
    [{ matrix: '709' }, 0.2126, 0.0722, false],
    [{ matrix: '2020_ncl' }, 0.2627, 0.0593, false],
    [{ matrix: '709', range: 'full' }, 0.2126, 0.0722, true],
    [{ range: 'full' }, 0.299, 0.114, true],
  ] as const)('of %o are those of the standards', async (reading, red, blue, full) => {
    const path = written('flat.mkv', raw, '64x64', 'yuv444p', '-c:v', 'ffv1')
    const info = await known(path)
    expect(info.guessed).toMatchObject({ matrix: 'from its height of 64 lines', range: 'as video usually is' })
    near((await middles(path, readAs(info, reading)))[0]!, byMatrix(codes, red, blue, full))
  })

  it('of red, green and blue have no matrix, but may lie in the range of video', async () => {
    const path = written('rgb.png', Buffer.alloc(3 * 64 * 64, 126), '64x64', 'rgb24')
    const info = await known(path)
    near((await middles(path, readAs(info, { range: 'limited' })))[0]!, [110 / 219, 110 / 219, 110 / 219])
    const white = written('white.png', Buffer.alloc(3 * 64 * 64, 235), '64x64', 'rgb24')
    near((await middles(white, readAs(info, { range: 'limited' })))[0]!, [1, 1, 1], 3e-5)
    expect(() => readAs(info, { matrix: '709' })).toThrow('cannot be read with another matrix: it holds red')
  })
})

it('words of which only the lowest bits are used are brought to their whole range', async () => {
  // 12 bits in words of 16: 1000 of 4095.
  const raw = Buffer.from(new Uint16Array(3 * 32 * 32).fill(1000).buffer)
  const path = written('low.tif', raw, '32x32', 'rgb48le')
  const info = await known(path)
  near((await middles(path, info))[0]!, [1000 / 65535, 1000 / 65535, 1000 / 65535])
  near((await middles(path, readAs(info, { bits: 12 })))[0]!, [1000 / 4095, 1000 / 4095, 1000 / 4095], 3e-5)
  const white = written('white.tif', Buffer.from(new Uint16Array(3 * 32 * 32).fill(4095).buffer), '32x32', 'rgb48le')
  near((await middles(white, readAs(info, { bits: 12 })))[0]!, [1, 1, 1], 3e-5)
  expect(() => readAs({ ...info, bits: 10 }, { bits: 12 })).toThrow('12 bits')
})

it('chroma is taken to lie where it is said to', async () => {
  // A step of Cr between two samples: it lies half a pixel further right where samples are centred.
  const luma = Buffer.alloc(64 * 32, 126)
  const cb = Buffer.alloc(32 * 16, 128)
  const cr = Buffer.from(Array.from({ length: 32 * 16 }, (_, i) => (i % 32 < 16 ? 100 : 160)))
  const path = written('step.mkv', Buffer.concat([luma, cb, cr]), '64x32', 'yuv420p', '-c:v', 'ffv1')
  const info = await known(path)
  const edgeOf = async (reading: Reading): Promise<number> => {
    for await (const { data, width } of decodeFrames({ type: 'file', path }, readAs(info, reading), {
      first: 0,
      count: 1,
    })) {
      const row = Array.from({ length: width }, (_, x) => data[3 * (16 * width + x)]!)
      const middle = (row[0]! + row.at(-1)!) / 2
      const x = row.findIndex((v) => v > middle)
      return x - (row[x]! - middle) / (row[x]! - row[x - 1]!)
    }
    throw new Error('no frame')
  }
  expect((await edgeOf({ chromaAt: 'center' })) - (await edgeOf({ chromaAt: 'left' }))).toBeCloseTo(0.5, 1)
})

describe('fields', () => {
  const SIDE = 32
  const FRAMES = 8
  // The upper lines of frame n are 10 + 20 n, the lower ones 10 more: flat, and ever brighter.
  const frame = (n: number): Buffer =>
    Buffer.concat(Array.from({ length: SIDE }, (_, y) => Buffer.alloc(SIDE, 10 + 20 * n + 10 * (y % 2))))
  const path = (): string =>
    written(
      'fields.mkv',
      Buffer.concat(Array.from({ length: FRAMES }, (_, n) => frame(n))),
      `${SIDE}x${SIDE}`,
      'gray',
      ...['-c:v', 'ffv1', '-field_order', 'tt'],
    )

  it('are made one picture of the older one’s moment, the same alone as in a run', async () => {
    const file = path()
    const info = await known(file)
    expect([info.fields, remarksOf(info).join()]).toEqual(['top', expect.stringContaining('Interlaced')])
    for (const [fields, most] of [
      ['top', 0],
      ['bottom', 10],
    ] as const) {
      const whole = readAs(info, { fields })
      expect(remarksOf(whole).join()).not.toContain('Interlaced')
      const run = await middles(file, whole, 0, FRAMES)
      for (const n of [2, 3, 5]) {
        near(run[n]!, [(10 + 20 * n + most) / 255], 3 / 255)
        expect((await middles(file, whole, n))[0], `frame ${n} alone`).toEqual(run[n])
      }
    }
  })
})

it('pixels become square by a side that grows', async () => {
  const raw = Buffer.alloc(3 * 72 * 58, 90)
  const wide = written('wide.mkv', raw, '72x58', 'bgr24', '-c:v', 'ffv1', '-aspect', '128:87')
  const info = await known(wide)
  expect([info.pixels, remarksOf(info).join()]).toEqual(['32:27', expect.stringContaining('pixels are 32:27')])
  const square = readAs(info, { pixels: '32:27' })
  expect([square.width, square.height]).toEqual([86, 58])
  for await (const { width, height, data } of decodeFrames({ type: 'file', path: wide }, square, {
    first: 0,
    count: 1,
  }))
    expect([width, height, data.length]).toEqual([86, 58, 3 * 86 * 58])
  expect(readAs(info, { pixels: '1:2' })).toMatchObject({ width: 72, height: 116, stored: { width: 72, height: 58 } })
})

describe('a rate that is not steady', () => {
  // Pictures at these moments, in 25ths of a second; the last one is shown for as long as the others are on the whole.
  const MOMENTS = [0, 1, 2, 3, 8, 9, 10, 16, 17, 18, 19, 20, 27, 28]
  const made = (): string => uneven('phone.mkv', MOMENTS, (n) => 10 + 15 * n)

  it('is conformed: each picture is shown until the next one comes, alone as in a run', async () => {
    const path = made()
    const info = await known(path)
    const seconds = (28 + 28 / 13) / 25
    expect(info.varies).toBeCloseTo(seconds, 3)
    const at25 = readAs(info, { fps: '25/1' })
    expect([at25.frames, remarksOf(at25).join()]).toEqual([
      Math.round(25 * seconds),
      expect.stringContaining('conformed to 25 frames a second'),
    ])
    const wanted = Array.from({ length: 29 }, (_, f) => MOMENTS.findLastIndex((m) => m <= f))
    const run = await middles(path, at25, 0, 29)
    expect(run.map(([v]) => Math.round((255 * v! - 10) / 15))).toEqual(wanted)
    for (const f of [1, 5, 15, 26]) expect((await middles(path, at25, f))[0], `frame ${f} alone`).toEqual(run[f])
    expect(readAs(info, { fps: '50/1' }).frames).toBe(Math.round(50 * seconds))
  })

  it('is the only one that a clip may have another than its file says', async () => {
    const steady = written('steady.mkv', Buffer.alloc(9 * 32 * 32), '32x32', 'rgb24', '-c:v', 'ffv1')
    const info = await known(steady)
    expect(info.varies).toBeUndefined()
    expect(() => readAs(info, { fps: '24/1' })).toThrow('only a clip whose rate is not steady')
  })
})

describe('a shot', () => {
  let rig: Rig
  let shot: Shot
  beforeAll(async () => {
    rig = await makeRig()
    const raw = Buffer.concat([150, 110, 140].map((c) => Buffer.alloc(64 * 64, c)))
    const path = written('shot.mkv', Buffer.concat([raw, raw, raw]), '64x64', 'yuv444p', '-c:v', 'ffv1')
    const made = await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Readings' } })
    const url = `/api/productions/${made.json<{ id: number }>().id}/media`
    const file = { name: 'shot.mkv', bytes: readFileSync(path) }
    shot = (await rig.app.inject({ method: 'POST', url, ...multipart([file]) })).json<{ shots: Shot[] }>().shots[0]!
  })
  afterAll(() => rig.close())
  const change = (payload: object) => rig.app.inject({ method: 'PATCH', url: `/api/shots/${shot.id}`, payload })

  it('keeps how it is read, and its frames and its renders are read so', async () => {
    expect([shot.reading, shot.medium.info.matrix]).toEqual([{}, '470bg'])
    const reading: Reading = { matrix: '2020_ncl', range: 'full' }
    const reply = await change({ revision: shot.revision, reading })
    shot = reply.json<Shot>()
    expect(shot).toMatchObject({ reading, medium: { info: { matrix: '2020_ncl', range: 'full', reading } } })
    const wanted = byMatrix([150, 110, 140], 0.2627, 0.0593, true)
    const frame = async (query: string): Promise<number[]> => {
      const url = `/api/media/${shot.mediumId}/frames/0?width=64${query}`
      const { rawPayload } = await rig.app.inject({ method: 'GET', url })
      return [0, 2, 4].map((at) => rawPayload.readUInt16LE(at) / 65535)
    }
    near(await frame('&matrix=2020_ncl&range=full'), wanted)
    near(await frame(''), byMatrix([150, 110, 140], 0.299, 0.114, false))

    const asked = { method: 'POST', url: `/api/shots/${shot.id}/renders`, payload: { format: 'png' } } as const
    const render = (await rig.app.inject(asked)).json<Render>()
    expect(render.reading).toEqual(reading)
    // What is read of it later does not change what was asked for.
    expect((await change({ revision: shot.revision, reading: {} })).json<Shot>().medium.info.matrix).toBe('470bg')
    const state = async () => (await rig.app.inject(`/api/renders/${render.id}`)).json<Render>()
    await expect.poll(async () => (await state()).state, { timeout: 30_000 }).toBe('done')
    expect((await state()).reading).toEqual(reading)
  })

  it('refuses a reading that does not apply to its footage, and one that does not exist', async () => {
    shot = (await rig.app.inject(`/api/shots/${shot.id}`)).json<Shot>()
    const refused = await change({ revision: shot.revision, reading: { bits: 12 } })
    expect([refused.statusCode, refused.json<{ message: string }>().message]).toEqual([
      400,
      expect.stringContaining('cannot be read with 12 bits'),
    ])
    const unknown = await change({ revision: shot.revision, reading: { matrix: 'xyz' } })
    expect([unknown.statusCode, unknown.json<{ message: string }>().message]).toEqual([
      400,
      expect.stringMatching(/matrix.*709/),
    ])
  })

  it('keeps its share of the time when its footage becomes longer', async () => {
    const path = uneven('even.mkv', [0, 1, 2, 9, 10, 19, 20, 21, 22, 23], () => 80)
    const url = `/api/productions/${shot.productionId}/media`
    const file = { name: 'phone.mkv', bytes: readFileSync(path) }
    const taken = await rig.app.inject({ method: 'POST', url, ...multipart([file]) })
    const own = taken.json<{ shots: Shot[] }>().shots.at(-1)!
    const at50 = await rig.app.inject({
      method: 'PATCH',
      url: `/api/shots/${own.id}`,
      payload: { revision: own.revision, reading: { fps: '50/1' } },
    })
    const now = at50.json<Shot>()
    expect(now.medium.info.frames).toBeGreaterThan(1.5 * own.medium.info.frames)
    expect([now.first, now.last]).toEqual([0, now.medium.info.frames - 1])
    expect(now.still / now.medium.info.frames).toBeCloseTo(own.still / own.medium.info.frames, 1)
  })
})
