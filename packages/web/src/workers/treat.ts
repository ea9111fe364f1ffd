import { drawChart, type ChartName } from '@fogbath/core/charts'
import { displayCode } from '@fogbath/core/colour'
import { encodingOf, idOfEncoding, type EncodingRef } from '@fogbath/core/encodings'
import { type Picture } from '@fogbath/core/cpu'
import { straightView } from '@fogbath/core/film'
import { Recent } from '@fogbath/core/numbers'
import { Treatment, shownIn, type Scene, type SceneSize } from '@fogbath/core/treat'
import type { FrameStore, StoredFrame } from './frames'
import type { ChartSource, FrameOrder, Source } from './protocol'

type FrameSource = Exclude<Source, ChartSource>

/** What a scene is made from: a frame as the server gave it, or only the name of a chart. */
export type Loaded = {
  readonly key: string
  readonly width: number
  readonly frame: number
  /** Encoding of the footage. */
  readonly encoding: EncodingRef
} & (
  | { readonly source: FrameSource; readonly stored: StoredFrame }
  | { readonly source: ChartSource; readonly stored: null }
)

/** Treats what the page can name: shots, picture files and charts. */
export class Treater extends Treatment {
  private readonly charts = new Recent<Float32Array>(3)
  /** The last scene of each slot. */
  private readonly scenes = new Map<string, { readonly key: string; readonly scene: Scene }>()

  constructor(readonly frames: FrameStore) {
    super()
  }

  /** Fetches what a scene needs. This is all that takes time: from {@link scene} on nothing may be waited for. */
  async load({ source, frame, order: { encoding } }: FrameOrder, width: number): Promise<Loaded> {
    const own = { key: JSON.stringify([source, idOfEncoding(encoding), frame, width]), frame, width, encoding }
    if (source.type === 'chart') return { ...own, source, stored: null }
    return { ...own, source, stored: await this.stored(source, frame, width) }
  }

  private stored(source: FrameSource, frame: number, width: number): Promise<StoredFrame> {
    if (source.type === 'file') return this.frames.file(source.url, width)
    if (source.type === 'render') return this.frames.rendered(source.renderId, frame, width)
    return this.frames.get(source, frame, width)
  }

  /**
   * A source as lines take it. It stands in a buffer that the next call with the same slot overwrites, so the caller
   * uses it at once, without waiting for anything in between.
   */
  scene(loaded: Loaded, slot = 'camera'): Scene {
    const last = this.scenes.get(slot)
    if (last?.key === loaded.key) return last.scene
    const scene = this.made(loaded, slot)
    this.scenes.set(slot, { key: loaded.key, scene })
    return scene
  }

  /** A scene whose picture came from another worker. */
  adopt = (camera: Float32Array, size: SceneSize): Scene => ({ ...size, camera: this.pictures.copy('adopted', camera) })

  /** Whether a scene's picture is still in its buffer. */
  holds = (scene: Scene): boolean => [...this.scenes.values()].some((kept) => kept.scene === scene)

  /** Of the scene that is made of it. Charts are drawn as scene light. */
  sizeOf({ stored, width, frame, encoding }: Loaded): SceneSize {
    const rest = { frame, shownIn: shownIn(encoding) }
    return stored
      ? { ...rest, width: stored.width, height: stored.height, refers: encodingOf(encoding).refers }
      : { ...rest, width, height: Math.round((width * 9) / 16), refers: 'scene' }
  }

  private made(loaded: Loaded, slot: string): Scene {
    if (!loaded.stored) {
      const size = this.sizeOf(loaded)
      return { ...size, camera: this.pictures.copy(slot, this.chart(loaded.source.chart, size.width, size.height)) }
    }
    const { source, stored, encoding, frame } = loaded
    const scene = this.read({ ...stored, frame }, encoding, slot)
    if (source.half) this.coverHalf(scene, source.half)
    return scene
  }

  private chart(name: ChartName, width: number, height: number): Float32Array {
    return this.charts.get(`${name}/${width}/${height}`, () => drawChart(name, width, height))
  }

  /** Puts a chart over the right half. */
  private coverHalf({ camera, width, height, refers }: Scene, name: ChartName): void {
    const half = width >> 1
    const light = this.chart(name, half, height)
    const chart = refers === 'display' ? light.map((v, i) => (i % 4 === 3 ? v : displayCode(straightView(v)))) : light
    const { pixels } = camera
    for (let y = 0; y < height; y++)
      pixels.set(chart.subarray(4 * y * half, 4 * (y + 1) * half), 4 * (y * width + width - half))
  }

  /** A plane as a grey picture. */
  grey(plane: Float32Array): Picture {
    const picture = this.pictures.take('grey', plane.length)
    const { pixels } = picture
    for (let i = 0; i < plane.length; i++) pixels.fill(plane[i]!, 4 * i, 4 * i + 3)
    return picture
  }

  /** Gives pictures back that are not needed any more, with the scenes that stand in them. */
  forget(...names: readonly string[]): void {
    for (const name of names) {
      this.scenes.delete(name)
      this.pictures.giveBack(name)
    }
  }

  /** A picture under a name; what it holds is left from last time. */
  blank = (name: string, n: number): Picture => this.pictures.take(name, n)
}
