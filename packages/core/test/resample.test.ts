import { describe, expect, it } from 'vitest'
import { LINEAR, SPLINE36, inOneRun, resampling } from '../src/numbers/resample'

const resampled = (values: readonly number[], to: number, kernel = SPLINE36, shift = 0): number[] => {
  const { taps, places, weights } = resampling(values.length, to, kernel, shift)
  return Array.from({ length: to }, (_, i) =>
    Array.from({ length: taps }, (_, k) => weights[taps * i + k]! * values[places[taps * i + k]!]!).reduce(
      (a, b) => a + b,
    ),
  )
}
const line = (n: number): number[] => Array.from({ length: n }, (_, i) => i)

/** Whether the numbers are zimg's is tested in the server's planes.test.ts. */
describe('resampling', () => {
  it('keeps an even line and a straight one, larger or smaller, but for its mirrored ends', () => {
    for (const to of [7, 20, 33, 64]) {
      for (const v of resampled(Array(20).fill(3), to)) expect(v).toBeCloseTo(3, 5)
      resampled(line(20), to).forEach((v, i) => {
        const place = ((i + 0.5) * 20) / to - 0.5
        if (place > 9 && place < 10) expect(v).toBeCloseTo(place, 2)
      })
    }
  })
  it('gives samples back where nothing changes, and those between by halves where linear', () => {
    expect(resampled([1, 5, 2, 8], 4).map((v) => +v.toFixed(6))).toEqual([1, 5, 2, 8])
    // A quarter before and behind each: 3/4 of one and 1/4 of its neighbour.
    expect(resampled([0, 4], 4, LINEAR)).toEqual([0, 1, 3, 4])
    // Chroma that lies at the left of its pair: on it, and half-way to the next.
    expect(resampled([0, 4, 8], 6, LINEAR, 0.25)).toEqual([0, 2, 4, 6, 8, 8])
  })
  it('is the same over neighbouring places', () => {
    const values = line(31).map((v) => (v * 37) % 11)
    const { taps, places, weights } = inOneRun(resampling(31, 17, SPLINE36, 0.25), 4)
    expect(taps % 4).toBe(0)
    resampled(values, 17, SPLINE36, 0.25).forEach((wanted, i) => {
      let sum = 0
      for (let k = 0; k < taps; k++) sum += weights[taps * i + k]! * (values[places[i]! + k] ?? 0)
      expect(sum).toBeCloseTo(wanted, 5)
    })
  })
})
