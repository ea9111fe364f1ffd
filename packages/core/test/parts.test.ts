import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { three, type Triple } from '../src/colour'
import {
  NOTHING,
  NOTHING_AROUND,
  checkAround,
  newBath,
  plainSteps,
  preparationOfTrims,
  stepUpToDate,
  withoutTrims,
  type Bath,
  type Line,
  type Step,
} from '../src/line'
import { newPart, withPart } from '../src/masks'
import { SHIPPED_RECIPES } from '../src/recipes'
import { Treatment, tapped } from '../src/treat'
import { throughBath } from './helpers'

const shipped = (id: string) => SHIPPED_RECIPES.find((r) => r.id === id)!
const timed = (settings: object): Bath => newBath('timing', 'timed', { ...settings })
const balanced = (settings: object): Bath => newBath('balance', 'balanced', { ...settings })

const treatment = new Treatment()
const COLOURS = [
  [0.18, 0.18, 0.18],
  [0.62, 0.31, 0.12],
  [0.05, 0.22, 0.4],
  [0.9, 0.85, 0.7],
]
/** What comes of a few colours, code values 0..1. */
function made(line: Line, encoding: string, colours = COLOURS): number[] {
  const data = Uint16Array.from(colours.flat(), (v) => Math.round(65535 * v))
  const frame = { data, format: 'u16', width: colours.length, height: 1, frame: 0 } as const
  return Array.from(treatment.run(frame, { ...line, encoding }).pixels.slice(0, 4 * colours.length)).filter(
    (_, i) => i % 4 < 3,
  )
}

/** Scene light of a few colours, before trims and after: kept when a balance still made each code of the last version that had them. */
interface Kept {
  readonly colours: readonly Triple[]
  readonly trims: readonly Parameters<typeof preparationOfTrims>[0][]
  readonly light: readonly (readonly Triple[])[]
}
const kept = JSON.parse(readFileSync(`${import.meta.dirname}/reference/trims-before-parts.json`, 'utf8')) as Kept

describe('trims of earlier versions', () => {
  it.each(kept.trims.map((trims, i) => [i, trims] as const))(
    'are a balance that makes the same light, %i',
    (i, trims) => {
      const [balance] = preparationOfTrims(trims)
      kept.colours.forEach((colour, k) => {
        const light = throughBath('balance', balance!.settings, colour)
        light.forEach((v, c) => expect(Math.abs(v / kept.light[i]![k]![c]! - 1)).toBeLessThan(1e-7))
      })
    },
  )
  it('are nothing where none was set, and the same bath wherever they are kept', () => {
    const none = { exposure: 0, temperature: 0, tint: 0, lightRed: 0, lightGreen: 0, lightBlue: 0 }
    expect(preparationOfTrims(none)).toEqual([])
    const preparation = preparationOfTrims({ ...none, temperature: 20 })
    expect(preparation).toMatchObject([{ kind: 'balance', settings: { way: 'mired', mired: 20 } }])
    expect(withoutTrims({ name: 'x', trims: { ...none, temperature: 20 } })).toEqual({ name: 'x', preparation })
    const step = stepUpToDate({ kind: 'trims', trims: { ...none, temperature: 20 } } as unknown as Step)
    expect(step).toEqual({ kind: 'parts', trialId: null, preparation })
    const line = stepUpToDate({ kind: 'recipe', trialId: 3, recipe: NOTHING } as unknown as Step)
    expect(line).toEqual({ kind: 'parts', trialId: 3, recipe: NOTHING })
  })
})

describe('a line of three parts', () => {
  const ellipse = withPart(null, newPart('ellipse'))
  const lines: Record<string, Line> = {
    'a preparation of one whole bath': {
      ...NOTHING_AROUND,
      recipe: shipped('sepia'),
      preparation: [balanced({ exposure: 1 })],
    },
    'one that is laid at half strength, under a look at half strength': {
      recipe: { ...shipped('bleach-bypass'), strength: 50 },
      preparation: [{ ...balanced({ exposure: -1, kelvin: 4000 }), strength: 50 }],
      after: [],
    },
    'a look with a preparation of its own, at half strength, behind a masked one': {
      recipe: { ...shipped('night-by-hand'), strength: 40 },
      preparation: [
        balanced({ exposure: 0.5 }),
        { ...newBath('printer-lights', 'lights', { master: 20 }), mask: ellipse },
      ],
      after: [],
    },
    'a bath after a look': {
      ...NOTHING_AROUND,
      recipe: shipped('two-strip'),
      after: [timed({ exposure: -1, lightRed: 3 })],
    },
    'baths after a look at half strength': {
      ...NOTHING_AROUND,
      recipe: { ...shipped('plain'), strength: 50 },
      after: [timed({ saturation: 40 }), { ...newBath('contrast', 'c', { amount: 60 }), strength: 70 }],
    },
    'baths around no look': {
      recipe: NOTHING,
      preparation: [balanced({ kelvin: 3200 })],
      after: [timed({ exposure: 1 })],
    },
  }
  it.each(Object.keys(lines))('%s is compiled as it is meant', (name) => {
    const line = lines[name]!
    for (const [encoding, refers] of [
      ['bt1886', 'display'],
      ['linear', 'scene'],
    ] as const) {
      const { whole } = plainSteps(line.recipe, { around: line, refers, maskAt: () => 0 })
      const out = three()
      // The ellipse lies in the middle; this colour stands in a corner of a larger picture, outside of it.
      const outside = Array.from({ length: 64 }, () => [0.42, 0.3, 0.2])
      const fast = made(line, encoding, outside)
      whole(0.42, 0.3, 0.2, out)
      for (let k = 0; k < 3; k++) expect(fast[k], `${refers} ${k}`).toBeCloseTo(out[k]!, 2)
    }
  })
  it('leaves display footage to the last digit as it came where nothing is set', () => {
    const line = { recipe: NOTHING, preparation: [balanced({})], after: [timed({})] }
    const codes = made(line, 'bt1886').map((v) => Math.round(65535 * v))
    expect(codes).toEqual(COLOURS.flat().map((v) => Math.round(65535 * v)))
  })
  it('times the light of the screen: a stop doubles it, 12 points of a colour as well (BT.1886)', () => {
    const [code] = made({ recipe: NOTHING, preparation: [], after: [timed({ exposure: -1 })] }, 'bt1886', [
      [0.5, 0.5, 0.5],
    ])
    expect(code).toBeCloseTo(0.5 * 2 ** (-1 / 2.4), 3)
    const [r, g] = made({ recipe: NOTHING, preparation: [], after: [timed({ lightRed: 12 })] }, 'bt1886', [
      [0.5, 0.5, 0.5],
    ])
    expect(r).toBeCloseTo(0.5 * 2 ** (1 / 2.4), 3)
    expect(g).toBeCloseTo(0.5, 3)
  })
  it('drains colour to its luminance, BT.709', () => {
    const [r, g, b] = made({ recipe: NOTHING, preparation: [], after: [timed({ saturation: 0 })] }, 'bt1886', [
      [0.8, 0.4, 0.2],
    ])
    const luminance = 0.2126 * 0.8 ** 2.4 + 0.7152 * 0.4 ** 2.4 + 0.0722 * 0.2 ** 2.4
    for (const v of [r, g, b]) expect(v).toBeCloseTo(luminance ** (1 / 2.4), 3)
  })
  it('is tapped at any of its baths, with the strength of the look behind its last', () => {
    const line: Line = {
      recipe: { ...shipped('sepia'), strength: 30 },
      preparation: [balanced({ exposure: 1 })],
      after: [timed({ exposure: 1 })],
    }
    const count = line.recipe.baths.length
    const at = (tap: number) => {
      const { preparation, recipe, after } = tapped(line, tap)
      return [preparation.length, recipe.baths.length, recipe.strength, after.length]
    }
    expect(at(0)).toEqual([0, 0, 100, 0])
    expect(at(1)).toEqual([1, 0, 100, 0])
    expect(at(1 + count)).toEqual([1, count, 100, 0])
    expect(at(2 + count)).toEqual([1, count, 30, 1])
    expect(tapped(line, null)).toBe(line)
  })
  it.each<[Partial<Line>, RegExp]>([
    [{ preparation: [timed({})] }, /Bath 1 \(timing\) cannot stand here: before the look stand baths of Prepare/],
    [{ after: [balanced({})] }, /Bath 1 \(balance\) cannot stand here: after the look stand baths of Finish/],
    [
      { preparation: [balanced({})], recipe: { ...NOTHING, baths: [balanced({})] } },
      /Two baths have the id 'balanced'/,
    ],
  ])('holds in each part what belongs there', (parts, why) => {
    expect(() => checkAround({ ...NOTHING_AROUND, recipe: NOTHING, ...parts })).toThrow(why)
  })
})
