import Color from 'colorjs.io'
import { describe, expect, it } from 'vitest'
import { BT709_TO_XYZ, daylightXy } from '../src/colour'
import { recordOf, transmittance } from '../src/film'
import {
  BT709_BASIS,
  D65,
  ILLUMINANT_A,
  LAMPS,
  OBSERVER,
  SAMPLES,
  bell,
  nmAt,
  passBand,
  planckian,
} from '../src/spectra'

/** xy of a spectrum under the observer. */
function chromaticity(power: Float64Array): [number, number] {
  let [x, y, z] = [0, 0, 0]
  for (let i = 0; i < SAMPLES; i++) {
    x += OBSERVER.x[i]! * power[i]!
    y += OBSERVER.y[i]! * power[i]!
    z += OBSERVER.z[i]! * power[i]!
  }
  return [x / (x + y + z), y / (x + y + z)]
}

describe('the observer and the illuminants', () => {
  it('hold the published CIE 1931 values at 450, 550 and 600 nm (CIE 15, table T.4)', () => {
    const at = (nm: number) => (nm - 380) / 10
    expect([OBSERVER.x[at(450)], OBSERVER.y[at(450)], OBSERVER.z[at(450)]]).toEqual([0.3362, 0.038, 1.77211])
    expect(OBSERVER.y[at(550)]).toBeCloseTo(0.99495, 4)
    expect(OBSERVER.x[at(600)]).toBeCloseTo(1.0622, 4)
  })

  it('give D65 and A their published chromaticities (CIE 15:2018, table T.3)', () => {
    const [x, y] = chromaticity(D65)
    expect(x).toBeCloseTo(0.31272, 3)
    expect(y).toBeCloseTo(0.32903, 3)
    const [xa, ya] = chromaticity(ILLUMINANT_A)
    expect(xa).toBeCloseTo(0.44757, 3)
    expect(ya).toBeCloseTo(0.40745, 3)
  })

  it('puts black bodies on the published Planckian locus (2856 K is illuminant A; Wyszecki and Stiles, table 1(3.11))', () => {
    // CIE defines A with c2 = 1.435e7 nm K at 2848 K, which is 2855.5 K on the present scale.
    const body = planckian(2855.5)
    for (let i = 0; i < SAMPLES; i++) expect(body[i]! / body[18]!).toBeCloseTo(ILLUMINANT_A[i]! / ILLUMINANT_A[18]!, 2)
    const [x, y] = chromaticity(planckian(6500))
    expect(x).toBeCloseTo(0.3135, 3)
    expect(y).toBeCloseTo(0.3237, 3)
  })

  it('computes daylight chromaticities as published for D50, D55 and D75', () => {
    // Nominal temperatures on the present scale are 1.4388/1.4380 times the names.
    const near = (k: number, x: number, y: number) => {
      const [gx, gy] = daylightXy((k * 1.4388) / 1.438)
      expect(gx).toBeCloseTo(x, 3)
      expect(gy).toBeCloseTo(y, 3)
    }
    near(5000, 0.34567, 0.3585)
    near(5500, 0.33242, 0.34743)
    near(7500, 0.29902, 0.31485)
  })

  it('lists lamps that are all sampled and positive', () => {
    for (const lamp of Object.values(LAMPS)) {
      expect(lamp).toHaveLength(SAMPLES)
      expect(Math.min(...lamp)).toBeGreaterThan(0)
    }
  })
})

describe('the BT.709 basis', () => {
  it('sums to one at every wavelength, so that neutrals are flat', () => {
    for (let i = 0; i < SAMPLES; i++)
      expect(BT709_BASIS[0][i]! + BT709_BASIS[1][i]! + BT709_BASIS[2][i]!).toBeCloseTo(1, 4)
  })

  it('gives each primary its XYZ under D65 (the matrix of colorjs.io)', () => {
    let white = 0
    for (let i = 0; i < SAMPLES; i++) white += OBSERVER.y[i]! * D65[i]!
    for (const [k, name] of [
      [0, 'red'],
      [1, 'lime'],
      [2, 'blue'],
    ] as const) {
      const expected = new Color(name).to('xyz-d65').coords as number[]
      ;[OBSERVER.x, OBSERVER.y, OBSERVER.z].forEach((bar, c) => {
        let sum = 0
        for (let i = 0; i < SAMPLES; i++) sum += bar[i]! * D65[i]! * BT709_BASIS[k][i]!
        // The 10 nm sum differs from the 1 nm table by up to 0.001.
        expect(Math.abs(sum / white - expected[c]!)).toBeLessThan(0.0015)
        expect(BT709_TO_XYZ[c]![k]).toBeCloseTo(expected[c]!, 3)
      })
    }
  })
})

describe('shapes and filters', () => {
  it('falls to one half at half the width', () => {
    const shape = bell(600, 80)
    expect(shape(600)).toBe(1)
    expect(shape(640)).toBeCloseTo(0.5, 12)
    expect(shape(560)).toBeCloseTo(0.5, 12)
  })

  it('passes the middle of a band and stops what lies outside', () => {
    const band = passBand(590, 720)
    expect(band[(650 - 380) / 10]).toBeCloseTo(1, 3)
    expect(band[(480 - 380) / 10]).toBeLessThan(1e-6)
    expect(nmAt(40)).toBe(780)
  })

  it('makes records that sum to one and refuses one that sees nothing', () => {
    const record = recordOf(new Float64Array(SAMPLES).fill(1))
    expect(record[0] + record[1] + record[2]).toBeCloseTo(1, 12)
    expect(() => recordOf(new Float64Array(SAMPLES))).toThrow(/sees no light/)
  })
})

describe('Beer-Lambert', () => {
  it('multiplies transmittances where densities add, and agrees with the plain power', () => {
    for (let d = -1; d < 20; d += 0.0137) {
      expect(Math.abs(transmittance(d) / Math.pow(10, -d) - 1)).toBeLessThan(2e-9)
      expect(transmittance(d + 0.5) / (transmittance(d) * transmittance(0.5))).toBeCloseTo(1, 8)
    }
  })
})
