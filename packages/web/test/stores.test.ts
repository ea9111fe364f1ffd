import { newPart, withPart } from '@fogbath/core/masks'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiError, api } from '../src/api/client'
import { makeSaver } from '../src/stores/bench/saver'
import { useBenchStore } from '../src/stores/bench'
import { unsaved } from '../src/stores/unsaved'
import { fakeServer, shotOf, trialOf, withSettings } from './fake-server'

beforeEach(() => {
  setActivePinia(createPinia())
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
  vi.restoreAllMocks()
})
const rest = (): Promise<unknown> => vi.advanceTimersByTimeAsync(1500)
const sepia = SHIPPED_RECIPES.find((r) => r.id === 'sepia')!
const twoTrials = () => shotOf(1, { trials: [trialOf(10, 1), { ...trialOf(11, 1, sepia), name: 'B' }] })

describe('trials', () => {
  it('are added, with their line, and become the current one here and on the server', async () => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    bench.tap = 1
    bench.marked = ['bath-1']
    const adding = bench.addTrial('B', { recipe: sepia, after: [] })
    expect(bench.trial!.id).toBe(10)
    await adding
    expect([bench.trial!.name, bench.recipe.id, bench.tap, bench.marked]).toEqual(['B', 'sepia', null, []])
    expect(bench.shot!.trials.map((t) => t.name)).toEqual(['A', 'B'])
    await rest()
    expect(server.shot(1).trialId).toBe(bench.trial!.id)
  })
  it('are renamed, and the line that is worked on goes on from there', async () => {
    const server = fakeServer([twoTrials()])
    const bench = useBenchStore()
    await bench.open(1)
    await bench.renameTrial(10, 'Evening')
    expect(bench.trial!.name).toBe('Evening')
    expect(bench.shot!.trials[0]!.name).toBe('Evening')
    bench.setSettings('bath-1', { push: 1 })
    await rest()
    expect(bench.conflict).toBeNull()
    expect(server.trial(10)).toMatchObject({ name: 'Evening', revision: 3 })
  })
  it('are removed, another one taking the place of the current one first', async () => {
    const server = fakeServer([twoTrials()])
    const bench = useBenchStore()
    await bench.open(1)
    await bench.removeTrial(10)
    expect(bench.trial!.id).toBe(11)
    expect(bench.recipe.id).toBe('sepia')
    expect(bench.shot!.trials.map((t) => t.id)).toEqual([11])
    expect(server.shot(1).trials.map((t) => t.id)).toEqual([11])
  })
  it('are opened as the shot has them chosen, on any shot', async () => {
    fakeServer([{ ...twoTrials(), trialId: 11 }, shotOf(2)])
    const bench = useBenchStore()
    await bench.open(1)
    expect([bench.trial!.id, bench.recipe.id]).toEqual([11, 'sepia'])
    expect(bench.currentTrial(bench.shots[0]!).id).toBe(11)
    expect(bench.currentTrial({ ...bench.shots[0]!, trialId: null }).id).toBe(10)
  })
})

describe('opening a shot', () => {
  it('that is not there says why, and what was there stays', async () => {
    fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    vi.mocked(api.shot).mockRejectedValueOnce(new ApiError(404, 'There is no shot 9.'))
    const opening = bench.open(9)
    expect(bench.opening).toBe(true)
    await opening
    expect([bench.problem, bench.opening, bench.shot!.id]).toEqual(['There is no shot 9.', false, 1])
    await bench.open(1)
    expect(bench.problem).toBe('')
  })
  it('begins at its telling frame, within its in and out, and plays all of it', async () => {
    fakeServer([shotOf(1, { first: 5, last: 30, still: 20 }), shotOf(2, { first: 25, last: 30, still: 20 })])
    const bench = useBenchStore()
    expect([bench.picking, bench.maskShown, bench.underMask, bench.half]).toEqual([false, false, false, false])
    await bench.open(1)
    expect([bench.frame, bench.range]).toEqual([20, [5, 30]])
    bench.part = 0
    bench.picking = true
    await bench.open(2)
    expect([bench.frame, bench.range, bench.part, bench.picking]).toEqual([25, [25, 30], null, false])
  })
})

describe('the line that is worked on', () => {
  it('keeps what is chosen and tapped as long as it is there', async () => {
    fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    bench.duplicate('bath-1')
    const twin = bench.chosen!
    expect(bench.recipe.baths.map((b) => b.id)).toEqual(['bath-1', twin])
    bench.marked = ['bath-1']
    expect(bench.baths.map((b) => b.id)).toEqual(['bath-1', twin])
    bench.tap = 1
    bench.change({ ...bench.recipe, strength: 40 })
    expect([bench.tap, bench.chosen, bench.marked]).toEqual([1, twin, ['bath-1']])
    bench.tap = 3
    bench.change({ ...bench.recipe, baths: bench.recipe.baths.slice(0, 1) })
    expect([bench.tap, bench.chosen]).toEqual([null, 'bath-1'])
    const same = bench.recipe
    const steps = bench.history.past.length
    bench.change(same)
    expect(bench.history.past).toHaveLength(steps)
  })
  it('takes masks and the whole bath’s values, each as a step of its own', async () => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    bench.setMask('bath-1', withPart(null, newPart('ellipse')), 'add')
    bench.setBath('bath-1', { strength: 30 })
    expect(bench.bath).toMatchObject({ strength: 30, mask: { parts: [{ type: 'ellipse' }] } })
    expect(bench.history.past).toHaveLength(2)
    await rest()
    expect(server.trial(10).recipe.baths[0]!.strength).toBe(30)
    bench.setMarks({ grey: 0.2, probes: [] })
    await rest()
    expect(server.shot(1).marks.grey).toBe(0.2)
    expect(bench.history.past).toHaveLength(2)
  })
})

describe('what is unsaved', () => {
  it('is told on every page, in the words of what went wrong, until it is saved', async () => {
    fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    expect(unsaved.value).toBe('')
    vi.mocked(api.changeShot).mockRejectedValueOnce(new ApiError(0, 'The server does not answer.'))
    bench.setBalance({ tint: 2 })
    await vi.advanceTimersByTimeAsync(500)
    expect(unsaved.value).toBe('The server does not answer.')
    const leaving = new Event('beforeunload', { cancelable: true })
    window.dispatchEvent(leaving)
    expect(leaving.defaultPrevented).toBe(true)
    await vi.advanceTimersByTimeAsync(3000)
    expect(unsaved.value).toBe('')
    const free = new Event('beforeunload', { cancelable: true })
    window.dispatchEvent(free)
    expect(free.defaultPrevented).toBe(false)
  })
})

describe('a saver', () => {
  it('waits once for changes that follow each other, and not again after it was flushed', async () => {
    const write = vi.fn(async () => undefined)
    const saver = makeSaver(write)
    saver.touch()
    await vi.advanceTimersByTimeAsync(200)
    saver.touch()
    await vi.advanceTimersByTimeAsync(200)
    expect(write).not.toHaveBeenCalled()
    await vi.advanceTimersByTimeAsync(200)
    expect(write).toHaveBeenCalledTimes(1)
    saver.touch()
    await saver.flush()
    await rest()
    expect(write).toHaveBeenCalledTimes(2)
    await saver.flush()
    expect(write).toHaveBeenCalledTimes(2)
  })
  it('sends nothing after it was reset, and hears nothing of what was under way', async () => {
    let answer: (error: Error) => void = () => undefined
    const write = vi.fn(() => new Promise<void>((_, reject) => (answer = reject)))
    const saver = makeSaver(write)
    saver.touch()
    saver.reset()
    await rest()
    expect(write).not.toHaveBeenCalled()
    saver.touch()
    await vi.advanceTimersByTimeAsync(400)
    saver.reset()
    answer(new ApiError(409, 'stale'))
    await rest()
    expect([saver.state.value, saver.message.value]).toEqual(['saved', ''])
  })
  it('does nothing in a conflict until it is settled', async () => {
    const write = vi.fn().mockRejectedValueOnce(new ApiError(409, 'stale')).mockResolvedValue(undefined)
    const saver = makeSaver(write)
    saver.touch()
    await rest()
    expect(saver.state.value).toBe('conflict')
    saver.touch()
    await rest()
    expect(write).toHaveBeenCalledTimes(1)
    await expect(saver.flush()).rejects.toThrow('stale')
    saver.reset()
    saver.touch()
    await rest()
    expect([write.mock.calls.length, saver.state.value]).toEqual([2, 'saved'])
  })
  it.each([
    [0, 'offline'],
    [503, 'offline'],
    [400, 'refused'],
  ])('is, after an answer of %d, %s', async (status, state) => {
    const saver = makeSaver(async () => Promise.reject(new ApiError(status, 'no')))
    saver.touch()
    await vi.advanceTimersByTimeAsync(400)
    expect(saver.state.value).toBe(state)
    saver.reset()
  })
})

it('baths that are added to others stand behind what each of them carries', async () => {
  const server = fakeServer([shotOf(1), shotOf(2, { trials: [trialOf(20, 2, withSettings({ push: 2 }))] })])
  const bench = useBenchStore()
  await bench.open(1)
  await bench.addBaths([bench.shots[1]!], sepia.baths)
  const { baths } = server.trial(20).recipe
  expect(baths.map((b) => b.kind)).toEqual(['colour-print', 'black-and-white'])
  expect(baths[0]!.settings['push']).toBe(2)
})
