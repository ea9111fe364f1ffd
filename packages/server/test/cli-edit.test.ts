import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { runProgram } from './program'

const folder = mkdtempSync(join(tmpdir(), 'fogbath-edit-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const run = (...args: string[]) => runProgram(folder, args)
const ffmpeg = (...args: string[]): void => void execFileSync('ffmpeg', ['-v', 'error', '-y', ...args])

beforeAll(() => {
  mkdirSync(join(folder, 'media', 'day 2', 'scans'), { recursive: true })
  const source = ['-f', 'lavfi', '-i', 'testsrc2=s=96x54:r=24:d=3']
  const codec = ['-c:v', 'prores_ks', '-timecode']
  ffmpeg(...source, ...codec, '01:00:00:00', join(folder, 'media', 'fog.mov'))
  // Of the same name, and of another hour.
  ffmpeg(...source, ...codec, '02:00:00:00', join(folder, 'media', 'day 2', 'fog.mov'))
  ffmpeg(...source, '-frames:v', '10', join(folder, 'media', 'day 2', 'scans', 'gate.%04d.png'))
  const rows = [
    'TITLE: ROUGH',
    '001  A001  V  C  01:00:01:00 01:00:02:00 00:00:00:00 00:00:01:00',
    '* FROM CLIP NAME: fog.mov',
    '002  A002  V  C  02:00:00:12 02:00:01:00 00:00:01:00 00:00:01:12',
    '* FROM CLIP NAME: FOG',
    '003  GATE  V  C  00:00:00:02 00:00:00:06 00:00:01:12 00:00:01:16',
    '004  A003  V  C  00:00:00:00 00:00:01:00 00:00:01:16 00:00:02:16',
    '* FROM CLIP NAME: gulls.mov',
    '005  A001  V  C  01:00:02:12 01:00:09:00 00:00:02:16 00:00:09:04',
    '* FROM CLIP NAME: fog.mov',
    '006  what',
  ]
  writeFileSync(join(folder, 'rough.edl'), rows.join('\n'))
})

describe('fogbath edit', () => {
  it('lists shots with files and frames; what is not found says why, a line that is none is named', async () => {
    const { code, out, err } = await run('edit', 'rough.edl', '--media', 'media', '--json')
    expect(code).toBe(0)
    expect(err).toMatch(/rough\.edl: Line 11 is left out: '006 {2}what' is no event/)
    expect(JSON.parse(out)).toEqual([
      { name: 'fog', file: 'fog.mov', first: 24, last: 47, found: true },
      { name: 'FOG', file: 'day 2/fog.mov', first: 12, last: 23, found: true },
      { name: 'GATE', file: 'day 2/scans/gate.0001.png', first: 2, last: 5, found: true },
      {
        name: 'gulls',
        file: null,
        first: null,
        last: null,
        found: false,
        reason: "Nothing in the folder is called 'gulls.mov' or 'A003' (line 7).",
      },
      {
        name: 'fog',
        file: null,
        first: null,
        last: null,
        found: false,
        reason: 'fog.mov goes from 01:00:00:00 to 01:00:02:23, and the edit shows 01:00:02:12 to 01:00:08:23.',
      },
    ])
    expect((await run('edit', 'rough.edl', '--media', 'media')).out).toMatch(/^fog +fog\.mov 24-47$/m)
  })

  it.each([
    [['none.edl', '--media', 'media'], /none\.edl does not exist/],
    [['rough.edl', '--media', 'nowhere'], /The folder nowhere cannot be read/],
    [['rough.edl', '--media', 'media', '--fps', '0'], /It must be frames a second/],
    [['media/fog.mov', '--media', 'media'], /fog\.mov is no edit list that can be read/],
  ])('refuses %j in a sentence', async (args, words) => {
    const { code, err } = await run('edit', ...args)
    expect(code).not.toBe(0)
    expect(err).toMatch(words)
  })
})

describe('fogbath cuts', () => {
  it('finds the shots of a clip of known cuts, and takes neither a dissolve nor a flash for one', async () => {
    const inputs = [
      'testsrc2=s=128x72:r=24:d=2',
      'mandelbrot=s=128x72:r=24',
      'smptebars=s=128x72:r=24:d=3',
      'gradients=s=128x72:r=24:d=3:seed=4',
    ]
    const graph = [
      '[1]trim=duration=1.5,setpts=PTS-STARTPTS[b]',
      // A flash of two frames in the bars.
      "[2]eq=brightness=0.4:enable='between(n,30,31)'[c]",
      '[c][3]xfade=duration=0.75:offset=2.25[d]',
      '[0]format=yuv420p[a]',
      '[b]format=yuv420p[b2]',
      '[d]format=yuv420p[d2]',
      '[a][b2][d2]concat=n=3',
    ]
    const clip = join(folder, 'long.mp4')
    ffmpeg(
      ...inputs.flatMap((i) => ['-f', 'lavfi', '-i', i]),
      '-filter_complex',
      graph.join(';'),
      '-c:v',
      'libx264',
      clip,
    )
    const { code, out, err } = await run('cuts', 'long.mp4', '--json')
    expect([code, err]).toEqual([0, ''])
    // Two seconds, then one and a half.
    expect(JSON.parse(out)).toEqual([0, 48, 84])
    expect((await run('cuts', 'long.mp4', '--least', '40')).out).toBe('0\n48\n')
    expect((await run('cuts', 'long.mp4', '--threshold', '300')).err).toMatch(/threshold of cuts is 300/)
  })
})
