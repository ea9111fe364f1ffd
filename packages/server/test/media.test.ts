import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import {
  chmodSync,
  copyFileSync,
  createReadStream,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  symlinkSync,
} from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { Readable } from 'node:stream'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { withFile } from '../src/files/inside'
import { openWriter, type Target } from '../src/media/encode'
import { FrameCache } from '../src/media/frames'
import { probe } from '../src/media/probe'
import { MediaStore } from '../src/media/store'
import { makeFootage, makeRig, readPixels, type Rig } from './helpers'

let rig: Rig
let footage: ReturnType<typeof makeFootage>
let production: number
beforeAll(async () => {
  rig = await makeRig()
  footage = makeFootage(rig.folder)
  const made = await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Media' } })
  production = made.json<{ id: number }>().id
})
afterAll(() => rig.close())

const watched = (...names: string[]): string => join(rig.folder, 'watched', ...names)
const pick = async (paths: string[], asSequence = false) => {
  const url = `/api/productions/${production}/pick`
  const reply = await rig.app.inject({ method: 'POST', url, payload: { paths, asSequence } })
  return { status: reply.statusCode, ...reply.json<{ message?: string; shots?: { medium: { sha256: string } }[] }>() }
}

describe('the watched folder', () => {
  it('ends at its own name: a neighbour whose name begins alike is outside, by path and by link', async () => {
    mkdirSync(watched(), { recursive: true })
    mkdirSync(join(rig.folder, 'watched-not'))
    copyFileSync(footage.png, join(rig.folder, 'watched-not/secret.png'))
    copyFileSync(footage.png, watched('open.png'))
    symlinkSync(join(rig.folder, 'watched-not/secret.png'), watched('link.png'))
    symlinkSync(rig.folder, watched('up'))
    for (const path of ['../watched-not/secret.png', 'link.png', 'up/watched-not/secret.png', '..', '.']) {
      const { status, message } = await pick([path])
      expect([403, 404], `${path}: ${message}`).toContain(status)
    }
    expect((await pick(['../watched-not/secret.png'])).message).toMatch(/lies outside the watched folder/)
    expect((await pick(['nothing.png'])).message).toMatch(/nothing.png is not in the watched folder/)
    expect((await pick(['open.png'])).status).toBe(201)
  })
})

describe('what is no regular file', () => {
  it('is refused in words, and the server goes on: unreadable files, pipes, sockets, folders', async () => {
    mkdirSync(watched('odd', 'folder.png'), { recursive: true })
    copyFileSync(footage.png, watched('odd', 'good.png'))
    const pipes = Array.from({ length: 6 }, (_, i) => watched('odd', `pipe${i}.png`))
    execFileSync('mkfifo', pipes)
    const socket = createServer().listen(watched('odd', 'socket.png'))
    await new Promise((resolve) => socket.once('listening', resolve))
    try {
      for (const name of ['folder.png', 'socket.png', ...pipes.map((p) => basename(p))]) {
        const alone = await pick([`odd/${name}`])
        expect([alone.status, name]).toEqual([422, name])
        expect(alone.message).toMatch(/is not a file/)
        expect((await pick([`odd/${name}`, 'odd/good.png'], true)).status).toBe(422)
      }
      const list = await rig.app.inject({ url: '/api/watched' })
      const listed = list.json<{ files: { path: string }[]; left: number }>()
      expect(listed.files.map((f) => f.path).filter((p) => p.startsWith('odd/'))).toEqual(['odd/good.png'])
      expect(listed.left).toBe(0)
      expect((await pick(['odd/good.png'])).status).toBe(201)
    } finally {
      socket.close()
    }
  })
  it('says what may not be read', async () => {
    const path = watched('odd', 'closed.png')
    copyFileSync(footage.png, path)
    chmodSync(path, 0o000)
    // The system's root may read everything; for a moment we are somebody else.
    const root = process.getuid!() === 0
    if (root) process.seteuid!(65534)
    try {
      await expect(withFile(path, async () => 1)).rejects.toThrow('closed.png may not be read by the server.')
    } finally {
      if (root) process.seteuid!(0)
    }
  })
})

describe('pictures with an odd side', () => {
  /** Soft colours, so that subsampled chroma costs little. */
  const SMOOTH = 'gradients=s=170x100:r=24:d=0.25:speed=0.03:seed=5,format=gbrp,crop=161:91'
  const run = (...args: string[]): void => void execFileSync('ffmpeg', ['-v', 'error', '-y', ...args])
  let truth: string
  beforeAll(() => {
    truth = join(rig.folder, 'truth.png')
    run('-f', 'lavfi', '-i', SMOOTH, '-frames:v', '1', '-pix_fmt', 'rgb48be', truth)
  })
  it.each([
    ['odd.jpg', ['-frames:v', '1', '-pix_fmt', 'yuvj420p', '-q:v', '2']],
    ['odd422.jpg', ['-frames:v', '1', '-pix_fmt', 'yuvj422p', '-q:v', '2']],
    ['odd.webp', ['-frames:v', '1', '-pix_fmt', 'yuv420p', '-quality', '98']],
    ['odd.webm', ['-c:v', 'libvpx-vp9', '-pix_fmt', 'yuv420p', '-crf', '8', '-b:v', '0']],
    ['odd.mkv', ['-c:v', 'ffv1', '-pix_fmt', 'yuv420p10le']],
  ])('%s is taken in and shows what it holds', async (name, args) => {
    const path = join(rig.folder, name)
    run('-loop', '1', '-framerate', '24', '-t', '0.25', '-i', truth, ...args, path)
    const source = { type: 'file' as const, path }
    const info = await probe(source, name)
    expect([info.width, info.height]).toEqual([161, 91])
    const cache = new FrameCache(join(rig.folder, 'odd-cache'))
    const frame = await cache.frame(source, info, name, 0, 161)
    const codes = new Uint16Array(
      frame.bytes.buffer.slice(frame.bytes.byteOffset, frame.bytes.byteOffset + frame.bytes.length),
    )
    // The same picture without any compression or subsampling.
    const wanted = readPixels(truth)
    const mean = codes.reduce((sum, v, i) => sum + Math.abs(v - wanted[i]!), 0) / codes.length / 257
    expect(mean).toBeLessThan(2.5)
    expect((await cache.frame(source, info, name, 0, 80)).width).toBe(80)
  })
})

const stills = (name: string, colours: string[], size = '32x18'): string[] => {
  mkdirSync(watched(name), { recursive: true })
  return colours.map((colour, i) => {
    const path = watched(name, `shot.${String(i).padStart(3, '0')}.png`)
    execFileSync('ffmpeg', [
      ...['-v', 'error', '-y', '-f', 'lavfi', '-i', `color=${colour}:s=${size}:d=0.1`],
      ...['-frames:v', '1', '-pix_fmt', 'rgb48be', path],
    ])
    return `${name}/shot.${String(i).padStart(3, '0')}.png`
  })
}

describe('a sequence', () => {
  it('is known by the contents of its stills, not by their names or number', async () => {
    const shaOf = async (paths: string[]) => (await pick(paths, true)).shots!.at(-1)!.medium.sha256
    const one = await shaOf(stills('one', ['red', 'green', 'blue']))
    const other = await shaOf(stills('other', ['red', 'green', 'gray']))
    const turned = await shaOf(stills('turned', ['green', 'red', 'blue']))
    const same = await shaOf(stills('same', ['red', 'green', 'blue']))
    expect(new Set([one, other, turned]).size).toBe(3)
    expect(same).toBe(one)
  })

  it('refuses stills of two sizes and what is no still, by name', async () => {
    const [first] = stills('sizes', ['red'])
    const [odd] = stills('odd-sizes', ['red'], '30x18')
    expect((await pick([first!, odd!], true)).message).toBe('shot.000.png is 30x18, but the sequence is 32x18.')
    copyFileSync(footage.clip, watched('clip.mp4'))
    expect((await pick([first!, 'clip.mp4'], true)).message).toMatch(/clip.mp4 is not a still/)
    // Nothing half-taken stays behind.
    expect(readdirSync(join(rig.folder, 'media')).filter((n) => n.startsWith('incoming'))).toEqual([])
  })
})

describe('the store', () => {
  it('says that the disk is full, by the name of what could not be stored', async () => {
    const store = new MediaStore(join(rig.folder, 'full'))
    const stream = new Readable({
      read() {
        this.destroy(Object.assign(new Error('ENOSPC: no space left on device, write'), { code: 'ENOSPC' }))
      },
    })
    await expect(store.take(stream, 'long.mov')).rejects.toThrow('The disk is full: long.mov could not be stored.')
    expect(readdirSync(join(rig.folder, 'full'))).toEqual([])
  })

  it('puts media whose hashes begin alike into one folder', async () => {
    const store = new MediaStore(join(rig.folder, 'alike'))
    const sha256 = createHash('sha256').update(readFileSync(footage.tiff)).digest('hex')
    mkdirSync(join(rig.folder, 'alike', sha256.slice(0, 2)), { recursive: true })
    const { medium } = await store.take(createReadStream(footage.tiff), 'still.tif')
    expect(medium.sha256).toBe(sha256)
    expect(readFileSync(join(rig.folder, 'alike', sha256.slice(0, 2), sha256))).toEqual(readFileSync(footage.tiff))
  })
})

describe('footage as a file', () => {
  it('is sent whole and in parts, as it was taken in; sequences and what is not there are refused in words', async () => {
    copyFileSync(footage.clip, watched('whole.mp4'))
    const picked = await pick(['whole.mp4'])
    const { id } = (picked.shots as unknown as { medium: { id: number } }[]).at(-1)!.medium
    const get = (url: string, headers = {}) => rig.app.inject({ method: 'GET', url, headers })
    const bytes = readFileSync(footage.clip)
    const whole = await get(`/api/media/${id}/file`)
    expect([whole.statusCode, whole.headers['accept-ranges'], whole.rawPayload.equals(bytes)]).toEqual([
      200,
      'bytes',
      true,
    ])
    const part = await get(`/api/media/${id}/file`, { range: 'bytes=100-199' })
    expect([part.statusCode, part.headers['content-range']]).toEqual([206, `bytes 100-199/${bytes.length}`])
    expect(part.rawPayload.equals(bytes.subarray(100, 200))).toBe(true)
    const beyond = await get(`/api/media/${id}/file`, { range: `bytes=${bytes.length}-` })
    expect(beyond.statusCode).toBe(416)
    const shots = (await pick(stills('filed', ['red', 'blue']), true)).shots as unknown as { medium: { id: number } }[]
    const sequence = await get(`/api/media/${shots.at(-1)!.medium.id}/file`)
    expect([sequence.statusCode, sequence.json<{ message: string }>().message]).toEqual([
      400,
      'shot.000.png is a sequence of files, not one.',
    ])
    expect((await get('/api/media/999999/file')).statusCode).toBe(404)
  })
})

describe('tags of a delivered clip', () => {
  const written = async (encoding: string, format: 'mp4' | 'mov', width = 32): Promise<string[]> => {
    const folder = mkdtempSync(join(tmpdir(), 'fogbath-tags-'))
    try {
      const target: Target = {
        delivery: { format },
        path: join(folder, `out.${format}`),
        start: 0,
        width,
        height: 18,
        fps: '24/1',
        encoding,
      }
      const writer = await openWriter(target)
      for (let i = 0; i < 2; i++) await writer.write(new Uint16Array(3 * width * 18).fill(30000))
      await writer.end()
      const entries = 'stream=codec_name,pix_fmt,color_space,color_transfer,color_primaries'
      const args = ['-v', 'error', '-show_entries', entries, '-of', 'csv=p=0', target.path]
      return execFileSync('ffprobe', args).toString().trim().split(',')
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
  }
  // Names as ffprobe gives them to the code points of ITU-T H.273.
  it.each([
    ['bt1886', ['bt709', 'bt709', 'bt709']],
    ['srgb', ['bt709', 'iec61966-2-1', 'bt709']],
    ['bt2020', ['bt2020nc', 'bt2020-10', 'bt2020']],
    ['p3', ['bt709', 'iec61966-2-1', 'smpte432']],
    ['pq', ['bt2020nc', 'smpte2084', 'bt2020']],
    ['hlg', ['bt2020nc', 'arib-std-b67', 'bt2020']],
  ])('say that it is %s', async (encoding, tags) => {
    expect((await written(encoding, 'mp4')).slice(2)).toEqual(tags)
  })
  it('go with 4:2:0 in H.264 and 4:2:2 in ProRes, and full chroma where a side is odd', async () => {
    expect((await written('bt1886', 'mp4')).slice(0, 2)).toEqual(['h264', 'yuv420p10le'])
    expect((await written('bt1886', 'mov')).slice(0, 2)).toEqual(['prores', 'yuv422p10le'])
    expect((await written('bt1886', 'mp4', 33)).slice(0, 2)).toEqual(['h264', 'yuv444p10le'])
  })
})

describe('the cache of frames over its budget', () => {
  it('throws out what was used longest ago and keeps the newest', async () => {
    const folder = join(rig.folder, 'small-cache')
    const source = { type: 'file' as const, path: footage.ffv1 }
    const info = await probe(source, 'clip')
    const size = 160 * 96 * 6
    const cache = new FrameCache(folder, 8 * size)
    const kept = (): number[] =>
      readdirSync(join(folder, 'sha', '160'))
        .map((n) => Number(n.split('.')[0]))
        .sort((a, b) => a - b)
    await cache.frame(source, info, 'sha', 0, 160)
    // Twelve frames are decoded one after the other; eight fit, and three quarters of that are left when they do not.
    await expect.poll(() => kept().at(-1), { timeout: 90_000 }).toBe(11)
    await expect.poll(() => kept().length, { timeout: 90_000 }).toBeLessThanOrEqual(8)
    expect(kept()).not.toContain(0)
    const total = kept().reduce((sum, n) => sum + statSync(join(folder, 'sha/160', `${n}.rgb`)).size, 0)
    expect(total).toBeLessThanOrEqual(8 * size)
    // One that was used again outlives younger ones.
    const oldest = kept()[0]!
    const served = await cache.frame(source, info, 'sha', oldest, 160)
    expect(new Uint16Array(served.bytes.buffer.slice(served.bytes.byteOffset, served.bytes.byteOffset + size))).toEqual(
      readPixels(footage.ffv1, oldest),
    )
    await new Promise((resolve) => setTimeout(resolve, 20))
    for (const i of [0, 1, 2]) await cache.frame(source, info, 'other', i, 160)
    await expect.poll(() => readdirSync(join(folder, 'other', '160')).length, { timeout: 90_000 }).toBeGreaterThan(3)
    expect(kept().every((n) => n === oldest) || !kept().length || kept().includes(oldest)).toBe(true)
  })
})
