import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Triple } from '../src/colour'
import { LAY_MODES, blend, layOne } from '../src/lay'

describe('blending', () => {
  it('keeps to the W3C definitions', () => {
    const [b, s] = [0.3, 0.8]
    const one = (mode: (typeof LAY_MODES)[number]) => blend(mode, [b, b, b], [s, s, s])[0]
    expect(one('multiply')).toBeCloseTo(0.24, 10)
    expect(one('screen')).toBeCloseTo(0.86, 10)
    expect(one('overlay')).toBeCloseTo(0.48, 10)
    expect(one('hard-light')).toBeCloseTo(0.3 + 0.6 - 0.18, 10)
    expect(one('color-dodge')).toBe(1)
    expect(one('color-burn')).toBeCloseTo(1 - 0.7 / 0.8, 10)
    expect(one('difference')).toBeCloseTo(0.5, 10)
    expect(one('exclusion')).toBeCloseTo(0.3 + 0.8 - 0.48, 10)
    expect(one('plus-lighter')).toBe(1)
    expect(one('soft-light')).toBeCloseTo(0.3 + 0.6 * (Math.sqrt(0.3) - 0.3), 10)
  })
  it('keeps to the edges of the W3C definitions: white under a burn stays, black over it is black, and the other way dodging', () => {
    // Backdrop, source, color-burn, color-dodge, soft-light (Compositing and Blending Level 1, section 10.1).
    for (const [b, s, burn, dodge, soft] of [
      [1, 0, 1, 1, 1],
      [1, 0.5, 1, 1, 1],
      [0.5, 0, 0, 0.5, 0.25],
      [0, 1, 0, 0, 0],
      [0.5, 1, 0.5, 1, Math.sqrt(0.5)],
      [0.1, 0.75, 0, 0.4, 0.1 + 0.5 * (((16 * 0.1 - 12) * 0.1 + 4) * 0.1 - 0.1)],
      [0.4, 0.25, 0, 0.4 / 0.75, 0.4 - 0.5 * 0.4 * 0.6],
    ] as const) {
      const one = (mode: (typeof LAY_MODES)[number]) => blend(mode, [b, b, b], [s, s, s])[0]
      expect(one('color-burn'), `burn ${b} ${s}`).toBeCloseTo(burn, 10)
      expect(one('color-dodge'), `dodge ${b} ${s}`).toBeCloseTo(dodge, 10)
      expect(one('soft-light'), `soft ${b} ${s}`).toBeCloseTo(soft, 10)
    }
  })
  it('stays in 0..1, takes luminosity from one and colour from the other', () => {
    const colour = fc.tuple(
      ...([0, 1, 2].map(() => fc.double({ min: 0, max: 1, noNaN: true })) as [
        fc.Arbitrary<number>,
        fc.Arbitrary<number>,
        fc.Arbitrary<number>,
      ]),
    )
    const lum = (c: Triple) => 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]
    fc.assert(
      fc.property(fc.constantFrom(...LAY_MODES), colour, colour, (mode, b, s) => {
        const out = blend(mode, b, s)
        for (const v of out) expect(v >= -1e-6 && v <= 1 + 1e-6).toBe(true)
        if (mode === 'luminosity') expect(lum(out)).toBeCloseTo(lum(s), 6)
        if (mode === 'color' || mode === 'hue' || mode === 'saturation') expect(lum(out)).toBeCloseTo(lum(b), 6)
      }),
    )
  })
  it('adds a share of the bath to the line, whichever lies above, and ends at white', () => {
    // Compositing and Blending Level 1, section 9.1.14: co = min(1, as·Cs + ab·Cb).
    for (const under of [false, true]) {
      const added = layOne({ lay: 'plus-lighter', under, strength: 50 }, [0.1, 0.4, 0.7], [0.2, 0.9, 0.8])
      added.forEach((v, k) => expect(v).toBeCloseTo([0.2, 0.85, 1][k]!, 10))
    }
  })
  it('leaves the line alone at strength 0 and takes the order into account', () => {
    const [line, bath] = [
      [0.2, 0.4, 0.6],
      [0.9, 0.1, 0.5],
    ] as Triple[]
    expect(layOne({ lay: 'screen', under: false, strength: 0 }, line!, bath!)).toEqual(line)
    expect(layOne({ lay: 'hard-light', under: true, strength: 100 }, line!, bath!)).not.toEqual(
      layOne({ lay: 'hard-light', under: false, strength: 100 }, line!, bath!),
    )
  })
})
