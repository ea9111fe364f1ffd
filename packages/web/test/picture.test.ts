import { NO_MARKS, SHIPPED_RECIPES } from '@fogbath/core'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref, type EffectScope } from 'vue'
import { api } from '../src/api/client'
import { useLineReadings } from '../src/bench/useLineReadings'
import { usePicture } from '../src/bench/usePicture'
import { useStagePointer } from '../src/bench/useStagePointer'
import { useBenchStore } from '../src/stores/bench'
import type { Engine } from '../src/workers/engine'
import type { PictureRequest, StripColours } from '../src/workers/protocol'
import { fakeServer, shotOf, withSettings } from './fake-server'

const medium = { id: 1, name: 'clip', sha256: '', size: 1, info: { width: 1280, height: 720, frames: 48, fps: '24/1' } }
let scope: EffectScope
beforeEach(() => {
  setActivePinia(createPinia())
  scope = effectScope()
})
afterEach(() => {
  scope.stop()
  vi.restoreAllMocks()
})

async function openBench(more: object = {}) {
  fakeServer([shotOf(1, { medium: medium as never, ...more }), shotOf(2, { medium: medium as never })])
  const bench = useBenchStore()
  await bench.open(1)
  return bench
}

/** The page's side of the picture, with a worker that answers when it is told to. */
function picture() {
  const asked: { request: PictureRequest; answer: (v: object | null) => void; fail: (e: Error) => void }[] = []
  const engine = {
    ask: (request: PictureRequest) => new Promise((answer, fail) => asked.push({ request, answer, fail })),
    play: vi.fn(async () => undefined as unknown),
    stop: vi.fn(async () => undefined),
  }
  const options = {
    ...{ stage: ref(null), compare: ref({ mode: 'off' as const }), scope: ref('waveform' as const) },
    ...{ scopeOf: ref('picture' as const), zoom: ref('fit' as const), loop: ref(true) },
  }
  const engines = { picture: engine, side: engine, end: () => undefined } as never
  const made = scope.run(() => usePicture(options, engines))!
  return { made, asked, engine, options }
}

describe('what is asked of the worker', () => {
  it('has the grey card where the untreated picture shows it: 18 % of the scene is 18 % on a display', async () => {
    const bench = await openBench({ marks: { ...NO_MARKS, grey: 0.18 } })
    const { made } = picture()
    // BT.1886: the code of 18 % light is its 2.4th root; sRGB by IEC 61966-2-1.
    expect(made.request()!.greyCode).toBeCloseTo(0.18 ** (1 / 2.4), 3)
    const srgb = 1.055 * 0.18 ** (1 / 2.4) - 0.055
    bench.shotThere = { ...bench.shotThere!, encoding: 'srgb' }
    expect(made.request()!.greyCode).toBeCloseTo(srgb, 3)
    // Camera footage is seen as BT.1886.
    bench.shotThere = { ...bench.shotThere!, encoding: 'acescct' }
    expect(made.request()!.greyCode).toBeCloseTo(0.18 ** (1 / 2.4), 3)
    bench.shotThere = { ...bench.shotThere!, marks: NO_MARKS }
    expect(made.request()!.greyCode).toBeNull()
  })
  it('is the smallest width that fills the stage, and the footage’s own at any zoom', async () => {
    await openBench()
    const { made, options } = picture()
    expect(made.request()!.width).toBe(960)
    options.zoom.value = 1 as never
    expect(made.request()!.width).toBe(1280)
  })
  it('is the previewed recipe without a tap, while one is pointed at', async () => {
    const bench = await openBench()
    const { made } = picture()
    bench.tap = 1
    expect(made.request()).toMatchObject({ tap: 1 })
    bench.preview = SHIPPED_RECIPES[2]!
    expect(made.request()).toMatchObject({ tap: null, recipe: { id: SHIPPED_RECIPES[2]!.id } })
  })
})

describe('waiting for a picture', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())

  it('is said after 150 ms, and no longer once the newest answer is there', async () => {
    await openBench()
    const { made, asked } = picture()
    const first = made.ask()
    await vi.advanceTimersByTimeAsync(100)
    expect(made.late.value).toBe(false)
    await vi.advanceTimersByTimeAsync(60)
    expect(made.late.value).toBe(true)
    const second = made.ask()
    // The older question is dropped unanswered; what is shown is still old.
    asked[0]!.answer(null)
    await first
    expect(made.late.value).toBe(true)
    asked[1]!.answer({ took: 9 })
    await second
    expect(made.late.value).toBe(false)
    expect(made.answer.value).toEqual({ took: 9 })
  })
  it('ends with a sentence when it fails', async () => {
    await openBench()
    const { made, asked } = picture()
    const question = made.ask()
    await vi.advanceTimersByTimeAsync(200)
    asked[0]!.fail(new Error('Frame 3 could not be read.'))
    await question
    expect([made.late.value, made.problem.value]).toEqual([false, 'Frame 3 could not be read.'])
  })
  it('of playing ends it, whatever happened', async () => {
    await openBench()
    const { made, asked, engine } = picture()
    engine.play.mockRejectedValueOnce(new Error('The frame is damaged.'))
    const playing = made.play()
    asked[0]!.answer({ took: 1 })
    await playing
    expect([made.playing.value, made.problem.value]).toEqual([false, 'Playing stopped: The frame is damaged.'])
  })
})

describe('an area dragged on the picture', () => {
  function drag(width: number, height: number, to: [number, number]) {
    const canvas = document.createElement('canvas')
    ;[canvas.width, canvas.height] = [width, height]
    canvas.setPointerCapture = () => undefined
    // On the page the picture is 800 wide.
    const box = { left: 0, top: 0, width: 800, height: (800 * height) / width }
    canvas.getBoundingClientRect = () => box as DOMRect
    const measured: (number | undefined)[][] = []
    const pointer = useStagePointer({
      ...{ stage: ref(document.createElement('div')), canvas: ref(canvas) },
      ...{ zoomed: () => false, wiping: () => false, measuring: () => true, wipeTo: () => undefined },
      measure: (...got) => measured.push(got),
    })
    const at = (x: number, y: number) => ({ button: 0, clientX: x, clientY: y, pointerId: 1 }) as PointerEvent
    pointer.press(at(400, box.height / 2))
    pointer.move(at(400 + to[0], box.height / 2 + to[1]))
    pointer.release()
    return measured[0]!
  }
  it('is a square on the picture, as far as the pointer went along or down', () => {
    // 80 pixels of 800 are a tenth of the width, along and down alike.
    expect(drag(1600, 900, [80, 0])[2]).toBeCloseTo(0.1, 9)
    expect(drag(1600, 900, [0, 80])[2]).toBeCloseTo(0.1, 9)
    expect(drag(900, 1600, [-80, 40])[2]).toBeCloseTo(0.1, 9)
    expect(drag(900, 1600, [40, -160])[2]).toBeCloseTo(0.2, 9)
  })
  it('is a point where the pointer hardly moved', () => {
    expect(drag(1600, 900, [2, 2])).toEqual([0.5, 0.5, undefined])
  })
})

describe('a picture that graphics has drawn', () => {
  const drawn = { width: 960, height: 540, frame: 0, took: 5, shownAt: 0, by: 'graphics' }

  it('is drawn again by the processor once it rests, and not before', async () => {
    vi.useFakeTimers()
    const bench = await openBench()
    const { made, asked } = picture()
    void made.ask()
    asked[0]!.answer(drawn)
    await vi.advanceTimersByTimeAsync(100)
    // Something moves again: what rested for a moment does not count.
    bench.change(withSettings({ push: 1 }))
    await vi.advanceTimersByTimeAsync(100)
    expect(asked.map((a) => a.request.by)).toEqual(['auto', 'auto'])
    asked[1]!.answer(drawn)
    await vi.advanceTimersByTimeAsync(200)
    expect(asked.map((a) => a.request.by)).toEqual(['auto', 'auto', 'processor'])
    asked[2]!.answer({ ...drawn, by: 'processor' })
    await vi.advanceTimersByTimeAsync(1000)
    expect([asked.length, made.answer.value!.by]).toEqual([3, 'processor'])
    vi.useRealTimers()
  })

  it('does not come to rest while it plays', async () => {
    const bench = await openBench()
    const { made, asked, engine } = picture()
    engine.play.mockReturnValue(new Promise(() => undefined))
    void made.play()
    asked[0]!.answer(drawn)
    await vi.waitFor(() => expect(engine.play).toHaveBeenCalled())
    await new Promise((resolve) => setTimeout(resolve, 250))
    expect(asked).toHaveLength(1)
    expect(bench.shot).not.toBeNull()
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
    vi.useRealTimers()
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
    const readings = scope.run(() => useLineReadings(() => side))!
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
