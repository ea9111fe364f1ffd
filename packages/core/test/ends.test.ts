import { describe, expect, it } from 'vitest'
import { WEDGE } from '../src/charts'
import { ACESCCT, BT1886 } from '../src/colour'
import { encodingById } from '../src/encodings'
import { Pictures, emit16, emit16Plain, emit8, emit8Plain, ingestPlain, makeIngest, recodeStages } from '../src/cpu'
import { compileLine } from '../src/line'
import { makeLook } from '../src/look'
import { halfToNumber, numberToHalf, seededRandom } from '../src/numbers'
import { ran, shipped } from './helpers'

const pictures = new Pictures()

/** As ITU-R BT.2087-0 prints it (the inverse of its table), and the Academy's ACEScg to sRGB (from memory). */
const BT2020_TO_BT709 = [
  [1.6605, -0.5876, -0.0728],
  [-0.1246, 1.1329, -0.0083],
  [-0.0182, -0.1006, 1.1187],
]
const AP1_TO_BT709 = [
  [1.70505, -0.62179, -0.08326],
  [-0.13026, 1.1408, -0.01055],
  [-0.024, -0.12897, 1.15297],
]

/** A frame of codes as lines take it. */
function ingested(id: string, format: 'u16' | 'f16', codes: Uint16Array): Float32Array {
  const picture = pictures.take('ingested', codes.length / 3)
  makeIngest(encodingById(id), format)(codes, picture)
  return picture.pixels.slice()
}

describe('ends of the chain', () => {
  it('reads 16-bit codes as the transfer function says; display footage as BT.1886 code values', () => {
    const src = Uint16Array.of(0, 32768, 65535, 655, 40000, 20000)
    // Transfer functions of colour/transfer.ts, which have tests of their own, and the published matrices of BT.2087-0 and S-2014-004.
    const cases = [
      ['bt1886', BT1886, null],
      ['acescct', ACESCCT, AP1_TO_BT709],
      ['linear', null, null],
      ['bt2020', BT1886, BT2020_TO_BT709],
    ] as const
    for (const [id, transfer, matrix] of cases) {
      const dst = ingested(id, 'u16', src)
      for (let p = 0; p < 2; p++) {
        const codes = [0, 1, 2].map((k) => src[3 * p + k]! / 65535)
        const light = codes.map((v) => (transfer ? transfer.decode(v) : v))
        const mixed = matrix
          ? matrix.map((row) => row[0]! * light[0]! + row[1]! * light[1]! + row[2]! * light[2]!)
          : light
        mixed.forEach((v, k) => {
          const shown = encodingById(id).refers === 'display'
          const expected = shown ? Math.min(1, Math.max(0, v) ** (1 / 2.4)) : v
          expect(Math.abs(dst[4 * p + k]! - expected)).toBeLessThan(3e-3 * Math.abs(expected) + 1e-4)
        })
      }
    }
  })
  it('reads and writes the same in the fast and in the plain form, at any length', () => {
    const random = seededRandom(4)
    for (const n of [1, 3, 1024, 2501]) {
      const codes = Uint16Array.from({ length: 3 * n }, () => 65536 * random())
      for (const id of ['bt1886', 'srgb', 'acescct', 'linear', 'bt2020', 'pq', 'hlg:20', 'hlg-scene'] as const)
        // HLG's gamma goes by a luminance that is never below 0, as half floats of any bits may be.
        for (const format of id === 'hlg:20' ? (['u16'] as const) : (['u16', 'f16'] as const)) {
          const [fast, plain] = [ingested(id, format, codes), new Float32Array(4 * n)]
          ingestPlain(encodingById(id), format, codes, plain, n)
          let worst = 0
          for (let i = 0; i < 4 * n; i++) {
            const error = Math.abs(fast[i]! - plain[i]!)
            const size = Math.max(1, ...plain.subarray(i & ~3, (i & ~3) + 3).map(Math.abs))
            worst = Math.max(worst, error / size)
          }
          // Light of high range is some fifty times white: a matrix of single floats leaves more of it near black.
          expect(worst, `${id} ${format}`).toBeLessThanOrEqual(/^(pq|hlg)/.test(id) ? 1e-4 : 2e-5)
        }
      const picture = Float32Array.from({ length: 4 * n }, () => 1.2 * random() - 0.1)
      picture.set([NaN, Infinity, -Infinity, 1])
      const [fast8, plain8] = [new Uint8ClampedArray(4 * n), new Uint8ClampedArray(4 * n)]
      const held = pictures.copy('written', picture)
      emit8(held, fast8, 77)
      emit8Plain(picture, plain8, n, 77)
      expect(fast8.reduce((most, v, i) => Math.max(most, Math.abs(v - plain8[i]!)), 0)).toBeLessThanOrEqual(1)
      expect(fast8.filter((v, i) => v !== plain8[i]).length).toBeLessThan(0.001 * n + 1)
      for (const bits of [16, 10]) {
        const [fast16, plain16] = [new Uint16Array(3 * n), new Uint16Array(3 * n)]
        emit16(held, fast16, bits, 77)
        emit16Plain(picture, plain16, n, bits, 77)
        expect(Math.max(...fast16.map((v, i) => Math.abs(v - plain16[i]!)))).toBeLessThanOrEqual(1)
      }
    }
  })
  it('hands untreated display values back in every display encoding', () => {
    for (const id of ['bt1886', 'srgb', 'bt709']) {
      const encoding = encodingById(id)
      const codes = Uint16Array.from({ length: 300 }, (_, i) => Math.floor(i / 3) * 655)
      const line = { ...shipped('plain'), baths: [] }
      const out = ran(
        compileLine(line, { refers: 'display', shown: recodeStages(encoding) }),
        ingested(id, 'u16', codes),
        100,
        1,
      )
      for (let i = 0; i < 100; i++) expect(Math.abs(out[4 * i]! - codes[3 * i]! / 65535)).toBeLessThan(3e-4)
    }
  })
  it('converts half floats both ways', () => {
    for (let h = 0; h < 0x7c00; h += 7) expect(numberToHalf(halfToNumber(h))).toBe(h)
    expect(halfToNumber(0x3c00)).toBe(1)
    expect(numberToHalf(-2)).toBe(0xc000)
    expect(numberToHalf(1e9)).toBe(0x7bff)
    expect(numberToHalf(NaN)).toBe(0)
  })
  it('dithers without moving the mean, by at most one step', () => {
    const n = 20_000
    const picture = new Float32Array(4 * n).fill(100.3 / 255)
    const out = new Uint8ClampedArray(4 * n)
    emit8(pictures.copy('flat', picture), out, 3)
    const reds = Array.from({ length: n }, (_, i) => out[4 * i]!)
    expect(reds.reduce((a, b) => a + b) / n).toBeCloseTo(100.3, 1)
    expect(Math.max(...reds) - Math.min(...reds)).toBeLessThanOrEqual(3)
    const deep = new Uint16Array(3 * n)
    emit16(pictures.copy('flat', picture), deep, 16, 0)
    expect(deep[0]).toBe(Math.round((100.3 / 255) * 65535))
  })
})

describe('the dither of a clip', () => {
  it('is another one in each frame, so that it does not stand still before the picture', () => {
    const n = 20_000
    const flat = pictures.copy('flat', new Float32Array(4 * n).fill(100.5 / 255))
    const frames = [0, 1, 2].map((seed) => {
      const [screen, file] = [new Uint8ClampedArray(4 * n), new Uint16Array(3 * n)]
      emit8(flat, screen, seed)
      emit16(flat, file, 10, seed)
      return { screen: Array.from({ length: n }, (_, i) => screen[4 * i]!), file: Array.from(file) }
    })
    // Between two codes each pixel takes either by chance: as often the same as not.
    const alike = (a: number[], b: number[]): number => a.filter((v, i) => Math.abs(v - b[i]!) < 32).length / a.length
    const same = (a: number[], b: number[]): number => a.filter((v, i) => v === b[i]).length / a.length
    for (const [a, b] of [
      [0, 1],
      [1, 2],
    ] as const) {
      expect(same(frames[a]!.screen, frames[b]!.screen)).toBeLessThan(0.7)
      expect(alike(frames[a]!.file, frames[b]!.file)).toBeLessThan(0.7)
    }
  })
})

describe('the .cube file', () => {
  it('has the header, the count and the order of the open form', () => {
    const rows = makeLook(shipped('plain'), { format: 'cube', size: 5 }).text.trim().split('\n')
    const comments = rows.filter((row) => row.startsWith('# '))
    expect(comments[1]).toMatch(/Takes Video, BT\.709 colours, gamma 2\.4; gives Video/)
    expect(comments[2]).toMatch(/CIEDE2000, on wide colours: mean \d/)
    const [title, size, low, high, ...nodes] = rows.slice(comments.length)
    expect([title, size]).toEqual(['TITLE "Plain print"', 'LUT_3D_SIZE 5'])
    expect([low, high]).toEqual(['DOMAIN_MIN 0 0 0', 'DOMAIN_MAX 1 1 1'])
    expect(nodes).toHaveLength(125)
    const red = nodes[4]!.split(' ').map(Number)
    expect(red[0]).toBeGreaterThan(0.7)
    expect(red[2]).toBeLessThan(0.4)
    expect(() => makeLook(shipped('plain'), { format: 'cube', size: 1 })).toThrow(/from 2 to 129/)
    expect(WEDGE[9]).toBeCloseTo(0.18, 10)
  })
})
