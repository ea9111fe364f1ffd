import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { DELIVERY_IDS, SHIPPED_PRESETS } from '@fogbath/core/delivery'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { INFO, contentsWith, sha256Of } from './archives'
import { makeFootage, readPixels } from './helpers'
import { runProgram } from './program'

let folder: string
let footage: ReturnType<typeof makeFootage>
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'fogbath-cli-delivery-'))
  footage = makeFootage(folder)
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const run = (...args: string[]) => runProgram(folder, args)
const at = (...names: string[]): string => join(folder, ...names)
const ffmpeg = (...args: string[]): void => void execFileSync('ffmpeg', ['-v', 'error', '-y', ...args])
const probe = (path: string): { streams: Record<string, any>[]; format: { tags: Record<string, string> } } =>
  JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-show_streams', '-show_format', '-of', 'json', path]).toString())

describe('the program', () => {
  it('says which version it is, and how it ended', async () => {
    expect((await run('--version')).out).toMatch(/^\d+\.\d+\.\d+, edition [0-9a-f]{12}\n$/)
    writeFileSync(at('no-space'), '')
    const ends: [number, string[], RegExp][] = [
      [0, ['formats'], /^$/],
      [2, ['proces'], /unknown command 'proces'/],
      [2, ['process', footage.png, '--recipe', 'bleach-bypas', '-o', 'x.png'], /did you mean bleach-bypass\?/],
      [2, ['process', footage.png, '--recipe', 'nothing like it', '-o', 'x.png'], /fogbath recipes lists them/],
      [
        2,
        ['process', footage.png, '--recipe', 'plain', '--preset', 'aproval', '-o', 'x.mp4'],
        /did you mean approval\?/,
      ],
      [
        2,
        ['process', footage.png, '--recipe', 'plain', '--format', 'hevc.mp', '-o', 'x.mp4'],
        /did you mean hevc\.mp4\?/,
      ],
      [3, ['process', at('no-space'), '--recipe', 'plain', '-o', 'x.png'], /empty \(0 bytes\)/],
      [4, ['process', footage.png, '--recipe', 'plain', '-o', '/dev/full'], /must end in/],
    ]
    for (const [code, args, says] of ends.slice(0, -1)) {
      const ended = await run(...args)
      expect([ended.code, ended.err]).toEqual([code, expect.stringMatching(says)])
    }
  })
  it('has a completion for bash that is one, and a page of the manual', async () => {
    const script = (await run('completion', 'bash')).out
    writeFileSync(at('complete.sh'), script)
    const ask = (words: string): string =>
      execFileSync('bash', [
        '-c',
        `source ${at('complete.sh')}; COMP_WORDS=(fogbath ${words}); COMP_CWORD=$((\${#COMP_WORDS[@]}-1)); _fogbath; echo "\${COMPREPLY[*]}"`,
      ])
        .toString()
        .trim()
    expect(ask('comp')).toBe('compare completion')
    expect(ask('process --dr')).toBe('--dry-run')
    expect((await run('completion', 'zsh')).out).toMatch(/^#compdef fogbath[^]*'compare:/)
    expect((await run('completion', 'fish')).code).toBe(2)
    const page = (await run('manual')).out
    expect(page).toMatch(
      /^\.TH FOGBATH 1\n[^]*\n\.SS fogbath process [^]*\n\.B \\-\\-dry\\-run\n[^]*\n\.SH EXIT STATUS\n/,
    )
    // No line of text begins as a request does (man(7)).
    expect(page.split('\n').filter((line) => /^\.(?!TH |SH |SS |TP$|B )/.test(line))).toEqual([])
  })
  it('lists formats and presets', async () => {
    const { formats, presets } = JSON.parse((await run('formats', '--json')).out) as Record<string, { id: string }[]>
    expect(formats!.map((f) => f.id)).toEqual(DELIVERY_IDS)
    expect(presets!.map((p) => p.id)).toEqual(SHIPPED_PRESETS.map((p) => p.id))
  })
})

describe('process', () => {
  it('says what it would do, and does nothing', async () => {
    const args = ['process', footage.clip, '--recipe', 'plain', '--preset', 'approval', '-o', 'plan.mp4', '--dry-run']
    expect(JSON.parse((await run(...args, '--json')).out)).toEqual([
      {
        input: footage.clip,
        output: at('plan.mp4'),
        format: 'h264-8.mp4',
        first: 0,
        count: 48,
        width: 1280,
        height: 720,
        encoding: expect.stringMatching(/BT\.709/),
      },
    ])
    expect((await run(...args)).out).toMatch(/^plan\.mp4: 48 frames of 1280x720, h264-8\.mp4/)
    expect(readdirSync(folder)).not.toContain('plan.mp4')
  })
  it('tells each frame as a line of JSON', async () => {
    const { out } = await run(
      'process',
      footage.clip,
      '--recipe',
      'plain',
      '--frames',
      '0-4',
      '-o',
      'told.mp4',
      '--json',
    )
    const lines = out
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { frame: number; of: number; fps: number })
    expect(lines.map((l) => [l.frame, l.of])).toEqual([1, 2, 3, 4, 5].map((n) => [n, 5]))
    expect(lines.every((l) => l.fps > 0)).toBe(true)
  })
  it('makes of each ending what it means', async () => {
    for (const [name, codec, pixels] of [
      ['a.exr', 'exr', 'gbrpf32le'],
      ['a.dpx', 'dpx', 'gbrp10le'],
      ['a.jpg', 'mjpeg', 'yuvj444p'],
    ] as const) {
      await run('process', footage.png, '--recipe', 'plain', '-o', name)
      expect(probe(at(name)).streams[0]).toMatchObject({ codec_name: codec, pix_fmt: pixels })
    }
    // Halves: as the file says, two bytes a channel (OpenEXR, attribute channels, pixel type 1).
    const header = readFileSync(at('a.exr'))
    const channels = header.indexOf('channels\0chlist\0') + 20
    expect([header.toString('latin1', channels, channels + 2), header.readUInt32LE(channels + 2)]).toEqual(['B\0', 1])
  })
  it('puts several inputs through, each into a file of a folder', async () => {
    mkdirSync(at('each'))
    const args = [
      'process',
      footage.clip,
      footage.ffv1,
      '--recipe',
      'sepia',
      '--preset',
      'keep',
      '--out',
      'each',
      '--frames',
      '0-2',
    ]
    expect((await run(...args)).code).toBe(0)
    // Both are called clip.
    expect(readdirSync(at('each')).sort()).toEqual(['clip (2).mkv', 'clip.mkv'])
    expect((await run(...args)).err).toMatch(/clip\.mkv exists already/)
    const neither = await run('process', footage.clip, '--recipe', 'sepia', '-o', 'x.mkv', '--out', 'each')
    expect([neither.code, neither.err]).toEqual([2, expect.stringMatching(/-o FILE for one output, or --out FOLDER/)])
  })
  it('refuses what a format cannot be told', async () => {
    const preset = (name: string, delivery: object): string => {
      writeFileSync(at(`${name}.json`), JSON.stringify({ name, ...delivery }))
      return `${name}.json`
    }
    for (const [file, code, says] of [
      [preset('a', { format: 'mov', quality: 50 }), 3, /ProRes 422 HQ has no quality that can be chosen/],
      [preset('b', { format: 'mp4', alpha: true }), 3, /H\.264, 10 bit has no room for alpha/],
      [preset('c', { format: 'avi' }), 3, /c\.json\/format must be one of mp4, mov/],
      [preset('d', { format: 'mp4', quality: 5, rate: 5 }), 3, /a quality or a rate, not both/],
      [preset('e', { format: 'mxf' }), 3, /takes pictures from 256x120 on; this one is 160x96/],
      ['nowhere.json', 2, /neither a preset file nor a shipped preset/],
    ] as const) {
      const ending = file.startsWith('e') ? 'mxf' : file.startsWith('a') ? 'mov' : 'mp4'
      const { code: ended, err } = await run(
        'process',
        footage.clip,
        '--recipe',
        'plain',
        '--preset',
        file,
        '-o',
        `no.${ending}`,
      )
      expect([ended, err]).toEqual([code, expect.stringMatching(says)])
    }
    expect(readdirSync(folder).filter((n) => n.startsWith('no.') || n.startsWith('.fogbath'))).toEqual([])
  })
  it('fits pictures into a size: whole with black, filled, or out of shape', async () => {
    ffmpeg('-f', 'lavfi', '-i', 'color=white:s=160x96:d=0.1', '-frames:v', '1', at('white.png'))
    const corner = async (fit: string): Promise<[string, number[]]> => {
      writeFileSync(
        at('fit.json'),
        JSON.stringify({ name: 'Fit', format: 'png', size: { width: 128, height: 128, fit } }),
      )
      await run('process', 'white.png', '--recipe', 'plain', '--preset', 'fit.json', '-o', `${fit}.png`)
      const { width, height } = probe(at(`${fit}.png`)).streams[0]!
      const pixels = readPixels(at(`${fit}.png`))
      return [
        `${width}x${height}`,
        [pixels[3 * (2 * 128 + 64)]!, pixels[3 * (64 * 128 + 64)]!].map((v) => Math.round(v / 65535)),
      ]
    }
    expect(await corner('whole')).toEqual(['128x128', [0, 1]])
    expect(await corner('fill')).toEqual(['128x128', [1, 1]])
    expect(await corner('stretch')).toEqual(['128x128', [1, 1]])
  })
  it('keeps timecode, says what made it, and marks high range for screens', async () => {
    ffmpeg('-i', footage.clip, '-c', 'copy', '-timecode', '10:00:00:00', at('coded.mov'))
    await run('process', 'coded.mov', '--recipe', 'sepia', '--frames', '12-20', '-o', 'coded-out.mov')
    const { streams, format } = probe(at('coded-out.mov'))
    expect(streams.find((s) => s['tags']?.timecode)!['tags'].timecode).toBe('10:00:00:12')
    expect(format.tags['comment']).toMatch(/^Fog Bath, Sepia.*, edition [0-9a-f]{12}$/)
    writeFileSync(
      at('hdr.json'),
      JSON.stringify({ name: 'HDR', format: 'hevc.mp4', to: 'pq', size: { width: 160, height: 96, fit: 'whole' } }),
    )
    await run('process', footage.clip, '--recipe', 'plain', '--frames', '0-3', '--preset', 'hdr.json', '-o', 'hdr.mp4')
    const args = [
      '-v',
      'error',
      '-read_intervals',
      '%+#1',
      '-show_frames',
      '-show_entries',
      'frame=side_data_list',
      '-of',
      'json',
    ]
    expect(probe(at('hdr.mp4')).streams[0]).toMatchObject({
      color_transfer: 'smpte2084',
      color_primaries: 'bt2020',
      color_space: 'bt2020nc',
    })
    expect(execFileSync('ffprobe', [...args, at('hdr.mp4')]).toString()).toMatch(
      /Mastering display metadata[^]*"max_luminance": "10000000\/10000"/,
    )
  })
  it('carries alpha untouched where the format has room for it', async () => {
    // A ramp of alpha over colour, cut by no process.
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      'gradients=s=64x32:d=0.1:seed=5,format=rgba64le,geq=r=r(X\\,Y):g=g(X\\,Y):b=b(X\\,Y):a=1023*X',
      '-frames:v',
      '1',
      at('alpha.png'),
    )
    const alphaOf = (path: string): number[] => {
      const bytes = execFileSync('ffmpeg', [
        '-v',
        'error',
        '-i',
        path,
        '-vf',
        'format=gbrap16le,extractplanes=a',
        '-f',
        'rawvideo',
        '-pix_fmt',
        'gray16le',
        '-',
      ])
      return [...new Uint16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))]
    }
    const wanted = alphaOf(at('alpha.png'))
    expect([wanted[0], wanted[1], wanted[63]]).toEqual([0, 1023, 64_449])
    for (const [format, name, within] of [
      ['png', 'kept.png', 0],
      ['tif', 'kept.tif', 0],
      // Ten bits of alpha: a step of them.
      ['prores-4444.mov', 'kept.mov', 64],
    ] as const) {
      writeFileSync(at('kept.json'), JSON.stringify({ name: 'Kept', format, alpha: true }))
      expect(
        (await run('process', 'alpha.png', '--recipe', 'plain', '--preset', 'kept.json', '-o', name, '--force')).err,
      ).toBe('')
      const kept = alphaOf(at(name))
      expect(Math.max(...kept.map((v, i) => Math.abs(v - wanted[i]!)))).toBeLessThanOrEqual(within)
    }
    // Without being asked for it does not go along.
    await run('process', 'alpha.png', '--recipe', 'plain', '-o', 'bare.png')
    expect(probe(at('bare.png')).streams[0]!['pix_fmt']).toBe('rgb48be')
  })
  it('writes words into the picture where that is asked for', async () => {
    writeFileSync(
      at('words.json'),
      JSON.stringify({
        name: 'Words',
        format: 'png',
        burnIn: { shot: true, timecode: true, note: "it's 100 %: not final" },
      }),
    )
    await run(
      'process',
      footage.clip,
      '--recipe',
      'plain',
      '--frames',
      '3',
      '--preset',
      'words.json',
      '-o',
      'words.png',
    )
    await run('process', footage.clip, '--recipe', 'plain', '--frames', '3', '-o', 'bare-words.png')
    const [words, bare] = [readPixels(at('words.png')), readPixels(at('bare-words.png'))]
    const rows = new Set<number>()
    words.forEach((v, i) => Math.abs(v - bare[i]!) > 500 && rows.add(Math.floor(i / 3 / 160)))
    // At the foot alone.
    expect([Math.min(...rows) > 70, Math.max(...rows) < 96, rows.size > 5]).toEqual([true, true, true])
  })
})

describe('compare', () => {
  it('says that two are the same, or by how much and where they are not', async () => {
    expect((await run('compare', footage.png, footage.png)).out).toBe('the same: 1 frame\n')
    // One pixel of white on mid grey: known by hand.
    ffmpeg('-f', 'lavfi', '-i', 'color=gray:s=20x10:d=0.1,format=gbrp', '-frames:v', '1', at('grey.png'))
    ffmpeg('-i', at('grey.png'), '-vf', 'drawbox=x=7:y=3:w=1:h=1:color=white:t=fill', at('dot.png'))
    const { out, code } = await run(
      'compare',
      'grey.png',
      'dot.png',
      '--encoding',
      'srgb',
      '--json',
      '--heat-map',
      'heat.png',
    )
    const found = JSON.parse(out)
    expect([code, found.same, found.frames, found.difference.where]).toEqual([0, false, 1, { frame: 0, x: 7, y: 3 }])
    // L* of sRGB 128 is 53.585 (IEC 61966-2-1, CIE 15), of white 100: 46.415 over SL at 76.79 (CIE 142), which is 1.4.
    const sl = 1 + (0.015 * (76.79 - 50) ** 2) / Math.sqrt(20 + (76.79 - 50) ** 2)
    expect(found.difference.worst).toBeCloseTo(46.415 / sl, 1)
    expect(found.difference.mean).toBeCloseTo(46.415 / sl / 200, 2)
    expect(found.codes.worst).toBe(65_535 - 128 * 257)
    expect(found.difference.p99).toBe(0)
    const heat = readPixels(at('heat.png'))
    expect([heat[3 * (3 * 20 + 7)], heat[0]]).toEqual([65_535, 0])
  })
  it('refuses what cannot be compared', async () => {
    const size = await run('compare', footage.png, 'grey.png')
    expect([size.code, size.err]).toEqual([
      3,
      expect.stringMatching(/is 160x96 and grey\.png is 20x10; only pictures of one size/),
    ])
    expect((await run('compare', footage.clip, footage.ffv1)).err).toMatch(/48 frames and .* has 12/)
  })
  it('finds two renders of the same the same', async () => {
    for (const name of ['one.mkv', 'two.mkv'])
      await run('process', footage.clip, '--recipe', 'instant', '--frames', '0-3', '-o', name)
    expect((await run('compare', 'one.mkv', 'two.mkv')).out).toBe('the same: 4 frames\n')
  })
})

describe('render', () => {
  it('renders the shots of contents as a backup holds them', async () => {
    const bytes = readFileSync(footage.clip)
    const sha256 = sha256Of(bytes)
    const recipe = SHIPPED_RECIPES.find((r) => r.id === 'sepia')!
    const shot = { name: 'Two', first: 4, last: 9, still: 5, trials: [{ ref: 1, name: 'A', recipe, after: [] }] }
    const contents = contentsWith(sha256, {
      shot,
      medium: { files: 1, size: bytes.length, info: { ...INFO, frames: 48 } },
    })
    mkdirSync(at('unpacked/media'), { recursive: true })
    mkdirSync(at('made'))
    writeFileSync(at('unpacked/contents.json'), JSON.stringify(contents))
    const args = ['render', 'unpacked/contents.json', '--preset', 'keep', '--out', 'made']
    const lost = await run(...args)
    expect([lost.code, lost.err]).toEqual([
      3,
      expect.stringMatching(/The footage of Two, clip\.mp4, is not here; say with --media/),
    ])
    // Found by its name in a folder, or by its hash beside the contents.
    const [plan] = JSON.parse((await run(...args, '--media', '.', '--dry-run', '--json')).out)
    expect([basename(plan.output), plan.first, plan.count]).toEqual(['Crafted Two A.mkv', 4, 6])
    writeFileSync(at('unpacked/media', sha256), bytes)
    expect((await run(...args, '--shots', 'Two')).code).toBe(0)
    await run('process', footage.clip, '--recipe', 'sepia', '--frames', '4-9', '-o', 'same.mkv')
    expect((await run('compare', 'made/Crafted Two A.mkv', 'same.mkv')).out).toBe('the same: 6 frames\n')
    expect((await run(...args, '--shots', 'Three')).err).toMatch(/There is no shot 'Three'; there are Two/)
  })
})
