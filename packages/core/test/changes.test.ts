import { describe, expect, it } from 'vitest'
import { addKind, asNewLine, changeBath, changeSettings, describeChanges, newBath } from '../src/line'
import { newPart, withPart } from '../src/masks'
import { lookTitle } from '../src/recipes'
import { shipped } from './helpers'

const plain = shipped('plain')

describe('what became of a line', () => {
  it('is nothing where nothing did', () => {
    expect(describeChanges(plain, { ...plain, name: 'Another name', summary: 'said otherwise' })).toEqual([])
  })
  it('names settings with both values and their unit', () => {
    const changed = changeSettings(plain, 'bath-1', { bleachPrint: 20, lamp: 'xenon', holdGrey: false })
    expect(describeChanges(plain, changed)).toEqual([
      'Colour print: bleach, print 100 → 20 %',
      'Colour print: hold mid grey on → off',
      'Colour print: lamp Daylight D65 → Xenon',
    ])
  })
  it('tells baths that came, went, moved and are laid otherwise', () => {
    const more = addKind(plain, 'glow')
    expect(describeChanges(plain, more)).toEqual(['with Glow'])
    expect(describeChanges(more, plain)).toEqual(['without Glow'])
    const two = { ...plain, baths: [newBath('glow', 'g'), newBath('veil', 'v')] }
    expect(describeChanges(two, { ...two, baths: [two.baths[1]!, two.baths[0]!] })).toEqual(['in another order'])
    const laid = changeBath(two, 'v', { strength: 40, lay: 'soft-light', in: false })
    expect(describeChanges(two, laid)).toEqual([
      'Veil of colour: strength 25 → 40 %',
      'Veil of colour: lifted out',
      'Veil of colour: blended by soft light',
    ])
    const masked = changeBath(two, 'g', { mask: withPart(null, newPart('ellipse')) })
    expect(describeChanges(two, masked)).toEqual(['Glow: with a mask'])
    expect(describeChanges(plain, { ...plain, strength: 60 })).toEqual(['strength of the line 100 → 60 %'])
  })
  it('knows baths again that have been given new ids', () => {
    const line = { ...plain, baths: [newBath('colour-print', 'p'), newBath('glow', 'g'), newBath('glow', 'h')] }
    expect(describeChanges(line, asNewLine(line))).toEqual([])
    const wider = changeSettings(line, 'h', { radius: 20 })
    expect(describeChanges(line, asNewLine(wider))).toEqual(['Glow: radius 12 → 20 ‰'])
  })
  it('only says that what is drawn was changed', () => {
    const curves = { ...plain, baths: [newBath('curves', 'c')] }
    const bent = changeSettings(curves, 'c', {
      master: [
        [0, 0],
        [0.5, 0.6],
        [1, 1],
      ],
    } as never)
    expect(describeChanges(curves, bent)[0]).toMatch(/^Curves: .* changed$/)
  })
})

describe('the title of a look', () => {
  it('says that it does something else than the recipe whose name it carries', () => {
    expect(lookTitle(plain)).toBe('Plain print')
    expect(lookTitle(changeSettings(plain, 'bath-1', { push: 1 }))).toBe('Plain print, changed')
    // Texts are no treatment; another origin is compared with where it is given.
    expect(lookTitle({ ...plain, summary: 'Other words.' })).toBe('Plain print')
    expect(lookTitle({ ...plain, id: 'shelf-abcdefgh-2' }, changeSettings(plain, 'bath-1', { push: 1 }))).toBe(
      'Plain print, changed',
    )
    expect(lookTitle({ ...plain, id: 'of-its-own' })).toBe('Plain print')
  })
})
