import { describe, expect, it } from 'vitest'
import { makeColourPrint } from '../src/baths/colour-print/film'
import { chroma, ciede2000, displayCode, hue, labToBt709, type Triple } from '../src/colour'
import { amountAt, neutralScale } from '../src/film/neutral'
import type { Recipe } from '../src/line'
import { EARLY_DYES, IMBIBITION_DYES, PRINT_DYES, SAMPLES, STATUS, readThrough } from '../src/spectra'
import { SHIPPED_RECIPES } from '../src/recipes'
import { codesOfHue, greyCodes as grey, labFrom, labOfCodes, lineOf, settingsOf, shipped, timedInPart } from './helpers'

/** What the third edition of the model asks of hues and ends (docs/model.md); display footage in, CIELAB out. */
const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!
/** From -180 to 180. */
const turn = (from: number, to: number): number => ((to - from + 540) % 360) - 180
const range = (low: number, high: number, n: number): number[] =>
  Array.from({ length: n }, (_, i) => low + ((high - low) * i) / (n - 1))

/** Colours that photographs are full of, as boxes of lightness, chroma and hue that were read off such. */
const FAMILIES = {
  faces: [
    [35, 80],
    [14, 30],
    [42, 72],
  ],
  'red leaves and cloth': [
    [28, 55],
    [30, 60],
    [22, 42],
  ],
  sunsets: [
    [50, 80],
    [30, 58],
    [52, 80],
  ],
  leaves: [
    [25, 60],
    [18, 42],
    [105, 135],
  ],
  skies: [
    [40, 80],
    [10, 34],
    [240, 282],
  ],
} as const satisfies Record<string, Box>
type Family = keyof typeof FAMILIES
type Box = readonly (readonly [number, number])[]
const colours = (box: Box): Triple[] => {
  const [l, c, h] = box.map(([low, high]) => range(low, high, 5)) as [number[], number[], number[]]
  return l.flatMap((L) => c.flatMap((C) => h.map((H) => codesOfHue([L, C, H]))))
}
/** Median turn of hue and ratio of chroma against the plain print. */
function against(recipe: Recipe, family: Family): { readonly turned: number; readonly ratio: number } {
  const [of, plain] = [labFrom(recipe), labFrom(shipped('plain'))]
  const pairs = colours(FAMILIES[family]).map((codes) => [plain(codes), of(codes)] as const)
  return {
    turned: median(pairs.map(([a, b]) => turn(hue(a), hue(b)))),
    ratio: median(pairs.map(([a, b]) => chroma(b) / chroma(a))),
  }
}

describe.each(Object.keys(FAMILIES) as Family[])('%s', (family) => {
  it.each(['bleach-bypass', 'bleach-bypass-half', 'bleach-bypass-intermediate', 'silver-negative'])(
    'keep their hue within 5 degrees through %s',
    (id) => expect(Math.abs(against(shipped(id), family).turned)).toBeLessThan(5),
  )
  it('are paler through bleach bypass, 0.55 to 0.8 of plain', () => {
    const { ratio } = against(shipped('bleach-bypass'), family)
    expect(ratio).toBeGreaterThan(0.55)
    expect(ratio).toBeLessThan(0.8)
  })
  it('keep their hue within 4 degrees through three-strip, and are 1.1 to 1.4 times as colourful', () => {
    const { turned, ratio } = against(shipped('three-strip'), family)
    expect(Math.abs(turned)).toBeLessThan(4)
    expect(ratio).toBeGreaterThan(1.1)
    expect(ratio).toBeLessThan(1.4)
  })
})

describe('silver timed for in part', () => {
  const stops = (settings: object): number => {
    const [l] = labFrom(lineOf('colour-print', { bleachPrint: 0, ...settings }))(grey(0.18))
    return Math.log2(((l + 16) / 116) ** 3 / 0.18)
  }
  it('darkens mid grey step by step, all of it not at all', () => {
    const all = [100, 75, 50, 25, 0].map((silverTimed) => stops({ silverTimed }))
    expect(Math.abs(all[0]!)).toBeLessThan(0.01)
    all.slice(1).forEach((s, i) => expect(s).toBeLessThan(all[i]! - 0.1))
  })
  it.each(
    SHIPPED_RECIPES.filter((r) => r.tags.includes('Silver and dye') && timedInPart(r)).map((r) => [r.id, r] as const),
  )('%s has its mid grey 0.1 to 0.33 stop down, and neutral', (_, recipe) => {
    const lab = labFrom(recipe)(grey(0.18))
    const down = -Math.log2(((lab[0] + 16) / 116) ** 3 / 0.18)
    expect(down).toBeGreaterThan(0.1)
    expect(down).toBeLessThan(0.33)
    expect(chroma(lab)).toBeLessThan(0.5)
  })
  it('is what no silver would be timed to, where nothing of it is', () => {
    const light = (settings: object): number =>
      makeColourPrint(settingsOf('colour-print', { ...settings }) as never).printerLight
    expect(light({ bleachPrint: 0, silverTimed: 0 })).toBeCloseTo(light({ bleachPrint: 100 }), 9)
  })
})

describe('silver kept in negative, interpositive and print', () => {
  const lights = (settings: object): number => labFrom(lineOf('colour-print', { ...settings }))(grey(0.4))[0]
  const darks = (settings: object): number => labFrom(lineOf('colour-print', { ...settings }))(grey(0.02))[0]
  const [negative, interpositive, print] = [{ bleachNegative: 0 }, { bleachIntermediate: 0 }, { bleachPrint: 0 }]
  it('opens the lights most in the negative, least in the print', () => {
    expect(lights(negative)).toBeGreaterThan(lights(interpositive) + 3)
    expect(lights(interpositive)).toBeGreaterThan(lights(print) + 0.5)
  })
  it('takes the darks more in negative and print than in the interpositive', () => {
    expect(darks(interpositive)).toBeGreaterThan(darks(negative) + 2)
    expect(darks(interpositive)).toBeGreaterThan(darks(print) + 1)
  })
  it('thins colour most in the print', () => {
    const red = (settings: object): number =>
      chroma(labFrom(lineOf('colour-print', { ...settings }))([0.65, 0.2, 0.15]))
    expect(red(print)).toBeLessThan(red(negative) - 4)
    expect(red(negative)).toBeLessThan(red(interpositive) - 2)
  })
})

describe('pure colours through plain', () => {
  const plain = labFrom(shipped('plain'))
  /** Hue of a hexcone in degrees, to codes with one at 1 and one at 0. */
  const pure = (degrees: number): Triple => {
    const channel = (n: number): number => {
      const k = (n + degrees / 60) % 6
      return 1 - Math.max(0, Math.min(k, 4 - k, 1))
    }
    return [channel(5), channel(3), channel(1)]
  }
  /** From near black to the pure colour, and on to white. */
  const ramp = (degrees: number): Triple[] => {
    const colour = pure(degrees)
    const mixed = (f: (v: number) => number) => colour.map(f) as unknown as Triple
    return [
      ...range(2, 16, 15).map((i) => mixed((v) => (v * i) / 16)),
      ...range(1, 15, 15).map((i) => mixed((v) => v + ((1 - v) * i) / 16)),
    ]
  }
  it.each(range(0, 345, 24))('hue %s: near, of its hue, and no step or fall on the way to white', (degrees) => {
    const codes = ramp(degrees)
    const [wanted, found] = [codes.map(labOfCodes), codes.map(plain)]
    const distance = (a: Triple, b: Triple): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2])
    wanted.forEach((w, i) => {
      const f = found[i]!
      expect(ciede2000(w, f)).toBeLessThan(6)
      if (chroma(w) > 10) expect(Math.abs(turn(hue(w), hue(f)))).toBeLessThan(4)
      if (i === 0) return
      expect(distance(f, found[i - 1]!) / distance(w, wanted[i - 1]!)).toBeLessThan(2)
      if (w[0] >= wanted[i - 1]![0]) expect(f[0]).toBeGreaterThan(found[i - 1]![0] - 0.01)
    })
  })
})

describe('dyes', () => {
  it('a visual neutral of 1 on print stock reads as laboratories aim, Status A 1.09, 1.06, 1.03 (from memory)', () => {
    const scale = neutralScale(PRINT_DYES)
    const amounts = ([0, 1, 2] as const).map((k) => amountAt(scale, k, 1))
    const density = Float64Array.from({ length: SAMPLES }, (_, i) =>
      PRINT_DYES.reduce((sum, dye, k) => sum + amounts[k]! * dye[i]!, 0),
    )
    const aims = [1.09, 1.06, 1.03]
    STATUS.A.forEach((weights, k) =>
      expect(Math.abs(readThrough(weights, density) - aims[k]!)).toBeLessThanOrEqual(0.05),
    )
  })
  it.each([
    ['print', PRINT_DYES],
    ['early', EARLY_DYES],
    ['imbibition', IMBIBITION_DYES],
  ] as const)('of %s stock make blacks of about as much of each as greys: none leaks between its bands', (_, dyes) => {
    const scale = neutralScale(dyes)
    for (const k of [0, 1, 2] as const) {
      const share = amountAt(scale, k, 4.3) / 4.3 / amountAt(scale, k, 1)
      expect(share).toBeGreaterThan(0.75)
      expect(share).toBeLessThan(1.4)
    }
  })
})

describe('two-strip', () => {
  const two = labFrom(shipped('two-strip'))
  it('has warm greys, C <= 7.5 and h <= 90', () => {
    for (const v of [0.02, 0.06, 0.18, 0.5]) {
      expect(chroma(two(grey(v)))).toBeLessThan(7.5)
      expect(hue(two(grey(v)))).toBeLessThan(90)
    }
  })
  it('turns leaves blue-green, h 145 to 173, and skin to 43 to 54', () => {
    const mean = (box: Box): number => {
      const [a, b] = colours(box)
        .map(two)
        .reduce<[number, number]>(([x, y], [, p, q]) => [x + p, y + q], [0, 0])
      return ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360
    }
    // Yellower leaves have no hue of their own in two dyes: they lie where warm turns to cold.
    const foliage = [
      [25, 60],
      [22, 42],
      [118, 138],
    ] as const
    expect(mean(foliage)).toBeGreaterThan(145)
    expect(mean(foliage)).toBeLessThan(173)
    expect(mean(FAMILIES.faces)).toBeGreaterThan(43)
    expect(mean(FAMILIES.faces)).toBeLessThan(54)
  })
})

describe('litho', () => {
  it.each(['litho-warm', 'litho'])('%s has black blacks, warm lights, and is hard', (id) => {
    const lab = labFrom(id === 'litho' ? lineOf('black-and-white', { litho: 100 }) : shipped(id))
    const black = lab(grey(0.004))
    expect(black[0]).toBeLessThan(3)
    expect(chroma(black)).toBeLessThan(3)
    for (const v of [0.18, 0.4, 0.6]) expect(chroma(lab(grey(v)))).toBeGreaterThan(6)
    const plain = labFrom(shipped('plain'))
    const spread = (of: (codes: Triple) => Triple): number => {
      // Tones of a photograph: even in L* from 5 to 95.
      const ls = range(5, 95, 31).map(
        (l) => of(labToBt709([l, 0, 0]).map((v) => displayCode(v)) as unknown as Triple)[0],
      )
      const mean = ls.reduce((sum, l) => sum + l, 0) / ls.length
      return Math.sqrt(ls.reduce((sum, l) => sum + (l - mean) ** 2, 0) / ls.length)
    }
    expect(spread(lab) / spread(plain)).toBeGreaterThan(1.15)
  })
})
