import { three } from '../src/colour'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkRecipe, completeRecipe, newBath, plainSteps, type Recipe } from '../src/line'
import { makeLook } from '../src/look'
import { JOINS, PART_TYPES, withoutPart, type Mask, type MaskPart } from '../src/masks'
import { seededRandom } from '../src/numbers'
import { PlanRunner } from '../src/plan'
import { close, lineOf, shipped, treated } from './helpers'
import { HEIGHT, N, WIDTH, areaOf, at, drawn, maskOf, part } from './mask-helpers'

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
  const show = (recipe: Recipe, runner = new PlanRunner(), colours = false): Float32Array =>
    treated(recipe, camera, WIDTH, HEIGHT, { runner, colours })
  const first = newBath('colour-print', 'first', { bleachPrint: 30 })
  const masked = (mask: Mask | null, how: object = {}): Recipe => ({
    ...shipped('plain'),
    baths: [first, { ...newBath('black-and-white', 'second', { toner1: 'sulphide' }), mask, ...how }],
  })

  it('is the line where the mask is nothing, the bath where it is all, and mixed between, in every way of laying', () => {
    for (const how of [{}, { lay: 'multiply', strength: 60 }, { lay: 'screen', under: true }, { takes: 'line' }]) {
      const mask = maskOf([part('gradient')])
      const runner = new PlanRunner()
      const picture = show(masked(mask, how), runner)
      const plane = runner.mask('second', N).values
      let here = 0
      const steps = plainSteps(masked(mask, how), { maskAt: () => plane[here]! })
      const open = plainSteps(masked(null, how))
      const [out, before, after] = [three(), three(), three()]
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
      const runner = new PlanRunner()
      const dark = {
        ...first,
        settings: { ...first.settings, lightRed: 0, lightGreen: 0, lightBlue: 0, holdGrey: false },
      }
      const recipe = masked(maskOf([part('tone', { from: 50 })], { reads }))
      show({ ...recipe, baths: [dark, recipe.baths[1]!] }, runner)
      return areaOf(runner.mask('second', N).values.slice())
    }
    expect(bright('footage')).toBeGreaterThan(0.1 * N)
    expect(bright('line')).not.toBeCloseTo(bright('footage'), 0)
  })
  it('may stand first in the line; the untreated picture is what it is laid on', () => {
    const half = maskOf([part('gradient', { x0: 49.9, y0: 50, x1: 50.1, y1: 50 })])
    const recipe = lineOf('colour-print', {}, { mask: half })
    const [picture, footage, treated] = [
      recipe,
      { ...recipe, baths: [] },
      { ...recipe, baths: [{ ...recipe.baths[0]!, mask: null }] },
    ].map((r) => show(r, undefined, true)) as [Float32Array, Float32Array, Float32Array]
    const left = 4 * (90 * WIDTH + 40)
    const right = 4 * (90 * WIDTH + 280)
    close([...picture.slice(left, left + 3)], [...treated.slice(left, left + 3)], 7)
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
    expect(() => makeLook(recipe, { format: 'cube', size: 5 })).toThrow(/'Sky' has a mask/)
    expect(
      makeLook({ ...recipe, baths: [{ ...recipe.baths[0]!, in: false }] }, { format: 'cube', size: 5 }).text,
    ).toMatch(/LUT_3D_SIZE 5/)
  })
})
