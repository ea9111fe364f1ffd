import { execFile, execFileSync, spawn } from 'node:child_process'
import {
  copyFileSync,
  existsSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { KINDS } from '@fogbath/core/baths'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makeBroken, makeFootage, readPixels } from './helpers'
import { PROGRAM, runProgram } from './program'

let folder: string
let footage: ReturnType<typeof makeFootage>
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'fogbath-cli-'))
  footage = makeFootage(folder)
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const run = (...args: string[]) => runProgram(folder, args)

describe('fogbath lists', () => {
  it('recipes and kinds, as text and as JSON', async () => {
    const recipes = JSON.parse((await run('recipes', '--json')).out) as { id: string }[]
    expect(recipes.map((r) => r.id)).toEqual(SHIPPED_RECIPES.map((r) => r.id))
    const kinds = JSON.parse((await run('kinds', '--json')).out) as {
      id: string
      schema: { properties: object }
      defaults: object
    }[]
    expect(kinds.map((k) => k.id)).toEqual(KINDS.map((k) => k.id))
    expect(Object.keys(kinds[0]!.schema.properties)).toEqual(Object.keys(kinds[0]!.defaults))
    expect((await run('recipes')).out).toMatch(/bleach-bypass-half/)
  })
  it('what a file holds', async () => {
    expect(JSON.parse((await run('probe', footage.clip, '--json')).out)).toMatchObject({
      kind: 'clip',
      frames: 48,
      width: 160,
      bits: 10,
    })
  })
})

describe('fogbath process', () => {
  it('makes the same bytes with any number of threads, and says how many there may be', async () => {
    const files = await Promise.all(
      ['1', '3'].map(async (threads) => {
        const name = `threads-${threads}.tif`
        const how = ['--recipe', 'three-strip-misregistered', '--threads', threads]
        expect(await run('process', footage.png, ...how, '-o', name)).toMatchObject({ code: 0, err: '' })
        return readFileSync(join(folder, name))
      }),
    )
    expect(files[0]!.equals(files[1]!)).toBe(true)
    for (const threads of ['0', '65', 'two', '1.5']) {
      const refused = await run('process', footage.png, '--recipe', 'plain', '--threads', threads, '-o', 'no.png')
      expect(refused.code).not.toBe(0)
      expect(refused.err).toContain(`--threads is '${threads}'; it must be a whole number from 1 to 64.`)
    }
  })
  it('hands a picture back through the plain print, in 16 bits', async () => {
    const done = await run('process', footage.png, '--recipe', 'plain', '-o', 'plain.png')
    expect(done).toMatchObject({ code: 0, err: '' })
    // Greys come back; colours that the print's dyes cannot make do not, so greys are what is compared.
    const grey = join(folder, 'grey.png')
    execFileSync('ffmpeg', ['-v', 'error', '-i', footage.png, '-vf', 'format=gray16be', '-pix_fmt', 'rgb48be', grey])
    expect((await run('process', grey, '--recipe', 'plain', '-o', 'same.png')).code).toBe(0)
    const [before, after] = [readPixels(grey), readPixels(join(folder, 'same.png'))]
    const mean = before.reduce((sum, v, i) => sum + Math.abs(v - after[i]!), 0) / before.length / 257
    expect(mean).toBeLessThan(0.5)
    expect(Math.max(...before) - Math.min(...before)).toBeGreaterThan(40_000)
  })
  it('writes every format, numbered stills, and the frames asked for', async () => {
    for (const name of ['a.tif', 'a.exr', 'a.png'])
      expect((await run('process', footage.png, '--recipe', 'plain', '-o', name)).code).toBe(0)
    for (const name of ['c.mov', 'c.mp4'])
      expect((await run('process', footage.ffv1, '--recipe', 'bleach-bypass', '-o', name)).code).toBe(0)
    expect(
      (await run('process', footage.clip, '--recipe', 'plain', '--frames', '10-12', '-o', 'n.%04d.png')).out,
    ).toMatch(/3 frames/)
    expect(readdirSync(folder).filter((f) => f.startsWith('n.'))).toEqual(['n.0010.png', 'n.0011.png', 'n.0012.png'])
    expect((await run('process', 'n.%04d.png', '--recipe', 'plain', '-o', 'back.mp4')).out).toMatch(/3 frames/)
    expect((await run('process', 'n.0010.png', 'n.0011.png', '--recipe', 'plain', '-o', 'two.mp4')).out).toMatch(
      /2 frames/,
    )
  })
  it('cuts what it writes to what the recipe leaves', async () => {
    const size = (name: string): number[] => [16, 20].map((at) => readFileSync(join(folder, name)).readUInt32BE(at))
    await run('process', footage.png, '--recipe', 'plain', '-o', 'uncut.png')
    await run('process', footage.png, '--recipe', 'square-instant', '-o', 'square.png')
    const [, height] = size('uncut.png')
    expect(size('square.png')).toEqual([height, height])
  })
  it('takes the encoding it is told', async () => {
    await run('process', footage.png, '--recipe', 'plain', '-o', 'display.png')
    await run('process', footage.png, '--recipe', 'plain', '--encoding', 'acescct', '-o', 'log.png')
    expect(readPixels(join(folder, 'log.png'))).not.toEqual(readPixels(join(folder, 'display.png')))
  })
  it('reads a recipe file with only what differs', async () => {
    writeFileSync(
      join(folder, 'r.json'),
      JSON.stringify({ baths: [{ kind: 'colour-print', settings: { bleachPrint: 50, silverTimed: 60 } }] }),
    )
    await run('process', footage.png, '--recipe', 'r.json', '-o', 'file.png')
    await run('process', footage.png, '--recipe', 'bleach-bypass-half', '-o', 'id.png')
    const [file, id] = [readPixels(join(folder, 'file.png')), readPixels(join(folder, 'id.png'))]
    expect(file.length).toBe(id.length)
    expect(file.filter((v, i) => v !== id[i])).toHaveLength(0)
  })
  it('keeps the sound of a clip for the frames that are written', async () => {
    const tone = ['-f', 'lavfi', '-i', 'sine=f=440:d=2']
    const talking = join(folder, 'talking.mp4')
    execFileSync('ffmpeg', ['-v', 'error', '-i', footage.clip, ...tone, '-c:v', 'copy', talking])
    expect((await run('process', talking, '--recipe', 'plain', '--frames', '6-29', '-o', 'said.mp4')).code).toBe(0)
    const about = ['-v', 'error', '-show_entries', 'stream=codec_name,duration', '-of', 'csv=p=0']
    const streams = execFileSync('ffprobe', [...about, join(folder, 'said.mp4')])
      .toString()
      .trim()
      .split('\n')
    expect(streams.map((s) => s.split(',')[0])).toEqual(['h264', 'aac'])
    for (const s of streams) expect(Number(s.split(',')[1])).toBeCloseTo(1, 1)
    // The clip without sound stays without.
    await run('process', footage.clip, '--recipe', 'plain', '--frames', '0-1', '-o', 'mute.mp4')
    expect(
      execFileSync('ffprobe', [...about, join(folder, 'mute.mp4')])
        .toString()
        .trim()
        .split('\n'),
    ).toHaveLength(1)
  })
  it('keeps to a mask, given in short form', async () => {
    const baths = [
      {
        kind: 'black-and-white',
        mask: { parts: [{ type: 'gradient', settings: { x0: 49.9, y0: 50, x1: 50.1, y1: 50 } }] },
      },
    ]
    writeFileSync(join(folder, 'masked.json'), JSON.stringify({ baths }))
    writeFileSync(join(folder, 'whole.json'), JSON.stringify({ baths: [{ kind: 'black-and-white' }] }))
    writeFileSync(join(folder, 'none.json'), JSON.stringify({ baths: [] }))
    const [masked, whole, none] = await Promise.all(
      ['masked', 'whole', 'none'].map(async (name) => {
        expect(await run('process', footage.png, '--recipe', `${name}.json`, '-o', `${name}.png`)).toMatchObject({
          code: 0,
        })
        return readPixels(join(folder, `${name}.png`))
      }),
    )
    const width = 160
    let [left, right] = [0, 0]
    for (let i = 0; i < masked!.length; i++) {
      const x = Math.floor(i / 3) % width
      // Dithering moves 16 bits by one step.
      if (x < 0.45 * width) left = Math.max(left, Math.abs(masked![i]! - whole![i]!))
      if (x > 0.55 * width) right = Math.max(right, Math.abs(masked![i]! - none![i]!))
    }
    expect(left).toBeLessThanOrEqual(2)
    expect(right).toBeLessThanOrEqual(2)
    expect((await run('lut', '--recipe', 'masked.json', '--size', '5', '-o', 'm.cube')).err).toMatch(/has a mask/)
    expect(existsSync(join(folder, 'm.cube'))).toBe(false)
  })
  it.each([
    [['--recipe', 'nonsense', '-o', 'x.png'], /neither a recipe file nor a shipped recipe/],
    [['--recipe', 'plain', '-o', 'x.gif'], /'x\.gif' must end in one of (\.\w+ )*\.png/],
    [['--recipe', 'plain', '--encoding', 'log-z', '-o', 'x.png'], /'log-z' is not an encoding/],
    [['--recipe', 'plain', '--frames', '5-2', '-o', 'x.png'], /runs backwards/],
    [['--recipe', 'plain', '--frames', '0-99', '-o', 'x.mp4'], /goes beyond the input/],
    [['--recipe', 'plain', '-o', 'x.png'], /is one picture; number it/],
    [['--recipe', 'plain', '-o', 'no/such/x.mp4'], /does not exist/],
    [['--recipe', 'plain'], /Say where to: -o FILE/],
  ])('refuses %j in one sentence', async (args, says) => {
    const { code, err, out } = await run('process', footage.clip, ...args)
    expect(code).not.toBe(0)
    expect(err).toMatch(says)
    expect(err.trim().split('\n')).toHaveLength(1)
    expect(out).toBe('')
    expect(existsSync(join(folder, 'x.png'))).toBe(false)
  })
  it('refuses broken files and leaves nothing half-made', async () => {
    for (const { path, says } of Object.values(makeBroken(folder, footage))) {
      const { code, err } = await run('process', path, '--recipe', 'plain', '-o', 'broken.png')
      expect(code).toBe(3)
      expect(err).toMatch(says)
    }
    expect(readdirSync(folder).filter((f) => f.startsWith('broken') || f.startsWith('.fogbath'))).toEqual([])
  })
})

describe('fogbath lut', () => {
  it('writes a .cube of the size asked for and names a wrong one', async () => {
    expect((await run('lut', '--recipe', 'bleach-bypass', '--size', '9', '-o', 'l.cube')).code).toBe(0)
    const rows = readFileSync(join(folder, 'l.cube'), 'utf8').trim().split('\n')
    expect(rows).toContain('LUT_3D_SIZE 9')
    const nodes = rows.filter((row) => /^[\d.-]+ [\d.-]+ [\d.-]+$/.test(row)).map((row) => row.split(' ').map(Number))
    expect(nodes).toHaveLength(729)
    // Black stays black and white white; greys stay grey, and bleach bypass makes the dark ones darker.
    expect(nodes[0]).toEqual([0, 0, 0])
    nodes[728]!.forEach((v) => expect(v).toBeGreaterThan(0.98))
    const quarter = nodes[2 * (1 + 9 + 81)]!
    expect(Math.max(...quarter) - Math.min(...quarter)).toBeLessThan(0.01)
    expect(quarter[0]).toBeLessThan(0.25)
    expect((await run('lut', '--recipe', 'plain', '--size', '900', '-o', 'm.cube')).err).toMatch(/LUT size is 900/)
    expect(existsSync(join(folder, 'm.cube'))).toBe(false)
  })
  it('writes what the ending says, tells how far it is from the process, and names what it cannot hold', async () => {
    const clf = await run('lut', '--recipe', 'sepia', '--takes', 'acescct', '-o', 'sepia.clf')
    expect(clf.err).toBe('')
    expect(clf.out).toMatch(/CIEDE2000 on wide colours: mean \d\.\d\d, 99th percentile \d\.\d\d, worst \d\.\d\d/)
    expect(readFileSync(join(folder, 'sepia.clf'), 'utf8')).toMatch(/<InputDescriptor>ACEScct log</)
    const soft = ['lut', '--recipe', 'dream-glow', '--size', '9', '-o', 'soft.cube']
    expect((await run(...soft)).err).toMatch(
      /A \.cube knows only colours: .*the bath 'Glow' works on neighbouring pixels/,
    )
    expect(existsSync(join(folder, 'soft.cube'))).toBe(false)
    expect((await run(...soft, '--leave-out')).out).toMatch(/not in this file: the bath 'Glow'/)
    const decision = { baths: [{ kind: 'cdl', settings: { slopeRed: 1.1 } }] }
    writeFileSync(join(folder, 'one.json'), JSON.stringify(decision))
    expect((await run('lut', '--recipe', 'one.json', '-o', 'one.cdl')).code).toBe(0)
    expect(readFileSync(join(folder, 'one.cdl'), 'utf8')).toMatch(/<Slope>1\.1 1 1<\/Slope>/)
  })
  it('writes a shaper beside a .cube, and over neither of them', async () => {
    const lut = ['lut', '--recipe', 'sepia', '--size', '9', '--shaper', '-o', 'near.cube']
    expect((await run(...lut)).out).toMatch(/near-shaper\.cube: written, to be applied first/)
    expect(readFileSync(join(folder, 'near-shaper.cube'), 'utf8')).toMatch(/^LUT_1D_SIZE 4096$/m)
    rmSync(join(folder, 'near.cube'))
    expect((await run(...lut)).err).toMatch(/near-shaper\.cube exists already; add --force/)
    expect(existsSync(join(folder, 'near.cube'))).toBe(false)
  })
  it.each([
    [['-o', 'x.lut'], /'x\.lut' ends in no format of a look; use \.clf, \.cube, \.cc, \.cdl/],
    [['-o', 'x.cdl'], /the bath 'Colour print' does more than that/],
    [['--takes', 'linear', '-o', 'x.cube'], /take 'acescct', or write a \.clf/],
    [['--curves', '-o', 'x.cube'], /mixes channels/],
    [['--shaper', '-o', 'x.clf'], /belongs to a \.cube table/],
  ])('refuses %j in one sentence and writes nothing', async (args, why) => {
    const { code, err } = await run('lut', '--recipe', 'plain', ...args)
    expect([2, 3]).toContain(code)
    expect(err).toMatch(why)
    expect(existsSync(join(folder, args.at(-1)!))).toBe(false)
  })
})

describe('what lies there already', () => {
  it('is never lost: an input is not written over, whatever it is called', async () => {
    copyFileSync(footage.clip, join(folder, 'own.mp4'))
    symlinkSync(join(folder, 'own.mp4'), join(folder, 'alias.mp4'))
    const before = readFileSync(join(folder, 'own.mp4'))
    for (const [input, output] of [
      ['own.mp4', 'own.mp4'],
      ['own.mp4', './own.mp4'],
      ['own.mp4', 'alias.mp4'],
      ['alias.mp4', 'own.mp4'],
    ] as const) {
      const done = await run('process', input, '--recipe', 'plain', '-o', output, '--force')
      expect([done.code, done.err]).toEqual([2, expect.stringMatching(/is an input; write to another name/)])
    }
    expect(readFileSync(join(folder, 'own.mp4')).equals(before)).toBe(true)
    copyFileSync(footage.png, join(folder, 'seq.0001.png'))
    const numbered = await run('process', 'seq.%04d.png', '--recipe', 'plain', '--frames', '0', '-o', 'seq.0001.png')
    expect(numbered.err).toMatch(/seq.0001.png is an input/)
  })
  it('counts whatever a command reads: recipe and reference as well as footage, and by force no less', async () => {
    const recipe = JSON.stringify({ baths: [{ kind: 'black-and-white' }] })
    for (const [name, ...args] of [
      ['line.png', 'process', footage.png, '--recipe', 'line.png'],
      ['line.cube', 'lut', '--recipe', 'line.cube', '--size', '5'],
      ['line.html', 'sheet', '--recipe', 'line.html'],
    ] as const) {
      writeFileSync(join(folder, name), recipe)
      const done = await run(...args, '-o', name, '--force')
      expect([done.code, done.err, name]).toEqual([
        2,
        `fogbath: The output ${name} is an input; write to another name, so that it stays.\n`,
        name,
      ])
      expect(readFileSync(join(folder, name), 'utf8')).toBe(recipe)
    }
    for (const [name, other] of [
      ['reference.json', 'footage.png'],
      ['footage.json', 'reference.png'],
    ] as const) {
      for (const path of [name, other]) copyFileSync(footage.png, join(folder, path))
      const [input, to] = name === 'footage.json' ? [name, other] : [other, name]
      const done = await run('match', input, '--to', to, '-o', name, '--force')
      expect([done.code, done.err]).toEqual([2, expect.stringMatching(/is an input; write to another name/)])
      expect(readFileSync(join(folder, name)).equals(readFileSync(footage.png))).toBe(true)
    }
  })
  it('is written over only when that is asked for, and the files are named', async () => {
    writeFileSync(join(folder, 'there.png'), 'mine')
    const refused = await run('process', footage.png, '--recipe', 'plain', '-o', 'there.png')
    expect([refused.code, refused.err]).toEqual([2, 'fogbath: there.png exists already; add --force to write over.\n'])
    expect(readFileSync(join(folder, 'there.png'), 'utf8')).toBe('mine')
    for (const i of [0, 1, 2, 3, 4]) writeFileSync(join(folder, `many.000${i}.png`), '')
    const many = await run('process', footage.clip, '--recipe', 'plain', '--frames', '0-4', '-o', 'many.%04d.png')
    expect(many.err).toMatch(/many.0000.png, many.0001.png, many.0002.png and 2 more exist already/)
    expect((await run('process', footage.png, '--recipe', 'plain', '-o', 'there.png', '--force')).code).toBe(0)
    expect(readPixels(join(folder, 'there.png')).length).toBe(3 * 160 * 96)
    const cube = ['lut', '--recipe', 'plain', '--size', '5', '-o', 'look.cube']
    expect((await run(...cube)).code).toBe(0)
    expect((await run(...cube)).err).toMatch(/look.cube exists already/)
    expect((await run(...cube, '--force')).code).toBe(0)
  })
})

describe('fogbath stopped half-way', () => {
  it('leaves nothing, and says so', async () => {
    const long = join(folder, 'long.mp4')
    execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=24:d=20', long])
    const here = readdirSync(folder)
    const child = spawn(process.execPath, [PROGRAM, 'process', long, '--recipe', 'plain', '-o', 'stopped.mp4'], {
      cwd: folder,
    })
    let err = ''
    child.stderr.on('data', (chunk: Buffer) => (err += chunk.toString()))
    const ended = new Promise<number | null>((resolve) => child.once('exit', resolve))
    await expect.poll(() => readdirSync(folder).some((n) => n.startsWith('.fogbath-')), { timeout: 90_000 }).toBe(true)
    child.kill('SIGINT')
    expect(await ended).toBe(130)
    expect(err).toContain('fogbath: stopped; nothing was written.')
    expect(readdirSync(folder)).toEqual(here)
  })
  it('by a reader that has had enough ends quietly', async () => {
    const text = await new Promise<string>((resolve) =>
      execFile(
        'bash',
        ['-c', `"${process.execPath}" "${PROGRAM}" recipes --json | head -c 20; echo "\${PIPESTATUS[0]}"`],
        (_error, out, err) => resolve(out + err),
      ),
    )
    expect(text).toMatch(/^\[\s+\{[^]*\n?0\n$/)
    expect(text).not.toContain('Error')
  })
})

describe('fogbath process, in three parts', () => {
  const write = (name: string, baths: object[]): string => {
    writeFileSync(join(folder, name), JSON.stringify({ baths }))
    return name
  }
  it('prepares before the recipe and times behind it', async () => {
    const still = footage.png
    const [balance, timing] = [
      write('balance.json', [{ kind: 'balance', settings: { exposure: -1 } }]),
      write('timing.json', [{ kind: 'timing', settings: { saturation: 0 } }]),
    ]
    const all = ['process', still, '--recipe', 'plain']
    expect((await run(...all, '-o', 'plain-of.png')).code).toBe(0)
    const made = await run(...all, '--prepare', balance, '--after', timing, '-o', 'parts.png')
    expect(made.err).toBe('')
    const [before, after] = [readPixels(join(folder, 'plain-of.png')), readPixels(join(folder, 'parts.png'))]
    const mean = (pixels: ArrayLike<number>): number => Array.from(pixels).reduce((a, b) => a + b, 0) / pixels.length
    expect(mean(after)).toBeLessThan(0.9 * mean(before))
    // Without saturation the three channels of a pixel are one.
    for (let i = 0; i < 300; i += 3) expect(Math.abs(after[i]! - after[i + 1]!)).toBeLessThan(200)
  })
  it('refuses baths that cannot stand there, by name', async () => {
    const wrong = write('wrong.json', [{ kind: 'glow' }])
    const { code, err } = await run('process', footage.png, '--recipe', 'plain', '--prepare', wrong, '-o', 'no.png')
    expect(code).not.toBe(0)
    expect(err).toMatch(/Bath 1 \(glow\) cannot stand here: before the look stand baths of Prepare/)
    expect(existsSync(join(folder, 'no.png'))).toBe(false)
  })
})
