import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  DISPLAY,
  EXACT_SIZE,
  KINDS,
  LAY_MODES,
  NO_TRIMS,
  SCENE,
  SHIPPED_RECIPES,
  WEDGE,
  Workbench,
  addKind,
  bakeLut,
  blend,
  bt709ToLab,
  changeSettings,
  checkRecipe,
  ciede2000,
  compileLine,
  completeRecipe,
  defaultsOf,
  duplicateBath,
  emit16,
  emit8,
  encodingById,
  halfToNumber,
  insertBath,
  layOne,
  makeIngest,
  makeRecode,
  moveBath,
  newBath,
  numberToHalf,
  plainLine,
  readLut3d,
  recipeToCube,
  removeBath,
  runPlan,
  unprint,
  whyIdle,
  type Recipe,
  type Triple,
} from '../src'
import { grey, lightOf, lineOf, luminance, shipped, wideColours } from './helpers'

/** dE2000 of a compiled line against its plain form, sorted. */
function compiledErrors(recipe: Recipe, size: number, n = 12_000): number[] {
  const colours = wideColours(n)
  const compiled = runPlan(compileLine(recipe, { size }), colours, n, 1, new Workbench())
  const plain = plainLine(recipe)
  const out = new Float64Array(3)
  const lab = (c: ArrayLike<number>, at: number) =>
    bt709ToLab([Math.max(0, c[at]!) ** 2.4, Math.max(0, c[at + 1]!) ** 2.4, Math.max(0, c[at + 2]!) ** 2.4])
  return Array.from({ length: n }, (_, i) => {
    plain(colours[4 * i]!, colours[4 * i + 1]!, colours[4 * i + 2]!, out)
    return ciede2000(lab(out, 0), lab(compiled, 4 * i))
  }).sort((a, b) => a - b)
}

/** Baths whose work on neighbouring pixels the plain form leaves out are compared without it. */
const pointwise = (recipe: Recipe): boolean => compileLine(recipe, { size: 3 }).ops.every((op) => op.op !== 'space')

describe('a compiled line', () => {
  it.each(SHIPPED_RECIPES.filter(pointwise).map((r) => [r.id, r] as const))(
    '%s stays within 0.25 dE2000 of its plain form (99.9th percentile), 1.0 at worst',
    (_, recipe) => {
      const errors = compiledErrors(recipe, EXACT_SIZE)
      expect(errors[Math.floor(errors.length * 0.999)]!).toBeLessThanOrEqual(0.25)
      expect(errors[errors.length - 1]!).toBeLessThanOrEqual(1)
    },
  )

  it('follows strength, lay mode, order and takes as the plain form does', () => {
    for (const bath of [
      { strength: 40 },
      { lay: 'overlay' as const },
      { lay: 'luminosity' as const, under: true },
      { takes: 'line' as const },
    ]) {
      const errors = compiledErrors(lineOf('colour-print', { bleachPrint: 20 }, bath), 65, 4000)
      expect(errors[Math.floor(errors.length * 0.99)]!, JSON.stringify(bath)).toBeLessThan(0.5)
    }
  })

  it('mixes the whole line with the footage by its strength', () => {
    const half = { ...shipped('bleach-bypass'), strength: 50 }
    const [none, full, mixed] = [
      plainLine({ ...half, baths: [] }),
      plainLine(shipped('bleach-bypass')),
      plainLine(half),
    ]
    const code = (line: typeof none) => {
      const out = new Float64Array(3)
      line(0.5, 0.1, 0.05, out)
      return out[0]!
    }
    expect(code(mixed)).toBeCloseTo((code(none) + code(full)) / 2, 6)
  })

  it('gives finite values in 0..1 for any settings and any light', () => {
    const random = fc.record({
      kind: fc.constantFrom(...KINDS),
      spread: fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 40, maxLength: 40 }),
      light: fc.tuple(
        ...([0, 1, 2].map(() =>
          fc.oneof(fc.double({ min: -1, max: 2, noNaN: true }), fc.double({ min: 0, max: 1e4, noNaN: true })),
        ) as [fc.Arbitrary<number>, fc.Arbitrary<number>, fc.Arbitrary<number>]),
      ),
    })
    fc.assert(
      fc.property(random, ({ kind, spread, light }) => {
        const out = new Float64Array(3)
        plainLine(lineOf(kind.id, anySettings(kind.schema, spread)))(light[0], light[1], light[2], out)
        for (const v of out) expect(v >= 0 && v <= 1.0001).toBe(true)
      }),
      { numRuns: 150 },
    )
  })
})

/** Settings anywhere within a schema, chosen by numbers 0..1. */
function anySettings(schema: (typeof KINDS)[number]['schema'], spread: readonly number[]): Record<string, unknown> {
  const fields = Object.entries(
    schema.properties as Record<string, { type: string; minimum?: number; maximum?: number; enum?: string[] }>,
  )
  return Object.fromEntries(
    fields.map(([name, f], i) => {
      const at = spread[i % spread.length]!
      if (f.type === 'boolean') return [name, at > 0.5]
      if (f.enum) return [name, f.enum[Math.min(f.enum.length - 1, Math.floor(at * f.enum.length))]]
      return [name, f.minimum! + at * (f.maximum! - f.minimum!)]
    }),
  )
}

describe('the LUT', () => {
  const wave = (r: number, g: number, b: number, out: Float64Array): void => {
    out[0] = 0.5 + 0.4 * Math.sin(r * 3 + g)
    out[1] = r * g
    out[2] = b * 0.9
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
        readLut3d(lut, c).forEach((v, k) =>
          expect(Math.abs(src[4 * i + k]! - v)).toBeLessThan(5e-5 * Math.max(1, Math.abs(v))),
        )
        expect(src[4 * i + 3]).toBe(0.25)
      })
    }
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

describe('ends of the chain', () => {
  it('reads 16-bit codes as the transfer function and unprinting say', () => {
    const src = Uint16Array.of(0, 32768, 65535, 655, 40000, 20000)
    for (const id of ['bt1886', 'acescct', 'linear', 'bt2020'] as const) {
      const encoding = encodingById(id)
      const dst = new Float32Array(8)
      makeIngest(encoding, 'u16')(src, dst, 2)
      for (let p = 0; p < 2; p++) {
        const light = [0, 1, 2].map((k) => encoding.transfer.decode(src[3 * p + k]! / 65535)) as unknown as Triple
        const mixed = encoding.toBt709.map((row) => row[0] * light[0] + row[1] * light[1] + row[2] * light[2])
        mixed.forEach((v, k) => {
          const expected = encoding.refers === 'display' ? unprint(v) : v
          expect(Math.abs(dst[4 * p + k]! - expected)).toBeLessThan(2e-3 * Math.abs(expected) + 1e-5)
        })
      }
    }
  })
  it('hands display values back through the plain treatment in every display encoding', () => {
    for (const id of ['bt1886', 'srgb', 'bt709']) {
      const encoding = encodingById(id)
      const codes = Uint16Array.from({ length: 300 }, (_, i) => Math.floor(i / 3) * 655)
      const picture = new Float32Array(400)
      makeIngest(encoding, 'u16')(codes, picture, 100)
      const out = runPlan(compileLine({ ...shipped('plain'), baths: [] }), picture, 100, 1, new Workbench())
      makeRecode(encoding)(out, 100)
      for (let i = 0; i < 100; i++) expect(Math.abs(out[4 * i]! - codes[3 * i]! / 65535)).toBeLessThan(0.003)
    }
  })
  it('converts half floats both ways', () => {
    for (let h = 0; h < 0x7c00; h += 7) expect(numberToHalf(halfToNumber(h))).toBe(h)
    expect(halfToNumber(0x3c00)).toBe(1)
    expect(numberToHalf(-2)).toBe(0xc000)
    expect(numberToHalf(1e9)).toBe(0x7bff)
    expect(numberToHalf(NaN)).toBe(0)
  })
  it('dithers without moving the mean, by at most one step', () => {
    const n = 20_000
    const picture = new Float32Array(4 * n).fill(100.3 / 255)
    const out = new Uint8ClampedArray(4 * n)
    emit8(picture, out, n, 3)
    const reds = Array.from({ length: n }, (_, i) => out[4 * i]!)
    expect(reds.reduce((a, b) => a + b) / n).toBeCloseTo(100.3, 1)
    expect(Math.max(...reds) - Math.min(...reds)).toBeLessThanOrEqual(3)
    const deep = new Uint16Array(3 * n)
    emit16(picture, deep, n, 16, 0)
    expect(deep[0]).toBe(Math.round((100.3 / 255) * 65535))
  })
})

describe('blending', () => {
  it('keeps to the W3C definitions', () => {
    const [b, s] = [0.3, 0.8]
    const one = (mode: (typeof LAY_MODES)[number]) => blend(mode, [b, b, b], [s, s, s])[0]
    expect(one('multiply')).toBeCloseTo(0.24, 10)
    expect(one('screen')).toBeCloseTo(0.86, 10)
    expect(one('overlay')).toBeCloseTo(0.48, 10)
    expect(one('hard-light')).toBeCloseTo(0.3 + 0.6 - 0.18, 10)
    expect(one('color-dodge')).toBe(1)
    expect(one('color-burn')).toBeCloseTo(1 - 0.7 / 0.8, 10)
    expect(one('difference')).toBeCloseTo(0.5, 10)
    expect(one('exclusion')).toBeCloseTo(0.3 + 0.8 - 0.48, 10)
    expect(one('soft-light')).toBeCloseTo(0.3 + 0.6 * (Math.sqrt(0.3) - 0.3), 10)
  })
  it('stays in 0..1, takes luminosity from one and colour from the other', () => {
    const colour = fc.tuple(
      ...([0, 1, 2].map(() => fc.double({ min: 0, max: 1, noNaN: true })) as [
        fc.Arbitrary<number>,
        fc.Arbitrary<number>,
        fc.Arbitrary<number>,
      ]),
    )
    const lum = (c: Triple) => 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]
    fc.assert(
      fc.property(fc.constantFrom(...LAY_MODES), colour, colour, (mode, b, s) => {
        const out = blend(mode, b, s)
        for (const v of out) expect(v >= -1e-6 && v <= 1 + 1e-6).toBe(true)
        if (mode === 'luminosity') expect(lum(out)).toBeCloseTo(lum(s), 6)
        if (mode === 'color' || mode === 'hue' || mode === 'saturation') expect(lum(out)).toBeCloseTo(lum(b), 6)
      }),
    )
  })
  it('leaves the line alone at strength 0 and takes the order into account', () => {
    const [line, bath] = [
      [0.2, 0.4, 0.6],
      [0.9, 0.1, 0.5],
    ] as Triple[]
    expect(layOne({ lay: 'screen', under: false, strength: 0 }, line!, bath!)).toEqual(line)
    expect(layOne({ lay: 'hard-light', under: true, strength: 100 }, line!, bath!)).not.toEqual(
      layOne({ lay: 'hard-light', under: false, strength: 100 }, line!, bath!),
    )
  })
})

describe('recipes', () => {
  it('completes short ones and refuses what is none', () => {
    const full = completeRecipe({ baths: [{ kind: 'colour-print', settings: { bleachPrint: 10 } }] }) as Recipe
    expect(full.baths[0]).toMatchObject({
      id: 'bath-1',
      in: true,
      strength: 100,
      takes: 'camera',
      settings: { bleachPrint: 10, bleachNegative: 100 },
    })
    expect(() => completeRecipe([])).toThrow(/must be a JSON object/)
    expect(() => completeRecipe({ version: 9, baths: [] })).toThrow(/version is 9/)
    expect(() => completeRecipe({ baths: [{ kind: 'nonsense' }] })).toThrow(/'nonsense' is not a kind of bath/)
    expect(() => checkRecipe({ ...full, baths: [full.baths[0]!, full.baths[0]!] })).toThrow(/Two baths have the id/)
  })
  it('ships recipes with their own ids and complete settings', () => {
    expect(new Set(SHIPPED_RECIPES.map((r) => r.id)).size).toBe(SHIPPED_RECIPES.length)
    for (const r of SHIPPED_RECIPES)
      for (const b of checkRecipe(r).baths)
        expect(Object.keys(b.settings).sort()).toEqual(
          Object.keys(defaultsOf(KINDS.find((k) => k.id === b.kind)!.schema)).sort(),
        )
  })
  it('edits lines without touching the old one', () => {
    const old = shipped('plain')
    const two = addKind(old, 'colour-print')
    expect(old.baths).toHaveLength(1)
    expect(two.baths.map((b) => b.id)).toEqual(['bath-1', 'bath-2'])
    expect(moveBath(two, 'bath-2', 0).baths.map((b) => b.id)).toEqual(['bath-2', 'bath-1'])
    expect(moveBath(two, 'bath-2', 5)).toBe(two)
    expect(duplicateBath(two, 'bath-1').baths).toHaveLength(3)
    expect(removeBath(two, 'bath-1').baths.map((b) => b.id)).toEqual(['bath-2'])
    expect(insertBath(two, newBath('colour-print', 'bath-1'), 'bath-1').baths.map((b) => b.id)).toEqual([
      'bath-1',
      'bath-3',
      'bath-2',
    ])
    expect(changeSettings(two, 'bath-2', { push: 1 }).baths[1]!.settings['push']).toBe(1)
  })
  it('says why a bath changes nothing', () => {
    const bath = newBath('colour-print', 'bath-1')
    expect(whyIdle(bath)).toBeNull()
    expect(whyIdle({ ...bath, strength: 0 })).toMatch(/strength/)
    expect(whyIdle({ ...bath, under: true })).toMatch(/swap the order/)
    expect(whyIdle({ ...bath, in: false })).toBe('lifted out')
  })
})

describe('trims', () => {
  it('change the light and nothing else: a stop doubles it, temperature keeps the luminance of grey', () => {
    const scene = (trims: object) => {
      const line = plainLine({ ...shipped('plain'), baths: [] }, { ...NO_TRIMS, ...trims })
      return lightOf(line, grey(0.18))
    }
    expect(luminance(scene({ exposure: 1 }))).toBeCloseTo(
      luminance(lightOf(plainLine({ ...shipped('plain'), baths: [] }), grey(0.36))),
      6,
    )
    const warm = scene({ temperature: 60 })
    expect(warm[0]).toBeGreaterThan(warm[2])
    const cold = scene({ temperature: -60 })
    expect(cold[2]).toBeGreaterThan(cold[0])
    expect(scene({ tint: 40 })[1]).toBeLessThan(scene({})[1])
  })
})

describe('the .cube file', () => {
  it('has the header, the count and the order of the open form', () => {
    const rows = recipeToCube(shipped('plain'), 5).trim().split('\n')
    expect(rows[1]).toBe('LUT_3D_SIZE 5')
    expect(rows).toHaveLength(4 + 125)
    const red = rows[4 + 4]!.split(' ').map(Number)
    expect(red[0]).toBeGreaterThan(0.7)
    expect(red[2]).toBeLessThan(0.4)
    expect(() => recipeToCube(shipped('plain'), 1)).toThrow(/from 2 to 129/)
    expect(WEDGE[9]).toBeCloseTo(0.18, 10)
  })
})
