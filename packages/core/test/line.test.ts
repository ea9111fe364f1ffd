import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { KINDS, defaultsOf } from '../src/baths'
import { bt709ToLab, ciede2000, three } from '../src/colour'
import { LAY_MODES } from '../src/lay'
import { checkRecipe, completeRecipe, newBath, plainLine, wayIn, type Recipe, otherFootage } from '../src/line'
import { PlanRunner } from '../src/plan'
import { SHIPPED_RECIPES } from '../src/recipes'
import { plainStages } from '../src/stages'
import {
  SOME_POINTS,
  type SettingField,
  grey,
  lightOf,
  lineOf,
  luminance,
  shipped,
  wideColours,
  treated,
} from './helpers'

/** dE2000 of a compiled line against its plain form, sorted. */
function compiledErrors(recipe: Recipe, n = 12_000): number[] {
  const colours = wideColours(n)
  const compiled = treated(recipe, colours, n, 1, { colours: true })
  const plain = plainLine(recipe)
  const out = three()
  const lab = (c: ArrayLike<number>, at: number) =>
    bt709ToLab([Math.max(0, c[at]!) ** 2.4, Math.max(0, c[at + 1]!) ** 2.4, Math.max(0, c[at + 2]!) ** 2.4])
  return Array.from({ length: n }, (_, i) => {
    plain(colours[4 * i]!, colours[4 * i + 1]!, colours[4 * i + 2]!, out)
    return ciede2000(lab(out, 0), lab(compiled, 4 * i))
  }).sort((a, b) => a - b)
}

describe('a compiled line', () => {
  it.each(SHIPPED_RECIPES.map((r) => [r.id, r] as const))(
    '%s stays within 0.25 dE2000 of its plain form (99.9th percentile), 1.0 at worst',
    (_, recipe) => {
      const errors = compiledErrors(recipe)
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
      const errors = compiledErrors(lineOf('colour-print', { bleachPrint: 20 }, bath), 8000)
      expect(errors[Math.floor(errors.length * 0.999)]!, JSON.stringify(bath)).toBeLessThanOrEqual(0.25)
      expect(errors[errors.length - 1]!, JSON.stringify(bath)).toBeLessThanOrEqual(1)
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
      const out = three()
      line(0.5, 0.1, 0.05, out)
      return out[0]!
    }
    expect(code(mixed)).toBeCloseTo((code(none) + code(full)) / 2, 6)
  })

  const spread = fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 40, maxLength: 40 })
  const channel = fc.oneof(fc.double({ min: -1, max: 2, noNaN: true }), fc.double({ min: 0, max: 1e4, noNaN: true }))
  const anyLight = fc.tuple(channel, channel, channel)
  const anyBath = fc.record({
    kind: fc.constantFrom(...KINDS),
    spread,
    strength: fc.constantFrom(0, 35, 100),
    lay: fc.constantFrom(...LAY_MODES),
    under: fc.boolean(),
    takes: fc.constantFrom('camera' as const, 'line' as const),
  })

  it('gives finite values in 0..1 for any line of up to four baths, any settings and any light', () => {
    fc.assert(
      fc.property(fc.array(anyBath, { minLength: 1, maxLength: 4 }), anyLight, (baths, light) => {
        const recipe: Recipe = {
          ...shipped('plain'),
          baths: baths.map(({ kind, spread: at, ...how }, i) => ({
            ...newBath(kind.id, `bath-${i + 1}`, anySettings(kind.schema, at)),
            ...how,
          })),
        }
        const out = three()
        plainLine(recipe)(light[0], light[1], light[2], out)
        for (const v of out) expect(v >= 0 && v <= 1.0001).toBe(true)
      }),
      { numRuns: 150 },
    )
  })

  it('gives finite pictures in 0..1 for any settings, spatial steps and all', () => {
    const [width, height] = [24, 16]
    const runner = new PlanRunner()
    fc.assert(
      fc.property(
        fc.constantFrom(...KINDS),
        spread,
        fc.array(anyLight, { minLength: 4, maxLength: 4 }),
        (kind, at, lights) => {
          const camera = Float32Array.from({ length: 4 * width * height }, (_, i) =>
            (i & 3) === 3 ? 1 : lights[(i >> 2) % 4]![(i & 3) as 0 | 1 | 2],
          )
          const shown = treated(lineOf(kind.id, anySettings(kind.schema, at)), camera, width, height, { runner })
          for (const v of shown) expect(v >= 0 && v <= 1.0001).toBe(true)
        },
      ),
      { numRuns: 80 },
    )
  })
})

/** Settings anywhere within a schema, chosen by numbers 0..1. */
function anySettings(schema: (typeof KINDS)[number]['schema'], spread: readonly number[]): Record<string, unknown> {
  const fields = Object.entries(schema.properties as Record<string, SettingField>)
  return Object.fromEntries(
    fields.map(([name, f], i) => {
      const at = spread[i % spread.length]!
      if (f.type === 'boolean') return [name, at > 0.5]
      if (f.type === 'array' && (f.default as unknown[]).length === 0) return [name, []]
      if (f.type === 'array') return [name, SOME_POINTS.map(([x, y]) => [x, y! * at])]
      if (f.pattern)
        return [
          name,
          `#${Math.floor(at * 0xffffff)
            .toString(16)
            .padStart(6, '0')}`,
        ]
      if (f.default === null) return [name, null]
      if (f.enum) return [name, f.enum[Math.min(f.enum.length - 1, Math.floor(at * f.enum.length))]]
      return [name, f.minimum! + at * (f.maximum! - f.minimum!)]
    }),
  )
}

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
})

const balanced = (settings: object) => [newBath('balance', 'shot', { way: 'mired', ...settings })]

describe('the balance of a shot, in steps of mired,', () => {
  it('changes the light and nothing else: a stop doubles it, temperature keeps the luminance of grey', () => {
    const scene = (settings: object) => {
      const line = plainLine({ ...shipped('plain'), baths: [] }, { preparation: balanced(settings), after: [] })
      return lightOf(line, grey(0.18))
    }
    expect(luminance(scene({ exposure: 1 }))).toBeCloseTo(
      luminance(lightOf(plainLine({ ...shipped('plain'), baths: [] }), grey(0.36))),
      6,
    )
    const warm = scene({ mired: 60 })
    expect(warm[0]).toBeGreaterThan(warm[2])
    const cold = scene({ mired: -60 })
    expect(cold[2]).toBeGreaterThan(cold[0])
    expect(scene({ tint: 40 })[1]).toBeLessThan(scene({})[1])
  })
  it('keeps the luminance of a grey, whatever the light (weights of BT.709-6)', () => {
    for (const [temperature, tint] of [
      [100, 0],
      [-100, 0],
      [0, 100],
      [0, -100],
      [60, -40],
      [-80, 70],
    ] as const) {
      const out = three()
      plainStages(wayIn(balanced({ mired: temperature, tint })).stages)(0.3, 0.3, 0.3, out)
      expect(luminance([out[0]!, out[1]!, out[2]!]), `${temperature} ${tint}`).toBeCloseTo(0.3, 4)
    }
  })
  it('of one light are twelfths of a stop of that channel', () => {
    const out = three()
    plainStages(wayIn(balanced({ lightRed: 12, lightGreen: -12, lightBlue: 24, exposure: -1 })).stages)(
      0.1,
      0.2,
      0.3,
      out,
    )
    expect([...out].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([0.1, 0.05, 0.6])
  })
})

it('a recipe on footage of another kind than it was made on says what happens; else nothing', () => {
  expect(otherFootage({ madeFor: 'scene' }, 'display')).toMatch(
    /^It was made on camera light, and this is finished video/,
  )
  expect(otherFootage({ madeFor: 'display' }, 'scene')).toMatch(
    /^It was made on finished video, and this is camera light/,
  )
  for (const of of [{ madeFor: 'scene' }, {}] as const) expect(otherFootage(of, 'scene')).toBeNull()
})
