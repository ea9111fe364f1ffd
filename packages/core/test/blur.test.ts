import { describe, expect, it } from 'vitest'
import { Pictures } from '../src/cpu'
import { seededRandom } from '../src/numbers'
import { PlanRunner } from '../src/plan'
import { type Field } from '../src/stages'
import { blurRecords, shrunkBlur } from '../src/cpu/blur'
import { gaussian } from '../src/numbers/gaussian'
import { applyField } from '../src/cpu/field'
import { shiftPlain, shiftRecords } from '../src/cpu/shift'
import { SLOT, type Op, type Slot } from '../src/plan/plan'
import type { SpaceStep } from '../src/stages/space'
import { inMemory } from './helpers'

/** Pixels of noise, opaque. */
function noise(width: number, height: number): Float32Array {
  const random = seededRandom(width)
  return Float32Array.from({ length: 4 * width * height }, (_, i) => ((i & 3) === 3 ? 1 : random()))
}

/** What a plan makes of pixels that is nothing but a step on neighbours, put down before it and taken up behind it. */
function betweenRuns(step: SpaceStep, pixels: Float32Array, width: number, height: number): Float32Array {
  const run = (from: Slot, to: Slot): Op => ({
    op: 'run',
    steps: [
      { do: 'load', register: 'own', slot: from },
      { do: 'store', register: 'own', slot: to },
    ],
  })
  const { CAMERA, BATH, LINE } = SLOT
  const ops: Op[] = [run(CAMERA, BATH), { op: 'space', slot: BATH, step }, run(BATH, LINE)]
  const [pictures, runner] = [new Pictures(), new PlanRunner()]
  const got = runner.run({ ops }, pictures.copy('camera', pixels), width, height).pixels.slice()
  runner.release()
  pictures.release()
  return got
}

describe('steps on neighbouring pixels', () => {
  // An impulse spreads to the Gaussian's density; the expected values are the formula, not the kernel.
  const density = (d: number, sigma: number) =>
    Math.exp(-(d * d) / (2 * sigma * sigma)) / (sigma * Math.sqrt(2 * Math.PI))
  it.each([1.2, 3.03, 3.9])('blurs along and down as a Gaussian of sigma %d does, keeping the sum', (sigma) => {
    const side = 101
    const picture = new Float32Array(4 * side * side)
    picture.set([1, 1, 1, 0.5], 4 * (50 * side + 50))
    inMemory(picture, (at) => blurRecords([(1000 * sigma) / side, 0, 0], at, side, side))
    const at = (x: number, y: number) => picture[4 * (y * side + x)]!
    let sum = 0
    for (let i = 0; i < side * side; i++) sum += picture[4 * i]!
    expect(sum).toBeCloseTo(1, 4)
    const peak = density(0, sigma)
    for (const d of [0, 1, 2, 5])
      for (const v of [at(50 + d, 50), at(50, 50 - d)])
        expect(Math.abs(v - density(d, sigma) * peak)).toBeLessThan(0.012 * peak * peak)
    expect([...picture.subarray(4 * (50 * side + 50) + 1, 4 * (50 * side + 50) + 4)]).toEqual([1, 1, 0.5])
  })
  it.each([5, 12, 30])('blurs an edge by sigma %d as the Gaussian integral says, in the shrunk form too', (sigma) => {
    const [width, height] = [401, 37]
    const picture = Float32Array.from({ length: 4 * width * height }, (_, i) => ((i >> 2) % width >= 200 ? 1 : 0))
    inMemory(picture, (at) => blurRecords([(1000 * sigma) / width, 0, (1000 * sigma) / width], at, width, height))
    // The normal distribution, summed up pixel by pixel; its edge lies between pixels 199 and 200.
    let integral = 0
    for (let x = -400; x <= 600; x++) {
      for (let part = 0; part < 10; part++) integral += 0.1 * density(x + (part + 0.5) / 10 - 0.5 - 199.5, sigma)
      if (x < 120 || x > 280) continue
      const half = density(x + 0.25 - 199.5, sigma) / 2
      expect(Math.abs(picture[4 * (18 * width + x)]! - (integral - half))).toBeLessThan(0.006)
      expect(picture[4 * (18 * width + x) + 1]).toBe(x >= 200 ? 1 : 0)
    }
  })
  it.each([
    [203, 97, 30],
    [1366, 31, 9],
    [333, 77, 25],
    [5, 3, 900],
    [1921, 9, 6.25],
    [1366, 31, 30],
    [1001, 7, 20],
  ])('between two runs a wide blur is the blur by itself: %d x %d, sigma %d per mille', (width, height, sigma) => {
    const own = noise(width, height)
    const sigmas = [sigma, sigma, sigma] as const
    const got = betweenRuns({ kind: 'blur', sigmas }, own, width, height)
    inMemory(own, (at) => blurRecords(sigmas, at, width, height))
    expect(shrunkBlur(sigmas, width, height)).not.toBeNull()
    expect(got.findIndex((v, i) => Math.abs(v - own[i]!) > 2e-6)).toBe(-1)
  })
  it.each([
    [203, 97],
    [1366, 5],
    [7, 3],
    [1921, 300],
  ])('between two runs a smooth field is the field by itself, bit by bit: %d x %d', (width, height) => {
    const field: Field = (u, v, aspect, out) => out.set([1 + u * v, Math.cos(3 * u), aspect, u, Math.sin(5 * v), -v])
    const own = noise(width, height)
    const got = betweenRuns({ kind: 'field', field, smooth: true }, own, width, height)
    inMemory(own, (at) => applyField(field, true, at, width, height))
    expect(got.findIndex((v, i) => v !== own[i]!)).toBe(-1)
  })
  it('keeps an even picture even, whatever its size', () => {
    for (const [width, height] of [
      [1, 1],
      [3, 2],
      [50, 7],
      [129, 33],
    ] as const) {
      const picture = new Float32Array(4 * width * height).fill(0.4)
      inMemory(picture, (at) => blurRecords([100, 20, 3], at, width, height))
      for (const v of picture) expect(v).toBeCloseTo(0.4, 5)
    }
    expect(gaussian(2).length).toBe(7)
  })
  it('interpolates a smooth field as the field itself says', () => {
    const [width, height] = [300, 170]
    const field: Field = (u, v, aspect, out) => out.set([1 + u * v, Math.cos(3 * u), aspect, u, Math.sin(5 * v), -v])
    const picture = Float32Array.from({ length: 4 * width * height }, (_, i) => (i % 4 === 3 ? 1 : 0.5))
    const [smooth, exact] = [picture.slice(), picture.slice()]
    inMemory(smooth, (at) => applyField(field, true, at, width, height))
    inMemory(exact, (at) => applyField(field, false, at, width, height))
    expect(smooth.reduce((most, v, i) => Math.max(most, Math.abs(v - exact[i]!)), 0)).toBeLessThan(2e-4)
  })
  it('moves records as the plain form does, by any shift and turn, at any size', () => {
    const random = seededRandom(9)
    for (const [width, height] of [
      [1, 1],
      [2, 5],
      [31, 17],
      [64, 33],
    ] as const) {
      const before = Float32Array.from({ length: 4 * width * height }, () => random())
      const records = [
        { x: 37, y: -12, rotation: 0 },
        { x: 0, y: 250, rotation: 3 },
        { x: -900, y: 4, rotation: -71 },
      ] as const
      const [fast, plain] = [before.slice(), before.slice()]
      inMemory(fast, (at) => shiftRecords(records, at, width, height))
      records.forEach((shift, channel) => shiftPlain(shift, channel, before, plain, width, height))
      expect(fast.reduce((most, v, i) => Math.max(most, Math.abs(v - plain[i]!)), 0)).toBeLessThan(2e-4)
    }
  })
  it('moves one record by whole and half pixels and leaves the others', () => {
    const picture = Float32Array.from({ length: 40 }, (_, i) => (i >> 2) + (i & 3) * 100)
    const still = { x: 0, y: 0, rotation: 0 }
    inMemory(picture, (at) => shiftRecords([{ ...still, x: 100 }, { ...still, x: 50 }, still], at, 10, 1))
    expect(picture[4 * 5]).toBeCloseTo(4, 5)
    expect(picture[4 * 5 + 1]).toBeCloseTo(104.5, 5)
    expect(picture[4 * 5 + 2]).toBe(205)
  })
  it('keeps fine detail when it moves by half a pixel, where the mean of two neighbours would leave 0.71 of it', () => {
    const width = 64
    const waves = Float32Array.from({ length: 4 * width * 4 }, (_, i) => Math.sin((Math.PI / 2) * ((i >> 2) % width)))
    const moved = { x: 500 / width, y: 0, rotation: 0 }
    inMemory(waves, (at) => shiftRecords([moved, moved, moved], at, width, 4))
    for (let x = 8; x < 56; x++) {
      const exact = Math.sin((Math.PI / 2) * (x - 0.5))
      expect(waves[4 * (width + x)]! / exact).toBeGreaterThan(0.87)
      expect(waves[4 * (width + x)]! / exact).toBeLessThan(1)
    }
  })
})
