import { differenceCiede2000, type Color as CuloriColor } from 'culori'
import { describe, expect, it } from 'vitest'
import { displayLight } from '../src/colour'
import { kernelMemory, Pictures } from '../src/cpu'
import { changeBath, newBath, NOTHING_AROUND, type Line, type Recipe } from '../src/line'
import { newPart, withPart } from '../src/masks'
import { seededRandom } from '../src/numbers'
import { SLOT, type Plan, type RunStep } from '../src/plan'
import { SHIPPED_RECIPES } from '../src/recipes'
import { curves, type Tone } from '../src/stages'
import { DRAFT_LIMITS, Drafts, Treatment } from '../src/treat'

const [WIDTH, HEIGHT] = [160, 120]
/** Soft hills of colour with some noise over them, as footage has them. */
const random = seededRandom(8)
const data = Uint16Array.from({ length: 3 * WIDTH * HEIGHT }, (_, i) => {
  const [x, y, k] = [Math.floor(i / 3) % WIDTH, Math.floor(i / 3 / WIDTH), i % 3]
  const hill = 0.45 + 0.3 * Math.sin(x / 23 + 2.1 * k) + 0.22 * Math.cos(y / 17 - k)
  return 65535 * Math.min(1, Math.max(0, hill + 0.02 * (random() - 0.5)))
})
const frame = { data, format: 'u16', width: WIDTH, height: HEIGHT, frame: 0 } as const
const recipeOf = (id: string): Recipe => SHIPPED_RECIPES.find((r) => r.id === id)!
const lineOf = (recipe: Recipe): Line => ({ ...NOTHING_AROUND, recipe })

const apart = differenceCiede2000()
/** As a screen of BT.1886 shows it, to a library that takes light. */
const shown = (pixels: Float32Array, i: number): CuloriColor => ({
  mode: 'lrgb',
  r: displayLight(pixels[4 * i]!),
  g: displayLight(pixels[4 * i + 1]!),
  b: displayLight(pixels[4 * i + 2]!),
})
const differences = (a: Float32Array, b: Float32Array): number[] =>
  Array.from({ length: a.length / 4 }, (_, i) => apart(shown(a, i), shown(b, i))).sort((x, y) => x - y)

describe('a line as one table', () => {
  const treatment = new Treatment()
  const drafted = SHIPPED_RECIPES.flatMap((recipe) => {
    const picture = treatment.draft(treatment.read(frame, 'bt1886'), lineOf(recipe))?.picture
    return picture ? [[recipe.id, recipe, picture.pixels.slice()] as const] : []
  })

  it('is there for most of what ships', () => {
    expect(drafted.length).toBeGreaterThan(35)
  })
  // Culori's CIEDE2000 over every pixel, not only over those that the table was tried on.
  it.each(drafted)('shows what the exact run shows: %s', (_, recipe, made) => {
    const exact = treatment.treat(treatment.read(frame, 'bt1886'), lineOf(recipe)).pixels
    const all = differences(exact, made)
    expect(all.reduce((sum, d) => sum + d, 0) / all.length).toBeLessThanOrEqual(1.1 * DRAFT_LIMITS.mean)
    expect(all[Math.floor(0.99 * all.length)]).toBeLessThanOrEqual(1.1 * DRAFT_LIMITS.most)
  })

  it('is there for nothing that looks at place or neighbours, nor for light of a scene', () => {
    const grainy = { ...recipeOf('plain'), baths: [...recipeOf('plain').baths, newBath('grain', 'grain')] }
    const masked = changeBath(recipeOf('plain'), recipeOf('plain').baths[0]!.id, {
      mask: withPart(null, newPart('ellipse')),
    })
    for (const recipe of [grainy, masked, recipeOf('three-strip')])
      expect(treatment.draft(treatment.read(frame, 'bt1886'), lineOf(recipe))).toBeNull()
    expect(treatment.draft(treatment.read(frame, 'linear'), lineOf(recipeOf('plain')))).toBeNull()
  })

  it('follows the order that it is asked for', () => {
    const at = (strength: number): number[] => {
      const line = lineOf({ ...recipeOf('two-strip'), strength })
      return [...treatment.draft(treatment.read(frame, 'bt1886'), line)!.picture.pixels.subarray(4000, 4040)]
    }
    const [none, half, whole] = [0, 50, 100].map(at)
    none!.forEach((v, i) => {
      if (i % 4 === 3) return
      expect(Math.abs(half![i]! - (v + whole![i]!) / 2)).toBeLessThan(0.02)
    })
    expect(whole).not.toEqual(none)
  })
})

describe('tables that do not do', () => {
  /** Codes through one curve alone. */
  const planOf = (f: Tone['f']): Plan => {
    const tone: Tone = { key: String(f), axis: { nodes: 'even', from: 0, to: 1, steps: 4096 }, f }
    const steps: RunStep[] = [
      { do: 'load', slot: SLOT.CAMERA, register: 'own' },
      { do: 'stage', stage: curves(tone, tone, tone) },
      { do: 'store', slot: SLOT.LINE, register: 'own' },
    ]
    return { ops: [{ op: 'run', steps }] }
  }
  const pictures = new Pictures()
  const greys = (from: number, to: number) => {
    const n = 2000
    const pixels = new Float32Array(4 * n).map((_, i) => (i % 4 === 3 ? 1 : from + ((to - from) * (i >> 2)) / n))
    return pictures.copy('greys', pixels)
  }

  it('have more nodes where that is enough, and are left where it is not', () => {
    const drafts = new Drafts()
    const sides = [
      (v: number) => v ** 1.2,
      (v: number) => v + 0.02 * Math.sin(60 * v),
      (v: number) => (v > 0.5 ? 1 : 0),
    ]
    expect(sides.map((f) => drafts.run(planOf(f), greys(0.1, 0.9))?.side ?? null)).toEqual([33, 49, null])
  })

  it('are tried again on what is shown later', () => {
    const drafts = new Drafts()
    const plan = planOf((v) => (v > 0.5 ? v : v / 2))
    const dark = Array.from({ length: 3 }, () => drafts.run(plan, greys(0.05, 0.4)) !== null)
    const bright = Array.from({ length: 24 }, () => drafts.run(plan, greys(0.45, 0.55)) !== null)
    expect([dark.every(Boolean), bright.at(-1)]).toEqual([true, false])
    // And with dark pictures it comes back.
    const again = Array.from({ length: 25 }, () => drafts.run(plan, greys(0.05, 0.4)) !== null)
    expect(again.at(-1)).toBe(true)
  })

  it('are eight at a time, and give back what they held', () => {
    const drafts = new Drafts()
    const camera = greys(0, 1)
    const plans = Array.from({ length: 40 }, (_, i) =>
      planOf(new Function('v', `return v ** ${1 + i / 100}`) as Tone['f']),
    )
    for (const plan of plans) drafts.run(plan, camera)
    const before = kernelMemory().memory.buffer.byteLength
    for (const plan of plans) expect(drafts.run(plan, camera)?.side).toBe(33)
    expect(kernelMemory().memory.buffer.byteLength).toBe(before)
  })
})
