import { describe, expect, it } from 'vitest'
import { KINDS } from '../src/baths'
import {
  addKind,
  asNewLine,
  changeBath,
  changeSettings,
  duplicateBath,
  insertBath,
  moveBath,
  newBath,
  newId,
  removeBath,
  sameTreatment,
  whyIdle,
  type Recipe,
} from '../src/line'
import { SHIPPED_RECIPES } from '../src/recipes'
import { shipped } from './helpers'

const ids = (recipe: Recipe): string[] => recipe.baths.map((b) => b.id)
const three: Recipe = {
  ...shipped('plain'),
  baths: ['a', 'b', 'c'].map((id) => newBath('colour-print', id)),
}

describe('changes to a line', () => {
  it('leave the old one as it is', () => {
    const old = structuredClone(three)
    addKind(three, 'two-strip')
    moveBath(three, 'a', 2)
    removeBath(three, 'b')
    duplicateBath(three, 'c')
    changeSettings(three, 'a', { push: 1 })
    changeBath(three, 'a', { strength: 3 })
    expect(three).toEqual(old)
  })
  it('put a new bath at the end, or right behind another one', () => {
    const [end, behind] = [addKind(three, 'two-strip'), addKind(three, 'two-strip', 'a')]
    expect(end.baths.map((b) => b.kind).indexOf('two-strip')).toBe(3)
    expect(behind.baths.map((b) => b.kind).indexOf('two-strip')).toBe(1)
    expect(
      addKind(three, 'two-strip', 'nobody')
        .baths.map((b) => b.kind)
        .indexOf('two-strip'),
    ).toBe(3)
    expect(ids(end).slice(0, 3)).toEqual(['a', 'b', 'c'])
  })
  it('put a twin right behind its original, with the same settings', () => {
    const twin = duplicateBath(changeSettings(three, 'b', { push: 2 }), 'b').baths[2]!
    expect(twin.settings['push']).toBe(2)
    expect(ids(three)).not.toContain(twin.id)
    expect(duplicateBath(three, 'nobody')).toBe(three)
  })
  it('move a bath within the line and not out of it', () => {
    expect(ids(moveBath(three, 'c', 0))).toEqual(['c', 'a', 'b'])
    expect(ids(moveBath(three, 'a', 2))).toEqual(['b', 'c', 'a'])
    expect(ids(moveBath(three, 'a', 1))).toEqual(['b', 'a', 'c'])
    for (const to of [-1, 3, 9]) expect(moveBath(three, 'a', to)).toBe(three)
    expect(moveBath(three, 'nobody', 0)).toBe(three)
  })
  it('touch the one bath that they name', () => {
    const changed = changeBath(changeSettings(three, 'b', { push: 1 }), 'b', { strength: 30 })
    expect(changed.baths[1]).toMatchObject({ strength: 30, settings: { push: 1, bleachPrint: 100 } })
    expect([changed.baths[0], changed.baths[2]]).toEqual([three.baths[0], three.baths[2]])
    expect(ids(removeBath(three, 'b'))).toEqual(['a', 'c'])
  })
})

describe('ids of baths', () => {
  it('are never used again: what is added after a removal is another bath', () => {
    const seen = new Set(ids(three))
    let line = three
    for (let i = 0; i < 50; i++) {
      line = addKind(removeBath(line, line.baths.at(-1)!.id), 'colour-print')
      const fresh = line.baths.at(-1)!.id
      expect(seen.has(fresh)).toBe(false)
      expect(fresh).toMatch(/^[a-z0-9][a-z0-9-]{0,63}$/)
      seen.add(fresh)
    }
  })
  it('are new for every line that is made from a recipe, and for what is pasted', () => {
    const [one, two] = [asNewLine(shipped('sepia')), asNewLine(shipped('sepia'))]
    expect(ids(one)).not.toEqual(ids(two))
    expect(ids(one)).not.toEqual(ids(shipped('sepia')))
    const twice = insertBath(insertBath(three, one.baths[0]!), one.baths[0]!)
    expect(new Set(ids(twice)).size).toBe(5)
    expect(newId()).not.toBe(newId())
  })
  it('do not count where two lines are told apart', () => {
    const sepia = shipped('sepia')
    expect(sameTreatment(sepia, asNewLine(sepia))).toBe(true)
    expect(sameTreatment(sepia, { ...asNewLine(sepia), name: 'Mine' })).toBe(true)
    expect(sameTreatment(sepia, { ...sepia, strength: 50 })).toBe(false)
    expect(sameTreatment(sepia, changeSettings(sepia, 'bath-1', { grade: 3.5 }))).toBe(false)
    expect(sameTreatment(sepia, { ...sepia, baths: [] })).toBe(false)
  })
})

describe('a bath that changes nothing', () => {
  it('says why', () => {
    const bath = newBath('colour-print', 'bath-1')
    expect(whyIdle(bath)).toBeNull()
    expect(whyIdle({ ...bath, strength: 0 })).toMatch(/strength/)
    expect(whyIdle({ ...bath, under: true })).toMatch(/swap the order/)
    expect(whyIdle({ ...bath, under: true, lay: 'multiply' })).toBeNull()
    expect(whyIdle({ ...bath, in: false })).toBe('lifted out')
  })
})

describe('every kind', () => {
  it('has a short name that fits a tile, an emblem of its own, and notes that name a shipped recipe of it', () => {
    for (const kind of KINDS) {
      expect(kind.short.length, kind.id).toBeLessThanOrEqual(16)
      expect(kind.family.emblem.length, kind.id).toBeGreaterThan(0)
      if (kind.notes.recipe === undefined) continue
      const shown = SHIPPED_RECIPES.find((r) => r.id === kind.notes.recipe)
      expect(
        shown?.baths.some((b) => b.kind === kind.id),
        kind.id,
      ).toBe(true)
      expect(kind.notes.about.length * kind.notes.model.length, kind.id).toBeGreaterThan(0)
    }
    const drawings = KINDS.map((k) => JSON.stringify(k.family.emblem))
    expect(new Set(drawings).size).toBe(KINDS.length)
  })
})
