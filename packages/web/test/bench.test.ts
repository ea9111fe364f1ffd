import { MOST_STEPS, newBath, type KeptStep, type StackChange, type Step } from '@fogbath/core/line'
import { seededRandom } from '@fogbath/core/numbers'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiError } from '../src/api/client'
import { EMPTY, changeFrom, redo, remember, undo, type History } from '../src/stores/bench/history'
import { KEYS, shortcutOf, type KeyEntry } from '../src/bench/keys'
import { makeSaver } from '../src/stores/bench/saver'
import { TOKENS } from '../src/theme/theme'

const named = (name: string, trialId = 1): Step => ({
  kind: 'parts',
  trialId,
  recipe: { ...SHIPPED_RECIPES[0]!, name },
})
const balanceStep = (exposure: number): Step => ({
  kind: 'parts',
  trialId: null,
  preparation: [newBath('balance', 'shot', { exposure })],
})
const nameOf = (step: Step): string => (step.kind === 'parts' && step.recipe ? step.recipe.name : step.kind)

describe('history', () => {
  it('goes back and forth, and forgets what was undone when something new is done', () => {
    const h = remember(remember(EMPTY, named('one')), named('two'))
    const back = undo(h, () => named('three'))!
    expect(nameOf(back.step)).toBe('two')
    expect(nameOf(redo(back.history, () => back.step)!.step)).toBe('three')
    expect(remember(back.history, back.step).future).toEqual([])
    expect(undo(EMPTY, named as never)).toBeNull()
  })
  it('keeps for redo the present state of the same thing that a step holds', () => {
    const balance = balanceStep(1)
    const asked: Step[] = []
    const now = (like: Step): Step => {
      asked.push(like)
      return balanceStep(2)
    }
    const back = undo(remember(remember(EMPTY, named('line')), balance), now)!
    expect(asked).toEqual([balance])
    expect(back.history.future[0]!.step).toEqual(balanceStep(2))
    expect(back.history.past.map(({ step }) => nameOf(step))).toEqual(['line'])
  })
  it('forgets the oldest step when there are too many', () => {
    let h = EMPTY
    for (let i = 0; i < MOST_STEPS + 3; i++) h = remember(h, named(`${i}`))
    expect(h.past).toHaveLength(MOST_STEPS)
    expect(h.past.map(({ step }) => nameOf(step)).filter((_, i) => i === 0 || i === MOST_STEPS - 1)).toEqual([
      '3',
      `${MOST_STEPS + 2}`,
    ])
  })
  it('is written as differences that give the same stacks on the server', () => {
    const random = seededRandom(9)
    /** What the server does with a change: oldest at the bottom of both stacks. */
    const server = { past: [] as KeptStep[], future: [] as KeptStep[] }
    const turned = (stack: KeptStep[], { remove, add }: StackChange): KeptStep[] => [
      ...stack.filter(({ key }) => !remove.includes(key)),
      ...add,
    ]
    let there: History = EMPTY
    let now: History = EMPTY
    let most = 0
    let longest = 0
    for (let i = 0; i < 600; i++) {
      const turns = 1 + Math.floor(3 * random())
      for (let j = 0; j < turns; j++) {
        const luck = random()
        if (luck < 0.6) now = remember(now, named(`${i} ${j}`))
        else now = ((luck < 0.85 ? undo : redo)(now, () => named(`now ${i} ${j}`)) ?? { history: now }).history
      }
      const { past, future } = changeFrom(there, now)
      server.past = turned(server.past, past)
      server.future = turned(server.future, future)
      most = Math.max(most, past.add.length + future.add.length)
      longest = Math.max(longest, server.past.length)
      there = now
      expect(server.past).toEqual([...now.past])
      expect(server.future).toEqual([...now.future].reverse())
    }
    expect(longest).toBe(MOST_STEPS)
    // A turn moves one step; nothing that stays is written again.
    expect(most).toBeLessThanOrEqual(6)
  })
})

describe('the keys', () => {
  const entries = KEYS.flatMap((g): readonly KeyEntry[] => g.entries)
  it('are each given once, and every action is named for the help sheet', () => {
    const keys = entries.flatMap((e) => e.keys)
    expect(new Set(keys).size).toBe(keys.length)
    expect(new Set(entries.map((e) => e.action)).size).toBe(entries.length)
    for (const e of entries) expect(e.shown && e.text).toBeTruthy()
    expect(shortcutOf('undo')).toBe('Ctrl Z')
  })
  it('leave digits to the choice of baths', () => {
    for (const e of entries) for (const k of e.keys) expect(k).not.toMatch(/^[0-9]$/)
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
