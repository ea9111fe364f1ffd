import { converter } from 'culori'
import { describe, expect, it } from 'vitest'
import { takeSpecks } from '../src/masks/clean'
import { guidePlane } from '../src/masks/guided'
import { seededRandom } from '../src/numbers'
import { between } from '../src/numbers/warp'
import { HEIGHT, N, WIDTH, areaOf, at, drawn, maskOf, part } from './mask-helpers'

const plane = (valueAt: (x: number, y: number) => number): Float32Array =>
  Float32Array.from({ length: N }, (_, i) => valueAt(i % WIDTH, Math.floor(i / WIDTH)))
const picture = (colourAt: (x: number, y: number) => readonly number[]): Float32Array => {
  const pixels = new Float32Array(4 * N)
  for (let i = 0; i < N; i++) pixels.set([...colourAt(i % WIDTH, Math.floor(i / WIDTH)), 1], 4 * i)
  return pixels
}

describe('a range of hue, chroma and lightness', () => {
  const random = seededRandom(7)
  const colours = Array.from({ length: 400 }, () => [random(), random(), random()])
  const shown = picture((x, y) => colours[(x + WIDTH * y) % 400]!)
  // Culori's CIE LCh under D65, of the light that a display of gamma 2.4 makes of the codes.
  const lch = converter('lch65')
  const measured = colours.map(([r, g, b]) => {
    const [R, G, B] = [r!, g!, b!].map((v) => v ** 2.4)
    const { l, c, h } = lch({ mode: 'lrgb', r: R, g: G, b: B }) as unknown as { l: number; c: number; h: number }
    return { l, c, h }
  })
  const shares = (settings: object): Float32Array => drawn(maskOf([part('range', settings)]), shown).slice(0, 400)
  const hard = { hueSoft: 0, chromaSoft: 0, lightSoft: 0 }

  it('holds what lies in it and nothing else, over red as well', () => {
    const ranges = [
      { lightFrom: 40, lightTo: 70 },
      { chromaFrom: 20, chromaTo: 60 },
      { hueFrom: 100, hueTo: 200 },
      { hueFrom: 320, hueTo: 50, chromaFrom: 10 },
    ]
    const within = (h: number, from: number, to: number): boolean =>
      from < to ? h > from && h < to : h > from || h < to
    for (const range of ranges) {
      const { lightFrom = 0, lightTo = 100, chromaFrom = 0, chromaTo = 999, hueFrom = 0, hueTo = 360 } = range as Record<string, number> // oxfmt-ignore
      const found = shares({ ...hard, ...range })
      for (const [i, { l, c, h }] of measured.entries()) {
        const off = [l - lightFrom, lightTo - l, c - chromaFrom, chromaTo - c, h - hueFrom, hueTo - h].map(Math.abs)
        // Kernels hold light in tables: what lies within a tenth of an edge may fall on either side.
        if (Math.min(...off) < 0.1) continue
        const inside = l > lightFrom && l < lightTo && c > chromaFrom && c < chromaTo && within(h, hueFrom, hueTo)
        expect(found[i], JSON.stringify({ range, l, c, h })).toBe(inside ? 1 : 0)
      }
    }
  })

  it('falls off softly outside, half way at half of its soft end', () => {
    const found = shares({ ...hard, hueFrom: 100, hueTo: 200, hueSoft: 40 })
    const near = measured.map(({ h }, i) => ({ h, share: found[i]! })).filter(({ h }) => h > 200 && h < 240)
    expect(near.length).toBeGreaterThan(10)
    // The cubic of the core, by another path: its derivative is 6t(1 - t), summed over steps.
    const rise = (t: number): number => Array.from({ length: 1000 }, (_, k) => (k + 0.5) / 1000).reduce((sum, u) => (u < t ? sum + 6 * u * (1 - u) / 1000 : sum), 0) // oxfmt-ignore
    for (const { h, share } of near) expect(share).toBeCloseTo(rise(1 - (h - 200) / 40), 1)
  })
})

describe('picked colours', () => {
  it('leave out what is near one that does not belong to them', () => {
    const [red, orange, blue] = [[0.8, 0.2, 0.2], [0.8, 0.4, 0.2], [0.2, 0.3, 0.8]] // oxfmt-ignore
    const stripes = picture((x) => [red, orange, blue][x % 3]!)
    const lab = (rgb: readonly number[]): number[] => {
      // Culori's CIE Lab under D65 of the light that a display of gamma 2.4 makes of the codes.
      const { l, a, b } = converter('lab65')({ mode: 'lrgb', r: rgb[0]! ** 2.4, g: rgb[1]! ** 2.4, b: rgb[2]! ** 2.4 })!
      return [l, a, b]
    }
    const settings = { picks: [lab(red!)], range: 60, soft: 1, lightness: 100 }
    const shares = (more: object): number[] => [
      ...drawn(maskOf([part('colour', { ...settings, ...more })]), stripes).slice(0, 3),
    ]
    expect(shares({})).toEqual([1, 1, 0])
    const [own, away] = shares({ without: [lab(orange!)], range: 20 })
    expect([own, away]).toEqual([1, 0])
  })
})

describe('a mask is cleaned', () => {
  it('of what is weak and what is nearly all', () => {
    const ramp = maskOf([part('gradient', { x0: 100, y0: 50, x1: 0, y1: 50 })])
    const [whole, clipped] = [drawn(ramp), drawn({ ...ramp, black: 20, white: 70 })]
    whole.forEach((v, i) => expect(clipped[i]).toBeCloseTo(v < 0.2 ? 0 : v > 0.7 ? 1 : (v - 0.2) / 0.5, 5))
  })

  it('of specks and holes narrower than it is told; what is larger stays as it was', () => {
    const inside = (x: number, y: number, [cx, cy, r]: readonly number[]): boolean =>
      Math.max(Math.abs(x - cx!), Math.abs(y - cy!)) <= r!
    const large = [100, 90, 40]
    const [speck, hole] = [[220, 60, 2], [100, 90, 2]] // oxfmt-ignore
    const dirty = plane((x, y) => ((inside(x, y, large) && !inside(x, y, hole!)) || inside(x, y, speck!) ? 1 : 0))
    takeSpecks(dirty, WIDTH, HEIGHT, 4)
    expect(dirty[60 * WIDTH + 220]).toBe(0)
    expect(dirty[90 * WIDTH + 100]).toBe(1)
    expect(areaOf(dirty) / 81 ** 2).toBeCloseTo(1, 1)
    const [wide] = [plane((x, y) => (inside(x, y, [220, 60, 6]) ? 1 : 0))]
    takeSpecks(wide, WIDTH, HEIGHT, 4)
    expect(wide[60 * WIDTH + 220]).toBe(1)
  })

  it('of an edge that is not the picture’s, as the filter’s own equations have it at each place', () => {
    const random = seededRandom(3)
    const guide = plane((x) => (x < 160 ? 0.3 : 0.7) + 0.02 * random())
    // The mask reaches six pixels too far.
    const before = plane((x) => (x < 166 ? 1 : 0))
    const held = before.slice()
    guidePlane(held, guide, WIDTH, HEIGHT, 12)
    const column = (of: Float32Array, x: number): number => Array.from({ length: 60 }, (_, y) => of[(60 + y) * WIDTH + x]!).reduce((a, b) => a + b) / 60 // oxfmt-ignore
    expect(column(held, 157) - column(held, 162)).toBeGreaterThan(2 * Math.abs(column(held, 163) - column(held, 168)))
    // Plain: windows summed pixel by pixel (He, Sun, Tang 2010, equations 5, 6, 8).
    const window = (cx: number, cy: number): number[] => {
      const all: number[] = []
      for (let y = Math.max(0, cy - 12); y <= Math.min(HEIGHT - 1, cy + 12); y++)
        for (let x = Math.max(0, cx - 12); x <= Math.min(WIDTH - 1, cx + 12); x++) all.push(y * WIDTH + x)
      return all
    }
    const line = (cx: number, cy: number): [number, number] => {
      const w = window(cx, cy)
      const mean = (f: (i: number) => number): number => w.reduce((sum, i) => sum + f(i), 0) / w.length
      const [i, p] = [mean((k) => guide[k]!), mean((k) => before[k]!)]
      const a = mean((k) => (guide[k]! - i) * (before[k]! - p)) / (mean((k) => (guide[k]! - i) ** 2) + 0.0009)
      return [a, p - a * i]
    }
    for (const [x, y] of [
      [158, 90],
      [164, 3],
      [150, 176],
    ] as const) {
      const lines = window(x, y).map((k) => line(k % WIDTH, Math.floor(k / WIDTH)))
      const [a, b] = [0, 1].map((k) => lines.reduce((sum, l) => sum + l[k]!, 0) / lines.length)
      const expected = Math.min(1, Math.max(0, a! * guide[y * WIDTH + x]! + b!))
      expect(held[y * WIDTH + x]).toBeCloseTo(expected, 4)
    }
  }, 300_000)
})

describe('a shape that follows something', () => {
  const corners = (...flat: number[]) => [0, 2, 4, 6].map((i) => ({ x: flat[i]!, y: flat[i + 1]! }))
  const square = corners(30, 30, 70, 30, 70, 70, 30, 70)
  const aslant = corners(35, 25, 75, 35, 70, 80, 25, 60)
  const warp = between(square, aslant)

  it('lies in the four corners to which its own went, whatever it is', () => {
    // Its quadrilateral by the shoelace formula.
    const area = aslant.reduce((sum, a, k) => sum + a.x * aslant[(k + 1) % 4]!.y - aslant[(k + 1) % 4]!.x * a.y, 0) / 2
    const points = square.map(({ x, y }) => [x, y])
    const shapes = [
      part('rectangle', { x: 50, y: 50, width: 40, height: (40 * HEIGHT) / WIDTH, edge: 0 }, { warp }),
      part('outline', { points, round: false, edge: 0 }, { warp }),
    ]
    for (const shape of shapes) {
      const mask = drawn(maskOf([shape]))
      expect(areaOf(mask) / N / (area / 1e4)).toBeCloseTo(1, 1)
      for (const { x, y } of aslant) {
        const [towards, away] = [0.96, 1.04].map((k) => at(mask, 51 + k * (x - 51), 50 + k * (y - 50)))
        expect([towards, away]).toEqual([1, 0])
      }
    }
  })

  it('takes its soft edge along, and a gradient its fall', () => {
    const twice = between(square, corners(10, 10, 90, 10, 90, 90, 10, 90))
    const gradient = drawn(maskOf([part('gradient', { x0: 50, y0: 40, x1: 50, y1: 60 }, { warp: twice })]))
    expect([at(gradient, 50, 28), at(gradient, 50, 50.3), at(gradient, 50, 72)].map((v) => Math.round(10 * v))).toEqual([10, 5, 0]) // oxfmt-ignore
  })
})
