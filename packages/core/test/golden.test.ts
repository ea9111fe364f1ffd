import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { KINDS } from '../src/baths'
import { PATCHES } from '../src/charts'
import { type Triple, three } from '../src/colour'
import { TONERS } from '../src/film'
import { newBath, plainLine, type Recipe } from '../src/line'
import { SHIPPED_RECIPES } from '../src/recipes'
import { lineOf, valuesBeside, type SettingField } from './helpers'

/*
 * A snapshot of our own output, not a reference: code values that every recipe, and every setting moved to an end of its
 * range, gave when the snapshot was written. It says nothing about what is right (film, silver, mono, prints and the others
 * do); it says that something has changed. After a wanted change: FOGBATH_SNAPSHOT=write npx vitest run golden.
 */
const FILE = `${import.meta.dirname}/reference/own-output.snapshot.json`
/** Half a code of 10 bits. */
const WITHIN = 0.5 / 1023

const GREYS: Triple[] = [-8, -5, -3, -1.5, 0, 1, 2, 4].map((stops): Triple => {
  const light = 0.18 * 2 ** stops
  return [light, light, light]
})
const LIGHTS: Triple[] = [...GREYS, ...PATCHES.map((p) => p.light)]
const FEW: Triple[] = [
  [0.02, 0.02, 0.02],
  [0.18, 0.18, 0.18],
  [0.7, 0.7, 0.7],
  [0.4, 0.1, 0.05],
  [0.05, 0.3, 0.12],
  [0.06, 0.1, 0.5],
]

function codesOf(recipe: Recipe, lights: readonly Triple[], balance?: object): number[] {
  const preparation = balance ? [newBath('balance', 'shot', { ...balance })] : []
  const line = plainLine(recipe, { preparation, after: [] })
  const out = three()
  return lights.flatMap(([r, g, b]) => {
    line(r, g, b, out)
    return [...out].map((v) => Math.round(v * 1e5) / 1e5)
  })
}

/** What a setting is moved to: both ends of its range, every other choice. */
const otherValues = (f: SettingField): unknown[] => valuesBeside(f, [f.minimum, f.maximum])

function sweep(): Map<string, () => number[]> {
  const all = new Map<string, () => number[]>()
  for (const recipe of SHIPPED_RECIPES) all.set(recipe.id, () => codesOf(recipe, LIGHTS))
  for (const kind of KINDS)
    for (const [name, field] of Object.entries(kind.schema.properties as Record<string, SettingField>))
      for (const value of otherValues(field))
        all.set(`${kind.id} ${name} ${String(value)}`, () => codesOf(lineOf(kind.id, { [name]: value }), FEW))
  for (const push of [-2, 2])
    all.set(`colour-print push ${push} without holding grey`, () =>
      codesOf(lineOf('colour-print', { push, holdGrey: false }), FEW),
    )
  // Toners in pairs, so that what a bath leaves for the next one counts.
  for (const toner1 of TONERS)
    for (const far1 of [35, 80])
      all.set(`black-and-white ${toner1} ${far1} before iron blue`, () =>
        codesOf(lineOf('black-and-white', { toner1, far1, toner2: 'iron-blue', far2: 70 }), FEW),
      )
  for (const trims of [{ mired: 40 }, { mired: -60 }, { tint: 30 }, { lightRed: 6, lightBlue: -9, exposure: 0.5 }])
    all.set(`balance of the shot ${JSON.stringify(trims)}`, () =>
      codesOf(lineOf('colour-print'), FEW, { way: 'mired', ...trims }),
    )
  return all
}

describe('our own output', () => {
  const all = sweep()
  if (process.env['FOGBATH_SNAPSHOT'] === 'write')
    writeFileSync(
      FILE,
      `{\n${[...all].map(([key, make]) => `${JSON.stringify(key)}: ${JSON.stringify(make())}`).join(',\n')}\n}\n`,
    )
  const kept = (existsSync(FILE) ? JSON.parse(readFileSync(FILE, 'utf8')) : {}) as Record<string, number[]>

  it('is of the same recipes and settings as the snapshot', () => {
    expect(Object.keys(kept)).toEqual([...all.keys()])
  })
  it('has not changed by half a code of 10 bits anywhere since the snapshot was written', () => {
    const changed: string[] = []
    for (const [key, make] of all) {
      const worst = Math.max(...make().map((v, i) => Math.abs(v - kept[key]![i]!)))
      if (!(worst <= WITHIN)) changed.push(`${key}: ${(worst * 1023).toFixed(2)} codes of 10 bits`)
    }
    expect(changed).toEqual([])
  })
})
