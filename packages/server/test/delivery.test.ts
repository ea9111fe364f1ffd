import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  DELIVERY_FORMATS,
  DELIVERY_IDS,
  deliveryByEnding,
  deliveryFormat,
  deliveryTable,
  type DeliveryId,
} from '@fogbath/core/delivery'
import { afterAll, describe, expect, it } from 'vitest'
import { openWriter } from '../src/media/encode'
import { isWhole, joinParts } from '../src/render/join'
import { readPixels } from './helpers'

const QT = 'mov,mp4,m4a,3gp,3g2,mj2'
const MKV = 'matroska,webm'
const MXF = 'mxf'
/** Every format that can be delivered, written and read back by ffprobe and ffmpeg. A format without a row does not compile. */
const ROWS: Record<
  DeliveryId,
  {
    /** As ffprobe names them: container, codec, pixel format with even and with odd sides (null: refused), and what sound becomes. */
    readonly is: readonly [container: string, codec: string, even: string, odd: string | null, sound: string | null]
    /** What the codec may lose of smooth colours, mean of 8-bit codes. */
    readonly loses: number
  }
> = {
  mp4: { is: [QT, 'h264', 'yuv420p10le', 'yuv444p10le', 'aac'], loses: 0.8 },
  mov: { is: [QT, 'prores', 'yuv422p10le', 'yuv444p12le', 'pcm_s24le'], loses: 0.8 },
  mkv: { is: [MKV, 'ffv1', 'gbrp16le', 'gbrp16le', 'pcm_s24le'], loses: 0 },
  mxf: { is: [MXF, 'dnxhd', 'yuv422p10le', null, 'pcm_s24le'], loses: 0.8 },
  'h264-8.mp4': { is: [QT, 'h264', 'yuv420p', 'yuv444p', 'aac'], loses: 1.4 },
  'h264.mov': { is: [QT, 'h264', 'yuv420p10le', 'yuv444p10le', 'pcm_s24le'], loses: 0.8 },
  'h264-8.mov': { is: [QT, 'h264', 'yuv420p', 'yuv444p', 'pcm_s24le'], loses: 1.4 },
  'h264.mkv': { is: [MKV, 'h264', 'yuv420p10le', 'yuv444p10le', 'pcm_s24le'], loses: 0.8 },
  'h264.mxf': { is: [MXF, 'h264', 'yuv420p10le', 'yuv444p10le', 'pcm_s24le'], loses: 0.8 },
  'hevc.mp4': { is: [QT, 'hevc', 'yuv420p10le', 'yuv444p10le', 'aac'], loses: 0.8 },
  'hevc-8.mp4': { is: [QT, 'hevc', 'yuv420p', 'yuv444p', 'aac'], loses: 1.4 },
  'hevc.mov': { is: [QT, 'hevc', 'yuv420p10le', 'yuv444p10le', 'pcm_s24le'], loses: 0.8 },
  'hevc.mkv': { is: [MKV, 'hevc', 'yuv420p10le', 'yuv444p10le', 'pcm_s24le'], loses: 0.8 },
  'prores-lt.mov': { is: [QT, 'prores', 'yuv422p10le', 'yuv444p12le', 'pcm_s24le'], loses: 0.8 },
  'prores-422.mov': { is: [QT, 'prores', 'yuv422p10le', 'yuv444p12le', 'pcm_s24le'], loses: 0.8 },
  'prores-4444.mov': { is: [QT, 'prores', 'yuv444p12le', 'yuv444p12le', 'pcm_s24le'], loses: 0.8 },
  'dnxhr-sq.mov': { is: [QT, 'dnxhd', 'yuv422p', null, 'pcm_s24le'], loses: 1.4 },
  'dnxhr-hq.mov': { is: [QT, 'dnxhd', 'yuv422p', null, 'pcm_s24le'], loses: 1.4 },
  'dnxhr-hqx.mov': { is: [QT, 'dnxhd', 'yuv422p10le', null, 'pcm_s24le'], loses: 0.8 },
  'dnxhr-444.mov': { is: [QT, 'dnxhd', 'yuv444p10le', null, 'pcm_s24le'], loses: 0.8 },
  'dnxhr-sq.mxf': { is: [MXF, 'dnxhd', 'yuv422p', null, 'pcm_s24le'], loses: 1.4 },
  'dnxhr-hq.mxf': { is: [MXF, 'dnxhd', 'yuv422p', null, 'pcm_s24le'], loses: 1.4 },
  'dnxhr-444.mxf': { is: [MXF, 'dnxhd', 'yuv444p10le', null, 'pcm_s24le'], loses: 0.8 },
  'vp9.mp4': { is: [QT, 'vp9', 'yuv420p10le', 'yuv444p10le', 'aac'], loses: 0.8 },
  'vp9.mkv': { is: [MKV, 'vp9', 'yuv420p10le', 'yuv444p10le', 'pcm_s24le'], loses: 0.8 },
  'av1.mp4': { is: [QT, 'av1', 'yuv420p10le', null, 'aac'], loses: 0.8 },
  'av1.mkv': { is: [MKV, 'av1', 'yuv420p10le', null, 'pcm_s24le'], loses: 0.8 },
  png: { is: ['png_pipe', 'png', 'rgb48be', 'rgb48be', null], loses: 0 },
  tif: { is: ['tiff_pipe', 'tiff', 'rgb48le', 'rgb48le', null], loses: 0 },
  exr: { is: ['exr_pipe', 'exr', 'gbrpf32le', 'gbrpf32le', null], loses: 0.06 },
  dpx: { is: ['dpx_pipe', 'dpx', 'gbrp10le', 'gbrp10le', null], loses: 0.07 },
  jpg: { is: ['image2', 'mjpeg', 'yuvj444p', 'yuvj444p', null], loses: 1.4 },
  'png-8': { is: ['png_pipe', 'png', 'rgb24', 'rgb24', null], loses: 0.26 },
  'exr-float': { is: ['exr_pipe', 'exr', 'gbrpf32le', 'gbrpf32le', null], loses: 0 },
  'dpx-16': { is: ['dpx_pipe', 'dpx', 'rgb48be', 'rgb48be', null], loses: 0 },
}

const folder = mkdtempSync(join(tmpdir(), 'fogbath-delivery-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const tone = join(folder, 'tone.mov')
const picture = ['-f', 'lavfi', '-i', 'color=gray:s=64x36:r=24:d=1', '-f', 'lavfi', '-i', 'sine=d=1']
execFileSync('ffmpeg', ['-v', 'error', ...picture, '-c:a', 'pcm_s24le', tone])

interface Probed {
  readonly streams: readonly Record<string, string>[]
  readonly format: { readonly format_name: string }
}
const probe = (path: string): Probed =>
  JSON.parse(
    execFileSync('ffprobe', ['-v', 'error', '-show_streams', '-show_format', '-of', 'json', path]).toString(),
  ) as Probed

/** Smooth colours, so that subsampled chroma costs little. */
function codesOf(width: number, height: number, frame: number): Uint16Array {
  const codes = new Uint16Array(3 * width * height)
  for (let i = 0; i < width * height; i++) {
    const [u, v] = [(i % width) / width, Math.floor(i / width) / height]
    codes.set(
      [u, v, (u + v + frame / 8) / 3].map((x) => Math.round(8000 + 45_000 * x)),
      3 * i,
    )
  }
  return codes
}
const FRAMES = 4

/** Floats as 16-bit codes, without the rounding of a conversion. */
function readFloats(path: string): number[] {
  const args = ['-v', 'error', '-i', path, '-f', 'rawvideo', '-pix_fmt', 'gbrpf32le', 'pipe:1']
  const bytes = execFileSync('ffmpeg', args, { maxBuffer: 1e8 })
  const planes = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
  const n = planes.length / 3
  // Planes come in the order green, blue, red.
  return Array.from({ length: 3 * n }, (_, i) =>
    Math.round(65_535 * planes[[2 * n, 0, n][i % 3]! + Math.floor(i / 3)]!),
  )
}

async function write(id: DeliveryId, name: string, width: number, height: number, sound: boolean): Promise<string> {
  const { moving, float, ending } = deliveryFormat(id)
  const path = join(folder, `${id}-${name}${moving ? '' : '.%03d'}.${ending}`)
  const sung = sound ? { source: { type: 'file', path: tone } as const, from: 0, length: FRAMES / 24 } : null
  const target = {
    delivery: { format: id },
    path,
    start: 0,
    width,
    height,
    fps: '24/1',
    encoding: 'bt1886',
    sound: sung,
  }
  const writer = await openWriter(target)
  for (let i = 0; i < FRAMES; i++) {
    const codes = codesOf(width, height, i)
    await writer.write(float ? Float32Array.from(codes, (code) => code / 65_535) : codes)
  }
  await writer.end()
  return moving ? path : path.replace('%03d', '000')
}

/** RGBA bytes of a picture, as ffmpeg reads them without converting. */
const readBytes = (path: string): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1'])

it('rounds every code of sixteen bits to the nearest of eight, colour and alpha alike', async () => {
  const size = { width: 256, height: 256 }
  const path = join(folder, 'codes.%03d.png')
  const delivery = { format: 'png-8' } as const
  const writer = await openWriter({ delivery, path, start: 0, ...size, fps: '24/1', encoding: 'bt1886', alpha: true })
  await writer.write(Uint16Array.from({ length: 4 * 65_536 }, (_, i) => i >> 2))
  await writer.end()
  // 65535 is 255 times 257; the nearest is at most 128 away, and alpha is rounded once before.
  const wrong = [...readBytes(path.replace('%03d', '000'))].filter((byte, i) => Math.abs(257 * byte - (i >> 2)) > 129)
  expect(wrong).toHaveLength(0)
})

describe.each(DELIVERY_IDS)('%s', (id) => {
  const { is, loses } = ROWS[id]
  const [container, codec, even, odd, sound] = is
  it('is what its name says, with even and with odd sides, and loses no more than it must', async () => {
    for (const [width, height, format] of [
      [256, 144, even],
      [255, 143, odd],
    ] as const) {
      if (format === null) {
        await expect(write(id, `plain${width}`, width, height, false)).rejects.toThrow(
          /takes (even sides|pictures from)/,
        )
        continue
      }
      const path = await write(id, `plain${width}`, width, height, false)
      const { streams, format: file } = probe(path)
      expect([file.format_name, streams[0]!['codec_name'], streams[0]!['pix_fmt']]).toEqual([container, codec, format])
      const [read, wanted] = [is[2].includes('f32') ? readFloats(path) : readPixels(path), codesOf(width, height, 0)]
      expect(read.length).toBe(wanted.length)
      const miss = wanted.reduce((sum, code, i) => sum + Math.abs(code - read[i]!), 0) / wanted.length / 257
      expect(miss).toBeLessThanOrEqual(loses)
    }
  })
  if (deliveryFormat(id).moving)
    it('keeps the sound, alone and joined from parts, and all frames', async () => {
      const alone = await write(id, 'alone', 256, 144, true)
      const parts = [await write(id, 'one', 256, 144, false), await write(id, 'two', 256, 144, false)]
      const joined = join(folder, `${id}-joined.${deliveryFormat(id).ending}`)
      await joinParts(parts, joined, id, { source: { type: 'file', path: tone }, from: 0, length: (2 * FRAMES) / 24 })
      expect(await isWhole(joined, 2 * FRAMES)).toBe(true)
      for (const path of [alone, joined]) {
        const { streams, format } = probe(path)
        expect([format.format_name, ...streams.map((s) => s['codec_name'])]).toEqual([container, codec, sound])
      }
      expect(readPixels(joined, FRAMES)).toEqual(readPixels(parts[1]!))
    })
  it('is meant by its own endings, whatever case they are in, and by no other format’s', () => {
    for (const ending of deliveryFormat(id).endings) {
      expect(deliveryByEnding(ending)).toBe(id)
      expect(deliveryByEnding(ending.toUpperCase())).toBe(id)
    }
  })
})

it('an ending of no format means none', () => {
  for (const ending of ['', 'txt', 'mp', 'constructor']) expect(deliveryByEnding(ending)).toBeUndefined()
})
it('the README has the table as it is', () => {
  const readme = readFileSync(join(import.meta.dirname, '../../../README.md'), 'utf8')
  const plain = (text: string): string => text.replaceAll(/ +/g, ' ').replaceAll(/-+/g, '-')
  expect(plain(readme)).toContain(plain(deliveryTable()))
  expect(Object.keys(DELIVERY_FORMATS)).toEqual(Object.keys(ROWS))
})
