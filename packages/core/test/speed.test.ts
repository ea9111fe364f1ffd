import { describe, expect, it } from 'vitest'
import {
  CAMERA_NEGATIVE,
  densityAt,
  develop,
  exposureForRise,
  iso5800Speed,
  iso6Contrast,
  iso6Speed,
  speedDegrees,
  speedGain,
} from '../src/film'

describe('film speed', () => {
  it('follows the arithmetic of ISO 6: ISO 100/21° needs 0.008 lux seconds at the speed point (from memory)', () => {
    expect(iso6Speed(0.008)).toBeCloseTo(100, 10)
    // The standard's paired scale: each doubling is three degrees.
    for (const [arithmetic, degrees] of [
      [25, 15],
      [50, 18],
      [100, 21],
      [200, 24],
      [400, 27],
      [800, 30],
      [1600, 33],
    ] as const)
      expect(Math.round(speedDegrees(arithmetic))).toBe(degrees)
  })

  it('takes the green and the slowest layer for ISO 5800, and is the same for layers of one speed', () => {
    expect(iso5800Speed(Math.SQRT2 / 100, Math.SQRT2 / 100)).toBeCloseTo(100, 10)
    // A slowest layer of half the speed costs half a stop.
    expect(Math.log2(iso5800Speed(0.01, 0.01) / iso5800Speed(0.01, 0.02))).toBeCloseTo(0.5, 10)
    expect(iso5800Speed(0.01, 0.04)).toBeCloseTo(iso5800Speed(0.02, 0.02), 10)
  })

  it('measures contrast by the ISO 6 construction; motion-picture development is softer than the standard’s 0.80 (common practice)', () => {
    const { speedPoint, rise } = iso6Contrast(CAMERA_NEGATIVE)
    // Walked along the curve in small steps instead of solved.
    let x = -6
    while (densityAt(CAMERA_NEGATIVE, x) < 0.1) x += 1e-4
    expect(speedPoint).toBeCloseTo(x, 3)
    expect(rise).toBeCloseTo(densityAt(CAMERA_NEGATIVE, x + 1.3) - 0.1, 3)
    expect(rise).toBeGreaterThan(0.6)
    expect(rise).toBeLessThan(0.75)
    // Between one and three stops of pushing bring it there.
    const pushed = (stops: number): number => iso6Contrast(develop(CAMERA_NEGATIVE, stops)).rise
    expect(pushed(1)).toBeLessThan(0.8)
    expect(pushed(3)).toBeGreaterThan(0.8)
  })

  it('gains speed and contrast by pushing, loses both by pulling', () => {
    const rises = [-1, 0, 1, 2].map((n) => iso6Contrast(develop(CAMERA_NEGATIVE, n)).rise)
    for (let i = 1; i < rises.length; i++) expect(rises[i]!).toBeGreaterThan(rises[i - 1]! + 0.05)
    for (const stops of [1, 2]) {
      const gain = speedGain(CAMERA_NEGATIVE, develop(CAMERA_NEGATIVE, stops))
      // A push gains well under a stop of true speed for each stop asked (common practice).
      expect(gain).toBeGreaterThan(0.25 * stops)
      expect(gain).toBeLessThan(0.75 * stops)
    }
    expect(speedGain(CAMERA_NEGATIVE, develop(CAMERA_NEGATIVE, -1))).toBeLessThan(0)
  })

  it('says that a curve never gets there instead of guessing', () => {
    expect(exposureForRise(CAMERA_NEGATIVE, 9)).toBeNaN()
  })
})
