import { afterEach, describe, expect, it, vi } from 'vitest'
import { Pictures, type Picture } from '@fogbath/core/cpu'
import { pictureFigures } from '@fogbath/core/readings'
import { type Scene } from '@fogbath/core/treat'
import { ReadingSender, readPictures, type Reading, type Shown } from '../src/workers/readings'
import type { Treater } from '../src/workers/treat'

declare const process: { once(event: 'uncaughtException', told: (error: Error) => void): void }

/** What the scope was last drawn of; the buffers themselves travel back, so that values are noted at once. */
const scope = vi.hoisted(() => ({
  last: null as null | { kind: unknown; first: number; ghost: number | undefined; area: number[] | null },
  /** Of those that were drawn side by side. */
  beside: [] as number[],
}))
interface Drawn {
  readonly kind: string
  readonly picture: { readonly data: Float32Array }
  readonly ghost: { readonly data: Float32Array } | null
  readonly area: Float32Array | null
}
const failing = vi.hoisted(() => ({ next: false }))
vi.mock('../src/workers/scope-draw', () => ({
  drawScopes: (_: unknown, drawn: readonly Drawn[]) => (scope.beside = drawn.map((d) => d.picture.data[0]!)),
  drawScope: (_: unknown, { kind, picture: still, ghost, area }: Drawn) => {
    if (failing.next) {
      failing.next = false
      throw new Error('no canvas')
    }
    scope.last = { kind, first: still.data[0]!, ghost: ghost?.data[0], area: area && [...area] }
  },
}))

const [WIDTH, HEIGHT] = [4, 3]
const picture = (value: number): Float32Array => new Float32Array(4 * WIDTH * HEIGHT).fill(value)
const pictures = new Pictures()
const adopted = (camera: Float32Array, rest: Omit<Scene, 'camera'>): Scene => ({
  ...rest,
  camera: pictures.copy('adopted', camera),
})
let scenes = 0
const sceneOf = (light: number): Scene => ({
  width: WIDTH,
  height: HEIGHT,
  frame: 0,
  refers: 'scene',
  shownIn: 'bt1886',
  camera: pictures.copy(`scene ${scenes++}`, picture(light)),
})
const shownOf = ({ camera, ...scene }: Scene, value: number, more: Partial<Shown> = {}): Shown => ({
  ...scene,
  camera: camera.pixels,
  scope: 'waveform',
  scopeOf: 'picture',
  scopeSize: [4, 4],
  greyCode: null,
  treated: picture(value),
  area: null,
  skin: null,
  other: null,
  ...more,
})

/** Both ends joined by a channel; `footage` of a scene is its light doubled. */
function joined() {
  const { port1, port2 } = new MessageChannel()
  const told: Reading[] = []
  const footageOf = vi.fn(({ camera }: Scene): Picture =>
    pictures.copy(
      'footage',
      camera.pixels.slice().map((v) => 2 * v),
    ),
  )
  const treater = { footage: footageOf, adopt: adopted } as unknown as Treater
  readPictures(port2, treater, { getContext: () => ({}) } as unknown as OffscreenCanvas, (f) => told.push(f))
  const sender = new ReadingSender(port1)
  const settled = (n: number) => vi.waitFor(() => expect(told).toHaveLength(n))
  return { sender, told, footageOf, settled, end: () => [port1, port2].forEach((p) => p.close()) }
}
let end: () => void = () => undefined
afterEach(() => {
  end()
  scope.last = null
})
const last = () => scope.last!

describe('reading in another worker', () => {
  it('draws the scope and tells the figures of what was shown', async () => {
    const both = joined()
    end = both.end
    const scene = sceneOf(0.3)
    both.sender.offer(scene, () => shownOf(scene, 0.01))
    await both.settled(1)
    expect(both.told[0]).toEqual({
      scope: 'waveform',
      scopeOf: 'picture',
      two: false,
      figures: pictureFigures(picture(0.01), picture(0.6), WIDTH * HEIGHT),
    })
    expect(both.told[0]!.figures[0]!.value).toBe(100)
    expect(last()).toMatchObject({ kind: 'waveform', ghost: undefined, area: null })
    expect(last().first).toBeCloseTo(0.01, 6)
  })
  it('goes on with the next picture when one could not be read', async () => {
    const both = joined()
    end = both.end
    const scene = sceneOf(0.3)
    const uncaught = new Promise<Error>((resolve) => process.once('uncaughtException', resolve))
    failing.next = true
    both.sender.offer(scene, () => shownOf(scene, 0.01))
    expect((await uncaught).message).toBe('no canvas')
    both.sender.offer(scene, () => shownOf(scene, 0.02))
    await both.settled(1)
    expect(last().first).toBeCloseTo(0.02, 6)
    // What fails before it is sent holds up nothing either.
    expect(() => both.sender.offer(scene, () => shownOf(scene, 0, { treated: null as never }))).toThrow()
    both.sender.offer(scene, () => shownOf(scene, 0.03))
    await both.settled(2)
  })
  it('takes the footage, or both, and the part under a mask', async () => {
    const both = joined()
    end = both.end
    const scene = sceneOf(0.3)
    both.sender.offer(scene, () => shownOf(scene, 0.1, { scopeOf: 'footage' }))
    await both.settled(1)
    expect(last().first).toBeCloseTo(0.6, 6)
    const area = Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => i % 2)
    both.sender.offer(scene, () => shownOf(scene, 0.1, { scopeOf: 'both', area }))
    await both.settled(2)
    expect(last().first).toBeCloseTo(0.1, 6)
    expect(last().ghost).toBeCloseTo(0.6, 6)
    expect(last().area).toEqual([...area])
    // The sender's own mask is not given away.
    expect(area).toHaveLength(WIDTH * HEIGHT)
  })
  it('draws another shot at the left of this one, and tells the figures of this one', async () => {
    const both = joined()
    end = both.end
    const scene = sceneOf(0.3)
    const other = picture(0.7)
    both.sender.offer(scene, () => shownOf(scene, 0.1, { other }))
    await both.settled(1)
    expect(scope.beside.map((v) => Number(v.toFixed(3)))).toEqual([0.7, 0.1])
    expect(both.told[0]).toMatchObject({
      two: true,
      figures: pictureFigures(picture(0.1), picture(0.6), WIDTH * HEIGHT),
    })
    // The sender's own picture is not given away.
    expect(other).toHaveLength(4 * WIDTH * HEIGHT)
  })
  it('sends a scene’s light once, and again when the scene is another', async () => {
    const both = joined()
    end = both.end
    const [one, two] = [sceneOf(0.1), sceneOf(0.2)]
    for (const [i, scene] of [one, one, two, two].entries()) {
      both.sender.offer(scene, () => shownOf(scene, 0.5))
      await both.settled(i + 1)
    }
    const scenes = both.footageOf.mock.calls.map(([scene]) => scene)
    expect(scenes[0]).toBe(scenes[1])
    expect(scenes[2]).not.toBe(scenes[1])
    expect(scenes[3]).toBe(scenes[2])
    expect(scenes[2]!.camera.pixels[0]).toBeCloseTo(0.2, 6)
  })
  it('lets only the newest picture wait while one is being read', async () => {
    const both = joined()
    end = both.end
    const scene = sceneOf(0.3)
    const made = [1, 2, 3, 4].map((v) => vi.fn(() => shownOf(scene, v / 10)))
    for (const make of made) both.sender.offer(scene, make)
    await both.settled(2)
    await new Promise((resolve) => setTimeout(resolve, 20))
    expect(made.map((m) => m.mock.calls.length)).toEqual([1, 0, 0, 1])
    expect(last().first).toBeCloseTo(0.4, 6)
  })
  it('lets go of a picture that is gone by its turn, and reads the next', async () => {
    const both = joined()
    end = both.end
    const scene = sceneOf(0.3)
    both.sender.offer(scene, () => null)
    both.sender.offer(scene, () => shownOf(scene, 0.7))
    await both.settled(1)
    expect(last().first).toBeCloseTo(0.7, 6)
  })
})
