import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PlanesReader, kernelMemory, type PlanesFormat } from '@fogbath/core/cpu'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { decodeFrames } from '../src/media/decode'
import { probe } from '../src/media/probe'

/** Pages decode clips themselves; what they make of the planes is compared with zimg's numbers, through the decoder. */

let folder: string
beforeAll(() => void (folder = mkdtempSync(join(tmpdir(), 'fogbath-planes-'))))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const ffmpeg = (...args: string[]): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { maxBuffer: 64e6 })

function clip(pixelFormat: string, matrix: string): string {
  const path = join(folder, `${pixelFormat}-${matrix}.mkv`)
  const noise = 'testsrc2=s=160x96:r=24:d=0.05,noise=alls=20:allf=t'
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    noise,
    '-pix_fmt',
    pixelFormat,
    '-colorspace',
    matrix,
    '-color_range',
    'tv',
    '-c:v',
    'ffv1',
    path,
  )
  return path
}

describe('planes read in the page', () => {
  it.each<[string, string, PlanesFormat['matrix'], PlanesFormat['chroma'], number]>([
    ['yuv420p10le', 'bt709', '709', [2, 2], 10],
    ['yuv420p', 'smpte170m', '170m', [2, 2], 8],
    ['yuv422p10le', 'bt2020nc', '2020_ncl', [2, 1], 10],
    ['yuv444p12le', 'bt709', '709', [1, 1], 12],
    ['yuv444p', 'bt470bg', '470bg', [1, 1], 8],
    ['yuv422p', 'smpte240m', 'smpte2400m', [2, 1], 8],
    ['yuv420p', 'fcc', 'fcc', [2, 2], 8],
  ])(
    '%s with matrix %s have the numbers of the server, whole and scaled',
    async (pixelFormat, tag, matrix, chroma, bits) => {
      const path = clip(pixelFormat, tag)
      const info = await probe({ type: 'file', path }, 'clip')
      expect([info.matrix, info.bits, info.range]).toEqual([matrix, bits, 'limited'])
      const raw = ffmpeg('-i', path, '-f', 'rawvideo', '-pix_fmt', pixelFormat, '-frames:v', '1', 'pipe:1')
      const bytes = new Uint8Array(raw)
      const planes = bits > 8 ? new Uint16Array(bytes.buffer) : Uint16Array.from(bytes)
      for (const [width, height] of [
        [160, 96],
        [80, 48],
        [100, 60],
        [37, 22],
      ] as const) {
        const reader = new PlanesReader({ width: 160, height: 96, bits, chroma, matrix }, width, height)
        expect(reader.samples).toBe(planes.length)
        // What others left in the memory are no numbers.
        const memory = kernelMemory()
        memory.borrow(4e6, (at) => memory.ints(at, 1e6).fill(-1))
        const own = reader.read(planes)
        const frames = decodeFrames({ type: 'file', path }, info, { first: 0, count: 1, width, height })
        for await (const { data } of frames) {
          const most = (data as Uint16Array).reduce((far, v, i) => Math.max(far, Math.abs(v - own[i]!)), 0)
          // In codes of 10 bits; the limit is one.
          expect(most / 64.06, `${width}x${height}`).toBeLessThan(0.25)
        }
      }
    },
  )
})
