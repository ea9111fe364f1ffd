import { describe, expect, it } from 'vitest'
import {
  MOST_BATHS,
  NO_TRIMS,
  addKind,
  changeBath,
  changeSettings,
  mergeFields,
  mergeRecipes,
  moveBath,
  newBath,
  removeBath,
  type Recipe,
} from '../src'
import { shipped } from './helpers'

const base: Recipe = addKind(shipped('plain'), 'aged-print')
const [first, second] = base.baths.map((b) => b.id) as [string, string]

describe('bringing two changes together', () => {
  it('takes from each side what only it changed', () => {
    expect(mergeFields(NO_TRIMS, { ...NO_TRIMS, exposure: 1 }, { ...NO_TRIMS, tint: 5 })).toEqual({
      ...NO_TRIMS,
      exposure: 1,
      tint: 5,
    })
    const mine = changeSettings(base, first, { bleachPrint: 10 })
    const theirs = changeSettings(changeBath(base, second, { strength: 40 }), first, { push: 1 })
    const merged = mergeRecipes(base, mine, theirs)!
    expect(merged.baths[0]!.settings).toMatchObject({ bleachPrint: 10, push: 1 })
    expect(merged.baths[1]!.strength).toBe(40)
  })

  it('keeps a bath that one side added and an order that one side changed', () => {
    const mine = addKind(base, 'instant')
    const theirs = changeSettings(base, first, { push: 1 })
    const merged = mergeRecipes(base, mine, theirs)!
    expect(merged.baths.map((b) => b.kind)).toEqual(['colour-print', 'aged-print', 'instant'])
    expect(merged.baths[0]!.settings['push']).toBe(1)
    const moved = mergeRecipes(base, changeSettings(base, first, { push: 1 }), moveBath(base, first, 1))!
    expect(moved.baths.map((b) => b.id)).toEqual([second, first])
    expect(moved.baths[1]!.settings['push']).toBe(1)
  })

  it('is the same whoever asks', () => {
    const mine = changeSettings(base, first, { bleachPrint: 10 })
    const theirs = changeBath(base, second, { in: false })
    expect(mergeRecipes(base, mine, theirs)).toEqual(mergeRecipes(base, theirs, mine))
    expect(mergeRecipes(base, mine, mine)).toEqual(mine)
  })

  it('gives up where something would be lost', () => {
    const set = (bleachPrint: number): Recipe => changeSettings(base, first, { bleachPrint })
    expect(mergeRecipes(base, set(10), set(20))).toBeNull()
    expect(mergeRecipes(base, removeBath(base, first), set(20))).toBeNull()
    expect(mergeRecipes(base, addKind(base, 'instant'), removeBath(base, second))).toBeNull()
    expect(mergeFields(NO_TRIMS, { ...NO_TRIMS, exposure: 1 }, { ...NO_TRIMS, exposure: 2 })).toBeNull()
  })

  it('never joins baths of two kinds, nor takes over a line that is none', () => {
    // As it was when ids were used again: both sides removed the last bath and put another kind in its place.
    const replaced = (kind: string, settings = {}): Recipe => ({
      ...base,
      baths: [base.baths[0]!, newBath(kind, second, settings)],
    })
    expect(mergeRecipes(base, replaced('instant'), replaced('two-strip'))).toBeNull()
    expect(mergeRecipes(base, changeSettings(base, second, { fog: 0.1 }), replaced('instant'))).toBeNull()
    expect(mergeRecipes(base, changeBath(base, second, { strength: 10 }), replaced('instant'))).toBeNull()
    // Each side alone is within the limit; both together are not.
    const full = (n: number, id: string): Recipe => ({
      ...base,
      baths: [...base.baths, ...Array.from({ length: n }, (_, i) => newBath('instant', `${id}${i}`))],
    })
    expect(mergeRecipes(base, full(MOST_BATHS - 2, 'x'), changeSettings(base, first, { push: 1 }))).not.toBeNull()
    expect(mergeRecipes(base, full(MOST_BATHS - 1, 'x'), changeSettings(base, first, { push: 1 }))).toBeNull()
    // Two baths with one id are no line.
    const twins = { ...base, baths: [...base.baths, newBath('instant', 't'), newBath('instant', 't')] }
    expect(mergeRecipes(base, twins, changeSettings(base, first, { push: 1 }))).toBeNull()
  })
})
