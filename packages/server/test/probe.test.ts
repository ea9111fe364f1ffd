import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { remarksOf } from '@fogbath/core/footage'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { decodeFrames } from '../src/media/decode'
import type { MediaInfo } from '@fogbath/contract'
import { probe } from '../src/media/probe'
import { reachOf } from '../src/media/reach'
import { withPlainName } from '../src/media/plain-name'
import { linkSequence } from '../src/media/source'
import { readPixels } from './helpers'

let folder: string
beforeAll(() => void (folder = mkdtempSync(join(tmpdir(), 'fogbath-probe-'))))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** Draws half a second of a test picture into a file. */
function made(name: string, ...how: string[]): string {
  const path = join(folder, name)
  const source = ['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=24:d=0.5']
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...source, ...how, path])
  return path
}
const read = (path: string, label = path): Promise<MediaInfo> =>
  withPlainName(path, (plain) => probe({ type: 'file', path: plain }, label))
const one = ['-frames:v', '1']

describe('what a file holds', () => {
  it('is told by its contents: kind, size, frames, rate, depth', async () => {
    const clip = await read(made('ten.mp4', '-c:v', 'libx264', '-pix_fmt', 'yuv420p10le'))
    expect(clip).toMatchObject({ kind: 'clip', width: 320, height: 180, frames: 12, fps: '24/1', bits: 10 })
    expect(clip).toMatchObject({ codec: 'h264', range: 'limited', float: false, warnings: [] })
    const still = await read(made('deep.png', ...one, '-pix_fmt', 'rgb48be'))
    expect(still).toMatchObject({ kind: 'still', frames: 1, fps: '0/1', bits: 16, matrix: 'gbr', range: 'full' })
    const light = await read(made('light.exr', ...one, '-pix_fmt', 'gbrpf32le', '-format', 'float'))
    expect(light).toMatchObject({ kind: 'still', bits: 32, float: true, encoding: 'linear' })
  })
  it('has a warning when it is only 8 bits deep', async () => {
    const shallow = await read(made('eight.mp4', '-c:v', 'libx264', '-pix_fmt', 'yuv420p'))
    expect(shallow.bits).toBe(8)
    expect(shallow.warnings.join()).toMatch(/8 bits deep: strong treatments will show banding/)
  })
  it('has a warning when it is tagged as high dynamic range', async () => {
    const tags = 'colorprim=bt2020:transfer=smpte2084:colormatrix=bt2020nc'
    const info = await read(made('bright.mp4', '-c:v', 'libx264', '-pix_fmt', 'yuv420p10le', '-x264-params', tags))
    expect(info.warnings.join()).toMatch(/High dynamic range/)
    expect(info).toMatchObject({ encoding: 'pq', matrix: '2020_ncl' })
  })
  it('has a warning when its pixels are not square, and when it is interlaced', async () => {
    const wide = await read(made('wide.mp4', '-vf', 'setsar=2', '-c:v', 'libx264'))
    expect(remarksOf(wide).join()).toMatch(/pixels are 2:1, and are worked on as if they were square/)
    const fields = ['-vf', 'interlace', '-flags', '+ilme+ildct', '-c:v', 'libx264', '-x264-params', 'interlaced=1']
    expect(remarksOf(await read(made('fields.mp4', ...fields))).join()).toMatch(/Interlaced: each frame/)
  })
  it('is a still where an AVIF holds one picture', async () => {
    const still = await read(made('one.avif', '-frames:v', '1', '-c:v', 'libaom-av1', '-still-picture', '1'))
    expect(still).toMatchObject({ kind: 'still', codec: 'av1', frames: 1, encoding: 'srgb' })
  })
  it('is known by the codes that it uses, but for specks', async () => {
    // Grey from a quarter to a half of all codes, with a few pixels of white.
    const drawn =
      "color=black:s=320x180:d=0.5,format=gray16le,geq=lum='if(lt(X+Y,6),65535,16384+16384*X/W)',format=gbrp16le"
    const path = join(folder, 'reach.mkv')
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-f',
      'lavfi',
      '-i',
      drawn,
      '-c:v',
      'ffv1',
      '-pix_fmt',
      'gbrp16le',
      path,
    ])
    const source = { type: 'file' as const, path }
    const { reach } = await reachOf(source, await probe(source, path))
    expect(reach!.low).toBeCloseTo(0.25, 1)
    expect(reach!.high).toBeCloseTo(0.5, 1)
    const light = made('light.exr', ...one, '-pix_fmt', 'gbrpf32le', '-format', 'float')
    expect(await reachOf({ type: 'file', path: light }, await read(light))).toEqual({})
  })
  it('keeps its odd rate as a fraction', async () => {
    expect((await read(made('ntsc.mp4', '-r', '30000/1001', '-c:v', 'libx264'))).fps).toBe('30000/1001')
  })
  it('stands upright when a telephone held it sideways', async () => {
    const flat = made('flat.mp4', '-c:v', 'libx264')
    const turned = join(folder, 'turned.mp4')
    const how = ['-c', 'copy', '-metadata:s:v', 'rotate=90']
    execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', flat, ...how, turned])
    expect(await read(turned)).toMatchObject({ width: 180, height: 320 })
  })
  it('guesses the matrix of untagged pictures by their size, and full range for JPEG', async () => {
    expect(await read(made('small.mp4', '-c:v', 'libx264', '-pix_fmt', 'yuv420p'))).toMatchObject({ matrix: '470bg' })
    const large = made('large.mp4', '-vf', 'scale=1280:720', '-c:v', 'libx264', '-pix_fmt', 'yuv420p')
    expect(await read(large)).toMatchObject({ matrix: '709' })
    expect(await read(made('photo.jpg', ...one))).toMatchObject({ range: 'full', encoding: 'srgb', matrix: '470bg' })
  })
  it('takes the log encoding from a name that says it', async () => {
    const path = made('gate-acescct.mp4', '-c:v', 'libx264')
    expect((await read(path, 'gate-acescct.mp4')).encoding).toBe('acescct')
    expect((await read(path, 'gate.mp4')).encoding).toBe('bt1886')
  })
})

describe('numbered stills', () => {
  it('are one sequence at the rate that is asked for', async () => {
    const paths = [0, 1, 2].map((i) => made(`s${i}.png`, '-vf', `select=eq(n\\,${i})`, ...one))
    const links = mkdtempSync(join(folder, 'links-'))
    const info = await probe(await linkSequence(paths, links, '25/1'), 'stills')
    expect(info).toMatchObject({ kind: 'sequence', frames: 3, fps: '25/1', width: 320 })
    // All of them, from the first on.
    const source = await linkSequence(paths, mkdtempSync(join(folder, 'links-')), '25/1')
    let i = 0
    for await (const { data } of decodeFrames(source, info, { first: 0, count: 3 })) {
      const wanted = readPixels(paths[i++]!)
      const apart = (data as Uint16Array).reduce((sum, v, k) => sum + Math.abs(v - wanted[k]!), 0) / data.length
      expect(apart).toBeLessThan(400)
    }
    expect(i).toBe(3)
  })
})

describe('what cannot be read', () => {
  it('a header without a frame behind it is said to hold none', async () => {
    const path = made('empty.avi', '-c:v', 'ffv1', '-frames:v', '0')
    await expect(read(path, 'empty.avi')).rejects.toThrow('empty.avi holds no frames.')
  })
  it('is refused by name, with the reason', async () => {
    const text = join(folder, 'notes.mp4')
    writeFileSync(text, 'no picture at all')
    await expect(read(text, 'notes.mp4')).rejects.toThrow(/^notes\.mp4 is not a picture or clip that can be read/)
    await expect(read(join(folder, 'none.mp4'), 'none.mp4')).rejects.toThrow(/none\.mp4 does not exist/)
    await expect(read(folder, 'folder')).rejects.toThrow(/is not a file/)
    const sound = join(folder, 'sound.mp4')
    execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'sine=d=0.2', sound])
    await expect(read(sound, 'sound.mp4')).rejects.toThrow(/sound\.mp4 holds no picture/)
  })
  it('a playlist that points elsewhere is never followed', async () => {
    const list = join(folder, 'list.m3u8')
    writeFileSync(list, '#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nhttp://127.0.0.1:9/part.ts\n#EXT-X-ENDLIST\n')
    await expect(read(list, 'list.m3u8')).rejects.toThrow(/not a picture or clip/)
    const concat = join(folder, 'concat.txt')
    writeFileSync(concat, `ffconcat version 1.0\nfile '${join(folder, 'ten.mp4')}'\n`)
    await expect(read(concat, 'concat.txt')).rejects.toThrow(/not a picture or clip/)
  })
})
