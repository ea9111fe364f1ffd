import { NO_MARKS, changeBath, newBath } from '@fogbath/core/line'
import { newPart, withPart } from '@fogbath/core/masks'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { type Order } from '@fogbath/core/treat'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref, type EffectScope } from 'vue'
import { usePicture } from '../src/bench/usePicture'
import { useReel } from '../src/bench/useReel'
import { useStagePointer } from '../src/bench/useStagePointer'
import { useBenchStore } from '../src/stores/bench'
import { useLookStore } from '../src/stores/look'
import type { PictureRequest, PlayRequest } from '../src/workers/protocol'
import { balanced, fakeServer, shotOf, withSettings } from './fake-server'

const medium = { id: 1, name: 'clip', sha256: '', size: 1, info: { width: 1280, height: 720, frames: 48, fps: '24/1' } }
let scope: EffectScope
beforeEach(() => {
  setActivePinia(createPinia())
  scope = effectScope()
})
afterEach(() => {
  scope.stop()
  localStorage.clear()
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
    stage: ref(null),
    compare: ref({ mode: 'off' as const }),
    scope: ref('waveform' as const),
    scopeOf: ref('picture' as const),
    largeScope: ref(false),
    zoom: ref('fit' as const),
    loop: ref(true),
    reel: useReel(async () => undefined),
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
    expect(made.request.value!.greyCode).toBeCloseTo(0.18 ** (1 / 2.4), 3)
    const srgb = 1.055 * 0.18 ** (1 / 2.4) - 0.055
    bench.shotThere = { ...bench.shotThere!, encoding: 'srgb' }
    expect(made.request.value!.greyCode).toBeCloseTo(srgb, 3)
    // Camera footage is seen as BT.1886.
    bench.shotThere = { ...bench.shotThere!, encoding: 'acescct' }
    expect(made.request.value!.greyCode).toBeCloseTo(0.18 ** (1 / 2.4), 3)
    bench.shotThere = { ...bench.shotThere!, marks: NO_MARKS }
    expect(made.request.value!.greyCode).toBeNull()
  })
  it('is the smallest width that fills the stage, and the footage’s own at any zoom', async () => {
    await openBench()
    const { made, options } = picture()
    expect(made.request.value!.width).toBe(960)
    options.zoom.value = 1 as never
    expect(made.request.value!.width).toBe(1280)
  })
  it('is the previewed recipe without a tap, while one is pointed at', async () => {
    const bench = await openBench()
    const { made } = picture()
    bench.tap = 1
    expect(made.request.value).toMatchObject({ tap: 1 })
    bench.preview = { ...bench.line, recipe: SHIPPED_RECIPES[2]! }
    expect(made.request.value).toMatchObject({ tap: null, order: { recipe: { id: SHIPPED_RECIPES[2]!.id } } })
    bench.preview = { ...bench.line, preparation: balanced({ exposure: 2 }) }
    expect(made.request.value).toMatchObject({ order: { preparation: [{ settings: { exposure: 2 } }] } })
  })
})

describe('the request', () => {
  it('is asked anew when any of its fields has become another, and only then', async () => {
    const masked = changeBath(withSettings({}), 'bath-1', { mask: withPart(null, newPart('ellipse')) })
    const bench = await openBench({ marks: { ...NO_MARKS, grey: 0.18 } })
    const look = useLookStore()
    const { asked, options } = picture()
    bench.change(masked)
    const there = bench.shotThere!
    const reshoot = (more: object): void => void (bench.shotThere = { ...bench.shotThere!, ...more })
    const changes: Record<Exclude<keyof PictureRequest, 'order'> | keyof Order, () => void> = {
      source: () => void (bench.chart = 'wedge'),
      frame: () => void (bench.frame = 7),
      width: () => void (options.zoom.value = 1 as never),
      recipe: () => bench.setSettings('bath-1', { push: 2 }),
      preparation: () => bench.setBalance({ tint: 4 }),
      after: () => bench.changeLine({ ...bench.line, after: [newBath('timing', 'timed', { exposure: 1 })] }),
      encoding: () => reshoot({ encoding: 'srgb' }),
      time: () => bench.toggleKey('strength'),
      tap: () => void (bench.tap = 1),
      compare: () => void (options.compare.value = { mode: 'footage' } as never),
      scope: () => void (options.scope.value = 'vector' as never),
      scopeOf: () => void (options.scopeOf.value = 'both' as never),
      scopeSize: () => void (options.largeScope.value = true as never),
      greyCode: () => bench.setMarks({ ...NO_MARKS, grey: 0.4 }),
      mask: () => void (bench.maskShown = true),
      under: () => void (bench.underMask = true),
      skin: () => {
        bench.setBath('bath-1', { mask: withPart(null, newPart('colour', { picks: [[65, 15, 20]] })) })
      },
      by: () => void (look.painter = 'processor'),
    }
    await nextTick()
    for (const [field, change] of Object.entries(changes)) {
      // From the same state each, so that no change hides behind another.
      bench.shotThere = { ...there, preparation: [] }
      await nextTick()
      const before = asked.at(-1)!.request
      const count = asked.length
      change()
      await nextTick()
      expect(asked.length, field).toBe(count + 1)
      const { order, ...rest } = asked.at(-1)!.request
      const fields = { ...rest, ...order }
      const were = { ...before, ...before.order }
      expect(fields[field as keyof typeof fields], field).not.toEqual(were[field as keyof typeof were])
      // The same again, as new objects: a shot that comes back saved asks for nothing.
      bench.shotThere = JSON.parse(JSON.stringify(bench.shotThere)) as typeof there
      await nextTick()
      expect(asked.length, `${field} again`).toBe(count + 1)
    }
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

describe('playing by keys', () => {
  it('is twice as fast for a second one, however soon it comes, and does not begin once it was stopped', async () => {
    await openBench()
    const { made, asked, engine } = picture()
    const speeds: number[] = []
    engine.play.mockImplementation((async (request: PlayRequest) => void speeds.push(request.speed)) as never)
    const answerAll = () => asked.forEach(({ answer }) => answer({ took: 1, by: 'processor' }))
    const playing = [made.shuttle(-1), made.shuttle(1), made.shuttle(1)]
    answerAll()
    await Promise.all(playing)
    expect(speeds).toEqual([2])
    // One that plays is asked for another speed, and to stop before that has begun.
    engine.play.mockImplementation((() => new Promise(() => undefined)) as never)
    void made.shuttle(1)
    answerAll()
    await vi.waitFor(() => expect(made.playing.value).toBe(true))
    const begun = made.shuttle(1)
    void made.stop()
    answerAll()
    await begun
    expect(made.playing.value).toBe(false)
    expect(speeds).toEqual([2])
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
      stage: ref(document.createElement('div')),
      canvas: ref(canvas),
      zoomed: () => false,
      wiping: () => false,
      measuring: () => true,
      wipeTo: () => undefined,
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
    expect(made.settled.value).toBe(false)
    asked[2]!.answer({ ...drawn, by: 'processor' })
    await vi.advanceTimersByTimeAsync(1000)
    expect([asked.length, made.answer.value!.by, made.settled.value]).toEqual([3, 'processor', true])
    bench.change(withSettings({ push: 0.5 }))
    await vi.advanceTimersByTimeAsync(1)
    expect(made.settled.value).toBe(false)
    asked[3]!.fail(new Error('The frame could not be read.'))
    await vi.advanceTimersByTimeAsync(1)
    expect(made.settled.value).toBe(true)
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
