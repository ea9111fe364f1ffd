import { describe, expect, it } from 'vitest'
import {
  MOST_BATHS,
  NO_MARKS,
  addKind,
  changeBath,
  changeSettings,
  mergeFields,
  mergeMarks,
  mergeRecipes,
  moveBath,
  newBath,
  notesInOrder,
  notesOf,
  removeBath,
  type Marks,
  type Note,
  type Recipe,
} from '../src/line'
import { shipped } from './helpers'

const base: Recipe = addKind(shipped('plain'), 'aged-print')
const [first, second] = base.baths.map((b) => b.id) as [string, string]

const FIELDS = { exposure: 0, tint: 0, temperature: 0 }

describe('bringing two changes together', () => {
  it('takes from each side what only it changed', () => {
    expect(mergeFields(FIELDS, { ...FIELDS, exposure: 1 }, { ...FIELDS, tint: 5 })).toEqual({
      ...FIELDS,
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
    expect(mergeFields(FIELDS, { ...FIELDS, exposure: 1 }, { ...FIELDS, exposure: 2 })).toBeNull()
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

describe('marks that were changed in two places', () => {
  const note = (key: string): Note => ({ key, frame: null, text: key, author: '', time: '2026-01-02T03:04:05.000Z' })
  const marks = (keys: readonly string[], more: Partial<Marks> = {}): Marks => ({
    ...NO_MARKS,
    ...more,
    notes: keys.map(note),
  })
  const keysOf = (merged: Marks | null) => merged && notesOf(merged).map(({ key }) => key)
  it('have the notes that either added, and none that either removed', () => {
    const base = marks(['note-a', 'note-b', 'note-c'])
    const mine = marks(['note-b', 'note-c', 'note-d'])
    const theirs = marks(['note-a', 'note-b', 'note-e'])
    expect(keysOf(mergeMarks(base, mine, theirs))).toEqual(['note-b', 'note-e', 'note-d'])
  })
  it('keep a card of one and the notes of the other; two cards are asked about', () => {
    const merged = mergeMarks(NO_MARKS, { ...NO_MARKS, grey: 0.2 }, marks(['note-a']))
    expect([merged?.grey, keysOf(merged)]).toEqual([0.2, ['note-a']])
    expect(mergeMarks(NO_MARKS, { ...NO_MARKS, grey: 0.2 }, { ...NO_MARKS, grey: 0.3 })).toBeNull()
  })
  it('are listed by frame, those of the shot first', () => {
    const all = [{ ...note('late-1'), frame: 9 }, { ...note('early1'), frame: 2 }, note('whole1')]
    expect(notesInOrder({ ...NO_MARKS, notes: all }).map(({ key }) => key)).toEqual(['whole1', 'early1', 'late-1'])
  })
})
