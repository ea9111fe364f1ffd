import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { decodeFrames } from '../src/media/decode'
import { probe } from '../src/media/probe'

// Files of every kind, written by ffmpeg from these colours and read by the program; docs/formats.md names each.

const folder = mkdtempSync(join(tmpdir(), 'fogbath-kinds-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** Fields of a picture, codes of 8 bits. */
const FIELDS = [
  [200, 40, 20],
  [20, 120, 200],
  [128, 128, 128],
  [250, 250, 240],
] as const
const SIDE = 64
const WIDE = SIDE * FIELDS.length
const HIGH = 128

/** The picture as raw 16-bit codes, so many times. */
function raw(frames: number, wide = WIDE, high = HIGH): Buffer {
  const picture = new Uint16Array(3 * wide * high)
  for (let i = 0; i < wide * high; i++) {
    const field = FIELDS[Math.min(FIELDS.length - 1, Math.floor((i % wide) / (wide / FIELDS.length)))]!
    picture.set(
      field.map((v) => v * 257),
      3 * i,
    )
  }
  return Buffer.concat(new Array<Buffer>(frames).fill(Buffer.from(picture.buffer)))
}
function written(name: string, frames: number, args: readonly string[], wide = WIDE, high = HIGH): string {
  const path = join(folder, name)
  const input = ['-f', 'rawvideo', '-pix_fmt', 'rgb48le', '-s', `${wide}x${high}`, '-r', '24', '-i', 'pipe:0']
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...input, ...args, path], { input: raw(frames, wide, high) })
  return path
}
/** The middle of each field of a frame, 0..1. */
async function fieldsOf(path: string, frame: number) {
  const source = { type: 'file', path } as const
  const info = await probe(source, 'a file')
  for await (const { data, width, height } of decodeFrames(source, info, { first: frame, count: 1 })) {
    const row = Math.floor(height / 2)
    const at = (f: number): number => 3 * (row * width + Math.floor(((f + 0.5) * width) / FIELDS.length))
    const scale = data instanceof Float32Array ? 1 : 65535
    return { info, found: FIELDS.map((_, f) => [...data.subarray(at(f), at(f) + 3)].map((v) => v / scale)) }
  }
  throw new Error('no frame')
}
function near(found: readonly number[][], within: number): void {
  for (const [f, field] of FIELDS.entries())
    for (const [k, v] of field.entries())
      expect(Math.abs(255 * found[f]![k]! - v), `field ${f}, channel ${k}`).toBeLessThan(within)
}

const video = (format: string): string[] => [
  '-vf',
  `scale=out_color_matrix=bt709:out_range=tv:flags=accurate_rnd+full_chroma_int,format=${format},setparams=colorspace=bt709:color_primaries=bt709:color_trc=bt709:range=tv`,
  ...['-colorspace', 'bt709', '-color_range', 'tv', '-color_primaries', 'bt709', '-color_trc', 'bt709'],
]
/** Name in docs/formats.md, file, bits, how far a code of 8 bits may be off, what ffmpeg is told. */
const CLIPS: readonly [doc: string, file: string, bits: number, within: number, args: readonly string[]][] = [
  ['H.264', 'h264-8.mp4', 8, 2.5, [...video('yuv420p'), '-c:v', 'libx264', '-crf', '4']],
  ['H.264', 'h264-10.mov', 10, 1.6, [...video('yuv422p10le'), '-c:v', 'libx264', '-crf', '4']],
  ['H.264', 'h264-444.mkv', 10, 1.6, [...video('yuv444p10le'), '-c:v', 'libx264', '-crf', '4']],
  [
    'HEVC',
    'hevc-8.mp4',
    8,
    2.5,
    [...video('yuv420p'), '-c:v', 'libx265', '-crf', '4', '-x265-params', 'log-level=none'],
  ],
  [
    'HEVC',
    'hevc-422.mp4',
    10,
    1.6,
    [...video('yuv422p10le'), '-c:v', 'libx265', '-crf', '4', '-x265-params', 'log-level=none'],
  ],
  [
    'HEVC',
    'hevc-444.mkv',
    12,
    1.2,
    [...video('yuv444p12le'), '-c:v', 'libx265', '-crf', '4', '-x265-params', 'log-level=none'],
  ],
  ['VP9', 'vp9.webm', 8, 2.5, [...video('yuv420p'), '-c:v', 'libvpx-vp9', '-crf', '4', '-b:v', '0']],
  ['AV1', 'av1.mkv', 10, 1.5, [...video('yuv420p10le'), '-c:v', 'libaom-av1', '-crf', '8', '-cpu-used', '8']],
  ['ProRes 422', 'prores422.mov', 10, 1.6, [...video('yuv422p10le'), '-c:v', 'prores_ks', '-profile:v', '3']],
  ['ProRes 4444', 'prores4444.mov', 12, 1.6, [...video('yuva444p10le'), '-c:v', 'prores_ks', '-profile:v', '4']],
  ['DNxHR', 'dnxhr.mov', 10, 1.6, [...video('yuv422p10le'), '-c:v', 'dnxhd', '-profile:v', 'dnxhr_hqx']],
  ['DNxHR', 'dnxhr.mxf', 8, 2.5, [...video('yuv422p'), '-c:v', 'dnxhd', '-profile:v', 'dnxhr_hq']],
  ['FFV1', 'ffv1.mkv', 16, 0.01, ['-pix_fmt', 'gbrp16le', '-c:v', 'ffv1']],
  ['FFV1', 'ffv1-10.mkv', 10, 1.3, [...video('yuv422p10le'), '-c:v', 'ffv1']],
  [
    'Motion JPEG',
    'mjpeg.avi',
    8,
    3,
    ['-vf', 'scale=out_color_matrix=bt601:out_range=pc,format=yuvj444p', '-c:v', 'mjpeg', '-q:v', '1'],
  ],
  ['MPEG-2', 'mpeg2.mxf', 8, 3, [...video('yuv422p'), '-c:v', 'mpeg2video', '-q:v', '1', '-intra_vlc', '1']],
  ['Uncompressed', 'v210.mov', 10, 1.3, [...video('yuv422p10le'), '-c:v', 'v210']],
]
const STILLS: readonly [doc: string, file: string, bits: number, within: number, args: readonly string[]][] = [
  ['PNG', 'a.png', 16, 0.01, ['-pix_fmt', 'rgb48be']],
  ['PNG', 'b.png', 8, 1.01, ['-pix_fmt', 'rgba']],
  ['TIFF', 'a.tif', 16, 0.01, ['-pix_fmt', 'rgb48le', '-compression_algo', 'deflate']],
  ['TIFF', 'b.tif', 8, 1.01, ['-pix_fmt', 'rgb24', '-compression_algo', 'lzw']],
  ['JPEG', 'a.jpg', 8, 3, ['-vf', 'scale=out_color_matrix=bt601:out_range=pc,format=yuvj444p', '-q:v', '1']],
  ['DPX', '10.dpx', 10, 0.3, ['-pix_fmt', 'gbrp10be']],
  ['DPX', '12.dpx', 12, 0.1, ['-pix_fmt', 'gbrp12be']],
  ['DPX', '16.dpx', 16, 0.01, ['-pix_fmt', 'rgb48be']],
  ['WebP', 'a.webp', 8, 1.01, ['-pix_fmt', 'bgra', '-c:v', 'libwebp', '-lossless', '1']],
  [
    'AVIF',
    'a.avif',
    10,
    2.5,
    [...video('yuv444p10le'), '-c:v', 'libaom-av1', '-still-picture', '1', '-crf', '4', '-cpu-used', '8'],
  ],
  ['BMP', 'a.bmp', 8, 1.01, ['-pix_fmt', 'bgr24']],
  ['PPM', 'a.ppm', 16, 0.01, ['-pix_fmt', 'rgb48be']],
  ['JPEG 2000', 'a.jp2', 8, 1.01, ['-pix_fmt', 'rgb24', '-c:v', 'jpeg2000', '-pred', 'dwt53']],
]

describe('clips', () => {
  it.each(CLIPS)('%s: %s is read with %i bits, within %f of 255, at any frame', async (_, file, bits, within, args) => {
    const path = written(file, 6, args)
    const { info, found } = await fieldsOf(path, 3)
    expect([info.kind, info.frames, info.bits, info.float]).toEqual(['clip', 6, bits, false])
    near(found, within)
    near((await fieldsOf(path, 5)).found, within)
  })
})

describe('stills', () => {
  it.each(STILLS)('%s: %s is read with %i bits, within %f of 255', async (_, file, bits, within, args) => {
    const { info, found } = await fieldsOf(written(file, 1, ['-frames:v', '1', ...args]), 0)
    expect([info.kind, info.bits, info.float]).toEqual(['still', bits, false])
    near(found, within)
  })

  it.each(
    ['none', 'rle', 'zip1', 'zip16'].flatMap((packing) =>
      ['half', 'float'].map((format) => [packing, format] as const),
    ),
  )('EXR, %s, %s, with light above white and alpha', async (packing, format) => {
    // Eight times as bright: far above 1.
    const brighter = "geq=r='8*r(X,Y)':g='8*g(X,Y)':b='8*b(X,Y)'"
    const args = ['-frames:v', '1', '-vf', `format=gbrpf32le,${brighter}`, '-compression', packing, '-format', format]
    const { info, found } = await fieldsOf(written(`${packing}-${format}.exr`, 1, args), 0)
    expect([info.float, info.encoding]).toEqual([true, 'linear'])
    near(
      found.map((f) => f.map((v) => v / 8)),
      format === 'half' ? 0.2 : 0.1,
    )
  })
})

it('odd sides and large stills are read whole', async () => {
  const odd = await fieldsOf(written('odd.mkv', 3, [...video('yuv420p'), '-c:v', 'ffv1'], 191, 63), 1)
  expect([odd.info.width, odd.info.height]).toEqual([191, 63])
  near(odd.found, 2)
  const large = await fieldsOf(written('8k.png', 1, ['-frames:v', '1', '-pix_fmt', 'rgb24'], 7680, 4320), 0)
  expect([large.info.width, large.info.height]).toEqual([7680, 4320])
  near(large.found, 1.01)
})

it('every kind stands in docs/formats.md with what it was tested on', () => {
  const rows = readFileSync(join(import.meta.dirname, '../../../docs/formats.md'), 'utf8')
    .split('\n')
    .filter((line) => line.startsWith('| '))
    .map((line) => line.split('|').map((cell) => cell.trim()))
  for (const [doc, file] of [...CLIPS, ...STILLS, ['EXR', 'a.exr'] as const]) {
    const row = rows.find((cells) => cells[1] === doc)
    expect(row, doc).toBeDefined()
    expect(row![2], `${doc}, ${file}`).toContain(`.${file.split('.').at(-1)!}`)
  }
})
