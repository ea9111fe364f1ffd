import { describe, expect, it } from 'vitest'
import { CHARTS, PATCHES, STRIP_PATCHES, STRIP_WEDGE, WEDGE, WEDGE_STEPS, drawChart } from '../src/charts'
import { SRGB } from '../src/colour'
import { straightView } from '../src/film'
import { memoized } from '../src/numbers/memoized'

const [WIDTH, HEIGHT] = [420, 240]
const at = (picture: Float32Array, u: number, v: number): number[] => {
  const i = 4 * (Math.floor(v * HEIGHT) * WIDTH + Math.floor(u * WIDTH))
  return [...picture.subarray(i, i + 4)]
}

describe('charts', () => {
  it('are opaque, finite and of the size asked for', () => {
    for (const name of CHARTS) {
      const picture = drawChart(name, WIDTH, HEIGHT)
      expect(picture).toHaveLength(4 * WIDTH * HEIGHT)
      // One assertion over a whole picture: hundreds of thousands of them would take longer than drawing it.
      expect(
        picture.every((v, i) => (i % 4 === 3 ? v === 1 : Number.isFinite(v))),
        name,
      ).toBe(true)
    }
  })
  it('the wedge has 21 steps of 0.15 density, mid grey among them', () => {
    expect(WEDGE).toHaveLength(WEDGE_STEPS)
    for (let i = 1; i < WEDGE.length; i++) expect(Math.log10(WEDGE[i - 1]! / WEDGE[i]!)).toBeCloseTo(0.15, 12)
    expect(WEDGE.some((g) => Math.abs(g - 0.18) < 1e-12)).toBe(true)
    const picture = drawChart('wedge', WIDTH, HEIGHT)
    WEDGE.forEach((light, i) => {
      const [r, g, b] = at(picture, (i + 0.5) / WEDGE_STEPS, 0.5)
      for (const v of [r, g, b]) expect(v).toBeCloseTo(light, 5)
    })
    expect(STRIP_WEDGE).toHaveLength(11)
  })
  it('the ramp rises evenly in code values, mid grey in the middle, and in as many steps as the wedge has', () => {
    const codesOf = (name: 'ramp' | 'wedge-codes'): number[] => {
      const picture = drawChart(name, WIDTH, HEIGHT)
      // The straight view is light on the display; BT.1886 raises code values to 2.4.
      return Array.from({ length: WIDTH }, (_, x) => straightView(at(picture, (x + 0.5) / WIDTH, 0.3)[0]!) ** (1 / 2.4))
    }
    const codes = codesOf('ramp')
    for (let x = 1; x < WIDTH; x++) expect(Math.abs((codes[x]! - codes[x - 1]!) * WIDTH - 1)).toBeLessThan(0.03)
    expect((codes[WIDTH / 2]! + codes[WIDTH / 2 - 1]!) / 2).toBeCloseTo(0.18 ** (1 / 2.4), 2)
    const steps = codesOf('wedge-codes')
    const levels = [...new Set(steps.map((v) => v.toFixed(4)))].map(Number)
    expect(levels).toHaveLength(WEDGE_STEPS)
    for (let i = 1; i < levels.length; i++) expect(levels[i - 1]! - levels[i]!).toBeCloseTo(1 / (WEDGE_STEPS - 1), 2)
    expect(levels[(WEDGE_STEPS - 1) / 2]).toBeCloseTo(0.18 ** (1 / 2.4), 3)
  })
  it('or rises evenly in stops from black to white', () => {
    const picture = drawChart('ramp-stops', WIDTH, HEIGHT)
    const stops = Array.from({ length: WIDTH }, (_, x) => Math.log2(at(picture, (x + 0.5) / WIDTH, 0.3)[0]!))
    const step = (stops[WIDTH - 1]! - stops[0]!) / (WIDTH - 1)
    expect(step).toBeGreaterThan(0)
    for (let x = 1; x < WIDTH; x++) expect(stops[x]! - stops[x - 1]!).toBeCloseTo(step, 4)
    // The straight view brings its ends to the ends of the display.
    expect(straightView(2 ** stops[0]!)).toBeLessThan(0.002)
    expect(straightView(2 ** stops[WIDTH - 1]!)).toBeGreaterThan(0.98)
  })
  it('patches lie row by row, apart from each other, and show the colours they are named for', () => {
    const picture = drawChart('patches', WIDTH, HEIGHT)
    PATCHES.forEach((patch, i) => {
      const [u, v] = [((i % 6) + 0.5) / 6, (Math.floor(i / 6) + 0.5) / 4]
      const seen = at(picture, u, v)
      patch.light.forEach((light, k) => expect(seen[k]).toBeCloseTo(light, 5))
      // Between two patches lies the ground.
      const [r, g, b] = at(picture, u + 0.4999 / 6, v)
      expect(new Set([r, g, b]).size).toBe(1)
    })
    expect(PATCHES.filter((p) => p.skin).length).toBeGreaterThanOrEqual(6)
    expect(STRIP_PATCHES.every(Boolean)).toBe(true)
    // Handed back through the straight view a patch is the sRGB colour it was given as.
    const red = PATCHES.find((p) => p.name === 'red')!.light.map((l) => Math.round(255 * SRGB.encode(straightView(l))))
    expect(red).toEqual([0xb0, 0x2a, 0x30])
  })
})

describe('memoized results', () => {
  it('are made once, the oldest going first', () => {
    let made = 0
    const square = memoized(2, (x: number) => {
      made++
      return { value: x * x }
    })
    const first = square(3)
    expect(square(3)).toBe(first)
    expect(made).toBe(1)
    square(4)
    // Asked for again, 3 is the younger of the two, so that 4 has to go.
    square(3)
    square(5)
    expect(square(3)).toBe(first)
    expect(made).toBe(3)
    square(4)
    expect(made).toBe(4)
  })
  it('are told apart by every argument', () => {
    const both = memoized(9, (a: number, b: { c: number } = { c: 0 }) => a + b.c)
    expect([both(1), both(1, { c: 2 }), both(2, { c: 2 }), both(1, { c: 2 })]).toEqual([1, 3, 4, 3])
  })
})
