import { converter } from 'culori'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  EXACT_SIZE,
  JOINS,
  NO_TRIMS,
  PART_TYPES,
  Workbench,
  checkRecipe,
  compileLine,
  completeRecipe,
  labOfCode,
  maskPlane,
  maskWork,
  newBath,
  newPart,
  plainSteps,
  recipeToCube,
  runPlan,
  seededRandom,
  withPart,
  withoutPart,
  type Mask,
  type MaskPart,
  type PartType,
  type Recipe,
} from '../src'
import { growPlane } from '../src/masks/grow'
import { lineOf, pointwise, shipped } from './helpers'

const [WIDTH, HEIGHT] = [320, 180]
const N = WIDTH * HEIGHT
/** One per cent of the width, in pixels. */
const PER_CENT = WIDTH / 100

const maskOf = (parts: readonly MaskPart[], whole: Partial<Mask> = {}): Mask => ({
  ...parts.reduce<Mask | null>(withPart, null)!,
  ...whole,
})
const part = (type: PartType, settings: object = {}, how: object = {}): MaskPart =>
  ({ ...newPart(type, settings as Record<string, unknown>), ...how }) as MaskPart

function drawn(mask: Mask, reading: Float32Array | null = null, width = WIDTH, height = HEIGHT): Float32Array {
  const plane = new Float32Array(width * height)
  maskWork(mask).run(reading, plane, width, height, new Workbench())
  return plane
}
const areaOf = (plane: Float32Array): number => plane.reduce((a, b) => a + b, 0)
const at = (plane: Float32Array, x: number, y: number): number =>
  plane[Math.floor((y / 100) * HEIGHT) * WIDTH + Math.floor((x / 100) * WIDTH)]!

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
    for (const radius of [1, 2, 5, 9, -3]) {
      const plane = new Float32Array(w * h)
      for (let y = 15; y < h - 15; y++) for (let x = 15; x < w - 15; x++) plane[y * w + x] = random() ** 4
      const inner = radius < 0 ? plane.map((v) => 1 - v) : plane
      const grown = Float32Array.from(inner)
      growPlane(grown, w, h, radius)
      const r = Math.abs(radius)
      const slant = Math.round(r / (2 + Math.SQRT2))
      for (let y = 12; y < h - 12; y++)
        for (let x = 12; x < w - 12; x++) {
          let best = radius < 0 ? 1 : 0
          for (let dy = -r; dy <= r; dy++)
            for (let dx = -r; dx <= r; dx++)
              if (Math.abs(dx) + Math.abs(dy) <= 2 * (r - slant)) {
                const v = inner[(y + dy) * w + x + dx]!
                // Slanting steps alone leave out every other pixel.
                if (r > 2 * slant) best = radius < 0 ? Math.min(best, v) : Math.max(best, v)
              }
          if (r > 2 * slant) expect(grown[y * w + x]).toBe(Math.fround(best))
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

describe('parts together', () => {
  const a = part('ellipse', { x: 40 })
  const b = part('rectangle', { x: 60 })
  const opposite = (p: MaskPart): MaskPart => ({ ...p, invert: true })
  it('follow De Morgan: the opposite of a union is the intersection of the opposites', () => {
    const union = drawn(maskOf([a, b], { invert: true }))
    const both = drawn(maskOf([opposite(a), { ...opposite(b), join: 'intersect' }]))
    expect([...union]).toEqual([...both])
    const less = drawn(maskOf([a, { ...b, join: 'subtract' }]))
    expect([...less]).toEqual([...drawn(maskOf([a, { ...opposite(b), join: 'intersect' }]))])
  })
  it('take a first part that is taken away from the whole picture', () => {
    const plane = drawn(maskOf([{ ...a, join: 'subtract' }]))
    expect(at(plane, 5, 5)).toBe(1)
    expect(at(plane, 40, 50)).toBe(0)
    expect(withoutPart(maskOf([a]), 0)).toBeNull()
  })
  it('soften without moving: the sum stays, the middle of the edge stays', () => {
    const hard = drawn(maskOf([part('rectangle', { width: 40, edge: 0 })]))
    const soft = drawn(maskOf([part('rectangle', { width: 40, edge: 0 })], { soften: 12 }))
    expect(areaOf(soft) / areaOf(hard)).toBeCloseTo(1, 2)
    // The edge lies between two pixels, 70 % across.
    const row = (HEIGHT / 2) * WIDTH
    expect((soft[row + 223]! + soft[row + 224]!) / 2).toBeCloseTo(0.5, 2)
  })
})

describe('a masked bath', () => {
  const random = seededRandom(11)
  const camera = Float32Array.from({ length: 4 * N }, (_, i) => ((i & 3) === 3 ? 1 : 0.4 * random() ** 2))
  const show = (recipe: Recipe, bench = new Workbench()): Float32Array =>
    Float32Array.from(runPlan(compileLine(recipe, { size: EXACT_SIZE }), camera, WIDTH, HEIGHT, bench))
  const first = newBath('colour-print', 'first', { bleachPrint: 30 })
  const masked = (mask: Mask | null, how: object = {}): Recipe => ({
    ...shipped('plain'),
    baths: [first, { ...newBath('black-and-white', 'second', { toner1: 'sulphide' }), mask, ...how }],
  })

  it('is the line where the mask is nothing, the bath where it is all, and mixed between, in every way of laying', () => {
    for (const how of [{}, { lay: 'multiply', strength: 60 }, { lay: 'screen', under: true }, { takes: 'line' }]) {
      const mask = maskOf([part('gradient')])
      const bench = new Workbench()
      const picture = show(masked(mask, how), bench)
      const plane = maskPlane('second', N, bench)
      let here = 0
      const steps = plainSteps(masked(mask, how), NO_TRIMS, () => plane[here]!)
      const open = plainSteps(masked(null, how), NO_TRIMS)
      const [out, before, after] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)]
      for (here = 0; here < N; here += 97) {
        const light = [0, 1, 2].map((k) => camera[4 * here + k]!) as [number, number, number]
        open.leaving[0]!(...light, before)
        open.leaving[1]!(...light, after)
        steps.whole(...light, out)
        for (let k = 0; k < 3; k++) {
          const mixed = before[k]! + (after[k]! - before[k]!) * plane[here]!
          expect(out[k]).toBeCloseTo(mixed, 9)
          expect(Math.abs(picture[4 * here + k]! - mixed), JSON.stringify(how)).toBeLessThan(0.004)
        }
      }
    }
  })
  it('leaves the line as it is when its mask is empty', () => {
    const nothing = maskOf([part('colour', { picks: [] })])
    expect([...show(masked(nothing))]).toEqual([...show({ ...masked(nothing), baths: [first] })])
  })
  it('reads the footage, or what enters the bath', () => {
    const bright = (reads: Mask['reads']) => {
      const bench = new Workbench()
      const dark = {
        ...first,
        settings: { ...first.settings, lightRed: 0, lightGreen: 0, lightBlue: 0, holdGrey: false },
      }
      const recipe = masked(maskOf([part('tone', { from: 50 })], { reads }))
      show({ ...recipe, baths: [dark, recipe.baths[1]!] }, bench)
      return areaOf(maskPlane('second', N, bench).slice())
    }
    expect(bright('footage')).toBeGreaterThan(0.1 * N)
    expect(bright('line')).not.toBeCloseTo(bright('footage'), 0)
  })
  it('may stand first in the line; the untreated picture is what it is laid on', () => {
    const half = maskOf([part('gradient', { x0: 49.9, y0: 50, x1: 50.1, y1: 50 })])
    const recipe = pointwise(lineOf('colour-print', {}, { mask: half }))
    const [picture, footage, treated] = [
      show(recipe),
      show({ ...recipe, baths: [] }),
      show({ ...recipe, baths: [{ ...recipe.baths[0]!, mask: null }] }),
    ]
    const left = 4 * (90 * WIDTH + 40)
    const right = 4 * (90 * WIDTH + 280)
    expect([...picture.slice(left, left + 3)]).toEqual([...treated.slice(left, left + 3)])
    expect([...picture.slice(right, right + 3)]).toEqual([...footage.slice(right, right + 3)])
  })
  it('gives finite pictures in 0..1 for any mask', () => {
    const anyPart = fc
      .record({
        type: fc.constantFrom(...PART_TYPES),
        join: fc.constantFrom(...JOINS),
        invert: fc.boolean(),
        x: fc.double({ min: -50, max: 150, noNaN: true }),
        width: fc.double({ min: 0.5, max: 200, noNaN: true }),
      })
      .map(({ type, join, invert, x, width }) => {
        const settings =
          type === 'ellipse' || type === 'rectangle' ? { x, width } : type === 'gradient' ? { x0: x } : {}
        return part(type, settings, { join, invert })
      })
    fc.assert(
      fc.property(
        fc.array(anyPart, { minLength: 1, maxLength: 4 }),
        fc.double({ min: -5, max: 5, noNaN: true }),
        fc.double({ min: 0, max: 50, noNaN: true }),
        (parts, grow, soften) => {
          const plane = drawn(maskOf(parts, { grow, soften }), camera, 24, 16)
          for (const v of plane) expect(v >= 0 && v <= 1).toBe(true)
        },
      ),
      { numRuns: 100 },
    )
  })
})

describe('masks in files', () => {
  it('are completed from short forms, and refused by name', () => {
    const mask = { parts: [{ type: 'ellipse', settings: { x: 20 } }], soften: 4 }
    const full = checkRecipe(completeRecipe({ baths: [{ kind: 'colour-print', mask }] }) as Recipe)
    expect(full.baths[0]!.mask).toMatchObject({
      reads: 'footage',
      grow: 0,
      soften: 4,
      invert: false,
      parts: [{ type: 'ellipse', join: 'add', invert: false, settings: { x: 20, y: 50 } }],
    })
    expect(() => completeRecipe({ baths: [{ kind: 'colour-print', mask: { parts: [{ type: 'star' }] } }] })).toThrow(
      /Part 1 of the mask in baths\/0 is of type 'star'; it must be one of: ellipse/,
    )
  })
  it('have no place in a LUT, which is said', () => {
    const recipe = lineOf('colour-print', {}, { name: 'Sky', mask: maskOf([part('ellipse')]) })
    expect(() => recipeToCube(recipe, 5)).toThrow(/'Sky' has a mask/)
    expect(recipeToCube({ ...recipe, baths: [{ ...recipe.baths[0]!, in: false }] }, 5)).toMatch(/LUT_3D_SIZE 5/)
  })
})
