import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { PATCHES } from '../src/charts'
import { chroma, hue, type Triple } from '../src/colour'
import { TONERS, tone, type ToningBath } from '../src/film'
import { TONED } from '../src/spectra'
import { grey, labOf, lineOf, shipped } from './helpers'

const patch = (name: string): Triple => PATCHES.find((p) => p.name === name)!.light
const within = (h: number, low: number, high: number): boolean =>
  low <= high ? h >= low && h <= high : h >= low || h <= high

describe('black and white, toned', () => {
  const toned = (settings: object) => lineOf('black-and-white', { ...settings })
  it('makes sepia orange-brown at mid grey (hue 55 to 85), colourless in black and white', () => {
    const mid = labOf(shipped('sepia'), grey(0.18))
    expect(within(hue(mid), 55, 85)).toBe(true)
    expect(chroma(mid)).toBeGreaterThan(12)
    expect(chroma(labOf(shipped('sepia'), grey(4)))).toBeLessThan(2)
    expect(chroma(labOf(shipped('sepia'), grey(3e-4)))).toBeLessThan(6)
  })
  it('splits sulphide then iron blue into warm lights and cold shadows; the other order is another picture', () => {
    expect(labOf(shipped('split-tone'), grey(0.7))[2]).toBeGreaterThan(1)
    expect(labOf(shipped('split-tone'), grey(0.02))[2]).toBeLessThan(-1)
    const other = toned({ toner1: 'iron-blue', far1: 92, toner2: 'sulphide', far2: 40 })
    expect(Math.abs(labOf(other, grey(0.7))[2] - labOf(shipped('split-tone'), grey(0.7))[2])).toBeGreaterThan(3)
  })
  it('conserves silver through any baths in any order', () => {
    const bath = fc.record({
      toner: fc.constantFrom(...TONERS),
      completeness: fc.double({ min: 0, max: 100, noNaN: true }),
    }) as fc.Arbitrary<ToningBath>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 5, noNaN: true }), fc.array(bath, { maxLength: 4 }), (density, baths) => {
        const parts = tone(density, baths)
        expect(parts.reduce((a, b) => a + b, 0)).toBeCloseTo(density, 9)
        for (const p of parts) expect(p).toBeGreaterThanOrEqual(0)
      }),
    )
    // Almost complete: the bath takes all but about d^2 / (2 reach), to the last digits.
    for (const d of [0.3, 2, 5])
      expect(tone(d, [{ toner: 'sulphide', completeness: 100 - 1e-9 }])[0]).toBeCloseTo((d * d) / (2 * 0.9e11), 15)
  })
  it('lets sulphide take the lights first and selenium the darks', () => {
    const share = (toner: ToningBath['toner'], d: number) => tone(d, [{ toner, completeness: 50 }])[1]! / d
    expect(share('sulphide', 0.2)).toBeGreaterThan(share('sulphide', 2))
    expect(share('selenium', 2)).toBeGreaterThan(share('selenium', 0.2))
    expect(share('gold', 2)).toBeCloseTo(share('gold', 0.2), 9)
  })
  it('darkens red and lightens sky on orthochromatic film, against panchromatic', () => {
    const lightness = (sensitivity: string, name: string) => labOf(toned({ sensitivity }), patch(name))[0]
    expect(lightness('orthochromatic', 'red')).toBeLessThan(lightness('panchromatic', 'red') - 3)
    expect(lightness('orthochromatic', 'sky')).toBeGreaterThan(lightness('panchromatic', 'sky') + 1)
    expect(lightness('blue', 'red')).toBeLessThan(lightness('orthochromatic', 'red') + 0.5)
  })
  it('darkens what a taking filter holds back', () => {
    const sky = (filter: string) => labOf(toned({ filter }), patch('sky'))[0]
    expect(sky('yellow')).toBeLessThan(sky('none'))
    expect(sky('red')).toBeLessThan(sky('yellow'))
    expect(labOf(toned({ filter: 'green' }), patch('leaf'))[0]).toBeGreaterThan(
      labOf(toned({ filter: 'red' }), patch('leaf'))[0],
    )
  })
  it('keeps a free mix at 100 % unless told otherwise', () => {
    const mixed = (settings: object) =>
      labOf(toned({ sensitivity: 'free', mixRed: 80, mixGreen: 80, mixBlue: 40, ...settings }), patch('sky'))[0]
    expect(mixed({})).toBeCloseTo(
      labOf(toned({ sensitivity: 'free', mixRed: 40, mixGreen: 40, mixBlue: 20 }), patch('sky'))[0],
      6,
    )
    expect(mixed({ holdSum: false, holdGrey: false })).toBeGreaterThan(mixed({ holdGrey: false }))
  })
  it('colours the lights with a tint and leaves black black', () => {
    for (const tint of ['amber', 'rose', 'blue', 'green', 'lavender', 'straw']) {
      expect(chroma(labOf(toned({ tint }), grey(2)))).toBeGreaterThan(6)
      expect(labOf(toned({ tint }), grey(2e-4))[0]).toBeLessThan(3)
    }
  })
  it('steepens with the grade and with litho development', () => {
    const contrast = (settings: object) => labOf(toned(settings), grey(0.3))[0] - labOf(toned(settings), grey(0.1))[0]
    expect(contrast({ grade: 4 })).toBeGreaterThan(contrast({ grade: 1 }))
    expect(contrast({ litho: 80 })).toBeGreaterThan(contrast({}))
  })
  it('has toners whose spectra are those of the model: worked out by hand at 450, 550 and 650 nm', () => {
    const at = (name: (typeof TONERS)[number]) => [7, 17, 27].map((i) => TONED[name][i]!)
    const near = (got: number[], wanted: number[]) => got.forEach((v, i) => expect(v).toBeCloseTo(wanted[i]!, 3))
    // (550/nm)^1.4 with a bell of 0.14 about 515 nm, 120 wide: 2^-(4·(65/120)²), 2^-(4·(35/120)²), 2^-(4·(135/120)²).
    near(at('sulphide'), [1.3244 * 1.0621, 1.1106, 0.7915 * 1.0042])
    near(at('gold'), [0.8955, 1, 1.0962])
    // (550/nm)^0.2 with a bell of 0.12 about 540 nm, 100 wide: 2^-(4·(90/100)²), 2^-(4·(10/100)²), 2^-(4·(110/100)²).
    near(at('selenium'), [1.0409 * 1.0127, 1.1167, 0.9671 * 1.0042])
    // Iron blue weighs 0.85 on the mean from 520 to 600 nm.
    const iron = TONED['iron-blue'].slice(14, 23).reduce((sum, v) => sum + v, 0) / 9
    expect(iron).toBeCloseTo(0.85, 9)
    for (const name of TONERS) for (const v of TONED[name]) expect(v).toBeGreaterThan(0)
  })
})
