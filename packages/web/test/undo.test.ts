import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { newPart, withPart, withoutPart } from '@fogbath/core/masks'
import { ApiError, api } from '../src/api/client'
import { useBenchStore } from '../src/stores/bench'
import { balanceOf, fakeServer, shotOf, trialOf, withSettings } from './fake-server'

beforeEach(() => {
  setActivePinia(createPinia())
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
  vi.restoreAllMocks()
})
const rest = (): Promise<unknown> => vi.advanceTimersByTimeAsync(1500)

describe('undo', () => {
  it('is one for line, preparation and other shots, and reaches over a reload', async () => {
    const server = fakeServer([shotOf(1), shotOf(2)])
    const first = useBenchStore()
    await first.open(1)
    first.setSettings('bath-1', { push: 2 })
    first.setBalance({ tint: 3 })
    await rest()
    await first.putOn([first.shots[1]!], () => withSettings({ push: 2 }))
    expect(server.trial(20).recipe.baths[0]!.settings['push']).toBe(2)

    await rest()
    expect(first.saveState).toBe('saved')

    setActivePinia(createPinia())
    const bench = useBenchStore()
    await bench.open(1)
    await bench.undo()
    expect(server.trial(20).recipe.baths[0]!.settings['push']).toBe(0)
    expect(balanceOf(bench.shot!).tint).toBe(3)
    await bench.undo()
    expect(balanceOf(bench.shot!).tint).toBe(0)
    expect(bench.recipe.baths[0]!.settings['push']).toBe(2)
    await bench.undo()
    expect(bench.recipe.baths[0]!.settings['push']).toBe(0)
    for (let i = 0; i < 3; i++) await bench.redo()
    await rest()
    expect(server.trial(20).recipe.baths[0]!.settings['push']).toBe(2)
    expect(balanceOf(server.shot(1)).tint).toBe(3)
    expect(server.trial(10).recipe.baths[0]!.settings['push']).toBe(2)
  })

  it('is redone in the same order after a reload', async () => {
    fakeServer([shotOf(1)])
    const first = useBenchStore()
    await first.open(1)
    for (const push of [1, 2, 3]) {
      first.setSettings('bath-1', { push })
      await rest()
    }
    for (let i = 0; i < 3; i++) await first.undo()
    await rest()
    setActivePinia(createPinia())
    const bench = useBenchStore()
    await bench.open(1)
    const seen: unknown[] = []
    for (let i = 0; i < 3; i++) {
      await bench.redo()
      seen.push(bench.recipe.baths[0]!.settings['push'])
    }
    expect(seen).toEqual([1, 2, 3])
  })

  it('opens the trial that a step belongs to', async () => {
    const two = shotOf(1, { trials: [trialOf(10, 1), { ...trialOf(11, 1), name: 'B' }] })
    fakeServer([two])
    const bench = useBenchStore()
    await bench.open(1)
    bench.setSettings('bath-1', { push: 2 })
    await bench.chooseTrial(bench.shot!.trials[1]!)
    expect(bench.trial!.name).toBe('B')
    await bench.undo()
    expect(bench.trial!.id).toBe(10)
    expect(bench.recipe.baths[0]!.settings['push']).toBe(0)
  })
})

describe('copied baths', () => {
  it('go behind the chosen one in their own stretch, with ids of their own, in one step', async () => {
    fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    bench.duplicate('bath-1')
    expect(bench.recipe.baths).toHaveLength(2)
    expect(bench.chosen).toBe(bench.recipe.baths[1]!.id)
    bench.marked = ['bath-1']
    bench.copy()
    bench.paste()
    expect(bench.recipe.baths).toHaveLength(4)
    expect(new Set(bench.recipe.baths.map((b) => b.id)).size).toBe(4)
    await bench.undo()
    expect(bench.recipe.baths).toHaveLength(2)
  })
})

describe('steps of undo', () => {
  it('is one for all that is dragged from the pointer’s going down to its coming up, however slowly', async () => {
    fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    const push = (): unknown => bench.recipe.baths[0]!.settings['push']
    const drag = async (...to: number[]): Promise<void> => {
      window.dispatchEvent(new Event('pointerdown'))
      for (const value of to) {
        bench.setSettings('bath-1', { push: value })
        await rest()
      }
      window.dispatchEvent(new Event('pointerup'))
      await rest()
    }
    await drag(0.5, 1, 1.5)
    await drag(2, 2.5)
    await bench.undo()
    expect(push()).toBe(1.5)
    await bench.undo()
    expect(push()).toBe(0)
  })

  it('are written once each, also when the first attempt had no answer', async () => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    bench.setSettings('bath-1', { bleachPrint: 40 })
    await rest()
    vi.mocked(api.changeHistory).mockRejectedValueOnce(new ApiError(0, 'away'))
    bench.setSettings('bath-1', { push: 1 })
    await vi.advanceTimersByTimeAsync(4000)
    const sent = vi.mocked(api.changeHistory).mock.calls.map(([, change]) => change)
    expect(sent.map(({ past }) => [past.remove.length, past.add.length])).toEqual([
      [0, 1],
      [0, 1],
      [0, 1],
    ])
    await bench.undo()
    await rest()
    const last = vi.mocked(api.changeHistory).mock.calls.at(-1)![1]
    expect([last.past.remove.length, last.past.add.length, last.future.add.length]).toEqual([1, 0, 1])
    expect(server.historyOf(1).past).toHaveLength(1)
    expect(server.historyOf(1).future).toHaveLength(1)
  })

  it('of two windows stand side by side on the server', async () => {
    const server = fakeServer([shotOf(1)])
    const [one, other] = [createPinia(), createPinia()].map((pinia) => {
      setActivePinia(pinia)
      return useBenchStore()
    }) as [ReturnType<typeof useBenchStore>, ReturnType<typeof useBenchStore>]
    await one.open(1)
    await other.open(1)
    one.setSettings('bath-1', { push: 1 })
    await rest()
    other.setBalance({ tint: 4 })
    await rest()
    one.setSettings('bath-1', { bleachPrint: 30 })
    await rest()
    expect(server.historyOf(1).past.map(({ step }) => step.kind)).toEqual(['parts', 'parts', 'parts'])
    await one.undo()
    await rest()
    expect(server.historyOf(1).past.map(({ step }) => step.kind)).toEqual(['parts', 'parts'])
  })

  it('of two shots never merge, however quickly they follow each other', async () => {
    const server = fakeServer([shotOf(1), shotOf(2)])
    const bench = useBenchStore()
    await bench.open(1)
    bench.setSettings('bath-1', { push: 1 })
    await bench.open(2)
    bench.setSettings('bath-1', { push: 2 })
    expect(bench.history.past).toHaveLength(1)
    await rest()
    expect(server.historyOf(1).past).toHaveLength(1)
    expect(server.historyOf(2).past).toHaveLength(1)
    await bench.undo()
    expect(bench.recipe.baths[0]!.settings['push']).toBe(0)
  })

  it('merge while a slider is dragged, and not after a rest, after undo, or on another setting', async () => {
    fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    const push = (v: number) => bench.setSettings('bath-1', { push: v })
    const steps = () => bench.history.past.length
    push(1)
    await vi.advanceTimersByTimeAsync(600)
    push(1.5)
    await vi.advanceTimersByTimeAsync(600)
    push(2)
    expect(steps()).toBe(1)
    bench.setSettings('bath-1', { bleachPrint: 50 })
    expect(steps()).toBe(2)
    await vi.advanceTimersByTimeAsync(800)
    bench.setSettings('bath-1', { bleachPrint: 40 })
    expect(steps()).toBe(3)
    await bench.undo()
    expect(steps()).toBe(2)
    bench.setSettings('bath-1', { bleachPrint: 30 })
    expect(steps()).toBe(3)
    await bench.undo()
    expect(bench.recipe.baths[0]!.settings['bleachPrint']).toBe(50)
  })

  it('are two where a value is dragged and then typed, however soon, and one for each click on a mask', async () => {
    fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    const steps = () => bench.history.past.length
    dispatchEvent(new Event('pointerdown'))
    bench.setSettings('bath-1', { push: 1 })
    bench.setSettings('bath-1', { push: 1.5 })
    dispatchEvent(new Event('pointerup'))
    await vi.advanceTimersByTimeAsync(1)
    bench.setSettings('bath-1', { push: 2 })
    expect(steps()).toBe(2)
    const two = withPart(withPart(null, newPart('ellipse')), newPart('tone'))
    bench.setMask('bath-1', two, '')
    bench.setMask('bath-1', withoutPart(two, 1), '')
    expect(steps()).toBe(4)
    await bench.undo()
    expect(bench.bath?.mask?.parts).toHaveLength(2)
  })

  it('stay where they are when bringing back fails', async () => {
    const server = fakeServer([shotOf(1), shotOf(2)])
    const bench = useBenchStore()
    await bench.open(1)
    await bench.putOn([bench.shots[1]!], () => withSettings({ push: 2 }))
    vi.mocked(api.changeLines).mockRejectedValueOnce(new ApiError(0, 'away'))
    await expect(bench.undo()).rejects.toThrow('away')
    expect([bench.history.past.length, bench.history.future.length]).toEqual([1, 0])
    await bench.undo()
    expect(server.trial(20).recipe.baths[0]!.settings['push']).toBe(0)
  })
})

describe('a line put on other shots', () => {
  const three = () => [shotOf(1), shotOf(2), shotOf(3)]
  const pushOf = (server: ReturnType<typeof fakeServer>, id: number) =>
    server.trial(id).recipe.baths[0]!.settings['push']

  it('changes all of them or none; what did not come about is no step of undo', async () => {
    const server = fakeServer(three())
    const bench = useBenchStore()
    await bench.open(1)
    await api.changeTrial(30, { revision: 1, recipe: withSettings({ push: -1 }) })
    await expect(bench.putOn(bench.shots.slice(1), () => withSettings({ push: 2 }))).rejects.toThrow('elsewhere')
    expect([pushOf(server, 20), pushOf(server, 30)]).toEqual([0, -1])
    expect(bench.history.past).toHaveLength(0)
    await rest()
    expect(server.historyOf(1).past).toHaveLength(0)
  })

  it('can be undone though the answer was lost', async () => {
    const server = fakeServer(three())
    const bench = useBenchStore()
    await bench.open(1)
    const write = vi.mocked(api.changeLines).getMockImplementation()!
    vi.mocked(api.changeLines).mockImplementationOnce(async (lines) => {
      await write(lines)
      throw new ApiError(0, 'away')
    })
    await expect(bench.putOn(bench.shots.slice(1), () => withSettings({ push: 2 }))).rejects.toThrow('away')
    expect(pushOf(server, 20)).toBe(2)
    expect(bench.history.past).toHaveLength(1)
    // As after opening the shot again: what is known of the others is what the server has.
    bench.production = await api.production(1)
    await bench.undo()
    expect([pushOf(server, 20), pushOf(server, 30)]).toEqual([0, 0])
  })

  it('waits for what is unsaved, and does nothing where that cannot be saved', async () => {
    const server = fakeServer(three())
    const bench = useBenchStore()
    await bench.open(1)
    bench.setSettings('bath-1', { push: 1 })
    vi.mocked(api.changeTrial).mockRejectedValueOnce(new ApiError(0, 'away'))
    await expect(bench.putOn(bench.shots.slice(1), () => withSettings({ push: 2 }))).rejects.toThrow('away')
    expect(api.changeLines).not.toHaveBeenCalled()
    await rest()
    await bench.putOn(bench.shots.slice(1), () => withSettings({ push: 2 }))
    expect([pushOf(server, 10), pushOf(server, 20), pushOf(server, 30)]).toEqual([1, 2, 2])
  })
})
