import { execFileSync, spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { DELIVERY_IDS, deliveryFormat, type DeliveryId } from '@fogbath/core/delivery'
import { UNTREATED } from '@fogbath/core/treat'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { doWork, outputAt, planWork, type Planned } from '../src/cli/work'
import { probe } from '../src/media/probe'
import { FramePool } from '../src/render/pool'
import { PROGRAM } from './program'

/** Whatever is delivered: cut off in the middle, nothing lies under a final name, and nothing beside it. */

let folder: string
let clip: string
let source: Planned['source']
let info: Planned['info']
const pool = new FramePool()
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'fogbath-cut-off-'))
  clip = join(folder, 'clip.mkv')
  const drawn = ['-f', 'lavfi', '-i', 'gradients=s=256x144:r=24:d=1:speed=0.03:seed=5', '-f', 'lavfi', '-i', 'sine=d=1']
  execFileSync('ffmpeg', [
    '-v',
    'error',
    ...drawn,
    '-c:v',
    'ffv1',
    '-pix_fmt',
    'yuv444p10le',
    '-c:a',
    'pcm_s16le',
    clip,
  ])
  source = { type: 'file', path: clip }
  info = await probe(source, 'clip.mkv')
})
afterAll(async () => {
  await pool.close()
  rmSync(folder, { recursive: true, force: true })
})

async function planned(format: DeliveryId, out: string): Promise<Planned> {
  const { moving, ending } = deliveryFormat(format)
  return planWork({
    source,
    info,
    label: 'clip.mkv',
    order: { ...UNTREATED, encoding: 'bt1886' },
    output: outputAt(join(out, `out${moving ? '' : '.%04d'}.${ending}`), { format }),
    first: 0,
    count: 24,
    fps: info.fps,
    reads: [],
    force: false,
  })
}
const folderFor = (name: string): string => {
  const path = join(folder, name)
  mkdirSync(path)
  return path
}

describe.each(DELIVERY_IDS)('%s', (format) => {
  it('stopped in the middle leaves nothing', async () => {
    const out = folderFor(`stopped ${format}`)
    const stop = new AbortController()
    const done: number[] = []
    const work = doWork(await planned(format, out), pool, {
      signal: stop.signal,
      onFrame: (n) => {
        done.push(n)
        if (n === 6) stop.abort()
      },
    })
    await expect(work).rejects.toThrow(/abort/i)
    expect(done.length).toBeLessThan(24)
    expect(readdirSync(out)).toEqual([])
  })
})

describe.each([
  ['a clip', 'out.mov'],
  ['a lossless clip', 'out.mkv'],
  ['stills', 'out.%04d.exr'],
])('%s', (_, name) => {
  const args = [PROGRAM, 'process', 'clip.mkv', '--recipe', 'plain', '-o']
  it('whose program is killed has no file under its name', async () => {
    const out = folderFor(`killed ${name}`)
    const child = spawn(process.execPath, [...args, join(out, name)], { cwd: folder, stdio: 'ignore' })
    const ended = new Promise((resolve) => child.once('exit', resolve))
    // Work has begun beside it.
    const begun = () => readdirSync(out).some((entry) => entry.startsWith('.fogbath-'))
    await expect.poll(begun, { timeout: 90_000, interval: 5 }).toBe(true)
    child.kill('SIGKILL')
    await ended
    expect(readdirSync(out).filter((entry) => !entry.startsWith('.fogbath-'))).toEqual([])
  })
  it('that finds no room says so with its exit code, and leaves nothing', () => {
    const out = folderFor(`full ${name}`)
    // A file may have so many bytes and no more, which programs meet as they meet a full disk (setrlimit(2), EFBIG).
    const run = (): Buffer =>
      execFileSync('/usr/bin/prlimit', ['--fsize=40000', process.execPath, ...args, join(out, name)], {
        cwd: folder,
        stdio: 'pipe',
      })
    expect(run).toThrow(/could not be written/)
    expect(readdirSync(out)).toEqual([])
  })
})

it('a whole one is whole: what was cut off is no test of a format that never works', async () => {
  const out = folderFor('whole')
  await doWork(await planned('mov', out), pool, { onFrame: () => undefined })
  expect(readdirSync(out)).toEqual(['out.mov'])
  expect(readFileSync(join(out, 'out.mov')).length).toBeGreaterThan(50_000)
})
