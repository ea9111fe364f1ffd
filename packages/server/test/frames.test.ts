import { execFileSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { halfToNumber } from '@fogbath/core/numbers'
import Fastify from 'fastify'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { installErrors } from '../src/http/errors'
import { FrameCache } from '../src/media/frames'
import type { MediaInfo } from '@fogbath/contract'
import { probe } from '../src/media/probe'
import { makeFootage, readPixels } from './helpers'

let folder: string
let clip: { type: 'file'; path: string }
let info: MediaInfo
/** 48 frames: two runs. */
let long: { type: 'file'; path: string }
let longInfo: MediaInfo
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'fogbath-frames-'))
  const footage = makeFootage(folder)
  clip = { type: 'file', path: footage.ffv1 }
  info = await probe(clip, 'clip')
  long = { type: 'file', path: footage.clip }
  longInfo = await probe(long, 'clip')
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const numbers = (bytes: Buffer): Uint16Array =>
  new Uint16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))

/** Floats without compression, laid down byte by byte (OpenEXR file layout, version 2, from memory). */
function exrOf(width: number, height: number, colourAt: (x: number, y: number) => [number, number, number]): Buffer {
  const int = (...v: number[]): Buffer => Buffer.from(Int32Array.from(v).buffer)
  const float = (...v: number[]): Buffer => Buffer.from(Float32Array.from(v).buffer)
  const attribute = (name: string, type: string, value: Buffer): Buffer =>
    Buffer.concat([Buffer.from(`${name}\0${type}\0`), int(value.length), value])
  // Type 2 is a float; linear or not, and how many pixels a sample stands for.
  const channels = ['B', 'G', 'R'].map((name) => Buffer.concat([Buffer.from(`${name}\0`), int(2, 0, 1, 1)]))
  const window = int(0, 0, width - 1, height - 1)
  const head = Buffer.concat([
    int(20000630, 2),
    attribute('channels', 'chlist', Buffer.concat([...channels, Buffer.alloc(1)])),
    attribute('compression', 'compression', Buffer.alloc(1)),
    attribute('dataWindow', 'box2i', window),
    attribute('displayWindow', 'box2i', window),
    attribute('lineOrder', 'lineOrder', Buffer.alloc(1)),
    attribute('pixelAspectRatio', 'float', float(1)),
    attribute('screenWindowCenter', 'v2f', float(0, 0)),
    attribute('screenWindowWidth', 'float', float(1)),
    Buffer.alloc(1),
  ])
  const lines = Array.from({ length: height }, (_, y) => {
    const colours = Array.from({ length: width }, (_, x) => colourAt(x, y))
    const samples = [2, 1, 0].flatMap((channel) => colours.map((c) => c[channel]!))
    return Buffer.concat([int(y, 4 * samples.length), float(...samples)])
  })
  const starts = Buffer.alloc(8 * height)
  lines.reduce((at, line, y) => {
    starts.writeBigUInt64LE(BigInt(at), 8 * y)
    return at + line.length
  }, head.length + starts.length)
  return Buffer.concat([head, starts, ...lines])
}

describe('the cache of frames', () => {
  it('serves many requests of one run by one decoding, each with its own frame', async () => {
    const cache = new FrameCache(join(folder, 'one'))
    const wanted = [3, 0, 7, 3, 1]
    const served = await Promise.all(wanted.map((i) => cache.frame(clip, info, 'sha', i, info.width)))
    served.forEach((f, at) => expect(numbers(f.bytes)).toEqual(readPixels(clip.path, wanted[at])))
    expect(served[0]!.bytes).toEqual(served[3]!.bytes)
  })

  it('makes the next run ready while the end of one is being asked for, and not before', async () => {
    const at = join(folder, 'ahead')
    const cache = new FrameCache(at)
    const { width } = longInfo
    const has = (i: number): boolean => existsSync(join(at, 'sha', String(width), `${i}.rgb`))
    await cache.frame(long, longInfo, 'sha', 2, width)
    await vi.waitFor(() => expect(has(23)).toBe(true), { timeout: 90_000 })
    expect(has(24)).toBe(false)
    await cache.frame(long, longInfo, 'sha', 20, width)
    await vi.waitFor(() => expect(has(47)).toBe(true), { timeout: 90_000 })
    // Nothing half-written stays behind.
    expect(readdirSync(join(at, 'sha', String(width))).filter((n) => n.endsWith('.part'))).toEqual([])
  })

  it('makes ready only the run that comes next, and none that is there', async () => {
    // Three runs.
    const path = join(folder, 'longer.mkv')
    const drawn = 'testsrc2=s=32x18:r=24:d=3'
    execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', drawn, '-c:v', 'ffv1', '-pix_fmt', 'gbrp16le', path])
    const source = { type: 'file' as const, path }
    const own = await probe(source, 'longer')
    const at = join(folder, 'runs')
    const cache = new FrameCache(at)
    const file = (i: number): string => join(at, 'sha', '32', `${i}.rgb`)
    const there = (i: number) => vi.waitFor(() => expect(existsSync(file(i))).toBe(true), { timeout: 90_000 })
    await cache.frame(source, own, 'sha', 25, 32)
    await there(47)
    await new Promise((resolve) => setTimeout(resolve, 400))
    expect([existsSync(file(0)), existsSync(file(48))]).toEqual([false, false])
    await cache.frame(source, own, 'sha', 40, 32)
    await there(71)
    const before = statSync(file(48)).ino
    await cache.frame(source, own, 'sha', 41, 32)
    await new Promise((resolve) => setTimeout(resolve, 400))
    expect(statSync(file(48)).ino).toBe(before)
  })

  it('serves the next larger of a few widths, and the footage’s own beyond them', async () => {
    const cache = new FrameCache(join(folder, 'widths'))
    const widthOf = async (wanted: number) => (await cache.frame(clip, info, 'sha', 0, wanted)).width
    expect([await widthOf(16), await widthOf(80), await widthOf(81), await widthOf(150), await widthOf(9000)]).toEqual([
      ...[80, 80, 160, 160, 160],
    ])
    expect(readdirSync(join(folder, 'widths/sha')).sort()).toEqual(['160', '80'])
  })

  it('serves float footage as half floats, whole and scaled', async () => {
    const path = makeFootage(folder).exr
    const source = { type: 'file' as const, path }
    const own = await probe(source, 'light.exr')
    const cache = new FrameCache(join(folder, 'float'))
    const means = [own.width, 80].map(async (width) => {
      const frame = await cache.frame(source, own, 'exr', 0, width)
      expect([frame.format, frame.width, frame.bytes.length]).toEqual(['f16', width, 6 * width * frame.height])
      const halves = Array.from(numbers(frame.bytes), halfToNumber)
      return halves.reduce((sum, v) => sum + v, 0) / halves.length
    })
    const [whole, scaled] = (await Promise.all(means)) as [number, number]
    expect(whole).toBeGreaterThan(0.05)
    expect(scaled).toBeCloseTo(whole, 2)
  })

  it('gives each channel of EXR as it was written', async () => {
    const [width, height] = [96, 54]
    const path = join(folder, 'by-hand.exr')
    writeFileSync(
      path,
      exrOf(width, height, (x, y) => [x / 128, y / 64, 2]),
    )
    const source = { type: 'file' as const, path }
    const own = await probe(source, 'by-hand.exr')
    const { bytes } = await new FrameCache(join(folder, 'exr')).frame(source, own, 'by-hand', 0, width)
    const pixels = Array.from(numbers(bytes), halfToNumber)
    const at = (x: number, y: number) => pixels.slice(3 * (y * width + x), 3 * (y * width + x) + 3)
    expect(at(0, 0)).toEqual([0, 0, 2])
    expect(at(64, 16)).toEqual([0.5, 0.25, 2])
    expect(at(95, 53)).toEqual([95 / 128, 53 / 64, 2])
  })

  // Planes as ffmpeg has them: green, blue, red, alpha; or grey alone.
  it.each([
    ['gbrapf32le', [2.5, 0.25, 7, 0.5], [7, 2.5, 0.25]],
    ['grayf32le', [3.5], [3.5, 3.5, 3.5]],
  ])('gives light above white of EXR in %s as it was written, whole and scaled', async (format, planes, rgb) => {
    const path = join(folder, `${format}.exr`)
    const input = ['-f', 'rawvideo', '-pixel_format', format, '-video_size', '16x16', '-i', 'pipe:0']
    execFileSync('ffmpeg', ['-v', 'error', '-y', ...input, '-frames:v', '1', '-pix_fmt', format, path], {
      input: Buffer.from(
        Float32Array.from({ length: planes.length * 256 }, (_, i) => planes[Math.floor(i / 256)]!).buffer,
      ),
    })
    const source = { type: 'file' as const, path }
    const own = await probe(source, path)
    for (const width of [16, 8]) {
      const { bytes } = await new FrameCache(join(folder, 'exr')).frame(source, own, format, 0, width)
      expect(Array.from(numbers(bytes), halfToNumber).slice(0, 3)).toEqual(rgb)
    }
  })

  it('lets a few decoders work at once and gives up what nobody waits for', async () => {
    const [own, cancelled] = [new FrameCache(join(folder, 'many')), new AbortController()]
    // Twelve pieces of footage at once: the last of them wait their turn.
    const asked = Array.from({ length: 12 }, (_, i) =>
      own.frame(long, longInfo, `sha${i}`, 0, longInfo.width, i > 5 ? cancelled.signal : undefined).then(
        () => 'served',
        (error: Error) => error.message,
      ),
    )
    cancelled.abort()
    expect(await Promise.all(asked)).toEqual([
      ...Array(6).fill('served'),
      ...Array(6).fill('Nobody waits for this frame any more.'),
    ])
    // Whoever comes later is served all the same.
    expect((await own.frame(long, longInfo, 'sha11', 0, longInfo.width)).width).toBe(longInfo.width)
  })

  it('tells those who wait that a file cannot be read, and can be asked again', async () => {
    const cache = new FrameCache(join(folder, 'broken'))
    const gone = { type: 'file' as const, path: join(folder, 'gone.mkv') }
    await expect(cache.frame(gone, info, 'none', 1, info.width)).rejects.toThrow(/could be read/)
    await expect(cache.frame(gone, info, 'none', 1, info.width)).rejects.toThrow(/could be read/)
    await expect(cache.frame(clip, info, 'sha', info.frames, info.width)).rejects.toThrow(/does not exist/)
  })
})

describe('a cache that cannot be written', () => {
  it('serves what was decoded before, tells the others why, and the server goes on', async () => {
    const at = join(folder, 'blocked')
    mkdirSync(join(at, 'sha', String(info.width), '0.rgb', 'something'), { recursive: true })
    const cache = new FrameCache(at)
    expect((await cache.frame(clip, info, 'sha', 0, info.width)).bytes.length).toBe(info.width * info.height * 6)
    await expect(cache.frame(clip, info, 'sha', 1, info.width)).rejects.toThrow(/0\.rgb/)
  })
})

describe('a full disk', () => {
  it('is told in a sentence, without the inside of the server', async () => {
    const app = Fastify()
    installErrors(app)
    app.get('/full', () => {
      throw Object.assign(new Error('ENOSPC: no space left on device, write'), { code: 'ENOSPC' })
    })
    app.get('/odd', () => {
      throw new Error('inside')
    })
    const full = await app.inject({ url: '/full' })
    expect([full.statusCode, full.json<{ message: string }>().message]).toEqual([
      507,
      'The server’s disk is full; make room and try again.',
    ])
    const odd = await app.inject({ url: '/odd' })
    expect(odd.statusCode).toBe(500)
    expect(odd.body).not.toContain('inside the')
    expect(odd.json<{ message: string }>().message).not.toContain('Error')
    await app.close()
  })
})
