import { describe, expect, it } from 'vitest'
import { type Triple } from '../src/colour'
import { SLOT, type Plan } from '../src/plan'
import { grainPlain, type Grain } from '../src/stages'
import { ran } from './helpers'

const GRAIN: Grain = {
  rms: 10,
  gauge: 10_300,
  clump: 4,
  colour: 0.4,
  seed: 5,
  clear: [0, 0, 0],
  silver: [0, 0, 0],
}

/** A picture of densities with grain on it. */
function grained(
  grain: Grain,
  densities: Triple,
  width: number,
  height: number,
  frame = 0,
  behind: Plan['ops'] = [],
): Float32Array {
  const n = width * height
  const even = Float32Array.from({ length: 4 * n }, (_, i) => ((i & 3) === 3 ? 1 : densities[(i & 3) as 0 | 1 | 2]))
  const plan: Plan = {
    ops: [
      {
        op: 'run',
        steps: [
          { do: 'load', slot: SLOT.CAMERA, register: 'own' },
          { do: 'store', slot: SLOT.LINE, register: 'own' },
        ],
      },
      { op: 'space', slot: SLOT.LINE, step: { kind: 'grain', grain } },
      ...behind,
    ],
  }
  return ran(plan, even, width, height, undefined, frame)
}

const layer = (pixels: Float32Array, k: number): Float64Array =>
  Float64Array.from({ length: pixels.length / 4 }, (_, i) => pixels[4 * i + k]!)
const mean = (v: Float64Array): number => v.reduce((a, b) => a + b, 0) / v.length
function deviation(v: Float64Array): number {
  const m = mean(v)
  return Math.sqrt(v.reduce((sum, x) => sum + (x - m) ** 2, 0) / v.length)
}
function correlation(a: Float64Array, b: Float64Array): number {
  const [m, n] = [mean(a), mean(b)]
  return a.reduce((sum, v, i) => sum + (v - m) * (b[i]! - n), 0) / a.length / deviation(a) / deviation(b)
}

/** Means over discs of a diameter in pixels, side by side. */
function throughDiscs(v: Float64Array, width: number, height: number, diameter: number): Float64Array {
  const r = diameter / 2
  const step = Math.ceil(diameter)
  const found: number[] = []
  for (let y = 0; y + step <= height; y += step)
    for (let x = 0; x + step <= width; x += step) {
      let [sum, count] = [0, 0]
      for (let j = 0; j < step; j++)
        for (let i = 0; i < step; i++)
          if (Math.hypot(i + 0.5 - r, j + 0.5 - r) <= r) {
            sum += v[(y + j) * width + x + i]!
            count++
          }
      found.push(sum / count)
    }
  return Float64Array.from(found)
}

describe('grain', () => {
  it('of the kernel is that of the plain form, with colour, silver and a clear base', () => {
    const grain: Grain = { ...GRAIN, clear: [0.05, 0.1, 0.2], silver: [0.1, 0.2, 0.3] }
    // More rows than one tile has, and rows that end within a vector.
    const [width, height] = [67, 131]
    const densities: Triple = [0.6, 1.1, 0.15]
    const plain = grainPlain(grain, width, 3)
    const made = grained(grain, densities, width, height, 3)
    let worst = 0
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        plain(densities, x, y).forEach((d, k) => {
          worst = Math.max(worst, Math.abs(d - made[4 * (y * width + x) + k]!))
        })
    expect(worst).toBeLessThan(2e-6)
  })

  it('is the same where it lies between two runs, which then are one', () => {
    const again: Plan['ops'] = [
      {
        op: 'run',
        steps: [
          { do: 'load', slot: SLOT.LINE, register: 'own' },
          { do: 'store', slot: SLOT.LINE, register: 'own' },
        ],
      },
    ]
    const grains = [GRAIN, { ...GRAIN, clump: 9, seed: 6, clear: [0.1, 0.1, 0.1] as Triple }]
    const second: Plan['ops'] = [...again, { op: 'space', slot: SLOT.LINE, step: { kind: 'grain', grain: grains[1]! } }]
    const [width, height] = [301, 150]
    const made = (behind: Plan['ops']) => grained(grains[0]!, [0.6, 1.1, 0.15], width, height, 3, behind)
    // Behind the second grain stands nothing, so that it has a run of its own; with one more both are in the same.
    expect(made([...second, ...again])).toEqual(made(second))
    expect(made(again)).toEqual(made([]))
  })

  // The definition of RMS granularity: ISO 10505, 48 µm, density 1. Apertures are measured, not computed.
  it.each([
    [4, 10_300, 2560],
    [9, 10_300, 2560],
    [4, 4500, 1920],
    [6, 22_000, 4096],
  ])('of clumps of %i µm on a film of %i µm has the stated deviation through 48 µm', (clump, gauge, width) => {
    const height = 1024
    const made = layer(grained({ ...GRAIN, clump, gauge }, [1, 1, 1], width, height), 1)
    const seen = throughDiscs(made, width, height, (48 * width) / gauge)
    expect(deviation(seen)).toBeGreaterThan(0.0097)
    expect(deviation(seen)).toBeLessThan(0.0103)
  })

  it('follows Selwyn: deviation times the root of the area is constant from 8 to 64 pixels', () => {
    const [width, height] = [4096, 2048]
    const made = layer(grained({ ...GRAIN, gauge: 40_000, clump: 2 }, [1, 1, 1], width, height), 0)
    const area = (d: number): number => {
      const inside = Array.from({ length: d * d }, (_, i) =>
        Math.hypot((i % d) + 0.5 - d / 2, Math.floor(i / d) + 0.5 - d / 2),
      )
      return inside.filter((r) => r <= d / 2).length
    }
    const constants = [8, 22, 64].map((d) => deviation(throughDiscs(made, width, height, d)) * Math.sqrt(area(d)))
    for (const c of constants) expect(Math.abs(c / constants[0]! - 1)).toBeLessThan(0.05)
  })

  it('leaves clear film alone and the mean density where it is, and grows as its root', () => {
    const [width, height] = [1024, 512]
    expect(deviation(layer(grained(GRAIN, [0, 0, 0], width, height), 0))).toBe(0)
    const dense = layer(grained(GRAIN, [2, 0.5, 0.5], width, height), 0)
    const thin = layer(grained(GRAIN, [2, 0.5, 0.5], width, height), 1)
    expect(Math.abs(mean(dense) / 2 - 1)).toBeLessThan(0.002)
    expect(deviation(dense) / deviation(thin)).toBeCloseTo(2, 1)
  })

  it('is another in every frame, and has no echo beyond its clumps', () => {
    const [width, height] = [512, 512]
    const one = layer(grained(GRAIN, [1, 1, 1], width, height, 7), 0)
    const next = layer(grained(GRAIN, [1, 1, 1], width, height, 8), 0)
    const again = layer(grained(GRAIN, [1, 1, 1], width, height, 7), 0)
    expect(one.every((v, i) => v === again[i])).toBe(true)
    expect(Math.abs(correlation(one, next))).toBeLessThan(0.02)
    for (const lag of [8, 16, 64, width * 8, width * 31 + 5])
      expect(Math.abs(correlation(one.slice(lag), one.slice(0, -lag))), `lag ${lag}`).toBeLessThan(0.02)
  })

  it('is neutral without colour, and of silver', () => {
    const neutral = grained({ ...GRAIN, colour: 0, silver: [0.2, 0.2, 0.2] }, [1, 1, 1], 64, 64)
    for (let i = 0; i < neutral.length; i += 4) {
      expect(neutral[i]).toBe(neutral[i + 1])
      expect(neutral[i]).toBe(neutral[i + 2])
    }
    const own = grained({ ...GRAIN, colour: 1 }, [1, 1, 1], 256, 256)
    expect(Math.abs(correlation(layer(own, 0), layer(own, 1)))).toBeLessThan(0.05)
  })

  it('looks the same on a picture of half the size', () => {
    const [width, height] = [1920, 1080]
    const large = layer(grained(GRAIN, [1, 1, 1], width, height), 0)
    const small = layer(grained(GRAIN, [1, 1, 1], width / 2, height / 2), 0)
    const shrunk = Float64Array.from({ length: (width * height) / 4 }, (_, i) => {
      const at = 2 * (i % (width / 2)) + 2 * width * Math.floor(i / (width / 2))
      return (large[at]! + large[at + 1]! + large[at + width]! + large[at + width + 1]!) / 4
    })
    expect(deviation(shrunk) / deviation(small)).toBeGreaterThan(0.9)
    expect(deviation(shrunk) / deviation(small)).toBeLessThan(1.1)
  })
})
