import { NOTHING_AROUND, newBath, type Recipe } from '@fogbath/core/line'
import { newPart, withPart, type Mask } from '@fogbath/core/masks'
import { seededRandom } from '@fogbath/core/numbers'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { Treatment, type Order } from '@fogbath/core/treat'
import { describe, expect, it } from 'vitest'
import { workFrame, type Job } from '../src/render/frame-worker'

const [WIDTH, HEIGHT] = [64, 36]
const N = WIDTH * HEIGHT
/** Code values all over the cube, so that tones and colours select some and leave others. */
function codes(seed: number): Uint16Array {
  const random = seededRandom(seed)
  return Uint16Array.from({ length: 3 * N }, () => 65535 * random())
}

function masked(mask: Mask): Recipe {
  const base = SHIPPED_RECIPES.find((r) => r.id === 'bleach-bypass')!
  const bath = { ...newBath('black-and-white', 'masked'), takes: 'line' as const, mask }
  return { ...base, baths: [...base.baths, bath] }
}
const tones: Mask = { ...withPart(null, newPart('tone')), reads: 'footage' }
const colours: Mask = {
  ...withPart(null, newPart('colour', { picks: [[60, 30, 20]], range: 40, soft: 20, lightness: 50 })),
  reads: 'footage',
}

const orderOf = (recipe: Recipe): Order => ({ ...NOTHING_AROUND, recipe, encoding: 'bt1886' })
const jobOf = (recipe: Recipe, more: Partial<Job> = {}): Job => ({
  order: orderOf(recipe),
  to: 'bt1886',
  bits: 16,
  float: false,
  ...more,
})

/** The same by a treatment that nothing else uses. */
function alone(recipe: Recipe, data: Uint16Array, frame: number): Float32Array {
  const treatment = new Treatment()
  const made = treatment
    .run({ data, format: 'u16', width: WIDTH, height: HEIGHT, frame }, orderOf(recipe))
    .pixels.slice()
  treatment.release()
  return made
}

describe('a frame in the worker of renders', () => {
  it.each([
    ['tones', tones],
    ['colours', colours],
  ])('with a mask that reads the footage by %s is what the line makes of it, frame after frame', (_, mask) => {
    const recipe = masked(mask)
    let changed = 0
    for (const frame of [0, 1, 2]) {
      const data = codes(frame)
      const expected = alone(recipe, data, frame)
      const untouched = alone({ ...recipe, baths: recipe.baths.slice(0, 1) }, data, frame)
      const got = workFrame({ data: data.slice(), width: WIDTH, height: HEIGHT, frame, job: jobOf(recipe) })
      let worst = 0
      for (let i = 0; i < N; i++)
        for (let k = 0; k < 3; k++) {
          worst = Math.max(worst, Math.abs(got[3 * i + k]! / 65535 - expected[4 * i + k]!))
          if (Math.abs(expected[4 * i + k]! - untouched[4 * i + k]!) > 0.02) changed++
        }
      expect(worst).toBeLessThan(1 / 65000)
    }
    // The mask lets something through and keeps something back, so that both were tried.
    expect(changed).toBeGreaterThan(0.05 * 9 * N)
    expect(changed).toBeLessThan(0.95 * 9 * N)
  })

  it('is dithered by its frame number where the target has 10 bits: the same again, another for the next', () => {
    const data = codes(7)
    const work = (frame: number) =>
      workFrame({
        data: data.slice(),
        width: WIDTH,
        height: HEIGHT,
        frame,
        job: jobOf(masked(tones), { bits: 10 }),
      })
    expect(work(3)).toEqual(work(3))
    expect(work(3)).not.toEqual(work(4))
  })

  it('has the grain of its number, the same again and another for the next', () => {
    const data = new Uint16Array(3 * N).fill(30_000)
    const work = (frame: number) => {
      const job = jobOf({ ...SHIPPED_RECIPES[0]!, baths: [newBath('grain', 'g')] })
      return workFrame({ data: data.slice(), width: WIDTH, height: HEIGHT, frame, job })
    }
    expect(work(3)).toEqual(work(3))
    const [three, four] = [work(3), work(4)]
    expect(three.filter((v, i) => v !== four[i]).length).toBeGreaterThan(0.9 * three.length)
  })

  it('is cut to what its line leaves, row by row', () => {
    const data = codes(5)
    const square = { ...SHIPPED_RECIPES[0]!, baths: [newBath('frame', 'f', { ratio: 'square', across: 50 })] }
    const got = workFrame({ data: data.slice(), width: WIDTH, height: HEIGHT, frame: 0, job: jobOf(square) })
    expect(got).toHaveLength(3 * 36 * 36)
    // (64 - 36) · 0.75 = 21 columns are left out on the left.
    for (const [x, y] of [
      [3, 0],
      [20, 17],
      [33, 35],
    ] as const)
      for (let k = 0; k < 3; k++)
        expect(Math.abs(got[3 * (y * 36 + x) + k]! - data[3 * (y * WIDTH + x + 21) + k]!)).toBeLessThan(400)
  })

  it('uses the preparation and the encodings of its order', () => {
    const data = codes(8)
    const frame = { width: WIDTH, height: HEIGHT, frame: 0 }
    const plain = { ...SHIPPED_RECIPES[0]!, baths: [] }
    const work = (job: Job) => workFrame({ data: data.slice(), ...frame, job })
    const mean = (of: ArrayLike<number>) => Array.from(of).reduce((a, b) => a + b, 0) / of.length
    const base = work(jobOf(plain))
    expect(
      mean(
        work(
          jobOf(plain, { order: { ...orderOf(plain), preparation: [newBath('balance', 'shot', { exposure: 1 })] } }),
        ),
      ),
    ).toBeGreaterThan(1.15 * mean(base))
    // An untreated picture in its own encoding comes back as it was, within what the LUT's grid leaves: in the mean a
    // twentieth of an 8-bit code, at worst one and a half.
    for (const id of ['bt1886', 'srgb']) {
      const same = work(jobOf(plain, { order: { ...orderOf(plain), encoding: id }, to: id }))
      const misses = data.map((v, i) => Math.abs(v - same[i]!))
      expect(mean(misses) / 257).toBeLessThan(0.05)
      expect(Math.max(...misses) / 257).toBeLessThan(1.5)
    }
    const float = work(jobOf(plain, { to: 'linear', float: true }))
    expect(float).toBeInstanceOf(Float32Array)
    // Linear light of the display: code to the power of 2.4 (BT.1886 with a black of 0).
    const worst = Math.max(...Array.from(data, (v, i) => Math.abs((v / 65535) ** 2.4 - float[i]!)))
    expect(worst).toBeLessThan(2e-3)
  })
})
