import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Pace } from '../src/render/pace'

describe('the pace of a render', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())

  it('is frames since it was begun over seconds, and what is left at that rate', () => {
    const pace = new Pace()
    pace.begin(1, 0, 1920 * 1080)
    vi.advanceTimersByTime(4000)
    // 12 frames in 4 seconds are 3 a second; 36 are left.
    expect(pace.of(1, 12, 48)).toEqual({ rate: 3, left: 12 })
  })
  it('does not count what was done before it was taken up again', () => {
    const pace = new Pace()
    pace.begin(1, 40, 1920 * 1080)
    vi.advanceTimersByTime(2000)
    expect(pace.of(1, 44, 48)).toEqual({ rate: 2, left: 2 })
  })
  it('cannot be told before a frame is done, nor of a render that is not under way', () => {
    const pace = new Pace()
    const unknown = { rate: null, left: null }
    expect(pace.of(1, 5, 48)).toEqual(unknown)
    pace.begin(1, 5, 1920 * 1080)
    vi.advanceTimersByTime(1000)
    expect(pace.of(1, 5, 48)).toEqual(unknown)
    expect(pace.of(2, 9, 48)).toEqual(unknown)
    pace.end(1, 5)
    expect(pace.of(1, 9, 48)).toEqual(unknown)
  })
  it('is remembered of the last one that ended, as frames of HD', () => {
    const pace = new Pace()
    expect(pace.last).toBeNull()
    pace.begin(1, 4, 960 * 540)
    vi.advanceTimersByTime(2000)
    // 24 frames of a quarter of the pixels in two seconds: 12 a second, as many pixels as 3 of HD.
    pace.end(1, 28)
    expect(pace.last).toBe(3)
    pace.begin(2, 0, 960 * 540)
    pace.end(2, 0)
    expect(pace.last).toBe(3)
  })
})
