import { NO_TRIMS, SHIPPED_RECIPES, kernelMemory, newBath, newPart, withPart, type Recipe } from '@fogbath/core'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { FrameStore } from '../src/workers/frames'
import type { ShotSource } from '../src/workers/protocol'
import { SideEngine } from '../src/workers/side'
import { Treater } from '../src/workers/treat'

const [WIDTH, HEIGHT] = [32, 18]
const plain = SHIPPED_RECIPES[0]!
const shot = (mediumId: number, encoding = 'bt1886'): ShotSource => ({
  ...{ type: 'shot', mediumId, encoding },
})

/** The server's frames: of each medium another grey, as 16-bit codes; answered after `ms`. */
function serveFrames(ms = 0, greyOf = (medium: number, frame: number) => 8000 * medium + 100 * frame) {
  return vi.spyOn(globalThis, 'fetch').mockImplementation(async (address) => {
    await new Promise((resolve) => setTimeout(resolve, ms))
    const [, medium, frame] = /media\/(\d+)\/frames\/(\d+)/.exec(String(address))!.map(Number) as [
      number,
      number,
      number,
    ]
    const data = new Uint16Array(3 * WIDTH * HEIGHT).fill(greyOf(medium, frame))
    const headers = { 'x-frame-width': `${WIDTH}`, 'x-frame-height': `${HEIGHT}`, 'x-frame-format': 'u16' }
    return new Response(data.buffer, { headers })
  })
}
afterEach(() => void vi.restoreAllMocks())

describe('the light of a picture', () => {
  it('is each question’s own, where two share one fetch', async () => {
    const asked = serveFrames(5)
    const wanted = (encoding: string) => ({
      ...{ source: shot(3, encoding), frame: 0, width: WIDTH, recipe: plain, trims: NO_TRIMS },
    })
    const probe = (side: SideEngine, encoding: string) => side.probe(wanted(encoding), 0.5, 0.5, 0)
    const [alone, other] = [await probe(new SideEngine(), 'linear'), await probe(new SideEngine(), 'bt1886')]
    expect(alone.scene[0]).toBeCloseTo(24000 / 65535, 4)
    expect(other.scene[0]).not.toBeCloseTo(alone.scene[0], 2)
    asked.mockClear()
    const side = new SideEngine()
    const both = await Promise.all([probe(side, 'linear'), probe(side, 'bt1886'), probe(side, 'linear')])
    expect(asked).toHaveBeenCalledTimes(1)
    expect(both.map((b) => b.scene)).toEqual([alone.scene, other.scene, alone.scene])
  })

  it('is known to be gone once another frame stands in its place', async () => {
    serveFrames()
    const treater = new Treater(new FrameStore(1e6))
    const first = treater.scene(await treater.load(shot(1), 0, WIDTH))
    expect(treater.scene(await treater.load(shot(1), 0, WIDTH))).toBe(first)
    expect(treater.holds(first)).toBe(true)
    treater.scene(await treater.load(shot(1), 1, WIDTH), 'other')
    expect(treater.holds(first)).toBe(true)
    treater.scene(await treater.load(shot(1), 1, WIDTH))
    expect(treater.holds(first)).toBe(false)
  })

  it('gives back what a comparison took once it is over', async () => {
    serveFrames()
    const treater = new Treater(new FrameStore(1e6))
    const scene = treater.scene(await treater.load(shot(1), 0, WIDTH))
    const before = kernelMemory().inUse
    const other = treater.scene(await treater.load(shot(2), 0, WIDTH), 'other-camera')
    treater.copy('other', other.camera)
    expect(kernelMemory().inUse).toBeGreaterThanOrEqual(before + 2 * 16 * WIDTH * HEIGHT)
    treater.forget('other', 'other-camera', 'wiped')
    expect(kernelMemory().inUse).toBe(before)
    expect([treater.holds(scene), treater.holds(other)]).toEqual([true, false])
  })

  it('of the untreated footage is made anew for every other scene', async () => {
    serveFrames()
    const treater = new Treater(new FrameStore(1e6))
    const codeOf = async (medium: number): Promise<number> =>
      treater.footage(treater.scene(await treater.load(shot(medium), 0, WIDTH))).pixels[0]!
    const [one, two, again] = [await codeOf(1), await codeOf(4), await codeOf(1)]
    expect([one, two, again].map((v) => Math.round(v * 65535) / 1000)).toEqual([
      expect.closeTo(8, 0.5),
      expect.closeTo(32, 0.5),
      expect.closeTo(8, 0.5),
    ])
  })

  it('lets a mask read the footage while the page keeps the footage for itself', async () => {
    serveFrames()
    const treater = new Treater(new FrameStore(1e6))
    const tone = newPart('tone', { from: 40, to: 60, soft: 0 })
    const mask = { ...withPart(null, tone), reads: 'footage' as const }
    const bath = { ...newBath('black-and-white', 'grey'), mask }
    const recipe: Recipe = { ...plain, baths: [...plain.baths, bath] }
    const scene = treater.scene(await treater.load(shot(4), 0, WIDTH))
    // Darker by two stops the trimmed footage leaves the mask's tones; what the page shows as footage is not trimmed.
    const trims = { ...NO_TRIMS, exposure: -2 }
    const footage = [...treater.footage(scene).pixels]
    const masked = treater.copy('treated', treater.treat(scene, recipe, trims))
    expect([...treater.footage(scene).pixels]).toEqual(footage)
    expect([...masked.pixels]).toEqual([...treater.treat(scene, { ...recipe, baths: plain.baths }, trims).pixels])
    expect(treater.mask(scene, recipe, trims, 'grey')![0]).toBe(0)
    expect(treater.mask(scene, recipe, NO_TRIMS, 'grey')![0]).toBe(1)
    expect(treater.mask(scene, recipe, NO_TRIMS, plain.baths[0]!.id)).toBeNull()
  })
})

describe('frames kept in the page', () => {
  const frameBytes = 6 * WIDTH * HEIGHT
  it('go by what was used longest ago, and stay within the budget', async () => {
    const asked = serveFrames()
    const store = new FrameStore(3 * frameBytes)
    for (const frame of [0, 1, 2]) await store.get(1, frame, WIDTH)
    await store.get(1, 0, WIDTH)
    await store.get(1, 3, WIDTH)
    expect([0, 1, 2, 3].map((f) => store.peek(1, f, WIDTH) !== undefined)).toEqual([true, false, true, true])
    expect(asked).toHaveBeenCalledTimes(4)
    await store.get(1, 1, WIDTH)
    expect(asked).toHaveBeenCalledTimes(5)
    expect([0, 1, 2, 3].filter((f) => store.peek(1, f, WIDTH))).toHaveLength(3)
  })

  it('say why the server gave none, and ask again next time', async () => {
    const asked = serveFrames()
    asked.mockImplementationOnce(async () => Response.json({ message: 'Frame 9 does not exist.' }, { status: 404 }))
    const store = new FrameStore(1e6)
    await expect(store.get(1, 9, WIDTH)).rejects.toThrow('Frame 9 does not exist.')
    expect((await store.get(1, 9, WIDTH)).data[0]).toBe(8900)
  })
})
