import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ENCODING_IDS } from '@fogbath/core/encodings'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { HOUSE_LOG } from '../../core/test/house-log'
import { makeFootage, readPixels } from './helpers'
import { runProgram } from './program'

let folder: string
let footage: ReturnType<typeof makeFootage>
const run = (...args: string[]) => runProgram(folder, args)

const CONFIG = `ocio_profile_version: 2
roles:
  aces_interchange: ap0
colorspaces:
  - !<ColorSpace>
    name: ap0
  - !<ColorSpace>
    name: House log
    to_scene_reference: !<BuiltinTransform> {style: ACEScct_to_ACES2065-1}
  - !<ColorSpace>
    name: Lost
    to_scene_reference: !<FileTransform> {src: gone.cube}
`
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'fogbath-cli-'))
  footage = makeFootage(folder)
  writeFileSync(join(folder, 'own.json'), JSON.stringify({ encodings: [HOUSE_LOG] }))
  writeFileSync(join(folder, 'config.ocio'), CONFIG)
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

describe('fogbath process', () => {
  it('reads footage as it is told to, and refuses what does not apply or is no setting', async () => {
    const flat = ['-f', 'lavfi', '-i', 'color=gray:s=64x48', '-frames:v', '1', '-pix_fmt', 'yuv444p', '-c:v', 'ffv1']
    execFileSync('ffmpeg', ['-v', 'error', '-y', ...flat, join(folder, 'flat.mkv')])
    writeFileSync(join(folder, 'empty.json'), JSON.stringify({ version: 1, id: 'none', name: 'None', baths: [] }))
    const put = (name: string, ...more: string[]) =>
      run('process', 'flat.mkv', '--recipe', 'empty.json', '-o', name, ...more)
    expect((await put('video.png')).code).toBe(0)
    expect((await put('full.png', '--read', 'range=full', '--read', 'matrix=709')).code).toBe(0)
    // Grey of code 126 lies at (126 - 16) / 219 in the range of video, at 126 / 255 in the full one.
    const [video, full] = ['video.png', 'full.png'].map((name) => readPixels(join(folder, name))[0]! / 65535) as [
      number,
      number,
    ]
    expect(video).toBeCloseTo(110 / 219, 2)
    expect(full).toBeCloseTo(126 / 255, 2)
    const refused = await put('x.png', '--read', 'bits=12')
    expect([refused.code, refused.err]).toEqual([3, expect.stringContaining('cannot be read with 12 bits')])
    expect((await put('x.png', '--read', 'matrix=xyz')).err).toMatch(/matrix.*709/)
    expect((await put('x.png', '--read', 'full')).err).toContain('such as matrix=709')
  })

  it('says what happens to a recipe of camera light on finished video, and nothing where both are alike', async () => {
    const recipe = {
      version: 1,
      id: 'dusk',
      name: 'Dusk',
      baths: [{ id: 'a', kind: 'colour-print' }],
      madeFor: 'scene',
    }
    writeFileSync(join(folder, 'dusk.json'), JSON.stringify(recipe))
    const on = (encoding: string) =>
      run('process', footage.png, '--recipe', 'dusk.json', '-o', `${encoding}.png`, '--encoding', encoding)
    expect((await on('srgb')).err).toContain('It was made on camera light, and this is finished video')
    expect((await on('acescct')).err).toBe('')
  })
})

describe('fogbath with encodings of one’s own', () => {
  it('lists what can be taken, and what not with the reason', async () => {
    const list = JSON.parse((await run('encodings', '--encodings', 'config.ocio', '--json')).out) as {
      name: string
      from: string
      taken: boolean
      delivered: boolean
      reason: string | null
    }[]
    expect(list.filter((e) => e.from === 'shipped').map((e) => e.name)).toEqual(ENCODING_IDS)
    expect(list.filter((e) => e.from === 'file').map(({ name, taken, delivered }) => [name, taken, delivered])).toEqual(
      [
        ['ap0', true, true],
        ['House log', true, true],
        ['Lost', false, false],
      ],
    )
    expect(list.at(-1)!.reason).toBe("It needs the file 'gone.cube', which is not there.")
    expect((await run('encodings')).out).toContain('hlg')
  })

  it.each(['own.json', 'config.ocio'])('takes footage for what %s says, in and out', async (file) => {
    const made = async (name: string, ...more: string[]): Promise<Uint16Array> => {
      const { code, err } = await run('process', footage.png, '--recipe', 'two-strip', '-o', name, '--force', ...more)
      expect(err).toBe('')
      expect(code).toBe(0)
      return readPixels(join(folder, name))
    }
    const [shipped, own] = await Promise.all([
      made('shipped.png', '--encoding', 'acescct', '--to', 'acescct'),
      made(`own-${file}.png`, '--encodings', file, '--encoding', 'House log', '--to', 'house log'),
    ])
    // A code of 12 bits: ways by AP0 are two matrices instead of one.
    expect(own.reduce((most, v, i) => Math.max(most, Math.abs(v - shipped[i]!)), 0)).toBeLessThan(16)
  })

  it('writes looks that take and give them', async () => {
    const numbersOf = async (name: string, ...more: string[]): Promise<number[]> => {
      const lut = ['lut', '--recipe', 'two-strip', '--size', '9', '-o', name, ...more]
      expect((await run(...lut)).err).toBe('')
      const text = readFileSync(join(folder, name), 'utf8')
      expect(text).toMatch(/^# Takes .*; gives .*\.$/m)
      return text.split('\n').flatMap((row) => (/^[-\d]/.test(row) ? row.split(' ').map(Number) : []))
    }
    const shipped = await numbersOf('shipped.cube', '--takes', 'acescct', '--gives', 'acescct')
    const own = ['--encodings', 'own.json', '--takes', 'House log', '--gives', 'House log']
    const found = await numbersOf('own.cube', ...own)
    expect(found).toHaveLength(3 * 9 ** 3)
    expect(found.reduce((most, v, i) => Math.max(most, Math.abs(v - shipped[i]!)), 0)).toBeLessThan(5e-4)
    expect((await run('lut', '--recipe', 'plain', '-o', 'x.clf', ...own.slice(0, 3), 'Dusk')).err).toMatch(
      /'Dusk' is neither an encoding of own\.json/,
    )
  })

  it.each([
    [
      ['--encoding', 'Lost'],
      /'Lost' of config\.ocio cannot be taken: It needs the file 'gone\.cube', which is not there/,
    ],
    [['--encoding', 'Dusk'], /'Dusk' is neither an encoding of config\.ocio \(ap0, House log\) nor a shipped one/],
    [
      ['--encoding', 'acescct', '--encodings', 'own.txt'],
      /--encodings is 'own\.txt'; it must end in one of: \.json \.ocio \.cube/,
    ],
    [['--encoding', 'acescct', '--encodings', 'none.json'], /none\.json does not exist/],
  ])('%j is refused by name', async (args, words) => {
    const { code, err } = await run(
      'process',
      footage.png,
      '--recipe',
      'plain',
      '-o',
      'x.png',
      '--encodings',
      'config.ocio',
      ...args,
    )
    expect([2, 3]).toContain(code)
    expect(err).toMatch(words)
  })
})
