import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref, type EffectScope } from 'vue'
import type { Shot } from '@fogbath/contract'
import { useSound } from '../src/bench/useSound'
import { useBenchStore } from '../src/stores/bench'
import { fakeServer, shotOf } from './fake-server'

/** What was laid down to be heard: when on the context's clock, and from which second of its piece. */
const laid: { when: number; offset: number; piece: number; stopped: boolean }[] = []
const clock = { now: 0 }
class FakeContext {
  readonly state = 'running'
  readonly destination = {}
  get currentTime(): number {
    return clock.now
  }
  createBuffer = (_: number, length: number) => ({
    duration: length / 48_000,
    getChannelData: () => new Float32Array(length),
  })
  close = async (): Promise<void> => undefined
}
class FakeNode {
  private own: (typeof laid)[number] | undefined
  onended: (() => void) | null = null
  constructor(
    _: unknown,
    private readonly options: { buffer: { piece?: number } },
  ) {}
  connect = (): void => undefined
  start(when: number, offset: number): void {
    this.own = { when, offset, piece: this.options.buffer.piece ?? 0, stopped: false }
    laid.push(this.own)
  }
  stop(): void {
    if (this.own) this.own.stopped = true
  }
}

let scope: EffectScope
beforeEach(() => {
  setActivePinia(createPinia())
  scope = effectScope()
  laid.length = 0
  clock.now = 100
  vi.stubGlobal('AudioContext', FakeContext)
  vi.stubGlobal('AudioBufferSourceNode', FakeNode)
})
afterEach(() => {
  scope.stop()
  vi.unstubAllGlobals()
  vi.restoreAllMocks()
})

const info = { fps: '24/1', frames: 480, sound: 2 }
async function playing(of: object = info) {
  fakeServer([shotOf(1, { last: 479, medium: { id: 1, info: of } as unknown as Shot['medium'] })])
  const asked = vi
    .spyOn(globalThis, 'fetch')
    .mockImplementation(async () => new Response(new Int16Array(2 * 4 * 48_000).buffer))
  const bench = useBenchStore()
  await bench.open(1)
  bench.frame = 24
  const [going, muted] = [ref(0), ref(false)]
  scope.run(() => useSound(going, muted))
  const to = async (frame: number, seconds: number): Promise<void> => {
    clock.now = 100 + seconds
    bench.frame = frame
    await nextTick()
    await vi.waitFor(() => expect(asked.mock.results.length).toBeGreaterThanOrEqual(0))
    await new Promise((resolve) => setTimeout(resolve, 5))
  }
  return { bench, going, muted, asked, to }
}

it('begins where the frame is, and goes on piece by piece without a gap', async () => {
  const { going, asked, to } = await playing()
  going.value = 1
  await to(24, 0)
  // Frame 24 is one second in; the piece begins at 0.
  expect(laid).toEqual([{ when: 100, offset: 1, piece: 0, stopped: false }])
  for (const second of [1, 2, 2.5]) await to(24 + 24 * second, second)
  expect(laid).toHaveLength(2)
  // Second 4 of the clip is second 103 of the clock.
  expect(laid[1]).toMatchObject({ when: 103, offset: 0, stopped: false })
  expect(asked.mock.calls.map(([url]) => String(url).replace(/.*\?/, ''))).toEqual([
    'from=0&length=4',
    'from=4&length=4',
  ])
})

it('follows the frames where they come late or jump, and falls silent when they stop', async () => {
  const { going, to } = await playing()
  going.value = 1
  await to(24, 0)
  // A second later only two frames have passed.
  await to(26, 1)
  expect(laid[0]!.stopped).toBe(true)
  expect(laid[1]).toMatchObject({ when: 101, stopped: false })
  expect(laid[1]!.offset).toBeCloseTo(26 / 24, 6)
  await to(0, 1.04)
  expect([laid[1]!.stopped, laid[2]!.offset]).toEqual([true, 0])
  going.value = 0
  await to(0, 1.1)
  expect(laid.every((l) => l.stopped)).toBe(true)
})

it.each([
  ['muted', info, 1, true],
  ['played backwards', info, -1, false],
  ['played twice as fast', info, 2, false],
  ['without sound', { ...info, sound: undefined }, 1, false],
])('is neither fetched nor heard where it is %s', async (_, of, speed, mute) => {
  const { going, muted, asked, to } = await playing(of)
  muted.value = mute
  going.value = speed
  await to(30, 0.25)
  expect([laid, asked.mock.calls.length]).toEqual([[], 0])
})
