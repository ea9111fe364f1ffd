import Independent from 'smpte-timecode'
import { describe, expect, it } from 'vitest'
import { frameOf, framesASecond, secondsOf, timecode } from '../src/numbers'

describe('frame rates', () => {
  it.each([
    ['24', 24],
    ['25/1', 25],
    ['23.976', 23.976],
    // ITU-R BT.1700, 525-line systems: 30 / 1.001 frames a second, as decimals there.
    ['30000/1001', 29.970_029_97],
    ['0/1', 0],
    ['0/0', 0],
    ['24/0', 0],
  ])('%s is %d frames a second', (fps, rate) => {
    expect(framesASecond(fps)).toBeCloseTo(rate, 8)
  })
  it('make a length of frames, to the sample', () => {
    // An hour of frames at 24 / 1.001 lasts 3.6 seconds longer than an hour.
    expect(secondsOf(24 * 3600, '24000/1001')).toBe(3603.6)
    expect(secondsOf(0.5, '50/1')).toBe(0.01)
    expect(() => secondsOf(1, '0/1')).toThrow("A rate of '0/1' frames a second")
  })
})

it.each([
  [86_400, '24/1', '01:00:00:00'],
  [1799, '30000/1001', '00:00:59:29'],
  [24, '25', '00:00:00:24'],
  // A still has no rate; its only frame is the first.
  [0, '0/1', '00:00:00:00'],
])('frame %d at %s is at %s', (frame, fps, said) => {
  expect(timecode(frame, fps)).toBe(said)
})

describe('timecode that footage brings along', () => {
  it('leaves numbers out where it drops, as SMPTE ST 12-1 has it', () => {
    // Printed everywhere: ten minutes are 17 982 frames, an hour is 107 892.
    for (const [frame, said] of [
      [1799, '00:00:59;29'],
      [1800, '00:01:00;02'],
      [17_981, '00:09:59;29'],
      [17_982, '00:10:00;00'],
      [107_892, '01:00:00;00'],
    ] as const)
      expect(timecode(frame, '30000/1001', '00:00:00;00')).toBe(said)
    expect(timecode(3600, '60000/1001', '00:00:00;00')).toBe('00:01:00;04')
  })

  it.each([
    ['30000/1001', '10:00:59;20', 29.97],
    ['60000/1001', '23:58:59;58', 59.94],
    ['24000/1001', '01:00:00:00', 23.976],
    ['25/1', '09:59:59:24', 25],
  ] as const)('at %s from %s is what the npm package smpte-timecode counts, and is found again', (fps, start, rate) => {
    for (let n = 0; n < 200_000; n += n < 4000 ? 1 : 997) {
      const said = timecode(n, fps, start)
      // Its own text has the semicolon in the same place.
      const theirs = new Independent(start, rate, start.includes(';'))
      theirs.add(n)
      expect(said, `frame ${n}`).toBe(theirs.toString())
      if (said >= start) expect(frameOf(said, 0, fps, start)).toBe(n)
    }
  })

  it('is typed whole, or by its last parts with the others as the footage starts', () => {
    const start = '10:00:00:00'
    expect(frameOf('10:00:01:12', 100, '24', start)).toBe(36)
    expect(frameOf('1:12', 100, '24', start)).toBe(36)
    expect(frameOf('36', 100, '24', start)).toBe(36)
    expect(frameOf('+5', 100, '24', start)).toBe(105)
    expect(frameOf('09:59:59:23', 100, '24', start)).toBe(-1)
  })

  it('is refused where no frame has it', () => {
    expect(() => frameOf('1:00;01', 0, '30000/1001', '00:00:00;00')).toThrow(/begins at ;02/)
    expect(() => frameOf('1:24', 0, '24')).toThrow("'1:24' is no timecode at 24 frames a second")
    expect(() => frameOf('1:60:00', 0, '24')).toThrow('is no timecode')
    // Without dropped numbers it exists.
    expect(frameOf('1:00:01', 0, '30000/1001')).toBe(1801)
  })
})

it('a typed timecode names a frame, whole or by its last parts, or so many frames on', () => {
  for (const [typed, frame] of [
    ['00:00:01:12', 36],
    ['1:12', 36],
    ['1;12', 36],
    ['01.00.00', 1440],
    ['7', 7],
    ['+10', 110],
    ['-30', 70],
  ] as const)
    expect(frameOf(typed, 100, '24'), typed).toBe(frame)
  // Nominal frames of a rate that is no whole number, as timecode counts them.
  expect(frameOf('1:00', 0, '24000/1001')).toBe(24)
  for (const frame of [0, 23, 24, 86_399]) expect(frameOf(timecode(frame, '25'), 5, '25')).toBe(frame)
  for (const typed of ['', 'ten', '1:2:3:4:5', '1::2', '+1:00'])
    expect(() => frameOf(typed, 0, '24')).toThrow(/is no timecode/)
})
