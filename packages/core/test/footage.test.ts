import { Value } from 'typebox/value'
import { describe, expect, it } from 'vitest'
import { encodingById, likelyOthers } from '../src/encodings'
import {
  ReadingSchema,
  gapsIn,
  gapsInWords,
  groupFiles,
  keyOfReading,
  nearestRate,
  numbersOf,
  readAs,
  remarksOf,
  withGapsFilled,
  type Probed,
} from '../src/footage'

const clip: Probed & { warnings: string[] } = {
  kind: 'clip',
  width: 720,
  height: 576,
  frames: 100,
  fps: '25/1',
  bits: 8,
  float: false,
  matrix: '470bg',
  range: 'limited',
  warnings: [],
}

describe('a reading', () => {
  it('changes what is known of footage, and nothing where it is empty', () => {
    expect(readAs(clip, {})).toBe(clip)
    expect(readAs(clip, { matrix: '709', fields: 'top' })).toEqual({
      ...clip,
      matrix: '709',
      reading: { matrix: '709', fields: 'top' },
    })
  })

  it('makes pixels square by the side that grows, even', () => {
    // 720 x 576 at 64:45 is a picture of 16:9: 1024 wide.
    expect(readAs(clip, { pixels: '64:45' })).toMatchObject({ width: 1024, height: 576 })
    // 720 x 480 at 8:9 is a picture of 4:3: 540 high.
    expect(readAs({ ...clip, height: 480 }, { pixels: '8:9' })).toMatchObject({ width: 720, height: 540 })
    expect(readAs(clip, { pixels: '3:3' })).toMatchObject({ width: 720, height: 576 })
  })

  it('of another range moves the codes that footage uses', () => {
    // Black at 16 and white at 235 of 255 become 0 and 1, and the other way round.
    const reach = { low: 16 / 255, middle: 125.5 / 255, high: 235 / 255 }
    const full = readAs({ ...clip, range: 'full', reach }, { range: 'limited' }).reach!
    expect([full.low, full.middle, full.high].map((v) => Number(v!.toFixed(6)))).toEqual([0, 0.5, 1])
    const back = readAs({ ...clip, reach: { low: 0, high: 1 } }, { range: 'full' }).reach!
    expect([back.low * 255, back.high * 255]).toEqual([expect.closeTo(16), expect.closeTo(235)])
  })

  it('has one key, in whatever order it was set, that is a name of a folder and of an address', () => {
    const key = keyOfReading({ pixels: '16:15', fps: '24000/1001', matrix: '709' })
    expect(key).toBe(keyOfReading({ matrix: '709', fps: '24000/1001', pixels: '16:15' }))
    expect(key).toMatch(/^[a-z0-9.-]+$/i)
    expect(keyOfReading({ range: 'full' })).not.toBe(keyOfReading({ range: 'limited' }))
    expect([keyOfReading({}), keyOfReading(undefined)]).toEqual(['', ''])
  })

  it.each([
    [{ bits: 12 }, {}, '12 bits: only red, green and blue'],
    [{ fps: '24/1' }, {}, '24/1 frames a second: only a clip whose rate is not steady'],
    [{ fields: 'top' }, { kind: 'sequence' }, 'fields: only a clip has them'],
    [{ matrix: '709' }, { matrix: 'gbr' }, 'another matrix: it holds red, green and blue'],
    [{ chromaAt: 'left' }, { matrix: 'gbr' }, 'another siting'],
  ] as const)('%o is refused where it does not apply', (reading, of, says) => {
    expect(() => readAs({ ...clip, ...of }, reading)).toThrow(says)
  })

  it('is held to its schema', () => {
    for (const reading of [{}, { matrix: '709', bits: 12 }, { pixels: '16:15', fps: '60000/1001' }])
      expect(Value.Check(ReadingSchema, reading), JSON.stringify(reading)).toBe(true)
    for (const reading of [{ matrix: 'gbr' }, { bits: 16 }, { pixels: '0:1' }, { fps: '23/1' }, { gamma: 2 }])
      expect(Value.Check(ReadingSchema, reading), JSON.stringify(reading)).toBe(false)
  })
})

it('the nearest usual rate is meant by ratio', () => {
  expect([29.9, 27, 26, 23.98, 14, 120].map(nearestRate)).toEqual([
    '30000/1001',
    '25/1',
    '25/1',
    '24000/1001',
    '24000/1001',
    '60/1',
  ])
})

it('remarks are on what is unusual and not yet set', () => {
  const odd = { ...clip, pixels: '16:15', fields: 'top', varies: 4, warnings: ['Only 8 bits deep.'] } as const
  expect(remarksOf(odd).join(' ')).toMatch(/^Only 8.*16:15.*Interlaced.*conformed to 25 frames/)
  expect(remarksOf(readAs(odd, { pixels: '16:15', fields: 'top' })).join(' ')).toMatch(/^Only 8 bits deep. Its rate/)
})

describe('two likely other encodings', () => {
  const others = (id: string, more: object = {}, own: string[] = []) =>
    likelyOthers(
      encodingById(id),
      { kind: 'clip', float: false, bits: 10, reach: null, ...more },
      own.map((o) => ({ ...encodingById('acescct'), id: o })),
    )
  it('are a log and a display one for video, one’s own log first, and never what it is taken for', () => {
    expect(others('bt1886')).toEqual(['acescct', 'pq'])
    expect(others('bt1886', {}, ['own-1'])).toEqual(['own-1', 'pq'])
    expect(others('pq:30')).toEqual(['acescct', 'bt1886'])
    expect(others('acescct', { bits: 8 })).toEqual(['bt1886', 'srgb'])
    expect(others('srgb', { kind: 'still', bits: 8 })).toEqual(['acescct', 'bt1886'])
    expect(others('linear', { float: true, bits: 16 })).toEqual(['linear-ap1', 'linear-ap0'])
  })
})

describe('numbered stills', () => {
  const grouped = (...paths: string[]) =>
    groupFiles(paths, (p) => p).map((g) => (g.type === 'file' ? g.file : g.files.join(' ')))

  it('of one folder and name belong together, in the order of their numbers; clips and pairs do not', () => {
    expect(
      grouped(
        'a/s.10.exr',
        'a/s.9.exr',
        'a/s.11.exr',
        'b/s.12.exr',
        'a/s.12.png',
        'clip1.mov',
        'clip2.mov',
        'clip3.mov',
      ),
    ).toEqual(['a/s.9.exr a/s.10.exr a/s.11.exr', 'b/s.12.exr', 'a/s.12.png', 'clip1.mov', 'clip2.mov', 'clip3.mov'])
    expect(grouped('IMG_0001.JPG', 'IMG_0002.JPG', 'IMG_0003.jpg')).toHaveLength(1)
    // Two writings of one number are two files of something else.
    expect(grouped('s1.png', 's01.png', 's2.png')).toHaveLength(3)
    expect(grouped('20260401120000.png', '20260401120001.png', '20260401120002.png')).toHaveLength(3)
  })

  it('name what is missing between them', () => {
    const gaps = gapsIn([1001, 1002, 1004, 1010, 1011])
    expect(gapsInWords(gaps)).toBe('1003, 1005 to 1009')
    expect(withGapsFilled(['a', 'b', 'c'], [7, 8, 11])).toEqual(['a', 'b', 'b', 'b', 'c'])
    expect(gapsInWords(gapsIn([5, 6, 7]))).toBe('')
    expect(gapsInWords(gapsIn(Array.from({ length: 20 }, (_, i) => 2 * i)))).toMatch(/^1, 3, .*, 23 and 7 more runs$/)
  })

  it('have numbers only where all are of one name, in order', () => {
    expect(numbersOf(['s.1.png', 's.3.png', 's.10.png'])).toEqual([1, 3, 10])
    for (const names of [['s.1.png', 't.2.png'], ['s.2.png', 's.1.png'], ['s.1.png', 's.1.png'], ['s.png']])
      expect(numbersOf(names), names.join()).toBeNull()
  })
})
