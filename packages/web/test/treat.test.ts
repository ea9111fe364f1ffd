import { kernelMemory } from '@fogbath/core/cpu'
import { newBath, type Bath, type Line, type Recipe } from '@fogbath/core/line'
import { newPart, withPart } from '@fogbath/core/masks'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { FrameStore } from '../src/workers/frames'
import type { FrameOrder } from '../src/workers/protocol'
import { SideEngine } from '../src/workers/side'
import { Treater } from '../src/workers/treat'

const [WIDTH, HEIGHT] = [32, 18]
const plain = SHIPPED_RECIPES[0]!
const by = (recipe: Recipe, preparation: readonly Bath[] = []): Line => ({ recipe, preparation, after: [] })
const shot = (mediumId: number, frame = 0, encoding = 'bt1886'): FrameOrder => ({
  source: { type: 'shot', mediumId, reading: {} },
  frame,
  order: { ...by(plain), encoding },
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
    const wanted = (encoding: string) => ({ ...shot(3, 0, encoding), width: WIDTH })
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
    const first = treater.scene(await treater.load(shot(1), WIDTH))
    expect(treater.scene(await treater.load(shot(1), WIDTH))).toBe(first)
    expect(treater.holds(first)).toBe(true)
    treater.scene(await treater.load(shot(1, 1), WIDTH), 'other')
    expect(treater.holds(first)).toBe(true)
    treater.scene(await treater.load(shot(1, 1), WIDTH))
    expect(treater.holds(first)).toBe(false)
  })

  it('gives back what a comparison took once it is over', async () => {
    serveFrames()
    const treater = new Treater(new FrameStore(1e6))
    const scene = treater.scene(await treater.load(shot(1), WIDTH))
    const before = kernelMemory().inUse
    const other = treater.scene(await treater.load(shot(2), WIDTH), 'other-camera')
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
      treater.footage(treater.scene(await treater.load(shot(medium), WIDTH))).pixels[0]!
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
    const scene = treater.scene(await treater.load(shot(4), WIDTH))
    // Darker by two stops the trimmed footage leaves the mask's tones; what the page shows as footage is not trimmed.
    const preparation = [newBath('balance', 'shot', { exposure: -2 })]
    const footage = [...treater.footage(scene).pixels]
    const masked = treater.copy('treated', treater.treat(scene, by(recipe, preparation)))
    expect([...treater.footage(scene).pixels]).toEqual(footage)
    expect([...masked.pixels]).toEqual([
      ...treater.treat(scene, by({ ...recipe, baths: plain.baths }, preparation)).pixels,
    ])
    expect(treater.mask(scene, by(recipe, preparation), 'grey')![0]).toBe(0)
    expect(treater.mask(scene, by(recipe), 'grey')![0]).toBe(1)
    expect(treater.mask(scene, by(recipe), plain.baths[0]!.id)).toBeNull()
  })
})

describe('frames kept in the page', () => {
  const frameBytes = 6 * WIDTH * HEIGHT
  const footage = { mediumId: 1, reading: {} }
  it('go by what was used longest ago, and stay within the budget', async () => {
    const asked = serveFrames()
    const store = new FrameStore(3 * frameBytes)
    for (const frame of [0, 1, 2, 0, 3]) await store.get(footage, frame, WIDTH)
    expect(asked).toHaveBeenCalledTimes(4)
    // Frame 1 had to go; the others are still there.
    for (const frame of [2, 0, 3]) await store.get(footage, frame, WIDTH)
    expect(asked).toHaveBeenCalledTimes(4)
    await store.get(footage, 1, WIDTH)
    expect(asked).toHaveBeenCalledTimes(5)
  })

  it('are others where the footage is read in another way', async () => {
    const asked = serveFrames()
    const store = new FrameStore(1e6)
    await store.get(footage, 0, WIDTH)
    await store.get({ mediumId: 1, reading: { range: 'full', pixels: '16:15' } }, 0, WIDTH)
    await store.get({ mediumId: 1, reading: { pixels: '16:15', range: 'full' } }, 0, WIDTH)
    expect(asked.mock.calls.map(([url]) => new URL(String(url), 'http://x').searchParams.toString())).toEqual([
      `width=${WIDTH}`,
      `width=${WIDTH}&range=full&pixels=16%3A15`,
    ])
  })

  it('say why the server gave none, and ask again next time', async () => {
    const asked = serveFrames()
    asked.mockImplementationOnce(async () => Response.json({ message: 'Frame 9 does not exist.' }, { status: 404 }))
    const store = new FrameStore(1e6)
    await expect(store.get(footage, 9, WIDTH)).rejects.toThrow('Frame 9 does not exist.')
    expect((await store.get(footage, 9, WIDTH)).data[0]).toBe(8900)
  })
})
