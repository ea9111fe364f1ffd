import { describe, expect, it } from 'vitest'
import { Pictures, compileLine, evenCurves, kernelMemory, plainStages, seededRandom, type Triple } from '../src'
import { runSteps } from '../src/cpu/program'
import { SIDE, tableOfScreen } from '../src/cpu/tables'
import { fused } from '../src/plan/fuse'
import type { RunStep } from '../src/plan/plan'
import { lineOf, shipped } from './helpers'

/** Light of a solid, fitted and encoded in one step: code values looked up where they are smooth, light elsewhere. */

const stepsOf = (recipe: ReturnType<typeof shipped>) =>
  fused(compileLine(recipe).ops).flatMap((op) => (op.op === 'run' ? op.steps : []))
const screenIn = (id: string) => stepsOf(shipped(id)).flatMap((step) => (step.do === 'screen' ? [step] : []))[0]!

const step = screenIn('bleach-bypass')
const { solid, encode } = step
const plain = plainStages([{ at: 'solid', solid }, { at: 'fit' }, evenCurves(encode)])
const pictures = new Pictures()
const random = seededRandom(12)

function fast(colours: readonly Triple[]): Triple[] {
  const src = pictures.copy('src', Float32Array.from(colours.flatMap((c) => [...c, 1])))
  const own = { register: 'own' } as const
  runSteps([{ do: 'load', address: src.at, ...own }, step, { do: 'store', address: src.at, ...own }], colours.length)
  return colours.map((_, i) => [...src.pixels.subarray(4 * i, 4 * i + 3)] as unknown as Triple)
}

function plainly([x, y, z]: Triple): Triple {
  const out = new Float64Array(3)
  plain(x, y, z, out)
  return [...out] as unknown as Triple
}

const between = (k: number, share: number): number => solid.from[k]! + share * (solid.to[k]! - solid.from[k]!)
const anywhere = (n: number): Triple[] =>
  Array.from({ length: n }, () => [0, 1, 2].map((k) => between(k, random())) as unknown as Triple)
/** Densities near those of a grey, as most of a picture has them. */
const nearGrey = (n: number): Triple[] =>
  Array.from({ length: n }, () => {
    const share = random()
    return [0, 1, 2].map((k) => between(k, Math.min(1, share * (0.95 + 0.1 * random())))) as unknown as Triple
  })

const apart = (a: Triple, b: Triple): number => Math.max(...a.map((v, k) => Math.abs(v - b[k]!)))

describe('light as a screen shows it', () => {
  it('is what the three stages are one after the other, in groups of every length', () => {
    for (const n of [1, 2, 3, 4, 5, 255, 256, 257, 1023]) {
      const colours = Array.from({ length: n }, (_, i) => (i % 3 ? nearGrey(1)[0]! : anywhere(1)[0]!))
      const wanted = colours.map(plainly)
      fast(colours).forEach((got, i) => expect(apart(got, wanted[i]!), `${n}`).toBeLessThan(0.005))
    }
  })

  it('is within a twentieth of a code of 8 bits in the middle, a third at the 99.9th percentile, near greys', () => {
    const colours = nearGrey(4000)
    const misses = fast(colours).map((got, i) => 255 * apart(got, plainly(colours[i]!)))
    misses.sort((a, b) => a - b)
    expect(misses[2000]!).toBeLessThan(0.05)
    expect(misses[3996]!).toBeLessThan(0.34)
  })

  it('is the same whatever colours stand beside a colour', () => {
    const colours = [...anywhere(300), ...nearGrey(300)]
    const mixed = colours.map((_, i) => (i * 251) % colours.length)
    const [one, other] = [fast(colours), fast(mixed.map((i) => colours[i]!))]
    expect(mixed.map((i) => one[i]!)).toEqual(other)
  })

  it('ends in numbers from what is no number, or has no end', () => {
    for (const v of [NaN, Infinity, -Infinity, -1e9, 1e30])
      for (const colour of fast([
        [v, 0.2, 0.3],
        [0.2, v, 0.3],
        [v, v, v],
      ]))
        for (const code of colour) expect(code >= 0 && code <= 1, `${v}`).toBe(true)
  })
})

describe('nodes of code values', () => {
  const table = tableOfScreen(solid, encode)
  const nodes = (): Float32Array => kernelMemory().floats(table.words()[0] as number, 4 * SIDE ** 3)
  const nodeAt = (at: Triple): number => 4 * (at[0] + SIDE * (at[1] + SIDE * at[2]))
  const EDGES: readonly Triple[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
    [1, 1, 0],
    [1, 0, 1],
    [0, 1, 1],
    [1, 1, 1],
  ]

  it('are marked wherever a straight line to the next would miss code values by a quarter of a code', () => {
    const all = nodes()
    let [missed, unmarked] = [0, 0]
    for (let i = 0; i < 20_000; i++) {
      const edge = EDGES[i % 7]!
      const here = edge.map((along) => Math.floor(random() * (SIDE - along))) as unknown as Triple
      const next = here.map((v, k) => v + edge[k]!) as unknown as Triple
      const [a, b] = [nodeAt(here), nodeAt(next)]
      if (all[a + 3] !== 0 || all[b + 3] !== 0) continue
      unmarked++
      const middle = plainly(here.map((v, k) => between(k, (v + 0.5 * edge[k]!) / (SIDE - 1))) as unknown as Triple)
      const line = [0, 1, 2].map((k) => ((all[a + k]! + all[b + k]!) / 2) ** 2) as unknown as Triple
      if (255 * apart(middle, line) > 0.25) missed++
    }
    expect(unmarked).toBeGreaterThan(2000)
    // A sharp bend that begins between two nodes is seen from neither.
    expect(missed / unmarked).toBeLessThan(0.005)
  })
})

describe('a run', () => {
  it('shows the light of each process in one step', () => {
    expect(stepsOf(shipped('plain')).map((s) => (s.do === 'stage' ? s.stage.at : s.do))).toEqual([
      'load',
      'mix',
      'curves',
      'mix',
      'curves',
      'screen',
      'keep',
      'store',
    ])
  })
  it('keeps curves that come behind it apart, for they may have corners', () => {
    const line = lineOf('colour-print', {})
    const withCurve = { ...line, baths: [...line.baths, ...lineOf('contrast', { amount: 60 }).baths] }
    const own = stepsOf(withCurve)
    expect(own.flatMap((s) => (s.do === 'screen' ? [s.encode.key] : []))).toEqual([encode.key])
    expect(own.filter((s) => s.do === 'stage' && s.stage.at === 'curves')).toHaveLength(4)
  })
  it('does three steps by themselves where the channels are encoded apart, or the solid is a table', () => {
    const stages = (tones: readonly (typeof encode | null)[], given = false): RunStep[] => [
      {
        do: 'stage',
        stage: {
          at: 'solid',
          solid: given ? { ...solid, nodes: () => new Float32Array(4 * SIDE ** 3), holds: 'light' } : solid,
        },
      } as RunStep,
      { do: 'stage', stage: { at: 'fit' } },
      { do: 'stage', stage: { at: 'curves', tones } } as RunStep,
    ]
    const length = (steps: RunStep[]) =>
      fused([{ op: 'run', steps }]).flatMap((op) => (op.op === 'run' ? op.steps : []))
    expect(length(stages([encode, encode, encode]))).toHaveLength(1)
    expect(length(stages([encode, encode, null]))).toHaveLength(3)
    expect(length(stages([encode, encode, encode], true))).toHaveLength(3)
  })
})
