import { describe, expect, it } from 'vitest'
import { type Matrix3, type Triple, three } from '../src/colour'
import { Pictures } from '../src/cpu'
import { makeProjection } from '../src/film'
import { LAY_MODES, layOne, type LayMode } from '../src/lay'
import { seededRandom } from '../src/numbers'
import { SILVER } from '../src/spectra'
import {
  chain,
  curves,
  evenCurves,
  mix,
  plainStages,
  type Axis,
  type PointStage,
  type Ramp,
  type Solid,
} from '../src/stages'
import { runSteps } from '../src/cpu/program'
import type { Step } from '../src/cpu/step'
import { held, openHeld } from '../src/stages/held'
import { PRINT_DYES } from '../src/spectra/dyes'

const pictures = new Pictures()

/** Stages over colours by the kernels. */
function fast(stages: readonly PointStage[], colours: readonly Triple[]): Triple[] {
  const n = colours.length
  const src = pictures.copy('src', Float32Array.from(colours.flatMap((c) => [...c, 0.25])))
  const dst = pictures.take('dst', n)
  const steps = stages.map((stage): Step => ({ do: 'stage', stage }))
  const own = { register: 'own' } as const
  runSteps([{ do: 'load', address: src.at, ...own }, ...steps, { do: 'store', address: dst.at, ...own }], n)
  return colours.map((_, i) => [...dst.pixels.subarray(4 * i, 4 * i + 3)] as unknown as Triple)
}

/** The same one by one in double precision. */
function plain(stages: readonly PointStage[], colours: readonly Triple[]): Triple[] {
  const point = plainStages(stages)
  const out = three()
  return colours.map(([r, g, b]) => {
    point(r, g, b, out)
    return [...out] as unknown as Triple
  })
}

const worst = (a: readonly Triple[], b: readonly Triple[]): number =>
  a.reduce((most, c, i) => Math.max(most, ...c.map((v, k) => Math.abs(v - b[i]![k]!))), 0)

const random = seededRandom(41)
const some = (n: number, low: number, high: number): Triple[] =>
  Array.from({ length: n }, () => [0, 1, 2].map(() => low + (high - low) * random()) as unknown as Triple)

/** Numbers that pictures should not hold but may: none at all, without end, negative, tiny, huge. */
const STRANGE = [NaN, Infinity, -Infinity, -1e9, -0.2, -0, 0, 1e-42, 1e-9, 0.5, 1, 3, 7e4, 1e30]
const strange: Triple[] = STRANGE.flatMap((v) => [
  [v, 0.2, 0.3],
  [0.2, v, 0.3],
  [0.2, 0.3, v],
  [v, v, v],
])

const OCTAVES: Axis = { nodes: 'octaves', from: -12, to: 4 }
const EVEN: Axis = { nodes: 'even', from: -1, to: 2, steps: 3000 }
const root = { key: 'root', axis: OCTAVES, f: (v: number) => Math.sqrt(Math.min(16, Math.max(0, v))) }
const wave = { key: 'wave', axis: EVEN, f: (v: number) => Math.sin(3 * Math.min(2, Math.max(-1, v))) }
const paler = {
  key: 'paler',
  axis: { nodes: 'even', from: 0, to: 1.5, steps: 1024 },
  f: (v: number) => 1 / (1 + v),
} as const
const sweep: Ramp = {
  key: 'sweep',
  axis: EVEN,
  f: (v, out) => out.set([Math.cos(v), v * v, 0.3]),
}
const dyes: Solid = {
  key: 'dyes',
  from: [0, 0, 0],
  to: [2, 2, 2],
  valueAt: (place) => place,
  amounts: (a, b, c, out) => out.set([a, b, c, 0.1 * (a + b + c)]),
  projection: makeProjection({ components: [...PRINT_DYES, SILVER], lamp: 'xenon', clear: [0, 0, 0, 0] }),
}
const TURNED: Matrix3 = [
  [0.8, 0.3, -0.1],
  [0.1, 0.7, 0.2],
  [0, -0.4, 1.4],
]
const TURN = mix(TURNED, [0.01, -0.02, 0.3])

describe('each step of a run is what its plain form is', () => {
  it.each<[string, PointStage, number, number, number]>([
    ['a matrix and an offset', TURN, -2, 40, 1e-5],
    ['a matrix held above nothing', mix(TURNED, [0, 0, 0], 0.2), -0.5, 3, 1e-6],
    ['curves over octaves', evenCurves(root), 0.001, 16, 1e-4],
    ['curves over even steps', curves(wave, null, wave), -1, 2, 2e-6],
    ['a ramp', { at: 'ramp', ramp: sweep }, -1, 2, 2e-6],
    ['fitting to the gamut', { at: 'fit' }, -0.3, 1.4, 3e-6],
    ['chroma times, by chroma', { at: 'chroma', gain: paler }, -0.2, 1.2, 2e-6],
    [
      'selecting by distance',
      {
        at: 'select',
        picks: [
          [0.2, 0.3, 0.4],
          [0.9, 0.1, 0.5],
        ],
        range: 0.2,
        soft: 0.3,
      },
      0,
      1,
      1e-5,
    ],
  ] as never)('%s', (_, stage, low, high, within) => {
    // More than a chunk, and every length of the last group of four.
    for (const n of [1, 2, 3, 4, 5, 255, 256, 257, 1023]) {
      const colours = some(n, low, high)
      const first = stage.at === 'select' ? (c: Triple): Triple => [c[0], 0, 0] : (c: Triple) => c
      expect(worst(fast([stage], colours).map(first), plain([stage], colours).map(first)), `${n}`).toBeLessThan(within)
    }
  })
  it('a solid, within what its 49 nodes a side allow, exactly at a node', () => {
    const stage: PointStage = { at: 'solid', solid: dyes }
    const colours = some(3000, 0, 2)
    // Seen as lightness would see it: relative to the light, with a floor. White is at a density of 0.013.
    const relative = (got: Triple, wanted: Triple): number =>
      Math.max(...got.map((v, k) => Math.abs(v - wanted[k]!) / (0.05 + Math.abs(wanted[k]!))))
    const wanted = plain([stage], colours)
    fast([stage], colours).forEach((got, i) => expect(relative(got, wanted[i]!)).toBeLessThan(0.011))
    const nodes: Triple[] = [
      [0, 0, 0],
      [2, 2, 2],
      [0.125, 1.25, 0.5],
    ]
    expect(worst(fast([stage], nodes), plain([stage], nodes))).toBeLessThan(5e-5)
  })
  it('what holds light opens to the same light', () => {
    for (const light of [-0.3, -1e-4, 0, 1e-9, 0.003, 0.18, 1, 14]) expect(openHeld(held(light))).toBeCloseTo(light, 12)
    // As long as the series has not ended it is the hyperbolic sine: sinh(1) = 1.1752.
    expect(openHeld(1)).toBeCloseTo(0.03 * 1.1752, 4)
  })
  it('stages in a row are the stages one by one', () => {
    const row = [TURN, evenCurves(root), curves(wave, wave, null), { at: 'fit' } as const]
    const colours = some(500, 0.01, 1)
    expect(worst(fast(row, colours), plain(row, colours))).toBeLessThan(1e-3)
  })
})

describe('numbers that no picture should hold', () => {
  it.each<[string, PointStage]>([
    ['curves over octaves', evenCurves(root)],
    ['curves over even steps', evenCurves(wave)],
    ['a ramp', { at: 'ramp', ramp: sweep }],
    ['a solid', { at: 'solid', solid: dyes }],
    ['fitting to the gamut', { at: 'fit' }],
  ])('end in numbers: %s', (_, stage) => {
    for (const [i, colour] of fast([stage], strange).entries())
      for (const v of colour) expect(Number.isFinite(v), `${strange[i]!.join(' ')}`).toBe(true)
  })
  it('are held at the ends of a table; what is no number stands at its beginning', () => {
    const [none, beyond, below] = fast(
      [evenCurves(root)],
      [
        [NaN, NaN, NaN],
        [1e30, Infinity, 17],
        [-3, -Infinity, 0],
      ],
    )
    expect(none).toEqual([0, 0, 0])
    expect(beyond).toEqual([4, 4, 4])
    expect(below).toEqual([0, 0, 0])
  })
  it('become black or white in the gamut as their luminance is none or all', () => {
    const lights: Triple[] = [
      [NaN, 0.5, 0.5],
      [Infinity, 0.5, 0.5],
      [-5, -5, -5],
      [3, 3, 3],
    ]
    expect(fast([{ at: 'fit' }], lights)).toEqual([
      [0, 0, 0],
      [1, 1, 1],
      [0, 0, 0],
      [1, 1, 1],
    ])
  })
})

describe('laying one picture on another', () => {
  const backdrop = [...some(300, 0, 1), ...some(40, 0, 0).concat(some(40, 1, 1)), ...some(40, 0.25, 0.25)]
  const source = [...some(300, 0, 1), ...some(80, 0, 1), ...some(40, 0.5, 0.5)]
  const n = backdrop.length
  /** @param mask a share for each pixel */
  function laid(mode: LayMode, under: boolean, strength: number, mask: Float32Array | null): Triple[] {
    const flat = (colours: readonly Triple[]) => Float32Array.from(colours.flatMap((c) => [...c, 1]))
    const [line, own] = [pictures.copy('line', flat(backdrop)), pictures.copy('own', flat(source))]
    const plane = pictures.takePlane('mask', n)
    if (mask) plane.values.set(mask)
    runSteps(
      [
        { do: 'load', address: line.at, register: 'line' },
        { do: 'load', address: own.at, register: 'own' },
        { do: 'lay', how: { lay: mode, under, strength }, mask: mask ? plane.at : 0 },
        // Both registers hold the result.
        { do: 'store', address: line.at, register: 'line' },
        { do: 'store', address: own.at, register: 'own' },
      ],
      n,
    )
    expect(line.pixels).toEqual(own.pixels)
    return backdrop.map((_, i) => [...line.pixels.subarray(4 * i, 4 * i + 3)] as unknown as Triple)
  }
  it.each(LAY_MODES.map((mode) => [mode] as const))('%s is what the plain form is, masked or not', (mode) => {
    const mask = Float32Array.from({ length: n }, (_, i) => (i % 5) / 4)
    for (const under of [false, true])
      for (const strength of [0, 40, 100]) {
        const wanted = backdrop.map((b, i) => layOne({ lay: mode, under, strength }, b, source[i]!))
        expect(worst(laid(mode, under, strength, null), wanted), `${under} ${strength}`).toBeLessThan(2e-5)
        const masked = backdrop.map((b, i) =>
          layOne({ lay: mode, under, strength: strength * mask[i]! }, b, source[i]!),
        )
        expect(worst(laid(mode, under, strength, mask), masked), `masked ${under} ${strength}`).toBeLessThan(2e-5)
      }
  })
})

describe('the registers of a run', () => {
  it('keep, take, load and store do what they say, and a source may be the target', () => {
    const a = pictures.copy('a', Float32Array.of(0.1, 0.2, 0.3, 1))
    const b = pictures.take('b', 1)
    runSteps(
      [
        { do: 'load', address: a.at, register: 'own' },
        { do: 'keep' },
        { do: 'stage', stage: TURN },
        { do: 'store', address: a.at, register: 'own' },
        { do: 'take' },
        { do: 'store', address: b.at, register: 'own' },
      ],
      1,
    )
    expect([...b.pixels]).toEqual([...Float32Array.of(0.1, 0.2, 0.3, 1)])
    const out = three()
    chain(plainStages([TURN]), (r, g, bb, o) => o.set([r, g, bb]))(0.1, 0.2, 0.3, out)
    out.forEach((v, k) => expect(a.pixels[k]).toBeCloseTo(v, 6))
  })
  it('leave alone what lies behind the last pixel', () => {
    const mask = pictures.takePlane('plane', 8)
    mask.values.fill(7)
    const a = pictures.copy('a', new Float32Array(4 * 8).fill(0.5))
    runSteps(
      [
        { do: 'load', address: a.at, register: 'own' },
        { do: 'storePlane', address: mask.at },
      ],
      4,
    )
    expect([...mask.values]).toEqual([0.5, 0.5, 0.5, 0.5, 7, 7, 7, 7])
  })
})
