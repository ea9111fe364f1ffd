import { converter, type Color as CuloriColor } from 'culori'
import { describe, expect, it } from 'vitest'
import { fitGamut, luminance } from '../src/colour'
import { amountAt, neutralScale } from '../src/film'
import { seededRandom } from '../src/numbers'
import { D65, OBSERVER, PRINT_DYES } from '../src/spectra'

/** The model's own arithmetic against other ways to the same numbers. */

const xyz = converter('xyz65') as unknown as (color: CuloriColor) => { x: number; y: number; z: number }
const asSeen = (rgb: ArrayLike<number>) => xyz({ mode: 'lrgb', r: rgb[0]!, g: rgb[1]!, b: rgb[2]! } as CuloriColor)

describe('the gamut fit, seen through culori', () => {
  it('keeps luminance and the direction from white, and ends inside', () => {
    const random = seededRandom(31)
    const white = asSeen([1, 1, 1])
    const chromaticity = ({ x, y, z }: { x: number; y: number; z: number }) =>
      [x / (x + y + z), y / (x + y + z)] as const
    const [wx, wy] = chromaticity(white)
    for (let i = 0; i < 300; i++) {
      const before = Float64Array.from({ length: 3 }, () => 1.6 * random() - 0.3)
      if (luminance(before) < 0.02 || luminance(before) > 0.98) continue
      const after = before.slice()
      fitGamut(after)
      const [one, two] = [asSeen(before), asSeen(after)]
      expect(two.y).toBeCloseTo(one.y, 4)
      expect(Math.min(...after)).toBeGreaterThanOrEqual(-1e-9)
      expect(Math.max(...after)).toBeLessThanOrEqual(1 + 1e-9)
      const [[ax, ay], [bx, by]] = [chromaticity(one), chromaticity(two)]
      // On one line with white: no area between the two directions.
      expect(Math.abs((ax - wx) * (by - wy) - (ay - wy) * (bx - wx))).toBeLessThan(2e-5)
    }
  })
})

describe('the neutral scale, solved another way', () => {
  /** Visual density of dye amounts in X, Y or Z: integrated from the tables here, without the projector. */
  function density(amounts: readonly number[], bar: ArrayLike<number>): number {
    let [light, all] = [0, 0]
    for (let i = 0; i < bar.length; i++) {
      const d = amounts.reduce((sum, a, k) => sum + a * PRINT_DYES[k]![i]!, 0)
      light += bar[i]! * D65[i]! * Math.pow(10, -d)
      all += bar[i]! * D65[i]!
    }
    return -Math.log10(light / all)
  }
  it('has the amounts that bisecting one dye after the other, round and round, comes to', () => {
    const scale = neutralScale(PRINT_DYES)
    const bars = [OBSERVER.x, OBSERVER.y, OBSERVER.z]
    for (const wanted of [0.3, 1, 2.4]) {
      const amounts = [wanted, wanted, wanted]
      for (let round = 0; round < 60; round++)
        for (let k = 0; k < 3; k++) {
          let [low, high] = [0, 8]
          for (let i = 0; i < 45; i++) {
            amounts[k] = (low + high) / 2
            if (density(amounts, bars[k]!) < wanted) low = amounts[k]!
            else high = amounts[k]!
          }
        }
      amounts.forEach((a, k) => expect(amountAt(scale, k as 0 | 1 | 2, wanted)).toBeCloseTo(a, 4))
    }
  })
})
