import { describe, expect, it } from 'vitest'
import { Pictures } from '../src/cpu'
import { compileLine, compileMask, newBath, type Bath, type Recipe } from '../src/line'
import { type Mask } from '../src/masks'
import { seededRandom } from '../src/numbers'
import { SLOT, PlanRunner, type Plan } from '../src/plan'
import { SHIPPED_RECIPES } from '../src/recipes'
import { labOfCode } from '../src/masks/selection'
import { lineOf, luminance, ran, shipped, treated } from './helpers'
import { maskOf, part } from './mask-helpers'

const [WIDTH, HEIGHT] = [48, 27]
const N = WIDTH * HEIGHT
const random = seededRandom(5)
const camera = Float32Array.from({ length: 4 * N }, (_, i) => ((i & 3) === 3 ? 1 : 0.5 * random() ** 2))

const show = (recipe: Recipe, runner?: PlanRunner): Float32Array =>
  treated(recipe, camera, WIDTH, HEIGHT, runner ? { runner } : {})
/** The mask that a plan of one makes. */
function masked(plan: Plan): Float32Array {
  const runner = new PlanRunner()
  ran(plan, camera, WIDTH, HEIGHT, runner)
  const plane = runner.mask('masked', N).values.slice()
  runner.release()
  return plane
}

/** Everything that a plan does, step by step. */
const stepsOf = (plan: Plan): number => plan.ops.reduce((sum, op) => sum + (op.op === 'run' ? op.steps.length : 1), 0)
const worst = (a: Float32Array, b: ArrayLike<number>): number =>
  a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i]!)), 0)
const withBaths = (...baths: Bath[]): Recipe => ({ ...shipped('plain'), baths })
const bath = (kind: string, id: string, settings: object = {}, how: Partial<Bath> = {}): Bath => ({
  ...newBath(kind, id, settings as Record<string, unknown>),
  ...how,
})

describe('the strength of the whole line', () => {
  it('is the share of the treated picture in the mix with the untreated one', () => {
    const recipe = shipped('sepia')
    const shown = (r: Recipe): Float32Array => treated(r, camera, WIDTH, HEIGHT, { colours: true })
    const [whole, footage] = [shown(recipe), shown({ ...recipe, baths: [] })]
    expect(worst(whole, footage)).toBeGreaterThan(0.1)
    for (const strength of [0, 25, 70, 100]) {
      const mixed = whole.map((v, i) => (strength / 100) * v + (1 - strength / 100) * footage[i]!)
      expect(worst(shown({ ...recipe, strength }), mixed), `${strength} %`).toBeLessThan(1e-4)
    }
  })
})

describe('a mask that reads the footage', () => {
  const reading = maskOf([part('tone', { from: 40, soft: 20 })], { reads: 'footage' })
  const grey = (id: string) => bath('black-and-white', id, {}, { takes: 'line', mask: reading })

  it('reads it behind a bath that covers all that came before, as if nothing had come before', () => {
    const cover = bath('colour-print', 'cover', { bleachPrint: 40 })
    const whole = show(withBaths(grey('first'), cover, grey('second')))
    expect(worst(whole, show(withBaths(cover, grey('second'))))).toBe(0)
    expect(worst(whole, show(withBaths(cover)))).toBeGreaterThan(0.05)
  })
  it('is made once where two baths read it', () => {
    const plan = compileLine(withBaths(bath('colour-print', 'a'), grey('b'), grey('c')))
    expect(
      plan.ops.filter((op) => op.op === 'run' && op.steps.some((s) => s.do === 'store' && s.slot === SLOT.FOOTAGE)),
    ).toHaveLength(1)
    expect(plan.ops.filter((op) => op.op === 'mask')).toHaveLength(2)
  })
})

describe('the mask of a bath alone', () => {
  const dark = bath('colour-print', 'dark', {
    bleachPrint: 0,
    lightRed: 29,
    lightGreen: 29,
    lightBlue: 29,
    holdGrey: false,
  })
  const lit = maskOf([part('tone', { from: 30, soft: 0 })], { reads: 'line' })
  const last = bath('black-and-white', 'masked', { grade: 5 }, { takes: 'line', mask: lit })

  it('reads what enters the bath: nothing of the bath itself, and all that stands before it', () => {
    const recipe = withBaths(dark, last)
    const plane = masked(compileMask(recipe, 'masked')!)
    const entering = show(withBaths(dark))
    let inside = 0
    for (let i = 0; i < N; i++) {
      const luma = luminance([entering[4 * i]!, entering[4 * i + 1]!, entering[4 * i + 2]!])
      // Right at the edge of a hard selection the two roundings may fall on either side.
      if (Math.abs(luma - 0.3) > 1e-3) expect(plane[i]).toBe(luma > 0.3 ? 1 : 0)
      inside += plane[i]!
    }
    expect(inside).toBeGreaterThan(0.05 * N)
    expect(inside).toBeLessThan(0.95 * N)
  })
  it('needs none of the baths where it reads the footage, and is none where the bath has none', () => {
    const own: Mask = { ...lit, reads: 'footage' }
    const plan = compileMask(withBaths(dark, { ...last, mask: own }), 'masked')!
    expect(plan.ops.map((op) => op.op)).toEqual(['run', 'mask'])
    expect(compileMask(withBaths(dark, last), 'dark')).toBeNull()
    expect(compileMask(withBaths(dark, last), 'nobody')).toBeNull()
  })
  it('sees the trimmed footage', () => {
    const own: Mask = { ...lit, reads: 'footage' }
    const area = (exposure: number): number => {
      const around = { preparation: [newBath('balance', 'shot', { exposure })], after: [] }
      const plan = compileMask(withBaths({ ...last, mask: own }), 'masked', { around })!
      return masked(plan).reduce((a, b) => a + b, 0)
    }
    expect(area(1)).toBeGreaterThan(1.2 * area(0))
    expect(area(-1)).toBeLessThan(0.8 * area(0))
  })
})

describe('what is done over and over', () => {
  it('does not depend on what a runner held before', () => {
    const runner = new PlanRunner()
    const lines = SHIPPED_RECIPES.slice(0, 6).map((r) => ({ ...r, strength: 80 }))
    const fresh = lines.map((line) => show(line))
    for (const [i, line] of [...lines.entries(), ...lines.entries()])
      expect(worst(show(line, runner), fresh[i]!)).toBe(0)
  })
  it('leaves out baths that are lifted out or have no strength, and what is covered completely', () => {
    const plain = bath('colour-print', 'p')
    const one = stepsOf(compileLine(withBaths(plain)))
    const out = bath('black-and-white', 'o', {}, { in: false })
    const none = bath('black-and-white', 'n', {}, { strength: 0 })
    expect(stepsOf(compileLine(withBaths(out, plain, none)))).toBe(one)
    expect(stepsOf(compileLine(withBaths(bath('two-strip', 't'), plain)))).toBe(one)
    // Not covered: half strength, another mode, under, behind a mask, or made from the line.
    const mask = maskOf([part('ellipse')])
    for (const how of [
      { strength: 50 },
      { lay: 'multiply' as const },
      { under: true },
      { mask },
      { takes: 'line' as const },
    ])
      expect(
        stepsOf(compileLine(withBaths(bath('two-strip', 't'), bath('colour-print', 'q', {}, how)))),
      ).toBeGreaterThan(one)
  })
  it('refuses the picture that it makes itself', () => {
    const runner = new PlanRunner()
    const plan = compileLine(lineOf('colour-print'))
    const made = runner.run(plan, new Pictures().copy('light', camera), WIDTH, HEIGHT)
    expect(() => runner.run(plan, made, WIDTH, HEIGHT)).toThrow('must not be the one that it makes')
  })
})

describe('colours that a mask selects by', () => {
  it('are CIE L*a*b* of BT.1886 codes: mid grey of 18 % is L* 49.5, a code of nothing is black', () => {
    const code = 0.18 ** (1 / 2.4)
    const [l, a, b] = labOfCode(code, code, code)
    // CIE 15: L* = 116 (0.18)^(1/3) - 16.
    expect(l).toBeCloseTo(49.496, 2)
    expect(Math.hypot(a, b)).toBeLessThan(0.01)
    expect(labOfCode(-0.2, 0, 0)[0]).toBeCloseTo(0, 6)
  })
})
