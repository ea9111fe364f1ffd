import { asNewLine, newBath, type Step } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { moveOver } from '../src/bench/moveOver'
import { useBenchStore } from '../src/stores/bench'
import { balanceOf, balanced, fakeServer, shotOf, trialOf } from './fake-server'

const sepia = SHIPPED_RECIPES.find((r) => r.id === 'sepia')!
const says = { info: vi.fn<(text: string) => void>(), warning: vi.fn<(text: string) => void>() }

beforeEach(() => {
  vi.useFakeTimers()
  setActivePinia(createPinia())
  says.info.mockClear()
  says.warning.mockClear()
})
afterEach(() => {
  vi.useRealTimers()
  vi.restoreAllMocks()
})
const rest = () => vi.advanceTimersByTimeAsync(1200)

async function opened(more: Parameters<typeof shotOf>[1] = {}) {
  const server = fakeServer([shotOf(1, more), shotOf(2, { preparation: balanced({ exposure: -1 }) })])
  const bench = useBenchStore()
  await bench.open(1)
  return { server, bench }
}

describe('what is the shot’s', () => {
  it('stays when other looks come, for all trials, and is undone by itself', async () => {
    const { server, bench } = await opened({ trials: [trialOf(10, 1), { ...trialOf(11, 1, sepia), name: 'B' }] })
    bench.setBalance({ exposure: 1 })
    bench.change(asNewLine(sepia))
    bench.addOwn('timing')
    bench.change(asNewLine(SHIPPED_RECIPES[2]!))
    expect(bench.line.after.map((b) => b.kind)).toEqual(['timing'])
    bench.chooseTrial(bench.shot!.trials[1]!)
    expect(balanceOf(bench.shot!).exposure).toBe(1)
    expect(bench.line.after).toEqual([])
    await rest()
    expect(balanceOf(server.shot(1)).exposure).toBe(1)
    expect(server.trial(10).after.map((b) => b.kind)).toEqual(['timing'])
    for (let i = 0; i < 3; i++) await bench.undo()
    expect([bench.trial!.id, bench.line.after.length, balanceOf(bench.shot!).exposure]).toEqual([10, 0, 1])
    await bench.undo()
    expect(balanceOf(bench.shot!).exposure).toBe(0)
    for (let i = 0; i < 4; i++) await bench.redo()
    expect([bench.line.after.length, balanceOf(bench.shot!).exposure]).toEqual([1, 1])
  })
  it('gets a balance of its own where it has none, before everything', async () => {
    const { bench } = await opened({ preparation: [newBath('printer-lights', 'lights')] })
    bench.setBalance({ kelvin: 4000 })
    expect(bench.inLine.map((b) => b.kind)).toEqual(['balance', 'printer-lights', 'colour-print'])
  })
  it('is kept by other shots when a look is put on them', async () => {
    const { server, bench } = await opened()
    await bench.putOn([bench.shots[1]!], () => sepia)
    expect([server.trial(20).recipe.id, balanceOf(server.shot(2)).exposure]).toEqual(['sepia', -1])
  })
  it('is set for several shots as one step, each in its own way', async () => {
    const { server, bench } = await opened()
    await bench.prepare(bench.shots, (shot) => balanced({ exposure: shot.id }))
    expect([1, 2].map((id) => balanceOf(server.shot(id)).exposure)).toEqual([1, 2])
    await bench.undo()
    expect([1, 2].map((id) => balanceOf(server.shot(id)).exposure)).toEqual([0, -1])
    await bench.redo()
    expect([1, 2].map((id) => balanceOf(server.shot(id)).exposure)).toEqual([1, 2])
  })
})

describe('a bath that goes over a joint', () => {
  it('changes hands, which is said, as one step of undo', async () => {
    const { bench } = await opened()
    bench.addOwn('timing')
    const timing = bench.chosen!
    moveOver(bench, says, timing, 'look', 1)
    expect(bench.recipe.baths.map((b) => b.kind)).toEqual(['colour-print', 'timing'])
    expect(bench.line.after).toEqual([])
    expect([bench.bath!.kind, bench.chosen === timing]).toEqual(['timing', false])
    expect(says.info.mock.calls[0]![0]).toBe('Timing is part of the look now: it goes where the look goes.')
    const step = bench.history.past.at(-1)!.step as Extract<Step, { kind: 'parts' }>
    expect([step.recipe?.baths.length, step.after?.length, step.preparation]).toEqual([1, 1, undefined])
    await bench.undo()
    expect([bench.recipe.baths.length, bench.line.after.length]).toEqual([1, 1])
    moveOver(bench, says, 'shot', 'look', 0)
    expect(bench.line.preparation).toEqual([])
    expect(bench.recipe.baths.map((b) => b.kind)).toEqual(['balance', 'colour-print'])
  })
  it('is refused with the reason where it cannot stand there', async () => {
    const { bench } = await opened()
    const before = bench.line
    moveOver(bench, says, 'bath-1', 'after', 0)
    expect(bench.line).toEqual(before)
    expect(says.warning.mock.calls[0]![0]).toMatch(
      /Colour print is part of a look; behind the look stand baths of Finish/,
    )
  })
})

it('baths that are copied or added to others go where they belong', async () => {
  const { server, bench } = await opened()
  bench.chosen = 'shot'
  bench.copy()
  await bench.addBaths([bench.shots[1]!], [...bench.baths, newBath('contrast', 'c', { amount: 20 })])
  expect(server.shot(2).preparation.map((b) => b.kind)).toEqual(['balance', 'balance'])
  expect(server.trial(20).recipe.baths.map((b) => b.kind)).toEqual(['colour-print', 'contrast'])
  bench.paste()
  expect(bench.line.preparation.map((b) => b.kind)).toEqual(['balance', 'balance'])
})
