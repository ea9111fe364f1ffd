import Color from 'colorjs.io'
import { describe, expect, it } from 'vitest'
import { encodingOf, encodingOfProfile, hasWayBack, lightOfColour, type EncodingDefinition } from '../src/encodings'
import { matrixProfile, nameTag, paraTag, powerTag, profileOf, tableTag, xyzTag } from './profiles'

/** XYZ of the colours of a space of colorjs.io under D50, as its profile has them. */
const columnsOf = (space: string): number[][] =>
  [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ].map((rgb) => [...new Color(space, rgb as [number, number, number]).to('xyz-d50').coords].map(Number))
// IEC 61966-2-1, as a parametric curve of kind 3.
const SRGB_CURVE = paraTag(3, 2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045)
const COLOURS = [
  [0.2, 0.5, 0.8],
  [0.9, 0.1, 0.3],
  [0.03, 0.6, 0.02],
  [1, 1, 1],
] as const

describe('a colour profile', () => {
  it('that says what a shipped encoding says is that one', () => {
    expect(encodingOfProfile(matrixProfile('any', columnsOf('srgb'), SRGB_CURVE))).toBe('srgb')
    expect(encodingOfProfile(matrixProfile('any', columnsOf('p3'), SRGB_CURVE))).toBe('p3')
  })

  it.each([
    ['a98rgb', powerTag(563 / 256)],
    // ROMM RGB, ISO 22028-2: a power with a straight toe.
    ['prophoto', paraTag(3, 1.8, 1, 0, 1 / 16, 16 / 512)],
    ['rec2020-linear', paraTag(0, 1)],
  ])('of %s gives the light that colorjs.io gives, and goes back', (space, curve) => {
    const own = encodingOfProfile(matrixProfile('House profile', columnsOf(space), curve)) as EncodingDefinition
    expect([own.name, hasWayBack(own)]).toEqual(['House profile', true])
    for (const rgb of COLOURS) {
      const wanted = new Color(space, [...rgb]).to('srgb-linear').coords
      for (const [k, v] of lightOfColour(encodingOf(own), rgb).entries())
        expect(v, `${space} ${rgb.join()}`).toBeCloseTo(Number(wanted[k]), 3)
    }
  })

  it('may hold its curve as a table, for each colour its own, or be of grey', () => {
    const square = tableTag(Array.from({ length: 1024 }, (_, i) => (i / 1023) ** 2))
    const columns = columnsOf('srgb')
    const table = encodingOf(encodingOfProfile(matrixProfile('t', columns, square)))
    expect(lightOfColour(table, [0.5, 0.5, 0.5])[1]).toBeCloseTo(0.25, 3)
    const apart = profileOf([
      ['desc', nameTag('apart')],
      ['rXYZ', xyzTag(columns[0]!)],
      ['gXYZ', xyzTag(columns[1]!)],
      ['bXYZ', xyzTag(columns[2]!)],
      ['rTRC', powerTag(1)],
      ['gTRC', powerTag(2)],
      ['bTRC', powerTag(3)],
    ])
    expect(
      lightOfColour(encodingOf(encodingOfProfile(apart)), [0.5, 0.5, 0.5]).map((v) => Number(v.toFixed(2))),
    ).toEqual([0.5, 0.25, 0.13])
    const grey = encodingOf(encodingOfProfile(profileOf([['kTRC', powerTag(2)]], 'GRAY')))
    expect(lightOfColour(grey, [0.5, 0.5, 0.5]).map((v) => Number(v.toFixed(4)))).toEqual([0.25, 0.25, 0.25])
  })

  it('that cannot be read says why', () => {
    const good = matrixProfile('any', columnsOf('srgb'), SRGB_CURVE)
    expect(() => encodingOfProfile(good.subarray(0, 60))).toThrow('has no header')
    expect(() => encodingOfProfile(good.subarray(0, good.length - 30))).toThrow('in the middle of a tag')
    expect(() => encodingOfProfile(profileOf([], 'CMYK'))).toThrow("is of 'CMYK', not of red, green and blue")
    expect(() => encodingOfProfile(profileOf([], 'RGB ', 'Lab '))).toThrow('made of tables')
    expect(() => encodingOfProfile(profileOf([['desc', nameTag('x')]]))).toThrow('has no rTRC: it is made of tables')
    expect(() => encodingOfProfile(matrixProfile('x', columnsOf('srgb'), paraTag(9, 1)))).toThrow('a curve of kind 9')
  })
})
