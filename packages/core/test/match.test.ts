import { describe, expect, it } from 'vitest'
import { kindById } from '../src/baths'
import { ciede2000, bt709ToLab, displayLight, type Triple } from '../src/colour'
import { NOTHING_AROUND, newBath, type Recipe } from '../src/line'
import { MATCH_KINDS, leastSquares, matchReference, movableSettings, statisticsApart, statisticsOf } from '../src/match'
import { seededRandom } from '../src/numbers'
import { SHIPPED_RECIPES } from '../src/recipes'
import { Treatment } from '../src/treat'

const [W, H] = [96, 54]

/** A made-up scene: sky, foliage, skin, cloth and a lamp with soft edges between. In a later frame all of it has moved a little. */
function scene(seed: number, later = 0): Float32Array {
  const random = seededRandom(seed)
  const blobs = [
    [0.62, 0.75, 0.9],
    [0.25, 0.4, 0.15],
    [0.8, 0.58, 0.45],
    [0.38, 0.24, 0.18],
    [0.7, 0.15, 0.12],
    [0.12, 0.18, 0.45],
    [0.9, 0.85, 0.6],
    [0.05, 0.05, 0.06],
  ].map((colour) => ({ colour, u: random() + later, v: random() - later / 2 }))
  const pixels = new Float32Array(4 * W * H)
  for (let i = 0; i < W * H; i++) {
    const [u, v] = [(i % W) / W, Math.floor(i / W) / H]
    const weights = blobs.map((b) => Math.exp(-30 * ((b.u - u) ** 2 + (b.v - v) ** 2)) + 1e-9)
    const sum = weights.reduce((a, b) => a + b)
    for (let k = 0; k < 3; k++)
      pixels[4 * i + k] = blobs.reduce((all, b, j) => all + (weights[j]! / sum) * b.colour[k]!, 0) * (0.75 + 0.5 * v)
    for (let k = 0; k < 3; k++) pixels[4 * i + k] = Math.min(1, pixels[4 * i + k]!)
    pixels[4 * i + 3] = 1
  }
  return pixels
}

/** The scene through a recipe, by the kernels, so that the fit's own plain form is not its own judge. */
function through(recipe: Recipe, pixels: Float32Array): Float32Array {
  const data = Float32Array.from({ length: 3 * W * H }, (_, i) => pixels[4 * Math.floor(i / 3) + (i % 3)]!)
  const frame = { data, format: 'f32', width: W, height: H, frame: 0 } as const
  return new Treatment().run(frame, { ...NOTHING_AROUND, recipe, encoding: 'bt1886' }).pixels.slice(0, 4 * W * H)
}
const line = (kind: string, settings: Record<string, unknown>): Recipe => ({
  ...SHIPPED_RECIPES[0]!,
  baths: [newBath(kind, 'b', settings)],
})
const labs = (pixels: Float32Array) =>
  Array.from({ length: W * H }, (_, i) =>
    bt709ToLab([0, 1, 2].map((k) => displayLight(pixels[4 * i + k]!)) as unknown as Triple),
  )
const apart = (a: Float32Array, b: Float32Array): number => {
  const [one, other] = [labs(a), labs(b)]
  return one.reduce((sum, c, i) => sum + ciede2000(c, other[i]!), 0) / one.length
}

/** Settings that were hidden in a picture, all of them to be seen in it. */
const HIDDEN: [string, Record<string, number>][] = [
  ['colour-print', { bleachPrint: 35, push: 0.7, lightRed: 27, lightBlue: 22 }],
  ['three-strip', { amountCyan: 115, amountMagenta: 88, amountYellow: 108, key: 4 }],
  ['aged-print', { fadeCyan: 40, fadeMagenta: 12, stain: 0.06 }],
  ['false-colour', { amount: 70 }],
  ['black-and-white', { grade: 3.4 }],
]

describe('a process fitted to a reference', () => {
  it.each(HIDDEN)(
    'finds the settings of %s again on the same frame, within 5 %% of their range',
    async (kind, hidden) => {
      const footage = scene(1)
      const reference = through(line(kind, { ...hidden, grain: 0 }), footage)
      const { recipe, after, before, misses, stopped } = await matchReference({
        footage,
        reference,
        refers: 'display',
        around: NOTHING_AROUND,
        sameFrame: true,
        kinds: [kind],
        settings: Object.keys(hidden),
      })
      const fields = kindById(kind).schema.properties as unknown as Record<string, { minimum: number; maximum: number }>
      for (const [key, value] of Object.entries(hidden)) {
        const range = fields[key]!.maximum - fields[key]!.minimum
        expect(Math.abs((recipe.baths[0]!.settings[key] as number) - value) / range, key).toBeLessThan(0.05)
      }
      expect(apart(through(recipe, footage), reference)).toBeLessThan(1)
      expect(after).toBeLessThan(1)
      expect(before).toBeGreaterThan(2)
      expect(misses).toEqual([])
      expect(stopped).toBe(false)
    },
  )
  it.each(HIDDEN)('comes within 2.5 dE for %s where the reference is another frame', async (kind, hidden) => {
    const footage = scene(1)
    const wanted = line(kind, { ...hidden, grain: 0 })
    const { recipe } = await matchReference({
      footage,
      reference: through(wanted, scene(1, 0.06)),
      refers: 'display',
      around: NOTHING_AROUND,
      sameFrame: false,
      kinds: [kind],
      settings: Object.keys(hidden),
    })
    // Judged on the footage itself, through what was hidden.
    expect(apart(through(recipe, footage), through(wanted, footage))).toBeLessThan(2.5)
  })
  it('tries all processes and takes the one that it was', async () => {
    const footage = scene(3)
    const reference = through(line('three-strip', { amountCyan: 120, key: 6 }), footage)
    const tried = new Set<string>()
    const { kind } = await matchReference(
      { footage, reference, refers: 'display', around: NOTHING_AROUND, sameFrame: true, kinds: MATCH_KINDS },
      (progress) => void tried.add(progress.kind),
    )
    expect(kind).toBe('three-strip')
    expect([...tried].sort()).toEqual([...MATCH_KINDS].sort())
  })
  it('says what a process cannot reach: two dyes have no yellow, silver no colour', async () => {
    const colours: Triple[] = [
      [0.15, 0.25, 0.7],
      [0.85, 0.75, 0.2],
      [0.45, 0.45, 0.45],
      [0.8, 0.3, 0.25],
    ]
    const footage = Float32Array.from({ length: 4 * W * H }, (_, i) => [...colours[(i >> 2) % 4]!, 1][i % 4]!)
    const of = (kind: string, sameFrame: boolean) =>
      matchReference({
        footage,
        reference: footage,
        refers: 'display',
        around: NOTHING_AROUND,
        sameFrame,
        kinds: [kind],
      })
    const two = await of('two-strip', true)
    // Blue it is lent by the blue record.
    expect(two.misses.join('; ')).toMatch(/its yellow .* stays \d+\.\d dE off: chroma \d+, the process comes to/)
    expect(two.misses.join('; ')).not.toMatch(/its blue/)
    expect(two.after).toBeGreaterThan(2)
    const grey = (await of('black-and-white', false)).misses
    for (const name of ['blue', 'yellow', 'red'])
      expect(grey.join('; ')).toMatch(new RegExp(`its ${name}: .* comes to none`))
    expect((await of('colour-print', true)).misses.join('; ')).not.toMatch(/yellow|red/)
  })
  it('can be stopped, and then gives the best so far', async () => {
    let steps = 0
    const footage = scene(1)
    const reference = through(line('aged-print', { fadeCyan: 70 }), footage)
    const request = { footage, reference, refers: 'display', around: NOTHING_AROUND, sameFrame: true } as const
    const { after, before, stopped } = await matchReference({ ...request, kinds: ['aged-print'] }, () => {
      steps++
      return false
    })
    expect(steps).toBe(1)
    expect(stopped).toBe(true)
    expect(after).toBeLessThan(before)
  })
  it('names what is wrong with what it is given', async () => {
    const request = { refers: 'display', around: NOTHING_AROUND, sameFrame: true, kinds: ['two-strip'] } as const
    const footage = scene(1)
    await expect(matchReference({ ...request, footage, reference: footage.slice(8) })).rejects.toThrow(/same size/)
    await expect(matchReference({ ...request, footage, reference: footage, settings: [] })).rejects.toThrow(
      /may move; tick/,
    )
    await expect(
      matchReference({ ...request, sameFrame: false, footage, reference: footage.slice(0, 0) }),
    ).rejects.toThrow(/without pixels/)
  })
  it('offers numbers alone, those shown first ticked', () => {
    for (const kind of MATCH_KINDS) {
      const own = movableSettings(kind)
      expect(own.filter((s) => s.first).length, kind).toBeGreaterThan(0)
      for (const { key } of own) expect(typeof newBath(kind, 'b').settings[key], `${kind} ${key}`).toBe('number')
    }
  })
})

describe('least squares in a box', () => {
  it('finds the valley of Rosenbrock (1960) where it lies inside, and the edge where it does not', async () => {
    const valley = (x: number, y: number) => Float64Array.of(1 - x, 10 * (y - x * x))
    // The place 0..1 stands for -1..2.
    const inside = await leastSquares(([u, v]) => valley(3 * u! - 1, 3 * v! - 1), [0.1, 0.9], { steps: 200 })
    expect(inside.place.map((v) => 3 * v - 1)).toEqual([expect.closeTo(1, 2), expect.closeTo(1, 2)])
    // Within 0..0.5 the least value of (1 - x)² + 100 (y - x²)² is at x = 0.5, y = 0.25.
    const edge = await leastSquares(([u, v]) => valley(u! / 2, v! / 2), [0.2, 0.9], { steps: 200 })
    expect(edge.place.map((v) => v / 2)).toEqual([expect.closeTo(0.5, 3), expect.closeTo(0.25, 3)])
  })
})

describe('statistics of a picture', () => {
  it('do not ask where anything is, only how light and how coloured it is', () => {
    const picture = labs(scene(5))
    expect(statisticsApart(statisticsOf(picture), statisticsOf([...picture].reverse()))).toBeLessThan(1e-9)
    const lighter = picture.map(([l, a, b]): Triple => [l + 5, a, b])
    const shift = statisticsOf(lighter).map((v, i) => v - statisticsOf(picture)[i]!)
    // Seventeen tones come first; the colour of each part stays.
    expect(Array.from(shift.slice(0, 17), (v) => Number(v.toFixed(6)))).toEqual(Array(17).fill(5))
    expect(Math.max(...shift.slice(17).map(Math.abs))).toBeLessThan(1e-9)
  })
})
