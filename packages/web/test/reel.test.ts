import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { NOTHING } from '@fogbath/core/line'
import { createPinia, setActivePinia } from 'pinia'
import { partOf } from '../src/bench/reel'
import { useReel } from '../src/bench/useReel'
import { useBenchStore } from '../src/stores/bench'
import type { FrameStore } from '../src/workers/frames'
import { Playing } from '../src/workers/playing'
import type { PictureRequest } from '../src/workers/protocol'
import { beginningsOf, placeAt, secondsAt, type ReelPart } from '../src/workers/reel'
import { fakeServer, shotOf } from './fake-server'

const part = (change: Partial<ReelPart>): ReelPart => ({
  source: { type: 'shot', mediumId: 1, reading: {} },
  order: { preparation: [], recipe: NOTHING, after: [], encoding: 'bt1886' },
  width: 1280,
  first: 0,
  last: 23,
  speed: 1,
  length: 24,
  fps: 24,
  clip: null,
  ...change,
})
/** A second as it was taken, half a second at twice the speed, half a second backwards, a second held, half a second at 48. */
const PARTS = [
  part({ first: 10, last: 33 }),
  part({ first: 0, last: 23, speed: 2, length: 12 }),
  part({ first: 5, last: 16, speed: -1, length: 12 }),
  part({ first: 7, last: 7, speed: 0 }),
  part({ fps: 48, first: 0, last: 23 }),
]
const BEGINNINGS = [0, 1, 1.5, 2, 3, 3.5]

describe('places of the reel', () => {
  it('stand one behind the other, each at its own rate', () => {
    expect(beginningsOf(PARTS)).toEqual(BEGINNINGS)
  })
  it.each([
    [0, 0, 10],
    [0.5, 0, 22],
    [0.9999, 0, 33],
    [1, 1, 0],
    [1.25, 1, 12],
    [1.5, 2, 16],
    [1.75, 2, 10],
    [2, 3, 7],
    [2.9, 3, 7],
    [3, 4, 0],
    [3.25, 4, 12],
  ])('after %d s: shot %d, frame %d', (seconds, index, frame) => {
    expect(placeAt(PARTS, BEGINNINGS, seconds)).toEqual({ index, frame })
  })
  it('end', () => {
    expect(placeAt(PARTS, BEGINNINGS, 3.5)).toBeNull()
    expect(placeAt([], [0], 0)).toBeNull()
  })
  it('are found again from their frames; frames that the edit leaves out at the nearest end', () => {
    for (const [index, frame, seconds] of [
      [0, 22, 0.5],
      [1, 12, 1.25],
      [2, 10, 1.75],
      [3, 7, 2],
      [4, 12, 3.25],
      [0, 2, 0],
      [2, 40, 1.5],
    ] as const)
      expect(secondsAt(PARTS, BEGINNINGS, { index, frame })).toBeCloseTo(seconds, 6)
  })
})

const info = {
  kind: 'clip',
  width: 1280,
  height: 720,
  frames: 48,
  fps: '24/1',
  bits: 8,
  matrix: '709',
  range: 'limited',
}
describe('a shot in the reel', () => {
  const shot = (more: object = {}) => shotOf(1, { medium: { state: 'here', info } as never, ...more })
  const look = { recipe: NOTHING, after: [] }
  it('is seen without what only its dissolves show, as fast as its edit has it', () => {
    const cut = { before: 4, after: 8, speed: 2, length: 18 }
    expect(partOf(shot({ cut }), look)).toMatchObject({ first: 4, last: 39, speed: 2, length: 18, fps: 24 })
    expect(partOf(shot(), look)).toMatchObject({ first: 0, last: 47, speed: 1, length: 48 })
  })
  it('is held for two seconds where it is a still', () => {
    const still = shot({
      first: 0,
      last: 0,
      medium: { state: 'here', info: { ...info, fps: '0/1', frames: 1 } } as never,
    })
    expect(partOf(still, look)).toMatchObject({ first: 0, last: 0, speed: 0, length: 48, fps: 24 })
  })
})

describe('the reel on the bench', () => {
  const medium = (state: string) => ({ state, info }) as never
  it('holds the shots whose footage is here, begins where one is, and opens the shot at which it stops', async () => {
    setActivePinia(createPinia())
    fakeServer([
      shotOf(1, { medium: medium('here') }),
      shotOf(2, { medium: medium('missing') }),
      shotOf(3, { medium: medium('here') }),
    ])
    const bench = useBenchStore()
    await bench.open(3)
    bench.frame = 12
    const opened: number[] = []
    const reel = useReel(async (id) => {
      opened.push(id)
      await bench.open(id)
    })
    expect(reel.parts.value).toHaveLength(2)
    expect(reel.seconds.value).toBeCloseTo(2.5, 6)
    expect(reel.begin(true).from).toEqual({ index: 1, frame: 12 })
    reel.show({ index: 0, frame: 30 })
    expect(reel.shown.value!.id).toBe(1)
    expect(await reel.end()).toBe(true)
    expect([opened, bench.shot!.id, bench.frame]).toEqual([[1], 1, 30])
    // On the same shot it only goes to the frame; from the end it begins anew.
    expect(await reel.go(1, 5)).toBe(false)
    expect(bench.frame).toBe(5)
    await reel.go(3, 47)
    expect(reel.begin(false).from).toEqual({ index: 0, frame: 0 })
  })
})

describe('playing the reel', () => {
  beforeEach(() => void vi.useFakeTimers({ toFake: ['setTimeout', 'performance'] }))
  afterEach(() => void vi.useRealTimers())

  async function played(parts: readonly ReelPart[], loop: boolean, ms: number) {
    const drawn: [medium: number, frame: number, width: number][] = []
    const fetched: string[] = []
    const warmed: number[] = []
    const latest = { width: 960, compare: { mode: 'wipe', at: 0.5, upright: true, against: { type: 'footage' } } }
    const mediumOf = ({ source }: PictureRequest): number => (source.type === 'shot' ? source.mediumId : 0)
    const playing = new Playing({
      frames: {
        get: async ({ mediumId }: { mediumId: number }, frame: number, width: number) =>
          fetched.push(`${mediumId}/${frame}/${width}`),
      } as unknown as FrameStore,
      latest: () => latest as unknown as PictureRequest,
      draw: async (request) => {
        expect(request.compare).toEqual({ mode: 'off' })
        drawn.push([mediumOf(request), request.frame, request.width])
        await new Promise((done) => setTimeout(done, 5))
        return 'processor'
      },
      warm: async (request) => void warmed.push(mediumOf(request)),
    })
    const told: number[] = []
    const done = playing.playReel({ parts, from: { index: 0, frame: parts[0]!.first }, loop }, (place) =>
      told.push(place.index),
    )
    await vi.advanceTimersByTimeAsync(ms)
    const going = playing.going
    playing.stop()
    await vi.advanceTimersByTimeAsync(50)
    await done
    return { drawn, fetched, warmed, told, going }
  }
  const shots = [1, 2].map((mediumId) =>
    part({ source: { type: 'shot', mediumId, reading: {} }, last: 11, length: 12 }),
  )

  it('goes from shot to shot without a gap, to the end', async () => {
    const { drawn, told, going } = await played(shots, false, 2000)
    expect(drawn.map(([medium, frame]) => `${medium}/${frame}`)).toEqual(
      [1, 2].flatMap((medium) => Array.from({ length: 12 }, (_, i) => `${medium}/${i}`)),
    )
    expect(told).toHaveLength(24)
    expect(going).toBe(false)
  })
  it('has the next one ready before its turn: its tables, and its first frames', async () => {
    const long = [part({ ...shots[0]!, last: 71, length: 72 }), shots[1]!]
    const early = await played(long, false, 1000)
    expect([early.warmed, early.fetched.some((f) => f.startsWith('2/'))]).toEqual([[], false])
    const near = await played(long, false, 2500)
    expect(near.warmed).toEqual([2])
    expect(near.fetched).toContain('2/0/960')
    expect(near.drawn.every(([medium]) => medium === 1)).toBe(true)
  })
  it('begins again with the first one', async () => {
    const { drawn, warmed } = await played(shots, true, 1600)
    expect(drawn.map(([medium]) => medium).filter((m, i, all) => m !== all[i - 1])).toEqual([1, 2, 1, 2])
    expect(warmed.slice(0, 2)).toEqual([2, 1])
  })
  it('draws no shot wider than its footage', async () => {
    const { drawn } = await played([part({ width: 640 }), shots[1]!], false, 1300)
    expect(new Set(drawn.map(([medium, , width]) => `${medium}: ${width}`))).toEqual(new Set(['1: 640', '2: 960']))
  })
})
