import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ApiError, api } from '../src/api/client'
import { useBenchStore } from '../src/stores/bench'
import { balanced, balanceOf, fakeServer, shotOf, withSettings } from './fake-server'

beforeEach(() => {
  setActivePinia(createPinia())
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
  vi.restoreAllMocks()
})
const rest = (): Promise<unknown> => vi.advanceTimersByTimeAsync(1500)

describe('saving the bench', () => {
  it('writes line and preparation within a second, each once for many steps', async () => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    for (let v = 90; v > 50; v -= 10) bench.setSettings('bath-1', { bleachPrint: v })
    bench.setBalance({ exposure: 0.5 })
    expect(bench.saveState).toBe('changed')
    await vi.advanceTimersByTimeAsync(1000)
    expect(bench.saveState).toBe('saved')
    expect(server.trial(10).recipe.baths[0]!.settings['bleachPrint']).toBe(60)
    expect(balanceOf(server.shot(1)).exposure).toBe(0.5)
    expect(api.changeTrial).toHaveBeenCalledTimes(1)
  })

  it('brings preparation and marks of two windows together where they differ, without asking', async () => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    await server.elsewhere(() => api.changeShot(1, { revision: 1, preparation: balanced({ tint: 7 }) }))
    bench.setBalance({ exposure: -1 })
    await rest()
    expect(bench.conflict).toBeNull()
    expect(balanceOf(server.shot(1))).toMatchObject({ exposure: -1, tint: 7 })
    expect(balanceOf(bench.shot!)).toMatchObject({ exposure: -1, tint: 7 })
  })

  it('asks where both changed the same trim, and writes what is chosen', async () => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    await server.elsewhere(() => api.changeShot(1, { revision: 1, preparation: balanced({ exposure: 2 }) }))
    bench.setBalance({ exposure: -1 })
    await rest()
    expect(bench.conflict).toMatchObject({ what: 'shot', merged: null })
    expect(balanceOf(server.shot(1)).exposure).toBe(2)
    bench.settle('mine')
    await rest()
    expect(balanceOf(server.shot(1)).exposure).toBe(-1)
    expect(bench.saveState).toBe('saved')
  })

  it.each([
    ['both', { bleachPrint: 40, push: 1 }],
    ['mine', { bleachPrint: 100, push: 1 }],
    ['theirs', { bleachPrint: 40, push: 0 }],
  ] as const)('settles a line changed in two windows: %s', async (which, expected) => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    await server.elsewhere(() => api.changeTrial(10, { revision: 1, recipe: withSettings({ bleachPrint: 40 }) }))
    bench.setSettings('bath-1', { push: 1 })
    await rest()
    expect(bench.conflict?.merged).not.toBeNull()
    bench.settle(which)
    await rest()
    expect(server.trial(10).recipe.baths[0]!.settings).toMatchObject(expected)
    expect(bench.recipe.baths[0]!.settings).toMatchObject(expected)
    if (which !== 'theirs') return
    await bench.undo()
    expect(bench.recipe.baths[0]!.settings['push']).toBe(1)
  })
})

const away = (): ApiError => new ApiError(0, 'The server does not answer.')

describe('what waits to be saved', () => {
  it('belongs to its shot: preparation that could not be saved are not written onto the next one', async () => {
    const server = fakeServer([shotOf(1), shotOf(2)])
    const bench = useBenchStore()
    await bench.open(1)
    bench.setBalance({ exposure: 2 })
    vi.mocked(api.changeShot).mockRejectedValueOnce(away())
    await bench.open(2)
    expect(balanceOf(bench.shot!).exposure).toBe(0)
    bench.setBalance({ tint: 5 })
    await vi.advanceTimersByTimeAsync(5000)
    expect(balanceOf(server.shot(1))).toMatchObject({ exposure: 2 })
    expect(balanceOf(server.shot(2))).toMatchObject({ tint: 5 })
    expect(bench.saveState).toBe('saved')
  })

  it('outlives leaving: a line that could not be saved is there on return, and saved when the server is back', async () => {
    const server = fakeServer([shotOf(1), shotOf(2)])
    const bench = useBenchStore()
    await bench.open(1)
    const lost = vi.mocked(api.changeTrial).mockRejectedValueOnce(away()).mockRejectedValueOnce(away())
    bench.setSettings('bath-1', { push: 2 })
    await bench.open(2)
    expect(bench.recipe.baths[0]!.settings['push']).toBe(0)
    expect(bench.saveState).toBe('offline')
    await bench.open(1)
    expect(bench.recipe.baths[0]!.settings['push']).toBe(2)
    expect(server.trial(10).recipe.baths[0]!.settings['push']).toBe(0)
    await vi.advanceTimersByTimeAsync(5000)
    expect(server.trial(10).recipe.baths[0]!.settings['push']).toBe(2)
    expect(server.trial(20).recipe.baths[0]!.settings['push']).toBe(0)
    expect(lost).toHaveBeenCalledTimes(3)
  })

  it('is told and kept where the server refuses it', async () => {
    fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    vi.mocked(api.changeTrial).mockRejectedValueOnce(new ApiError(400, 'push is 9; it must be <= 3.'))
    bench.setSettings('bath-1', { push: 9 })
    await expect(bench.leave()).rejects.toThrow('push is 9')
    expect(bench.saveState).toBe('refused')
    expect(bench.saveMessage).toContain('push is 9')
    bench.setSettings('bath-1', { push: 1 })
    await bench.leave()
    expect(bench.saveState).toBe('saved')
    expect(bench.saveMessage).toBe('')
  })

  it('is settled for the shot it belongs to, though another one is open by then', async () => {
    const server = fakeServer([shotOf(1), shotOf(2)])
    const bench = useBenchStore()
    await bench.open(1)
    await api.changeTrial(10, { revision: 1, recipe: withSettings({ push: 1 }) })
    bench.setSettings('bath-1', { push: 2 })
    await bench.open(2)
    expect(bench.conflict).toMatchObject({ what: 'line', theirs: { id: 10 } })
    bench.settle('mine')
    await rest()
    expect(server.trial(10).recipe.baths[0]!.settings['push']).toBe(2)
    expect(bench.recipe.baths[0]!.settings['push']).toBe(0)
    expect(server.trial(20).revision).toBe(1)
  })

  it('asks about line and preparation one after the other', async () => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    await api.changeTrial(10, { revision: 1, recipe: withSettings({ push: 1 }) })
    await api.changeShot(1, { revision: 1, preparation: balanced({ exposure: 1 }) })
    bench.setSettings('bath-1', { push: 2 })
    bench.setBalance({ exposure: 2 })
    await rest()
    const asked = [bench.conflict!.what]
    bench.settle('mine')
    asked.push(bench.conflict!.what)
    bench.settle('mine')
    expect(asked.sort()).toEqual(['line', 'shot'])
    await rest()
    expect(bench.conflict).toBeNull()
    expect(server.trial(10).recipe.baths[0]!.settings['push']).toBe(2)
    expect(balanceOf(server.shot(1)).exposure).toBe(2)
  })

  it('is sent again when more was changed while it was on its way', async () => {
    const server = fakeServer([shotOf(1)])
    const bench = useBenchStore()
    await bench.open(1)
    const write = vi.mocked(api.changeTrial).getMockImplementation()!
    vi.mocked(api.changeTrial).mockImplementation(async (...sent) => {
      await new Promise((resolve) => setTimeout(resolve, 400))
      return write(...sent)
    })
    bench.setSettings('bath-1', { push: 1 })
    await vi.advanceTimersByTimeAsync(500)
    bench.setSettings('bath-1', { push: 2 })
    const left = bench.leave()
    await vi.advanceTimersByTimeAsync(1000)
    await left
    expect(server.trial(10).recipe.baths[0]!.settings['push']).toBe(2)
    expect(api.changeTrial).toHaveBeenCalledTimes(2)
  })

  it('shows the shot that was asked for last, whichever answer comes last', async () => {
    fakeServer([shotOf(1), shotOf(2)])
    const bench = useBenchStore()
    const read = vi.mocked(api.shot).getMockImplementation()!
    vi.mocked(api.shot).mockImplementation(async (id) => {
      await new Promise((resolve) => setTimeout(resolve, id === 1 ? 300 : 10))
      return read(id)
    })
    const both = [bench.open(1), bench.open(2)]
    await rest()
    await Promise.all(both)
    expect(bench.shot!.id).toBe(2)
    expect(bench.trial!.id).toBe(20)
  })
})
