import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref, type EffectScope } from 'vue'
import { api } from '../src/api/client'
import { useLineReadings } from '../src/bench/useLineReadings'
import { useRested } from '../src/bench/useRested'
import { useBenchStore } from '../src/stores/bench'
import type { Engine } from '../src/workers/engine'
import type { StripColours } from '../src/workers/protocol'
import { fakeServer, shotOf, withSettings } from './fake-server'

let scope: EffectScope
beforeEach(() => {
  setActivePinia(createPinia())
  scope = effectScope()
})
afterEach(() => {
  scope.stop()
  vi.useRealTimers()
  vi.restoreAllMocks()
})

async function openBench() {
  fakeServer([shotOf(1), shotOf(2)])
  const bench = useBenchStore()
  await bench.open(1)
  return bench
}

describe('what is read of a frame that rests', () => {
  it('is not read while it plays, however slowly frames pass, but once it has stopped', async () => {
    vi.useFakeTimers()
    const [frame, plays] = [ref(0), ref(false)]
    const read = vi.fn(async () => undefined)
    scope.run(() => useRested(frame, read, 100, () => plays.value))
    await vi.advanceTimersByTimeAsync(150)
    expect(read).toHaveBeenCalledTimes(1)
    // A question that still waits when playing begins is not put.
    frame.value = 1
    await vi.advanceTimersByTimeAsync(50)
    plays.value = true
    for (let i = 2; i < 5; i++) {
      await vi.advanceTimersByTimeAsync(300)
      frame.value = i
    }
    expect(read).toHaveBeenCalledTimes(1)
    plays.value = false
    await vi.advanceTimersByTimeAsync(150)
    expect(read).toHaveBeenCalledTimes(2)
  })
})

describe('what each bath does to the frame', () => {
  it('is not asked for frames that pass by in playing, but for the one where it stops', async () => {
    vi.useFakeTimers()
    const bench = await openBench()
    const playing = ref(true)
    const changes = vi.fn(async ({ frame }: { frame: number }) => [{ moved: frame / 100, mask: null }])
    const side = { strips: async () => [], figures: async () => [], changes } as unknown as Engine
    const readings = scope.run(() =>
      useLineReadings(
        () => side,
        () => playing.value,
      ),
    )!
    bench.frame = 3
    await vi.advanceTimersByTimeAsync(500)
    expect(changes).not.toHaveBeenCalled()
    bench.frame = 7
    playing.value = false
    await vi.advanceTimersByTimeAsync(500)
    expect(readings.changes.value[0]!.moved).toBe(0.07)
  })
})

describe('test strips', () => {
  it('are those of the newest line, whichever answer comes last', async () => {
    const bench = await openBench()
    const waiting: ((v: StripColours[]) => void)[] = []
    const side = {
      strips: () => new Promise<StripColours[]>((resolve) => waiting.push(resolve)),
      figures: async () => [],
      changes: async () => [],
    } as unknown as Engine
    const readings = scope.run(() =>
      useLineReadings(
        () => side,
        () => false,
      ),
    )!
    await vi.waitFor(() => expect(waiting).toHaveLength(1))
    bench.change(withSettings({ push: 1 }))
    await nextTick()
    expect(waiting, 'the picture goes first').toHaveLength(1)
    await vi.waitFor(() => expect(waiting).toHaveLength(2))
    const strip = (grey: number): StripColours[] => [[[grey, grey, grey]]]
    waiting[1]!(strip(2))
    await vi.waitFor(() => expect(readings.strips.value).toEqual(strip(2)))
    waiting[0]!(strip(1))
    await new Promise((resolve) => setTimeout(resolve, 10))
    expect(readings.strips.value).toEqual(strip(2))
    // And of another shot when that is opened.
    await bench.open(2)
    await vi.waitFor(() => expect(waiting).toHaveLength(3))
    waiting.at(-1)!(strip(3))
    await vi.waitFor(() => expect(readings.strips.value).toEqual(strip(3)))
    expect(api.shot).toHaveBeenCalledTimes(2)
  })
})
