import { execFileSync } from 'node:child_process'
import { describe, expect, it } from 'vitest'
import { bitsOf, colourOf, frameRate } from '../src/media/tags'

/** Formats of pixels as ffmpeg itself lists them, with the bits a value; of mosaics it counts each colour’s share. */
const FORMATS = execFileSync('ffmpeg', ['-hide_banner', '-pix_fmts'])
  .toString()
  .split('\n')
  .map((line) => /^I[.O]\.[.P]\. +((?!bayer)\S+) +\d+ +\d+ +([\d-]+)/.exec(line))
  .flatMap((m) => (m ? [{ name: m[1]!, bits: Math.max(...m[2]!.split('-').map(Number)) }] : []))

describe('bits a value', () => {
  it('are those of ffmpeg’s own list, with 8 for less', () => {
    expect(FORMATS.length).toBeGreaterThan(100)
    const wrong = FORMATS.filter(({ name, bits }) => bitsOf(name, 0) !== Math.max(8, bits))
    expect(wrong.map(({ name, bits }) => `${name}: ${bits}, not ${bitsOf(name, 0)}`)).toEqual([])
  })
  it('are half or whole floats where the name says so', () => {
    expect([bitsOf('gbrpf16le', 0), bitsOf('gbrapf32be', 0)]).toEqual([16, 32])
  })
  it('are fewer where a decoder says that it fills a larger word', () => {
    expect([bitsOf('rgb48le', 10), bitsOf('gray16le', 12), bitsOf('rgb48le', 16), bitsOf('rgb24', 8)]).toEqual([
      ...[10, 12, 16, 8],
    ])
  })
})

describe('matrix and range', () => {
  it('are what the file says, or follow from its size and kind', () => {
    const of = (
      pix_fmt: string,
      color_space: string | undefined,
      height = 1080,
      codec = 'h264',
      color_range?: string,
    ) => {
      const stream = { pix_fmt, ...(color_space && { color_space }), ...(color_range && { color_range }) }
      const { matrix, range } = colourOf(stream, codec, height)
      return `${matrix} ${range}`
    }
    expect(of('yuv420p', 'smpte170m')).toBe('170m limited')
    expect(of('yuv420p10le', 'bt2020nc')).toBe('2020_ncl limited')
    expect(of('yuv420p', undefined, 720)).toBe('709 limited')
    expect(of('yuv420p', undefined, 719)).toBe('470bg limited')
    expect(of('yuvj420p', undefined, 1080, 'mjpeg')).toBe('470bg full')
    expect(of('yuv422p', 'bt709', 1080, 'prores', 'pc')).toBe('709 full')
    expect(of('gbrp10le', 'bt709')).toBe('gbr full')
  })
})

describe('the frame rate', () => {
  it('is the average, or else the one that the container names, or 25', () => {
    const rates = { avg_frame_rate: '24000/1001', r_frame_rate: '48/1' }
    expect(frameRate(rates)).toBe('24000/1001')
    expect(frameRate({ ...rates, avg_frame_rate: '0/0' })).toBe('48/1')
    expect(frameRate({})).toBe('25/1')
  })
})
