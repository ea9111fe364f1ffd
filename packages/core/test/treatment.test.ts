import { describe, expect, it } from 'vitest'
import { NOTHING, NOTHING_AROUND, changeBath, changeSettings, newBath, type Bath } from '../src/line'
import { newPart, withPart, type MaskPart } from '../src/masks'
import { seededRandom } from '../src/numbers'
import { SHIPPED_RECIPES } from '../src/recipes'
import { Treatment, UNTREATED, shownIn, type Order } from '../src/treat'

const [WIDTH, HEIGHT] = [24, 16]
const random = seededRandom(3)
const data = Uint16Array.from({ length: 3 * WIDTH * HEIGHT }, () => 65535 * random())
const frame = { data, format: 'u16', width: WIDTH, height: HEIGHT, frame: 0 } as const
const bypass = SHIPPED_RECIPES.find((r) => r.id === 'bleach-bypass')!
const [bath] = bypass.baths
const order: Order = { ...NOTHING_AROUND, recipe: bypass, encoding: 'bt1886' }

describe('a treatment', () => {
  const prepared = (settings: object): Order => ({
    ...order,
    preparation: [newBath('balance', 'own', { ...settings })],
  })
  const masked = { mask: withPart(null, newPart('ellipse')) }
  const others: Record<string, Order> = {
    'a preparation': prepared({ exposure: 1 }),
    'another preparation': prepared({ exposure: 1, way: 'mired', mired: 9 }),
    'a bath after the look': { ...order, after: [newBath('timing', 'own', { exposure: -1 })] },
    encoding: { ...order, encoding: 'srgb' },
    'the same light of a scene': { ...order, encoding: 'linear' },
    strength: { ...order, recipe: { ...bypass, strength: 40 } },
    'a setting': { ...order, recipe: changeSettings(bypass, bath!.id, { push: 1.5 }) },
    'a mask': { ...order, recipe: changeBath(bypass, bath!.id, masked) },
    'no bath': { ...order, recipe: NOTHING },
  }

  it.each(Object.keys(others))('that has worked on another order makes of %s what a new one does', (name) => {
    const kept = new Treatment()
    const base = kept.run(frame, order).pixels.slice()
    const alone = new Treatment().run(frame, others[name]!).pixels.slice()
    expect(kept.run(frame, others[name]!).pixels).toEqual(alone)
    expect(alone).not.toEqual(base)
    expect(kept.run(frame, order).pixels).toEqual(base)
  })

  it('goes by the frame’s numbers, size and format', () => {
    const kept = new Treatment()
    const grainy: Order = { ...order, recipe: { ...bypass, baths: [...bypass.baths, newBath('grain', 'grain')] } }
    for (const of of [
      frame,
      { ...frame, frame: 9 },
      { ...frame, width: HEIGHT, height: WIDTH },
      { ...frame, data: Float32Array.from(data, (v) => v / 65535), format: 'f32' as const },
    ])
      expect(kept.run(of, grainy).pixels).toEqual(new Treatment().run(of, grainy).pixels)
  })

  it('has a line that changes over its shot as it is in each frame, masks too', () => {
    const treatment = new Treatment()
    const ramp = { times: 'start', keys: [{ at: 0, value: 0, way: 'straight' }, { at: 10, value: 100, way: 'straight' }] } as const // oxfmt-ignore
    const mask = withPart(null, newPart('gradient'))
    const line = (own: Partial<Bath>): Order => ({
      ...order,
      recipe: { ...bypass, baths: [{ ...bath!, mask, ...own }] },
      time: { first: 20, length: 11, tracks: [] },
    })
    const keyed = line({ keys: { strength: ramp } })
    for (const [number, strength] of [
      [20, 0],
      [23, 30],
      [30, 100],
    ] as const) {
      const shown = { ...frame, frame: number }
      const expected = new Treatment().run(shown, line({ strength })).pixels.slice()
      expect([...treatment.run(shown, keyed).pixels]).toEqual([...expected])
    }
    const lower = newPart('gradient', { y0: 70, y1: 120 })
    const moved = line({ mask: withPart(null, { ...newPart('gradient'), moves: { ...ramp, keys: ramp.keys.map((k) => ({ ...k, value: k.at ? lower.settings : newPart('gradient').settings })) } } as MaskPart) }) // oxfmt-ignore
    const planeAt = (number: number, of: Order) =>
      treatment.mask(treatment.read({ ...frame, frame: number }, 'bt1886'), of, bath!.id)!.slice()
    expect([...planeAt(30, moved)]).toEqual([...planeAt(30, line({ mask: withPart(null, lower) }))])
    expect([...planeAt(20, moved)]).toEqual([...planeAt(20, line({}))])
    expect([...planeAt(25, moved)]).not.toEqual([...planeAt(30, moved)])
  })

  it('gives the untreated picture of the scene that is asked for, whichever came before', () => {
    const kept = new Treatment()
    const other = { ...frame, data: data.slice().reverse() }
    const codesOf = (of: typeof frame): Float32Array => kept.footage(kept.read(of, 'bt1886')).pixels.slice()
    const [one, two] = [codesOf(frame), codesOf(other)]
    for (let i = 0; i < data.length; i++) {
      const at = 4 * Math.floor(i / 3) + (i % 3)
      expect(one[at]).toBeCloseTo(data[i]! / 65535, 6)
      expect(two[at]).toBeCloseTo(other.data[i]! / 65535, 6)
    }
  })

  it('hands display footage back as it came, in the encoding in which it came', () => {
    const treatment = new Treatment()
    for (const encoding of ['bt1886', 'srgb']) {
      const scene = treatment.read(frame, encoding)
      expect(scene.shownIn).toBe(encoding)
      const { pixels } = treatment.treat(scene, UNTREATED)
      let most = 0
      for (let i = 0; i < data.length; i++)
        most = Math.max(most, Math.abs(pixels[4 * Math.floor(i / 3) + (i % 3)]! - data[i]! / 65535))
      // A quarter of a code of 8 bits, what a table of 65 nodes leaves between two curves.
      expect(most).toBeLessThan(encoding === 'bt1886' ? 1e-6 : 0.25 / 255)
      treatment.release()
    }
    expect(shownIn('acescct')).toBe('bt1886')
  })
})
