import { describe, expect, it } from 'vitest'
import {
  DISPLAY,
  SCENE,
  applyLutPlain,
  bakeLut,
  makeLut,
  readLut3d,
  seededRandom,
  type PointFunction,
  type Triple,
} from '../src'
import { blurRecords, gaussian } from '../src/kernels/blur'
import { applyField } from '../src/kernels/field'
import type { Field } from '../src/baths/kind'
import { readShaped } from '../src/kernels/shaped'
import { shiftRecords } from '../src/kernels/shift'

describe('the LUT', () => {
  const wave = (r: number, g: number, b: number, out: Float64Array): void => {
    out[0] = 0.5 + 0.4 * Math.sin(r * 3 + g)
    // As a picture does, it stays within bounds over all twenty stops.
    out[1] = Math.tanh(r * g)
    out[2] = Math.tanh(b * 0.9)
  }
  it('is the same in its fast and its plain form, on all channels, in place, at the edges and outside', () => {
    const values = [-1, 0, 1e-9, 0.001, 0.02, 0.18, 0.5, 0.999, 1, 1.5, 40, 1e4, Infinity]
    const colours = values.flatMap((r) =>
      values.map((g) => [r, g, values[(values.indexOf(r) + values.indexOf(g)) % values.length]!] as Triple),
    )
    for (const [domain, premix] of [
      [DISPLAY, null],
      [SCENE, null],
      [
        SCENE,
        [
          [0.9, 0.1, 0],
          [0.1, 0.8, 0.1],
          [0, 0.1, 0.9],
        ],
      ],
    ] as const) {
      const lut = bakeLut(wave, domain, 17, premix)
      const src = Float32Array.from(colours.flatMap((c) => [...c, 0.25]))
      lut.apply(src, src, colours.length)
      colours.forEach((c, i) => {
        if (c.some((v) => !Number.isFinite(v)))
          return void expect([...src.subarray(4 * i, 4 * i + 3)].every(Number.isFinite)).toBe(true)
        readLut3d(lut, c).forEach((v, k) => expect(Math.abs(src[4 * i + k]! - v)).toBeLessThan(5e-5))
        expect(src[4 * i + 3]).toBe(0.25)
      })
    }
  })
  it('shapes scene light by a table as the function itself says, held at both ends', () => {
    const { shaper, positionOf } = SCENE
    if ('scale' in shaper) throw new Error('Scene light needs a table.')
    for (let stop = -14; stop < 9; stop += 0.037)
      expect(Math.abs(readShaped(shaper, 2 ** stop) - positionOf(2 ** stop))).toBeLessThan(2e-5)
    for (const v of [-5, 0, NaN]) expect(readShaped(shaper, v)).toBe(positionOf(1e-9))
    expect(readShaped(shaper, Infinity)).toBe(1)
    for (const p of [0.1, 0.5, 0.9]) expect(positionOf(SCENE.valueAt(p))).toBeCloseTo(p, 9)
  })
  it('looks up a whole picture in its plain form as colour by colour', () => {
    const lut = makeLut(wave, DISPLAY, 9)
    const random = seededRandom(8)
    const picture = Float32Array.from({ length: 4 * 50 }, () => random())
    const out = new Float32Array(picture.length)
    applyLutPlain(lut, picture, out, 50)
    for (let i = 0; i < 50; i++) {
      const one = readLut3d(lut, [picture[4 * i]!, picture[4 * i + 1]!, picture[4 * i + 2]!])
      expect([...out.subarray(4 * i, 4 * i + 4)]).toEqual([...one, picture[4 * i + 3]])
    }
  })
  it('gives the same bits whatever was looked up before, however little a node counts', () => {
    const bend: PointFunction = (r, g, b, out) => out.set([Math.sin(9 * r + g), 1 / (1 + 4 * b), r * g * b])
    const random = seededRandom(31)
    // Colours that lie almost on a node of the grid: those further away count by a millionth.
    const near = Float32Array.from({ length: 4 * 3000 }, (_, i) =>
      (i & 3) === 3 ? 1 : Math.round(8 * random()) / 8 + (random() - 0.5) * 10 ** (-3 - 5 * random()),
    )
    const all = bakeLut(bend, DISPLAY, 9)
    const lazy = makeLut(bend, DISPLAY, 9)
    const [wanted, got] = [new Float32Array(near.length), new Float32Array(near.length)]
    all.apply(near, wanted, 3000)
    // One by one, so that each meets what the ones before it have left.
    for (let i = 0; i < 3000; i++) lazy.apply(near.subarray(4 * i, 4 * i + 4), got.subarray(4 * i, 4 * i + 4), 1)
    expect(got.every((v, i) => Object.is(v, wanted[i]))).toBe(true)
  })
  it('works out only the nodes that a picture needs, with the same result as all of them', () => {
    let worked = 0
    const counted = (r: number, g: number, b: number, out: Float64Array): void => {
      worked++
      wave(r, g, b, out)
    }
    const random = seededRandom(3)
    // More than one chunk, and not a multiple of four.
    const n = 1501
    const src = Float32Array.from({ length: 4 * n }, (_, i) => ((i & 3) === 3 ? 0.5 : 0.3 + 0.2 * random()))
    const [lazy, baked] = [new Float32Array(4 * n), new Float32Array(4 * n)]
    const lut = makeLut(counted, DISPLAY, 33)
    expect(worked).toBe(0)
    lut.apply(src, lazy, n)
    bakeLut(wave, DISPLAY, 33).apply(src, baked, n)
    expect(lazy).toEqual(baked)
    // A fifth of each side is used: at most 9 nodes of 33 along each.
    expect(worked).toBeGreaterThan(100)
    expect(worked).toBeLessThanOrEqual(9 ** 3)
    const before = worked
    lut.apply(src, lazy, n)
    expect(worked).toBe(before)
  })
  it('holds a number even for what is no number', () => {
    for (const domain of [DISPLAY, SCENE]) {
      const src = Float32Array.of(NaN, NaN, NaN, 1)
      bakeLut(wave, domain, 5).apply(src, src, 1)
      expect([...src].every(Number.isFinite)).toBe(true)
    }
  })
  it('is exact at its nodes and for what is linear', () => {
    const lut = bakeLut((r, g, b, o) => ((o[0] = 0.5 * r + 0.1), (o[1] = (r + g) / 2), void (o[2] = b)), DISPLAY, 9)
    const src = Float32Array.of(0.123, 0.77, 0.4, 1)
    lut.apply(src, src, 1)
    expect(src[0]).toBeCloseTo(0.1615, 6)
    expect(src[1]).toBeCloseTo(0.4465, 6)
    expect(src[2]).toBeCloseTo(0.4, 6)
  })
})

describe('steps between LUTs', () => {
  // An impulse spreads to the Gaussian's density; the expected values are the formula, not the kernel.
  const density = (d: number, sigma: number) =>
    Math.exp(-(d * d) / (2 * sigma * sigma)) / (sigma * Math.sqrt(2 * Math.PI))
  it.each([1.2, 3.03, 3.9])('blurs along and down as a Gaussian of sigma %d does, keeping the sum', (sigma) => {
    const side = 101
    const picture = new Float32Array(4 * side * side)
    picture.set([1, 1, 1, 0.5], 4 * (50 * side + 50))
    blurRecords([(1000 * sigma) / side, 0, 0], picture, side, side)
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
    blurRecords([(1000 * sigma) / width, 0, (1000 * sigma) / width], picture, width, height)
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
  it('keeps an even picture even, whatever its size', () => {
    for (const [width, height] of [
      [1, 1],
      [3, 2],
      [50, 7],
      [129, 33],
    ] as const) {
      const picture = new Float32Array(4 * width * height).fill(0.4)
      blurRecords([100, 20, 3], picture, width, height)
      for (const v of picture) expect(v).toBeCloseTo(0.4, 5)
    }
    expect(gaussian(2).length).toBe(7)
  })
  it('interpolates a smooth field as the field itself says', () => {
    const [width, height] = [300, 170]
    const field: Field = (u, v, aspect, out) => out.set([1 + u * v, Math.cos(3 * u), aspect, u, Math.sin(5 * v), -v])
    const [smooth, exact] = [0, 1].map(() => new Float32Array(4 * width * height).fill(0.5)) as [
      Float32Array,
      Float32Array,
    ]
    applyField(field, true, smooth, width, height)
    applyField(field, false, exact, width, height)
    for (let i = 0; i < smooth.length; i++) expect(Math.abs(smooth[i]! - exact[i]!)).toBeLessThan(2e-4)
  })
  it('moves one record by whole and half pixels and leaves the others', () => {
    const [width, height] = [10, 1]
    const picture = Float32Array.from({ length: 40 }, (_, i) => (i >> 2) + (i & 3) * 100)
    shiftRecords(
      [
        { x: 100, y: 0, rotation: 0 },
        { x: 50, y: 0, rotation: 0 },
        { x: 0, y: 0, rotation: 0 },
      ],
      picture,
      new Float32Array(40),
      width,
      height,
    )
    expect(picture[4 * 5]).toBeCloseTo(4, 5)
    expect(picture[4 * 5 + 1]).toBeCloseTo(104.5, 5)
    expect(picture[4 * 5 + 2]).toBe(205)
  })
})
