import { describe, expect, it } from 'vitest'
import { defaultsOf, kindById, type WedgeView } from '../src/baths'
import { greyOf } from './helpers'

/** The toned wedge is checked against what the bath makes of greys when it treats a picture. */
const wedgeOf = (kind: string, settings: Record<string, unknown>): WedgeView => {
  const { schema, views } = kindById(kind)
  const [view] = views({ ...defaultsOf(schema), ...settings })
  return view as WedgeView
}
const spread = (code: readonly number[]): number => Math.max(...code) - Math.min(...code)

describe('the toned wedge', () => {
  it.each([
    ['ranges', { darksAmount: 60, midsHue: 320, midsAmount: 20, lightsAmount: 35, midsLevel: 40, lows: 10 }],
    ['split-by-hand', { lean: 30, mids: 40, lightsHue: 90, holdLight: false }],
  ] as const)('of %s shows what the bath makes of greys', (kind, settings) => {
    const { becomes, amounts } = wedgeOf(kind, settings)
    const last = becomes.length - 1
    for (let i = 4; i < last; i += 5) {
      const treated = greyOf(kind, settings, i / last)
      becomes[i]!.forEach((v, k) => expect(v).toBeCloseTo(Math.min(1, Math.max(0, treated[k]!)), 3))
      // Colour is there where the treated grey is none, and stronger where its channels lie further apart.
      expect(amounts[i]! > 0.01).toBe(spread(treated) > 0.0025)
    }
  })

  it('is flat where no range has a colour, and has its hills from the shadows on', () => {
    const { amounts, hills } = wedgeOf('ranges', {})
    expect(Math.max(...amounts)).toBeLessThan(1e-9)
    const middle = ({ shape }: { shape: readonly number[] }): number =>
      shape.reduce((sum, v, i) => sum + v * i, 0) / shape.reduce((sum, v) => sum + v, 0)
    const own = hills.filter((h) => !h.whole)
    expect(own.map((h) => h.label)).toEqual(['Shadows', 'Mids', 'Lights'])
    expect([...own].sort((a, b) => middle(a) - middle(b))).toEqual(own)
    // What belongs to all tones is as much as the ranges have together.
    const whole = hills.find((h) => h.whole)!
    whole.shape.forEach((v, i) => expect(own.reduce((sum, h) => sum + h.shape[i]!, 0)).toBeCloseTo(v, 9))
  })

  it('reaches as high as the one colour that is set, and no higher', () => {
    const { amounts, hills } = wedgeOf('ranges', { lightsAmount: 50 })
    const { shape } = hills.find((h) => h.label === 'Lights')!
    amounts.forEach((v, i) => expect(v).toBeCloseTo(0.5 * shape[i]!, 6))
  })

  it('has untouched mids as a valley, where the balance says', () => {
    for (const [lean, mids] of [
      [0, 20],
      [60, 50],
      [-80, 30],
    ] as const) {
      const { amounts, limits } = wedgeOf('split-by-hand', { lean, mids, clean: false })
      const [valley] = limits
      const last = amounts.length - 1
      amounts.forEach((v, i) => {
        const inside = Math.abs(i / last - valley!.at) < valley!.wide / 2 - 1 / last
        const outside = Math.abs(i / last - valley!.at) > valley!.wide / 2 + 2 / last
        if (inside) expect(v).toBeLessThan(1e-6)
        if (outside) expect(v).toBeGreaterThan(1e-3)
      })
      // A balance towards the lights leaves them more of the tones.
      if (lean !== 0) expect(Math.sign(0.49 - valley!.at)).toBe(Math.sign(lean))
    }
  })

  it('says of its limits by how much a setting moves them', () => {
    for (const kind of ['ranges', 'split-by-hand'])
      wedgeOf(kind, {}).limits.forEach((limit, n) => {
        const settings = defaultsOf(kindById(kind).schema) as Record<string, number>
        const moved = (part: 'place' | 'width', by: number) =>
          wedgeOf(kind, { [limit[part].setting]: settings[limit[part].setting]! + by * limit[part].perUnit }).limits[n]!
        expect(moved('place', 0.05).at - limit.at).toBeCloseTo(0.05, 9)
        expect(moved('width', 0.05).wide - limit.wide).toBeCloseTo(0.05, 9)
      })
  })
})
