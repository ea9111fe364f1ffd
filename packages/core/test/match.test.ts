import { describe, expect, it } from 'vitest'
import { kindById } from '../src/baths'
import { ciede2000, bt709ToLab, displayLight, type Triple } from '../src/colour'
import { NOTHING_AROUND, newBath, type Recipe } from '../src/line'
import { MATCH_KINDS, leastSquares, matchReference, movableSettings, shared, slicesApart, slicesOf } from '../src/match'
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

/** A red cloth is carried into the picture: something that only one of two frames holds. */
const withCloth = (pixels: Float32Array): Float32Array =>
  pixels.map((v, i) => (((i >> 2) % W) / W < 0.15 && i % 4 < 3 ? [0.75, 0.1, 0.12][i % 4]! : v))

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
        references: [reference],
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
  /** Fitted to other frames and judged on the footage itself, through what was hidden. */
  async function fromOthers(hidden: Recipe, frames: readonly Float32Array[]): Promise<{ off: number; found: Recipe }> {
    const footage = scene(1)
    const { recipe } = await matchReference({
      footage,
      references: frames.map((frame) => through(hidden, frame)),
      refers: 'display',
      around: NOTHING_AROUND,
      sameFrame: false,
      kinds: [hidden.baths[0]!.kind],
    })
    return { off: apart(through(recipe, footage), through(hidden, footage)), found: recipe }
  }
  // What black and white chooses is found below.
  it.each(HIDDEN.slice(0, -1))(
    'comes within 2.5 dE for %s where the reference is another frame',
    async (kind, hidden) => {
      expect((await fromOthers(line(kind, { ...hidden, grain: 0 }), [scene(1, 0.06)])).off).toBeLessThan(2.5)
    },
  )
  it('leaves out what only one picture holds, and looks at several', async () => {
    const hidden = line('aged-print', { fadeCyan: 40, fadeMagenta: 12, grain: 0 })
    expect((await fromOthers(hidden, [withCloth(scene(1, 0.06))])).off).toBeLessThan(2.5)
    expect((await fromOthers(hidden, [withCloth(scene(1, 0.06)), scene(1, -0.06)])).off).toBeLessThan(2.5)
  })
  it.each([
    [{ toner1: 'sulphide', far1: 35 }],
    [{ toner1: 'iron-blue', far1: 60, grade: 2.6 }],
    [{ toner1: 'sulphide', far1: 60, toner2: 'gold', far2: 100 }],
    [{ tint: 'rose' }],
    [{ sensitivity: 'orthochromatic', toner1: 'selenium', far1: 80 }],
  ])('finds what can only be chosen: %j', async (settings) => {
    const hidden = line('black-and-white', { ...settings, grain: 0 })
    const { off, found } = await fromOthers(hidden, [scene(1, 0.06)])
    expect(off).toBeLessThan(1.5)
    for (const [key, value] of Object.entries(settings))
      if (typeof value === 'string') expect(found.baths[0]!.settings[key], key).toBe(value)
  })
  it('tries all processes and takes the one that it was', async () => {
    const footage = scene(3)
    const reference = through(line('three-strip', { amountCyan: 120, key: 6 }), footage)
    const tried = new Set<string>()
    const { kind } = await matchReference(
      {
        footage,
        references: [reference],
        refers: 'display',
        around: NOTHING_AROUND,
        sameFrame: true,
        kinds: MATCH_KINDS,
      },
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
        references: [footage],
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
  it.each([
    ['white', 0.93, 1],
    ['light', 0.6, 0.93],
  ])('says a tint of %s that the process has not', async (name, from, to) => {
    const footage = scene(1)
    // Blue light is taken away where it is so light, which makes it yellow; the greys of an aged print cannot do that alone.
    const reference = footage.map((v, i) => {
      const green = footage[4 * (i >> 2) + 1]!
      return i % 4 === 2 && green > from * 0.9 && green <= to ? 0.86 * v : v
    })
    const request = { footage, refers: 'display', around: NOTHING_AROUND, sameFrame: true } as const
    const of = (picture: Float32Array) =>
      matchReference({ ...request, references: [picture], kinds: ['colour-print'], settings: ['push'] })
    expect((await of(reference)).misses.join('; ')).toMatch(
      new RegExp(`its ${name}: tint a\\* .* b\\* \\d+, the process`),
    )
    expect((await of(footage)).misses.join('; ')).not.toContain('tint')
  })
  it('can be stopped, and then gives the best so far', async () => {
    let steps = 0
    const footage = scene(1)
    const reference = through(line('aged-print', { fadeCyan: 70 }), footage)
    const rest = { refers: 'display', around: NOTHING_AROUND, sameFrame: true } as const
    const request = { ...rest, footage, references: [reference] }
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
    const of = (references: readonly Float32Array[], more: object = {}) =>
      matchReference({ ...request, footage, references, ...more })
    await expect(of([footage.slice(8)])).rejects.toThrow(/same size/)
    await expect(of([footage], { settings: [] })).rejects.toThrow(/may move; tick/)
    await expect(of([footage.slice(0, 0)], { sameFrame: false })).rejects.toThrow(/without pixels/)
    await expect(of([])).rejects.toThrow(/0 references were given; .* one of the same frame/)
    await expect(of([footage, footage])).rejects.toThrow(/2 references/)
  })
  it('offers numbers, and choices that are shown first; these and the first numbers are ticked', () => {
    for (const kind of MATCH_KINDS) {
      const own = movableSettings(kind)
      expect(own.filter((s) => s.first).length, kind).toBeGreaterThan(0)
      for (const { key, first, values } of own) {
        const value = newBath(kind, 'b').settings[key]
        if (values) expect([first, values.includes(value as string)], `${kind} ${key}`).toEqual([true, true])
        else expect(typeof value, `${kind} ${key}`).toBe('number')
      }
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

describe('distributions of colours', () => {
  /** Colours about a place, normally distributed (Box and Muller 1958), with a spread. */
  function cloud(seed: number, middle: Triple, spread: number): Triple[] {
    const random = seededRandom(seed)
    const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())
    return Array.from({ length: 4000 }, () => middle.map((m) => m + spread * normal()) as unknown as Triple)
  }
  it('do not ask where anything is', () => {
    const picture = labs(scene(5))
    expect(slicesApart(slicesOf(picture), slicesOf([...picture].reverse()))).toBeLessThan(1e-9)
  })
  it('are as far apart as two normal ones are: (m - m′)² + (s - s′)² along each way', () => {
    // The ways lie evenly, so that a shift is seen from each with a third of its square.
    const shifted = slicesApart(slicesOf(cloud(1, [50, 0, 0], 8)), slicesOf(cloud(1, [56, -6, 3], 8)))
    expect(shifted).toBeCloseTo(9 / Math.sqrt(3), 6)
    const wider = slicesApart(slicesOf(cloud(1, [50, 0, 0], 8)), slicesOf(cloud(2, [50, 0, 0], 12)))
    expect(Math.abs(wider - 4)).toBeLessThan(0.3)
  })
  it('leave out what only one holds', () => {
    const [both, alone] = [cloud(3, [50, 0, 0], 6).slice(0, 300), cloud(4, [50, 60, 40], 6).slice(0, 100)]
    const [own, other] = shared([...both, ...alone], cloud(5, [50, 0, 0], 6).slice(0, 300), 8)
    const mean = (w: Float64Array): number => w.reduce((a, b) => a + b) / w.length
    expect(mean(own.slice(0, 300))).toBeGreaterThan(0.9)
    expect(Math.max(...own.slice(300))).toBeLessThan(0.01)
    // In the other picture, where the same colours are more of the whole.
    expect(mean(other)).toBeCloseTo(0.75, 1)
    const weighed = slicesOf([...both, ...alone], own)
    expect(slicesApart(weighed, slicesOf(both))).toBeLessThan(0.5)
  })
  it('with weights of one are those without', () => {
    const picture = cloud(6, [40, 5, -5], 10).slice(0, 500)
    const even = new Float64Array(500).fill(1)
    expect(slicesApart(slicesOf(picture, even), slicesOf(picture))).toBeLessThan(1e-9)
  })
})
