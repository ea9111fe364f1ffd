import { describe, expect, it } from 'vitest'
import {
  SHIPPED_PRESETS,
  checkDelivery,
  deliveryOfPreset,
  distinctNames,
  nameFor,
  chosenArgs,
  readPreset,
  writePreset,
} from '../src/delivery'

const PARTS = {
  production: 'The Lockkeeper’s Almanac',
  shot: 'Dawn/fog: 2',
  trial: 'A',
  recipe: 'Sepia',
  date: '2026-01-31',
  number: '007',
  timecode: '01-00-00-12',
  frame: '12',
}

describe('names of files', () => {
  it.each([
    ['{production} {shot} {trial}', 'The Lockkeeper’s Almanac Dawn fog 2 A'],
    ['{number}_{recipe}_{date}', '007_Sepia_2026-01-31'],
    ['../{shot}', 'Dawn fog 2'],
    ['  {timecode}. ', '01-00-00-12'],
    ['a\u0000b*c?"<>|d', 'a b c d'],
  ])('%j become %j', (pattern, name) => expect(nameFor(pattern, PARTS)).toBe(name))
  it('are refused where a token stands for nothing, or nothing is left', () => {
    expect(() => nameFor('{clip}', PARTS)).toThrow(/\{clip\} stands for nothing; there are \{production\}/)
    expect(() => nameFor('{constructor}', PARTS)).toThrow(/stands for nothing/)
    expect(() => nameFor(' ./.. ', PARTS)).toThrow(/Nothing is left of the name/)
  })
  it('are each another, whatever case they are in', () => {
    expect(distinctNames(['a', 'A', 'b', 'a'], new Set(['b']))).toEqual(['a', 'A (2)', 'b (2)', 'a (3)'])
  })
})

describe('a delivery', () => {
  it('tells its encoder the quality that is asked for: 100 is the best, 1 the least of use', () => {
    expect(chosenArgs({ format: 'mp4' })).toEqual(['-crf', '12'])
    expect(chosenArgs({ format: 'mp4', quality: 100 })).toEqual(['-crf', '0'])
    expect(chosenArgs({ format: 'mp4', quality: 1 })).toEqual(['-crf', '40'])
    expect(chosenArgs({ format: 'jpg', quality: 1 })).toEqual(['-q:v', '31'])
    expect(chosenArgs({ format: 'hevc.mp4', rate: 20 })).toEqual(['-b:v', '20M', '-maxrate', '20M', '-bufsize', '40M'])
    expect(chosenArgs({ format: 'mov' })).toEqual([])
  })
  it('is refused where its format cannot be told that', () => {
    expect(() => checkDelivery({ format: 'png', quality: 50 })).toThrow(/PNG, 16 bit has no quality/)
    expect(() => checkDelivery({ format: 'jpg', rate: 5 })).toThrow(/JPEG, 8 bit has no rate/)
    expect(() => checkDelivery({ format: 'dpx', alpha: true })).toThrow(/no room for alpha/)
    expect(() => checkDelivery({ format: 'exr', burnIn: { shot: true } })).toThrow(/words are not written into it/)
    const size = { width: 64, height: 64, fit: 'whole' } as const
    expect(() => checkDelivery({ format: 'exr', size })).toThrow(/without black beside it/)
    for (const preset of SHIPPED_PRESETS) checkDelivery(preset)
  })
  it('goes out under a name as a file, and comes in again', () => {
    for (const preset of SHIPPED_PRESETS) {
      const named = { name: preset.name, delivery: deliveryOfPreset(preset) }
      expect(readPreset(writePreset(named), 'x.json')).toEqual(named)
    }
    expect(() => readPreset('{', 'x.json')).toThrow(/^x\.json is no JSON/)
    expect(() => readPreset('{"name":"A","format":"avi"}', 'x.json')).toThrow(/^x\.json\/format must be one of mp4, /)
    expect(() => readPreset('{"format":"mp4"}', 'x.json')).toThrow(/name/)
    expect(() => readPreset('{"name":"A","format":"mp4","wild":1}', 'x.json')).toThrow(/additional|wild/)
  })
})
