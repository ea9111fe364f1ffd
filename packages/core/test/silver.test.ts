import { three } from '../src/colour'
import { describe, expect, it } from 'vitest'
import { converted, makeProjection, projectPlain, tone } from '../src/film'
import { completeRecipe, plainLine, type Recipe } from '../src/line'
import { SILVER } from '../src/spectra'
import { plainStages } from '../src/stages'
import { makeColourPrint } from '../src/baths/colour-print/film'
import { makeInstant } from '../src/baths/instant/film'
import { BLACK_LEVEL, DEFAULT_FLARE, PLAIN_LIGHT, WHITE_LEVEL } from '../src/film/plain-levels'
import { grey, lightOf, lineOf, luminance, settingsOf, shipped } from './helpers'

describe('silver kept in the interpositive', () => {
  it('is 0.3 of what lies above mid grey with no bleach, of the yellow layer most (docs/model.md), on all layers alike', () => {
    const densities = (bleachIntermediate: number, rgb: readonly [number, number, number]): number[] => {
      const film = makeColourPrint(settingsOf('colour-print', { intermediate: true, bleachIntermediate }) as never)
      const out = three()
      plainStages(film.negativeStages)(...rgb, out)
      return [...out]
    }
    const [grey] = densities(100, [0.18, 0.18, 0.18])
    for (const rgb of [
      [0.18, 0.18, 0.18],
      [0.5, 0.3, 0.2],
      [0.06, 0.2, 0.4],
    ] as const) {
      const without = densities(100, rgb)
      const above = 0.27 * without[0]! + 0.28 * without[1]! + 0.45 * without[2]! - grey!
      for (const [bleach, share] of [
        [0, 0.3],
        [50, 0.15],
        [80, 0.06],
      ] as const)
        // On the straight part of both duplicates, whose ends are rounded by less than this.
        densities(bleach, rgb).forEach((d, k) => expect(Math.abs(d - without[k]! - share * above)).toBeLessThan(0.004))
    }
  })
  it('rounds off the blacks of the duplicate negative: the darks of a bypassed negative fall lower', () => {
    const dark = (settings: object) =>
      luminance(lightOf(plainLine(lineOf('colour-print', { ...settings })), grey(0.002)))
    expect(dark({ bleachIntermediate: 0 })).toBeGreaterThan(2 * dark({ bleachNegative: 40 }))
  })
})

describe('toning baths, worked out by hand', () => {
  it('selenium takes just its share at density 0.5, and of what is left again for every 0.5 more', () => {
    const bath = { toner: 'selenium', completeness: 60 } as const
    // 40 % stay for each half density: 0.4, 0.16, 0.064.
    expect(converted(bath, 0.5)).toBeCloseTo(0.5 * 0.6, 12)
    expect(converted(bath, 1)).toBeCloseTo(1 - 0.16, 12)
    expect(converted(bath, 1.5)).toBeCloseTo(1.5 * (1 - 0.064), 12)
    expect(converted({ ...bath, completeness: 0 }, 1)).toBe(0)
    expect(converted({ ...bath, completeness: 100 }, 1)).toBe(1)
  })
  it('sulphide at 50 % reaches 0.9 of density deep: e to the minus one of it is what thin silver leaves of that', () => {
    const bath = { toner: 'sulphide', completeness: 50 } as const
    // A share of 0.5 gives a reach of 0.9; at a density of 0.9, 1 - 1/e of the reach is taken.
    expect(converted(bath, 0.9)).toBeCloseTo(0.9 * 0.632120558829, 9)
    expect(converted(bath, 0.001) / 0.001).toBeCloseTo(1, 2)
    expect(converted(bath, 9)).toBeCloseTo(0.9, 4)
  })
  it('gold and iron take the same share of every tone; the second bath has what the first one left', () => {
    for (const toner of ['iron-blue', 'copper'] as const)
      for (const d of [0.1, 1, 3]) expect(converted({ toner, completeness: 30 }, d)).toBeCloseTo(0.3 * d, 12)
    // Gold leaves four tenths of the silver, however long it works.
    for (const d of [0.1, 1, 3]) {
      expect(converted({ toner: 'gold', completeness: 30 }, d)).toBeCloseTo(0.18 * d, 12)
      expect(converted({ toner: 'gold', completeness: 100 }, d)).toBeCloseTo(0.6 * d, 12)
    }
    const [left, first, second] = tone(2, [
      { toner: 'gold', completeness: 50 },
      { toner: 'iron-blue', completeness: 25 },
    ]) as [number, number, number]
    // Of a density of 2: 0.6 of half of it; a quarter of the 1.4 that are left.
    ;[1.05, 0.6, 0.35].forEach((wanted, i) => expect([left, first, second][i]).toBeCloseTo(wanted, 12))
  })
  it('gold turns sulphide that was there before it, and none that comes after', () => {
    const [sulphide, gold] = [
      { toner: 'sulphide', completeness: 100 },
      { toner: 'gold', completeness: 40 },
    ] as const
    // All silver is sulphide by then; 40 % of it is turned.
    const turned = tone(2, [sulphide, gold])
    turned.forEach((v, i) => expect(v).toBeCloseTo([0, 1.2, 0, 0.8][i]!, 12))
    // The other way round gold takes 40 % of the six tenths that it can reach, sulphide the rest.
    tone(2, [gold, sulphide]).forEach((v, i) => expect(v).toBeCloseTo([0, 0.48, 1.52][i]!, 12))
  })
})

describe('flare', () => {
  it('is a share of white added to all, then white is white again: film that lets nothing through shows f / (1 + f)', () => {
    for (const flare of [0.01, 0.05, 0.2]) {
      const project = projectPlain(makeProjection({ components: [SILVER], lamp: 'd65', flare, clear: [0] }))
      const out = three()
      /** Light on the wall relative to clear film; display values are cut and stretched to the plain print's ends. */
      const shown = (amount: number): number => {
        project([amount], out)
        return luminance([out[0]!, out[1]!, out[2]!]) * (WHITE_LEVEL - BLACK_LEVEL) + BLACK_LEVEL
      }
      // What the room adds anyway is there without any film, too.
      const more = flare - DEFAULT_FLARE
      expect(shown(0)).toBeCloseTo(1, 4)
      expect(shown(30)).toBeCloseTo(more / (1 + more), 5)
    }
  })
})

describe('flashing the print', () => {
  it('is counted in the exposure that prints mid grey: the lights get that much exposure and no less', () => {
    const veiled: number[] = []
    for (const flashPrint of [10, 25, 40]) {
      const line = plainLine(lineOf('colour-print', { flashPrint, holdGrey: false }))
      // Light so strong that the negative lets next to nothing through to the print.
      const white = luminance(lightOf(line, grey(0.18 * 10 ** 3)))
      // By the closed form of the neutral axis: exposure of mid grey on the print, times the flash.
      const curve = (x: number): number => {
        const soft = (v: number, w: number) => w * Math.log1p(Math.exp(v / w))
        return 3 * (soft(x + 0.48, 0.1) - soft(x - 0.95, 0.16))
      }
      const negative = (x: number): number => {
        const soft = (v: number, w: number) => w * Math.log1p(Math.exp(v / w))
        return 0.62 * (soft(x + 1.9, 0.28) - soft(x - 2.4, 0.3))
      }
      const exposure = 10 ** (PLAIN_LIGHT - negative(3)) + (flashPrint / 100) * 10 ** (PLAIN_LIGHT - negative(0))
      const light = (10 ** -curve(Math.log10(exposure)) - BLACK_LEVEL) / (WHITE_LEVEL - BLACK_LEVEL)
      // Clear film is brighter than white, which is as bright as can be shown.
      expect(Math.abs(white / Math.min(1, light) - 1)).toBeLessThan(0.01)
      veiled.push(light)
    }
    // The strongest flash veils the white by a good part, so that its unit matters.
    expect(veiled[2]! / veiled[0]!).toBeLessThan(0.85)
  })
})

describe('the silver key of dye transfer', () => {
  it('takes the place of the dyes: greys stay as dark as without it, colours lose', () => {
    const line = (key: number) => plainLine(lineOf('three-strip', { key, interImage: 0 }))
    for (const light of [0.01, 0.05, 0.18, 0.5]) {
      const [without, half] = [0, 50].map((key) => luminance(lightOf(line(key), grey(light)))) as [number, number]
      expect(half / without, `light ${light}`).toBeCloseTo(1, 1)
    }
    const spread = (c: readonly number[]): number => Math.max(...c) - Math.min(...c)
    expect(spread(lightOf(line(50), [0.4, 0.1, 0.05]))).toBeLessThan(0.8 * spread(lightOf(line(0), [0.4, 0.1, 0.05])))
  })
})

describe('development of instant film', () => {
  it('changes all dyes by 0.35 of what its time differs, and by 4, 9 and 17 % for 10 degrees', () => {
    const factors = (temperature: number, time: number) =>
      makeInstant(settingsOf('instant', { temperature, time }) as never).factors
    expect(factors(21, 100)).toEqual([1, 1, 1])
    factors(21, 140).forEach((f) => expect(f).toBeCloseTo(1.14, 12))
    factors(21, 60).forEach((f) => expect(f).toBeCloseTo(0.86, 12))
    factors(31, 100).forEach((f, k) => expect(f).toBeCloseTo([1.04, 1.09, 1.17][k]!, 12))
    factors(11, 120).forEach((f, k) => expect(f).toBeCloseTo([0.96, 0.91, 0.83][k]! + 0.07, 12))
  })
  it('shows on the print: short is lighter, long is darker, when the exposure is not made good', () => {
    const print = (time: number) =>
      luminance(lightOf(plainLine(lineOf('instant', { time, holdGrey: false })), grey(0.05)))
    expect(print(60)).toBeGreaterThan(1.1 * print(100))
    expect(print(140)).toBeLessThan(0.9 * print(100))
  })
})

describe('a recipe', () => {
  it('keeps what a short file says and fills in the rest', () => {
    const short = completeRecipe({ baths: [{ kind: 'colour-print', settings: { bleachPrint: 20 } }] }) as Recipe
    expect(short.baths[0]!.settings).toEqual({ ...shipped('plain').baths[0]!.settings, bleachPrint: 20 })
  })
})
