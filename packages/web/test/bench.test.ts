import { SHIPPED_RECIPES, type Recipe } from '@fogbath/core'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiError } from '../src/api/client'
import { EMPTY, loadHistory, redo, remember, storeHistory, undo } from '../src/bench/history'
import { makeSaver } from '../src/bench/saver'
import { TOKENS } from '../src/theme/theme'

const named = (name: string): Recipe => ({ ...SHIPPED_RECIPES[0]!, name })

describe('history', () => {
  it('goes back and forth, and forgets what was undone when something new is done', () => {
    const h = remember(remember(EMPTY, named('one')), named('two'))
    const back = undo(h, named('three'))!
    expect(back.recipe.name).toBe('two')
    expect(redo(back.history, back.recipe)!.recipe.name).toBe('three')
    expect(remember(back.history, back.recipe).future).toEqual([])
    expect(undo(EMPTY, named('x'))).toBeNull()
  })
  it('survives in the browser’s storage and is capped', () => {
    let h = EMPTY
    for (let i = 0; i < 150; i++) h = remember(h, named(String(i)))
    storeHistory(7, h)
    expect(loadHistory(7).past).toHaveLength(100)
    expect(loadHistory(7).past[99]!.name).toBe('149')
    expect(loadHistory(8)).toEqual(EMPTY)
  })
})

describe('the saver', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())

  it('gathers quick changes into one write', async () => {
    const write = vi.fn(() => Promise.resolve())
    const saver = makeSaver(write)
    saver.touch()
    saver.touch()
    expect(saver.state.value).toBe('changed')
    await vi.advanceTimersByTimeAsync(1000)
    expect(write).toHaveBeenCalledTimes(1)
    expect(saver.state.value).toBe('saved')
  })
  it('keeps trying while the server is away', async () => {
    let away = true
    const write = vi.fn(() => (away ? Promise.reject(new ApiError(0, 'away')) : Promise.resolve()))
    const saver = makeSaver(write)
    saver.touch()
    await vi.advanceTimersByTimeAsync(500)
    expect(saver.state.value).toBe('offline')
    away = false
    await vi.advanceTimersByTimeAsync(2500)
    expect(saver.state.value).toBe('saved')
  })
  it('stops at a conflict and writes nothing until it is settled', async () => {
    const write = vi.fn(() => Promise.reject(new ApiError(409, 'stale')))
    const saver = makeSaver(write)
    saver.touch()
    await vi.advanceTimersByTimeAsync(500)
    expect(saver.state.value).toBe('conflict')
    saver.touch()
    await vi.advanceTimersByTimeAsync(5000)
    expect(write).toHaveBeenCalledTimes(1)
    saver.reset()
    expect(saver.state.value).toBe('saved')
  })
})

describe('the theme', () => {
  const luminance = (hex: string): number => {
    const [r, g, b] = [1, 3, 5]
      .map((i) => parseInt(hex.slice(i, i + 2), 16) / 255)
      .map((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4))
    return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!
  }
  it.each(Object.entries(TOKENS))('%s: text meets WCAG 2.2 AA (4.5) and greys have no hue', (_, t) => {
    const contrast = (a: string, b: string): number => {
      const [high, low] = [luminance(a), luminance(b)].sort((x, y) => y - x)
      return (high! + 0.05) / (low! + 0.05)
    }
    for (const text of [t.text, t.quiet, t.warn, t.accent])
      for (const ground of [t.ground, t.panel]) expect(contrast(text, ground)).toBeGreaterThanOrEqual(4.5)
    for (const grey of [t.surround, t.ground, t.panel, t.raised, t.line])
      expect(new Set([grey.slice(1, 3), grey.slice(3, 5), grey.slice(5, 7)]).size).toBe(1)
  })
})
