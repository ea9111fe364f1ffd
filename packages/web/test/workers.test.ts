import { Pictures } from '@fogbath/core/cpu'
import { NOTHING_AROUND, addKind, changeBath, newBath, type Line, type Recipe } from '@fogbath/core/line'
import { newPart, withPart } from '@fogbath/core/masks'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { tapped, type Scene } from '@fogbath/core/treat'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { fitted, wiped, type Still } from '../src/workers/compare'
import { playFrames } from '../src/workers/play'
import { readProbe } from '../src/workers/probe'
import { changesOf, stripsOf } from '../src/workers/strips'

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
  camera: held(camera),
  width,
  height,
  frame: 0,
  refers: 'scene',
  shownIn: 'bt1886',
})
/** Through a look alone. */
const by = (recipe: Recipe): Line => ({ ...NOTHING_AROUND, recipe })
const wipe = (scene: Scene, at: number, upright: boolean) =>
  wiped(held(picture(10, 6, 0)), held(picture(10, 6, 9)), scene, at, upright).pixels
const fit = (still: Still, width: number, height: number) => {
  const scene = sceneOf(new Float32Array(4 * width * height), width, height)
  return fitted(still, scene, held(new Float32Array(4 * width * height))).pixels
}

describe('wipes', () => {
  const scene = sceneOf(new Float32Array(0), 10, 6)
  it('show the other picture at the left of an upright edge: before is left', () => {
    const out = wipe(scene, 0.3, true)
    for (let p = 0; p < 60; p++) expect(out[4 * p + 2]).toBe(p % 10 < 3 ? 9 : 0)
  })
  it('and above a level one; at the ends one picture fills all', () => {
    const out = wipe(scene, 0.5, false)
    for (let p = 0; p < 60; p++) expect(out[4 * p + 2]).toBe(p < 30 ? 9 : 0)
    for (const upright of [true, false]) {
      expect(wipe(scene, 1, upright)).toEqual(picture(10, 6, 9))
      expect(wipe(scene, 0, upright)).toEqual(picture(10, 6, 0))
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

  async function played(
    request: { first: number; last: number; loop: boolean; speed?: number },
    cost: number,
    ms: number,
    from = request.first,
  ) {
    const shown: number[] = []
    const told: [number, number][] = []
    let going = true
    const done = playFrames({ fps: 24, speed: 1, clip: null, ...request }, from, {
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
  it('goes backwards, and twice as fast by leaving out every other frame', async () => {
    const back = await played({ first: 10, last: 21, loop: true, speed: -1 }, 5, 700, 13)
    expect(back.shown.slice(0, 7)).toEqual([13, 12, 11, 10, 21, 20, 19])
    const ended = await played({ first: 10, last: 21, loop: false, speed: -1 }, 5, 1000, 12)
    expect(ended.shown.slice(-2)).toEqual([11, 10])
    const fast = await played({ first: 0, last: 47, loop: true, speed: 2 }, 5, 700)
    expect(fast.shown.at(-1)!).toBeGreaterThan(28)
    expect(fast.shown.length).toBeGreaterThan(20)
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
    const [first, second] = changesOf(grey, by(twice), none)
    expect(second).toBe(0)
    expect(first).toBeLessThan(0.02)
    const toned = addKind(plain, 'black-and-white')
    const sepia = changeBath(toned, toned.baths[1]!.id, {
      settings: newBath('black-and-white', 'x', { toner1: 'sulphide' }).settings,
    } as never)
    expect(changesOf(grey, by(sepia), none)[1]).toBeGreaterThan(0.05)
    expect(changesOf(grey, by(changeBath(sepia, toned.baths[1]!.id, { strength: 0 })), none)[1]).toBe(0)
  })
  it('works only where a mask lets it', () => {
    const id = plain.baths[0]!.id
    const faded = changeBath({ ...plain, baths: [newBath('black-and-white', id, { toner1: 'sulphide' })] }, id, {
      mask: withPart(null, newPart('gradient')),
    })
    const seen = (share: number) => changesOf(grey, by(faded), new Map([[id, new Float32Array(64).fill(share)]]))
    expect(seen(0)).toEqual([0])
    expect(seen(0.5)[0]! / seen(1)[0]!).toBeCloseTo(0.5, 6)
    // The probe takes the mean of the mask over its area: here the left half of the frame lets all through.
    const half = new Map([[id, Float32Array.from({ length: 64 }, (_, i) => (i % 8 < 4 ? 1 : 0))]])
    const code = (masks: typeof half, u: number, reach: number) =>
      readProbe(grey, by(faded), { u, v: 0.5, reach }, masks).steps.map((s) => s.code[0])
    const [footage, left] = code(half, 0.1, 0)
    expect(left).not.toBeCloseTo(footage!, 3)
    const [untouched, right] = code(half, 0.9, 0)
    expect(right).toBe(untouched)
    const [all, mixed] = [code(new Map([[id, new Float32Array(64).fill(1)]]), 0.5, 0.5), code(half, 0.5, 0.5)]
    expect(mixed[1]).toBeCloseTo((all[0]! + all[1]!) / 2, 6)
  })
  it('makes a strip for the footage, each bath, and the screen', () => {
    const strips = stripsOf({ ...by(plain), encoding: 'bt1886' })
    expect(strips).toHaveLength(3)
    // Eleven steps of the wedge from light to dark, neutral, then the patches.
    for (const strip of strips) {
      const wedge = strip.slice(0, 11)
      for (const [r, g, b] of wedge) expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThanOrEqual(1)
      for (let i = 1; i < 11; i++) expect(wedge[i]![1]).toBeLessThanOrEqual(wedge[i - 1]![1])
      expect(strip).toHaveLength(19)
    }
    expect(strips[1]).toEqual(strips[2])
    expect(stripsOf({ ...by({ ...plain, strength: 0 }), encoding: 'bt1886' })[2]).toEqual(strips[0])
  })
  it('makes strips in the encoding that the footage is shown in', () => {
    const strip = (encoding: 'bt1886' | 'srgb') => stripsOf({ ...by(plain), encoding })[0]!.slice(0, 11)
    // The same light: BT.1886 with gamma 2.4 (Rec. ITU-R BT.1886), and the curve of IEC 61966-2-1.
    const srgb = (light: number): number => (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055)
    strip('srgb').forEach(([code], i) => {
      const [video] = strip('bt1886')[i]!
      expect(Math.abs(code - 255 * srgb((video / 255) ** 2.4))).toBeLessThan(2.5)
    })
  })
  it('reads the mean light of an area, and its density before and after each bath', () => {
    const { scene, steps } = readProbe(grey, by(plain), { u: 0.5, v: 0.5, reach: 0.5 }, none)
    expect(scene[0]).toBeCloseTo(0.01 + 0.01 * 31.5, 1)
    expect(steps).toHaveLength(3)
    for (const s of steps) s.density.forEach((d, k) => expect(10 ** -d).toBeCloseTo(s.light[k]!, 6))
    const small = readProbe(grey, by(plain), { u: 0, v: 0, reach: 0.004 }, none)
    expect(small.scene[0]).toBeCloseTo(0.01, 6)
  })
  it('is tapped behind any bath, at full strength', () => {
    const line = by(addKind({ ...plain, strength: 30 }, 'instant'))
    expect(tapped(line, null)).toEqual(line)
    expect(tapped(line, 0).recipe).toMatchObject({ strength: 100, baths: [] })
    expect(tapped(line, 1).recipe.baths.map((b) => b.kind)).toEqual(['colour-print'])
  })
})
