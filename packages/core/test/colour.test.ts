import { converter, differenceCiede2000, type Color as CuloriColor } from 'culori'
import Color from 'colorjs.io'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  ACESCCT,
  AP1,
  BT1886,
  BT2020,
  BT709,
  BT709_CURVE,
  SRGB,
  bt709ToLab,
  labToBt709,
  ciede2000,
  chroma,
  fitGamut,
  fitGamutOpen,
  hue,
  invert,
  multiply,
  rgbToRgb,
  rgbToXyz,
  type Triple,
} from '../src/colour'
import sharma from './reference/ciede2000-sharma-2005.json'

const toLab = converter('lab65')

describe('transfer functions', () => {
  it('agrees with colorjs.io for sRGB', () => {
    for (let v = 0; v <= 1.0001; v += 0.01) {
      const linear = new Color('srgb', [v, v, v]).to('srgb-linear').coords[0] as number
      expect(SRGB.decode(v)).toBeCloseTo(linear, 9)
      expect(SRGB.encode(linear)).toBeCloseTo(v, 6)
    }
  })

  it('agrees with colorjs.io for the BT.2020 camera curve, which is that of BT.709 with more digits', () => {
    for (let v = 0; v <= 1.0001; v += 0.01) {
      // rec2020-oetf is the scene curve of BT.2020 in colorjs.io.
      const linear = new Color('--rec2020-oetf', [v, v, v]).to('rec2020-linear').coords[0] as number
      expect(BT709_CURVE.decode(v)).toBeCloseTo(linear, 6)
    }
    // ITU-R BT.709-6, item 1.2: V = 1.099 L^0.45 - 0.099; 18 % grey is coded 0.4090.
    expect(BT709_CURVE.encode(0.18)).toBeCloseTo(1.099 * 0.18 ** 0.45 - 0.099, 3)
  })

  it('is a pure power of 2.4 for BT.1886 with a black of zero', () => {
    expect(BT1886.decode(0.5)).toBeCloseTo(0.18946457, 7)
    expect(BT1886.encode(0.18)).toBeCloseTo(0.48943, 4)
  })

  it('holds the values of the Academy for ACEScct (S-2016-001: 0.18 is 0.4135884, 0 is 0.0729055)', () => {
    expect(ACESCCT.encode(0.18)).toBeCloseTo(0.4135884, 6)
    expect(ACESCCT.encode(0)).toBeCloseTo(0.0729055342, 9)
    expect(ACESCCT.encode(1)).toBeCloseTo(0.5547945, 6)
    for (let v = 0; v <= 1; v += 0.01) {
      const light = new Color('acescc', [v, v, v]).to('acescg').coords[0] as number
      if (v > 0.2) expect(ACESCCT.decode(v)).toBeCloseTo(light, 4)
    }
  })
})

describe('primaries', () => {
  it('derives the published BT.709 matrix (SMPTE RP 177; ITU-R BT.709 luma weights)', () => {
    const m = rgbToXyz(BT709)
    const published = [
      [0.4124, 0.3576, 0.1805],
      [0.2126, 0.7152, 0.0722],
      [0.0193, 0.1192, 0.9505],
    ]
    m.forEach((row, i) => row.forEach((v, j) => expect(v).toBeCloseTo(published[i]![j]!, 3)))
  })

  it('converts BT.2020 and AP1 to BT.709 as colorjs.io does', () => {
    for (const [from, id] of [
      [BT2020, 'rec2020-linear'],
      [AP1, 'acescg'],
    ] as const) {
      const m = rgbToRgb(from, BT709)
      for (const rgb of [
        [0.2, 0.5, 0.7],
        [1, 0, 0],
        [0.9, 0.1, 0.4],
      ] as const) {
        const expected = new Color(id, [...rgb]).to('srgb-linear').coords as number[]
        m.forEach((row, i) => expect(row[0] * rgb[0] + row[1] * rgb[1] + row[2] * rgb[2]).toBeCloseTo(expected[i]!, 3))
      }
    }
  })

  it('inverts what it multiplies, and refuses a matrix without inverse', () => {
    const m = rgbToXyz(AP1)
    multiply(m, invert(m)).forEach((row, i) => row.forEach((v, j) => expect(v).toBeCloseTo(i === j ? 1 : 0, 10)))
    expect(() =>
      invert([
        [1, 2, 3],
        [2, 4, 6],
        [1, 1, 1],
      ]),
    ).toThrow(/no inverse/)
  })
})

describe('Lab and CIEDE2000', () => {
  it('goes back from Lab to light as culori does', () => {
    const toLight = converter('lrgb')
    for (const [l, a, b] of [
      [52, 40, -30],
      [5, 2, 1],
      [90, -60, 70],
      [0, 0, 0],
    ] as const) {
      const expected = toLight({ mode: 'lab65', l, a, b } as CuloriColor)! as unknown as {
        r: number
        g: number
        b: number
      }
      const got = labToBt709([l, a, b])
      for (const [k, name] of (['r', 'g', 'b'] as const).entries()) expect(got[k]).toBeCloseTo(expected[name], 4)
    }
  })
  it('agrees with culori for Lab under D65', () => {
    for (const rgb of [
      [0.2, 0.5, 0.7],
      [0.001, 0, 0.002],
      [1, 1, 1],
      [0.9, 0.02, 0.4],
    ] as Triple[]) {
      const expected = toLab({ mode: 'lrgb', r: rgb[0], g: rgb[1], b: rgb[2] } as CuloriColor)!
      const got = bt709ToLab(rgb)
      expect(got[0]).toBeCloseTo(expected.l, 1)
      expect(got[1]).toBeCloseTo(expected.a, 1)
      expect(got[2]).toBeCloseTo(expected.b, 1)
    }
    expect(chroma([50, 3, 4])).toBe(5)
    expect(hue([50, 0, -1])).toBe(270)
  })

  it.each(sharma.pairs)('gives %j its published difference (Sharma, Wu, Dalal 2005, table 1)', (...row) => {
    const [l1, a1, b1, l2, a2, b2, expected] = row.flat() as [number, number, number, number, number, number, number]
    expect(ciede2000([l1, a1, b1], [l2, a2, b2])).toBeCloseTo(expected, 4)
    expect(ciede2000([l2, a2, b2], [l1, a1, b1])).toBeCloseTo(expected, 4)
  })

  it('agrees with culori on colours at random', () => {
    const difference = differenceCiede2000()
    const lab = fc.tuple(
      fc.double({ min: 0, max: 100, noNaN: true }),
      fc.double({ min: -90, max: 90, noNaN: true }),
      fc.double({ min: -90, max: 90, noNaN: true }),
    )
    fc.assert(
      fc.property(lab, lab, (one, two) => {
        const colour = ([l, a, b]: [number, number, number]) => ({ mode: 'lab65', l, a, b }) as CuloriColor
        expect(ciede2000(one, two)).toBeCloseTo(difference(colour(one), colour(two)), 6)
      }),
    )
  })
})

describe('gamut fitting', () => {
  const fit = (r: number, g: number, b: number): number[] => {
    const rgb = Float64Array.of(r, g, b)
    fitGamut(rgb)
    return [...rgb]
  }
  it('leaves colours near neutral alone', () => {
    const got = fit(0.4, 0.35, 0.3)
    ;[0.4, 0.35, 0.3].forEach((v, k) => expect(got[k]).toBeCloseTo(v, 4))
  })
  it('draws a colour on the edge of the gamut to (13/9)^(-1/8) of its distance from neutral, and twice as far to the edge itself', () => {
    // A dark blue: its red and green are nothing, so it lies just on the edge; y is its luminance (BT.709-6).
    const y = 0.0722 * 0.02
    const edge = fit(0, 0, 0.02)
    for (const k of [0, 1, 2]) expect((edge[k]! - y) / ([0, 0, 0.02][k]! - y)).toBeCloseTo((13 / 9) ** (-1 / 8), 4)
    const far = fit(-y, -y, y + 2 * (0.02 - y))
    ;[0, 0, 0.02].forEach((v, k) => expect(far[k]).toBeCloseTo(v, 5))
  })
  it('left open is the same within the gamut, and outside goes on by half of what comes in, with no bend between', () => {
    // Blues of one luminance, so many times as far from neutral as the edge is.
    const y = 0.0722 * 0.02
    const blue = (distance: number) => [y - distance * y, y - distance * y, y + distance * (0.02 - y)] as const
    const opened = (distance: number): number => {
      const rgb = Float64Array.from(blue(distance))
      fitGamutOpen(rgb)
      return (rgb[2]! - y) / (0.02 - y)
    }
    for (const distance of [0.3, 0.8, 0.95, 1.02])
      expect(opened(distance)).toBeCloseTo((fit(...blue(distance))[2]! - y) / (0.02 - y), 9)
    for (const distance of [1.03, 1.2, 2, 5]) expect(opened(distance + 0.1) - opened(distance)).toBeCloseTo(0.05, 4)
    for (let distance = 0.9; distance < 1.1; distance += 0.005) {
      const [a, b, c] = [opened(distance), opened(distance + 0.005), opened(distance + 0.01)]
      expect(Math.abs(c - 2 * b + a)).toBeLessThan(1e-4)
    }
  })
  it('ends inside 0..1 and keeps luminance for any light', () => {
    const light = fc.double({ min: -3, max: 4, noNaN: true })
    fc.assert(
      fc.property(light, light, light, (r, g, b) => {
        const out = fit(r, g, b)
        for (const v of out) expect(v >= -1e-9 && v <= 1 + 1e-9).toBe(true)
        const y = (c: number[]) => 0.2126 * c[0]! + 0.7152 * c[1]! + 0.0722 * c[2]!
        const before = Math.min(1, Math.max(0, y([r, g, b])))
        expect(Math.abs(y(out) - before)).toBeLessThan(2e-4)
      }),
    )
  })
})
