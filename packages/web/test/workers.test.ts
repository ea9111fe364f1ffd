import {
  NO_TRIMS,
  Pictures,
  SHIPPED_RECIPES,
  addKind,
  changeBath,
  newBath,
  newPart,
  withPart,
  type Recipe,
} from '@fogbath/core'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { fitted, wiped, type Still } from '../src/workers/compare'
import { playFrames } from '../src/workers/play'
import { readProbe } from '../src/workers/probe'
import { changesOf, stripsOf } from '../src/workers/strips'
import { tapped, type Scene } from '../src/workers/treat'

/** A picture whose red tells the column and whose green tells the row. */
const picture = (width: number, height: number, blue = 0): Float32Array =>
  Float32Array.from({ length: 4 * width * height }, (_, i) => {
    const p = i >> 2
    return [p % width, Math.floor(p / width), blue, 1][i & 3]!
  })
const pictures = new Pictures()
let made = 0
const held = (pixels: Float32Array) => pictures.copy(`picture ${made++}`, pixels)
const sceneOf = (camera: Float32Array, width: number, height: number): Scene => ({
  ...{ camera: held(camera), width, height, refers: 'scene' },
  shownIn: 'bt1886',
})
const wipe = (scene: Scene, at: number, upright: boolean) =>
  wiped(held(picture(10, 6, 0)), held(picture(10, 6, 9)), scene, at, upright).pixels
const fit = (still: Still, width: number, height: number) => {
  const scene = sceneOf(new Float32Array(4 * width * height), width, height)
  return fitted(still, scene, held(new Float32Array(4 * width * height))).pixels
}

describe('wipes', () => {
  const scene = sceneOf(new Float32Array(0), 10, 6)
  it('show the other picture beyond an upright edge', () => {
    const out = wipe(scene, 0.3, true)
    for (let p = 0; p < 60; p++) expect(out[4 * p + 2]).toBe(p % 10 < 3 ? 0 : 9)
  })
  it('and below a level one; at the ends one picture fills all', () => {
    const out = wipe(scene, 0.5, false)
    for (let p = 0; p < 60; p++) expect(out[4 * p + 2]).toBe(p < 30 ? 0 : 9)
    for (const upright of [true, false]) {
      expect(wipe(scene, 0, upright)).toEqual(picture(10, 6, 9))
      expect(wipe(scene, 1, upright)).toEqual(picture(10, 6, 0))
    }
  })
})

describe('a still beside the picture', () => {
  it('is the same at its own size and repeats pixels when it grows', () => {
    const still = { data: picture(4, 3), width: 4, height: 3 }
    expect(fit(still, 4, 3)).toEqual(still.data)
    const twice = fit(still, 8, 6)
    for (let y = 0; y < 6; y++)
      for (let x = 0; x < 8; x++) expect([twice[4 * (8 * y + x)], twice[4 * (8 * y + x) + 1]]).toEqual([x >> 1, y >> 1])
  })
  it('keeps its shape, with black beside or above it', () => {
    const still = { data: picture(4, 4).map((v, i) => ((i & 3) === 3 ? 1 : v + 1)), width: 4, height: 4 }
    const wide = fit(still, 8, 4)
    expect([...wide.subarray(0, 4)]).toEqual([0, 0, 0, 1])
    expect(wide[4 * 2]).toBe(1)
    expect([...wide.subarray(4 * 7, 4 * 8)]).toEqual([0, 0, 0, 1])
    const tall = fit(still, 4, 8)
    expect([...tall.subarray(0, 4)]).toEqual([0, 0, 0, 1])
    expect(tall[4 * 4 * 2 + 1]).toBe(1)
  })
})

describe('playing', () => {
  beforeEach(() => void vi.useFakeTimers({ toFake: ['setTimeout', 'performance'] }))
  afterEach(() => void vi.useRealTimers())

  async function played(request: { first: number; last: number; loop: boolean }, cost: number, ms: number) {
    const shown: number[] = []
    const told: [number, number][] = []
    let going = true
    const done = playFrames({ ...request, fps: 24 }, request.first, {
      going: () => going,
      show: async (frame) => {
        shown.push(frame)
        await new Promise((resolve) => setTimeout(resolve, cost))
      },
      onFrame: (frame, rate) => told.push([frame, rate]),
    })
    await vi.advanceTimersByTimeAsync(ms)
    going = false
    await vi.advanceTimersByTimeAsync(cost + 10)
    await done
    return { shown, told }
  }

  it('shows every frame at the clip’s rate when there is time, and loops', async () => {
    const { shown, told } = await played({ first: 10, last: 21, loop: true }, 5, 1000)
    expect(shown.slice(0, 13)).toEqual([10, 11, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 10])
    expect(shown.length).toBeGreaterThanOrEqual(23)
    expect(told[told.length - 1]![1]).toBeCloseTo(24, 0)
  })
  it('leaves frames out rather than fall behind the clock', async () => {
    const { shown, told } = await played({ first: 0, last: 47, loop: false }, 100, 1000)
    expect(shown.length).toBeLessThanOrEqual(11)
    expect(shown[shown.length - 1]!).toBeGreaterThanOrEqual(20)
    expect(told[told.length - 1]![1]).toBeLessThan(11)
  })
  it('ends on the last frame when it does not loop', async () => {
    const { shown, told } = await played({ first: 0, last: 5, loop: false }, 5, 2000)
    expect(shown).toEqual([0, 1, 2, 3, 4, 5])
    expect(told[told.length - 1]).toEqual([5, 0])
  })
})

describe('what the line does to a frame', () => {
  const grey = sceneOf(
    Float32Array.from({ length: 4 * 64 }, (_, i) => ((i & 3) === 3 ? 1 : 0.01 + 0.01 * (i >> 2))),
    8,
    8,
  )
  const plain: Recipe = SHIPPED_RECIPES[0]!
  const none = new Map<string, Float32Array>()

  it('tells for each bath how far it moves the picture at most', () => {
    const twice: Recipe = { ...plain, baths: [plain.baths[0]!, { ...plain.baths[0]!, id: 'again' }] }
    const [first, second] = changesOf(grey, twice, NO_TRIMS, none)
    expect(second).toBe(0)
    expect(first).toBeLessThan(0.02)
    const toned = addKind(plain, 'black-and-white')
    const sepia = changeBath(toned, toned.baths[1]!.id, {
      settings: newBath('black-and-white', 'x', { toner1: 'sulphide' }).settings,
    } as never)
    expect(changesOf(grey, sepia, NO_TRIMS, none)[1]).toBeGreaterThan(0.05)
    expect(changesOf(grey, changeBath(sepia, toned.baths[1]!.id, { strength: 0 }), NO_TRIMS, none)[1]).toBe(0)
  })
  it('works only where a mask lets it', () => {
    const id = plain.baths[0]!.id
    const faded = changeBath({ ...plain, baths: [newBath('black-and-white', id, { toner1: 'sulphide' })] }, id, {
      mask: withPart(null, newPart('gradient')),
    })
    const seen = (share: number) => changesOf(grey, faded, NO_TRIMS, new Map([[id, new Float32Array(64).fill(share)]]))
    expect(seen(0)).toEqual([0])
    expect(seen(0.5)[0]! / seen(1)[0]!).toBeCloseTo(0.5, 6)
    // The probe takes the mean of the mask over its area: here the left half of the frame lets all through.
    const half = new Map([[id, Float32Array.from({ length: 64 }, (_, i) => (i % 8 < 4 ? 1 : 0))]])
    const code = (masks: typeof half, u: number, reach: number) =>
      readProbe(grey, faded, NO_TRIMS, u, 0.5, reach, masks).steps.map((s) => s.code[0])
    const [footage, left] = code(half, 0.1, 0)
    expect(left).not.toBeCloseTo(footage!, 3)
    const [untouched, right] = code(half, 0.9, 0)
    expect(right).toBe(untouched)
    const [all, mixed] = [code(new Map([[id, new Float32Array(64).fill(1)]]), 0.5, 0.5), code(half, 0.5, 0.5)]
    expect(mixed[1]).toBeCloseTo((all[0]! + all[1]!) / 2, 6)
  })
  it('makes a strip for the footage, each bath, and the screen', () => {
    const strips = stripsOf(plain, NO_TRIMS, 'bt1886')
    expect(strips).toHaveLength(3)
    // Eleven steps of the wedge from light to dark, neutral, then the patches.
    for (const strip of strips) {
      const wedge = strip.slice(0, 11)
      for (const [r, g, b] of wedge) expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThanOrEqual(1)
      for (let i = 1; i < 11; i++) expect(wedge[i]![1]).toBeLessThanOrEqual(wedge[i - 1]![1])
      expect(strip).toHaveLength(19)
    }
    expect(strips[1]).toEqual(strips[2])
    expect(stripsOf({ ...plain, strength: 0 }, NO_TRIMS, 'bt1886')[2]).toEqual(strips[0])
  })
  it('reads the mean light of an area, and its density before and after each bath', () => {
    const { scene, steps } = readProbe(grey, plain, NO_TRIMS, 0.5, 0.5, 0.5, none)
    expect(scene[0]).toBeCloseTo(0.01 + 0.01 * 31.5, 1)
    expect(steps).toHaveLength(3)
    for (const s of steps) s.density.forEach((d, k) => expect(10 ** -d).toBeCloseTo(s.light[k]!, 6))
    const small = readProbe(grey, plain, NO_TRIMS, 0, 0, 0.004, none)
    expect(small.scene[0]).toBeCloseTo(0.01, 6)
  })
  it('is tapped behind any bath, at full strength', () => {
    const line = addKind({ ...plain, strength: 30 }, 'instant')
    expect(tapped(line, null)).toBe(line)
    expect(tapped(line, 0)).toMatchObject({ strength: 100, baths: [] })
    expect(tapped(line, 1).baths.map((b) => b.kind)).toEqual(['colour-print'])
  })
})
