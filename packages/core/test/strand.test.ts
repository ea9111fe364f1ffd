import { three } from '../src/colour'
import { describe, expect, it } from 'vitest'
import {
  changeSettings,
  checkRecipe,
  compileLine,
  completeRecipe,
  duplicateBath,
  findBath,
  newBath,
  placeInLine,
  plainLine,
  removeBath,
  type Recipe,
} from '../src/line'
import { makeLook } from '../src/look'
import { ran, shipped, wideColours } from './helpers'
import { maskOf, part } from './mask-helpers'

/** A mask that lets nothing through: it lies far outside. */
const NOTHING = maskOf([part('rectangle', { x: -40, y: -40, width: 1, height: 1, edge: 0 })])

describe('a strand', () => {
  const print = newBath('colour-print', 'p', { bleachPrint: 40 })
  const tone = newBath('contrast', 'c', { amount: 60 })
  const ramp = newBath('split-by-hand', 's')
  const strandOf = (baths: Recipe['baths'], how: Partial<Recipe['baths'][number]>) => ({
    ...newBath('strand', 'x', { baths }),
    ...how,
  })
  const line = (baths: Recipe['baths']): Recipe => ({ ...shipped('plain'), baths })
  const colours = wideColours(3000)
  const code = (recipe: Recipe): Float32Array => ran(compileLine(recipe), colours, 3000, 1)

  it.each([
    ['of the line, over all of it', 'line', 100, 'normal'],
    ['of the camera, half', 'camera', 50, 'normal'],
    ['multiplied', 'line', 60, 'multiply'],
  ] as const)('%s does compiled what it does in the plain form', (_, takes, strength, lay) => {
    const recipe = line([print, strandOf([{ ...print, id: 'q' }, ramp], { takes, strength, lay }), tone])
    const made = code(recipe)
    const plain = plainLine(recipe)
    const out = three()
    let most = 0
    for (let i = 0; i < 3000; i++) {
      plain(colours[4 * i]!, colours[4 * i + 1]!, colours[4 * i + 2]!, out)
      for (let k = 0; k < 3; k++) most = Math.max(most, Math.abs(made[4 * i + k]! - out[k]!))
    }
    expect(most).toBeLessThan(0.012)
  })
  it('over all of the line is the same as its baths in the line', () => {
    const own = code(line([print, tone, ramp]))
    const apart = code(line([print, strandOf([tone, ramp], { takes: 'line', strength: 100 })]))
    expect(Math.max(...own.map((v, i) => Math.abs(v - apart[i]!)))).toBeLessThan(2e-6)
  })
  it('from the camera begins with the picture that no process has touched', () => {
    const veil = { ...newBath('veil', 'v'), strength: 0 }
    const untreated = code(line([]))
    const apart = code(line([print, strandOf([veil], { takes: 'camera', strength: 100 })]))
    expect(Math.max(...untreated.map((v, i) => Math.abs(v - apart[i]!)))).toBeLessThan(2e-6)
  })
  it('of the camera takes what Prepare baths have made of the scene', () => {
    const brighter = newBath('balance', 'b', { exposure: 1 })
    const own = code(line([brighter, print]))
    const apart = code(line([brighter, strandOf([print], { takes: 'camera', strength: 100 })]))
    expect(Math.max(...own.map((v, i) => Math.abs(v - apart[i]!)))).toBeLessThan(2e-6)
    const unprepared = code(line([print]))
    expect(Math.max(...own.map((v, i) => Math.abs(v - unprepared[i]!)))).toBeGreaterThan(0.1)
  })
  it('leaves the line where its mask lets nothing through', () => {
    const shut = { ...strandOf([tone], { takes: 'line', strength: 100 }), mask: NOTHING }
    const [own, apart] = [code(line([print])), code(line([print, shut]))]
    expect(Math.max(...own.map((v, i) => Math.abs(v - apart[i]!)))).toBeLessThan(2e-6)
  })
  it('is edited inside: its baths are found, changed, copied with ids of their own, and taken away', () => {
    const recipe = line([print, strandOf([tone, ramp], {})])
    expect(findBath(recipe, 'c')).toBe(tone)
    expect(placeInLine(recipe, 's')).toBe(1)
    const changed = changeSettings(recipe, 'c', { amount: 10 })
    expect(findBath(changed, 'c')!.settings['amount']).toBe(10)
    expect(changed.baths[0]).toBe(recipe.baths[0])
    const twice = duplicateBath(recipe, 'x')
    expect(checkRecipe(twice).baths).toHaveLength(3)
    expect(duplicateBath(recipe, 'c').baths[1]!.settings['baths']).toHaveLength(3)
    expect(findBath(removeBath(recipe, 's'), 's')).toBeUndefined()
  })
  it('is completed and checked as a line is, with the place of what is wrong', () => {
    const short = { baths: [{ kind: 'strand', settings: { baths: [{ kind: 'contrast' }] } }] }
    const whole = completeRecipe(short) as Recipe
    expect((whole.baths[0]!.settings['baths'] as Recipe['baths'])[0]!.settings).toMatchObject({ pivot: 18 })
    expect(() => checkRecipe(line([print, strandOf([print], {})]))).toThrow(/Two baths have the id 'p'/)
    expect(() => checkRecipe(line([strandOf([tone, { ...print, id: 'q' }], {})]))).toThrow(
      /Bath 2 \(colour-print\) stands too late/,
    )
    expect(() => makeLook(line([strandOf([{ ...tone, mask: NOTHING }], {})]), { format: 'cube', size: 5 })).toThrow(
      /has a mask/,
    )
  })
})
