import { converter } from 'culori'
import { describe, expect, it } from 'vitest'
import { labOfCode } from '../src/masks'
import { seededRandom } from '../src/numbers'
import { growPlane } from '../src/masks/grow'
import { HEIGHT, N, WIDTH, areaOf, at, drawn, maskOf, part } from './mask-helpers'

/** One per cent of the width, in pixels. */
const PER_CENT = WIDTH / 100

describe('shapes', () => {
  const whole = { x: 50, y: 50, width: 40, height: 20, edge: 0 }
  it('have the areas that geometry gives them, however they are turned', () => {
    for (const turn of [0, 30, 90, -145]) {
      const ellipse = drawn(maskOf([part('ellipse', { ...whole, turn })]))
      expect(areaOf(ellipse) / (Math.PI * 20 * 10 * PER_CENT ** 2)).toBeCloseTo(1, 2)
      const rectangle = drawn(maskOf([part('rectangle', { ...whole, turn })]))
      expect(areaOf(rectangle) / (40 * 20 * PER_CENT ** 2)).toBeCloseTo(1, 2)
    }
  })
  it('turn clockwise, about their centre', () => {
    const plane = drawn(maskOf([part('rectangle', { ...whole, width: 40, height: 4, turn: 45 })]))
    // Ten per cent of the width to the right and as far down.
    expect(at(plane, 60, 50 + (10 * WIDTH) / HEIGHT)).toBe(1)
    expect(at(plane, 60, 50 - (10 * WIDTH) / HEIGHT)).toBe(0)
  })
  it('fall off over their soft edge, half way on the outline', () => {
    for (const type of ['ellipse', 'rectangle'] as const) {
      const plane = drawn(maskOf([part(type, { ...whole, edge: 10 })]))
      expect(at(plane, 70.1, 50)).toBeCloseTo(0.5, 1)
      expect(at(plane, 64, 50)).toBe(1)
      expect(at(plane, 76, 50)).toBe(0)
    }
  })
  it('of corners cover what the surveyor’s formula says', () => {
    const points = [
      [20, 15],
      [80, 30],
      [65, 80],
      [50, 45],
      [30, 90],
    ]
    const twice = points.reduce((sum, [x, y], i) => {
      const [a, b] = points[(i + 1) % points.length]!
      return sum + x! * b! - a! * y!
    }, 0)
    const expected = (Math.abs(twice) / 2) * (WIDTH / 100) * (HEIGHT / 100)
    expect(areaOf(drawn(maskOf([part('outline', { points, round: false, edge: 0 })]))) / expected).toBeCloseTo(1, 3)
    // A soft edge moves nothing in or out, a curve through the corners bulges out of a convex shape.
    const soft = areaOf(drawn(maskOf([part('outline', { points, round: false, edge: 6 })])))
    expect(soft / expected).toBeCloseTo(1, 2)
    const square = [
      [30, 30],
      [70, 30],
      [70, 70],
      [30, 70],
    ]
    const [straight, round] = [false, true].map((r) =>
      areaOf(drawn(maskOf([part('outline', { points: square, round: r, edge: 0 })]))),
    )
    expect(round! / straight!).toBeGreaterThan(1.1)
  })
  it('outlines go through their points when rounded', () => {
    const plane = drawn(maskOf([part('outline', { round: true, edge: 0 })]))
    // Just inside and outside of the corner (35, 30).
    expect(at(plane, 36.5, 32.5)).toBe(1)
    expect(at(plane, 33.5, 27.5)).toBe(0)
  })
  it('a gradient is all at its start, half in the middle, nothing at its end, and runs straight across', () => {
    const plane = drawn(maskOf([part('gradient', { x0: 20, y0: 50, x1: 80, y1: 50 })]))
    expect(at(plane, 10, 20)).toBe(1)
    expect(at(plane, 50, 90)).toBeCloseTo(0.5, 1)
    expect(at(plane, 90, 50)).toBe(0)
    // Down the picture likewise: a quarter of the way is 1 - (3/16 - 2/64), by the cubic 3t² - 2t³.
    const down = drawn(maskOf([part('gradient', { x0: 50, y0: 0, x1: 50, y1: 100 })]))
    expect(at(down, 3, 25)).toBeCloseTo(0.84375, 1)
    expect(at(down, 97, 75)).toBeCloseTo(0.15625, 1)
    const slanted = drawn(maskOf([part('gradient', { x0: 30, y0: 30, x1: 70, y1: 70 })]))
    // At right angles to its line through the middle: half everywhere.
    expect(at(slanted, 50 + 15, 50 - (15 * WIDTH ** 2) / HEIGHT ** 2)).toBeCloseTo(0.5, 1)
  })
  it('mean the same at every size', () => {
    const mask = maskOf([part('ellipse', { turn: 20 }), part('outline')], { grow: 2, soften: 5 })
    const [small, large] = [drawn(mask), drawn(mask, null, 2 * WIDTH, 2 * HEIGHT)]
    let worst = 0
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++) {
        const i = 2 * y * 2 * WIDTH + 2 * x
        const mean = (large[i]! + large[i + 1]! + large[i + 2 * WIDTH]! + large[i + 2 * WIDTH + 1]!) / 4
        worst = Math.max(worst, Math.abs(mean - small[y * WIDTH + x]!))
      }
    expect(worst).toBeLessThan(0.08)
  })
})

describe('selections', () => {
  const ramp = Float32Array.from({ length: 4 * N }, (_, i) => ((i >> 2) % WIDTH) / (WIDTH - 1))
  it('of tone hold the range, fall off outside, and keep what lies beyond the scale', () => {
    const plane = drawn(maskOf([part('tone', { from: 40, to: 60, soft: 10 })]), ramp)
    for (let x = 0; x < WIDTH; x++) {
      const v = (100 * x) / (WIDTH - 1)
      if (v >= 40 && v <= 60) expect(plane[x]).toBe(1)
      if (v <= 30 || v >= 70) expect(plane[x]).toBe(0)
    }
    expect(plane[Math.round(0.35 * (WIDTH - 1))]).toBeCloseTo(0.5, 1)
    const over = Float32Array.of(1.4, 1.4, 1.4, 1, -0.2, -0.2, -0.2, 1)
    expect([...drawn(maskOf([part('tone', { from: 90, to: 100 })]), over, 2, 1)]).toEqual([1, 0])
    expect([...drawn(maskOf([part('tone', { from: 0, to: 10 })]), over, 2, 1)]).toEqual([0, 1])
  })
  it('of one channel see only that channel', () => {
    const red = Float32Array.of(0.8, 0, 0, 1, 0, 0.8, 0, 1)
    expect([...drawn(maskOf([part('tone', { channel: 'red', from: 70, soft: 0 })]), red, 2, 1)]).toEqual([1, 0])
    expect([...drawn(maskOf([part('tone', { channel: 'green', from: 70, soft: 0 })]), red, 2, 1)]).toEqual([0, 1])
    // And they see it as it is, not more nor less of it.
    const half = Float32Array.of(0.5, 0.5, 0.5, 1)
    for (const channel of ['red', 'green', 'blue', 'luma'])
      for (const [from, to, inside] of [
        [0, 45, 0],
        [45, 55, 1],
        [55, 100, 0],
      ] as const)
        expect([...drawn(maskOf([part('tone', { channel, from, to, soft: 0 })]), half, 1, 1)], channel).toEqual([
          inside,
        ])
  })
  it('of colours agree with distances measured by culori’s CIE L*a*b*', () => {
    const lab = converter('lab65')
    const random = seededRandom(3)
    const colours = Float32Array.from({ length: 4 * 400 }, (_, i) => (i % 4 === 3 ? 1 : random()))
    const pick = labOfCode(0.6, 0.4, 0.3)
    const settings = { picks: [[...pick]], range: 20, soft: 10, lightness: 100 }
    const plane = drawn(maskOf([part('colour', settings)]), colours, 400, 1)
    let inside = 0
    for (let i = 0; i < 400; i++) {
      const [r, g, b] = [0, 1, 2].map((k) => colours[4 * i + k]! ** 2.4) as [number, number, number]
      const { l, a, b: yellow } = lab({ mode: 'lrgb', r, g, b })!
      const d = Math.hypot(l - pick[0], a! - pick[1], yellow! - pick[2])
      if (d < 19) inside++
      if (d < 18.5) expect(plane[i]).toBeGreaterThan(0.97)
      if (d > 31.5) expect(plane[i]).toBeLessThan(0.03)
    }
    expect(inside).toBeGreaterThan(5)
  })
  it('of colours count lightness as little as wished', () => {
    const same = Float32Array.of(0.3, 0.3, 0.3, 1, 0.9, 0.9, 0.9, 1)
    const picks = [[...labOfCode(0.3, 0.3, 0.3)]]
    expect(drawn(maskOf([part('colour', { picks, lightness: 0 })]), same, 2, 1)[1]).toBeCloseTo(1, 3)
    expect(drawn(maskOf([part('colour', { picks, lightness: 100 })]), same, 2, 1)[1]).toBe(0)
  })
})

describe('growing and shrinking', () => {
  it('takes the greatest value of the octagon around each pixel, as counted out one by one', () => {
    const [w, h] = [60, 50]
    const random = seededRandom(5)
    // A regular octagon cuts the corners of its square at about √2 radii; the smallest ones have none to cut.
    for (const [radius, corner] of [
      [1, 2],
      [2, 4],
      [3, 4],
      [4, 6],
      [5, 8],
      [9, 12],
      [-2, 4],
      [-3, 4],
    ] as const) {
      const plane = new Float32Array(w * h)
      for (let y = 15; y < h - 15; y++) for (let x = 15; x < w - 15; x++) plane[y * w + x] = random() ** 4
      const inner = radius < 0 ? plane.map((v) => 1 - v) : plane
      const grown = Float32Array.from(inner)
      growPlane(grown, w, h, radius)
      const r = Math.abs(radius)
      for (let y = 12; y < h - 12; y++)
        for (let x = 12; x < w - 12; x++) {
          let best = radius < 0 ? 1 : 0
          for (let dy = -r; dy <= r; dy++)
            for (let dx = -r; dx <= r; dx++)
              if (Math.abs(dx) + Math.abs(dy) <= corner) {
                const v = inner[(y + dy) * w + x + dx]!
                best = radius < 0 ? Math.min(best, v) : Math.max(best, v)
              }
          expect(grown[y * w + x]).toBe(Math.fround(best))
        }
    }
  })
  it('moves the outline of a disc by its distance', () => {
    const disc = (grow: number) =>
      areaOf(drawn(maskOf([part('ellipse', { width: 20, height: 20, edge: 0 })], { grow })))
    const radius = (area: number) => Math.sqrt(area / Math.PI) / PER_CENT
    for (const grow of [-4, -1, 1, 3, 5]) expect(radius(disc(grow))).toBeCloseTo(10 + grow, 0)
    expect(disc(2)).toBeGreaterThan(disc(1))
    expect(disc(-2)).toBeLessThan(disc(-1))
  })
})
