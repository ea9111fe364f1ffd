import {
  EXACT_SIZE,
  NO_TRIMS,
  QUICK_SIZE,
  SHIPPED_RECIPES,
  Workbench,
  compileLine,
  compileMask,
  drawChart,
  encodingById,
  makeIngest,
  makeRecode,
  maskPlane,
  runPlan,
  type ChartName,
  type Ingest,
  type Plan,
  type Recipe,
  type Recode,
  type Trims,
} from '@fogbath/core'
import type { FrameStore, StoredFrame } from './frames'
import type { ChartSource, ShotSource, Source } from './protocol'

/** A line without any bath: the untreated footage. */
export const NOTHING: Recipe = { ...SHIPPED_RECIPES[0]!, id: 'footage', baths: [] }

/** A picture as scene light. */
export interface Scene {
  readonly camera: Float32Array
  readonly width: number
  readonly height: number
  /** Encoding in which the picture is shown: that of its delivery. */
  readonly shownIn: string
}

/** What a scene is made from: a frame as the server gave it, or only the name of a chart. */
export type Loaded = { readonly key: string; readonly width: number } & (
  | { readonly source: ShotSource; readonly stored: StoredFrame }
  | { readonly source: ChartSource; readonly stored: null }
)

/** Makes a thing once for each key and keeps the youngest few. */
class Kept<T> {
  private readonly things = new Map<string, T>()
  constructor(private readonly most: number) {}
  get(key: string, make: () => T): T {
    const known = this.things.get(key)
    const thing = known ?? make()
    this.things.delete(key)
    this.things.set(key, thing)
    if (this.things.size > this.most) this.things.delete(this.things.keys().next().value!)
    return thing
  }
}

/** What turns footage into treated pictures: tables, plans and buffers, kept from question to question. */
export class Treater {
  private readonly ingests = new Kept<Ingest>(4)
  private readonly plans = new Kept<Plan>(10)
  private readonly masks = new Kept<Plan | null>(10)
  private readonly recodes = new Kept<Recode>(4)
  private readonly charts = new Kept<Float32Array>(3)
  /** Buffers of the plans, and those of what is kept beside them. */
  private readonly bench = new Workbench()
  private readonly pictures = new Workbench()
  /** The last scene of each slot, and whose footage the buffer of that name holds. */
  private readonly scenes = new Map<string, { readonly key: string; readonly scene: Scene }>()
  private footageOf: Scene | undefined

  constructor(readonly frames: FrameStore) {}

  /** Fetches what a scene needs. This is all that takes time: from {@link scene} on nothing may be waited for. */
  async load(source: Source, frame: number, width: number): Promise<Loaded> {
    if (source.type === 'chart') return { key: JSON.stringify([source, width]), source, width, stored: null }
    const stored = await this.frames.get(source.mediumId, frame, width)
    return { key: JSON.stringify([source, frame, width]), source, width, stored }
  }

  /**
   * Scene light of a source. It stands in a buffer that the next call with the same slot overwrites, so the caller
   * uses it at once, without waiting for anything in between.
   */
  scene(loaded: Loaded, slot = 'camera'): Scene {
    const last = this.scenes.get(slot)
    if (last?.key === loaded.key) return last.scene
    const scene = this.read(loaded, slot)
    this.scenes.set(slot, { key: loaded.key, scene })
    return scene
  }

  /** Whether a scene's light is still in its buffer. */
  holds = (scene: Scene): boolean => [...this.scenes.values()].some((kept) => kept.scene === scene)

  private read(loaded: Loaded, slot: string): Scene {
    const shownIn = deliveryOf(loaded.source.encoding)
    if (!loaded.stored) {
      const { source, width } = loaded
      const height = Math.round((width * 9) / 16)
      return { camera: this.chart(source.chart, width, height), width, height, shownIn }
    }
    const { source, stored } = loaded
    const ingest = this.ingests.get(`${source.encoding}/${stored.format}`, () =>
      makeIngest(encodingById(source.encoding), stored.format),
    )
    const n = stored.width * stored.height
    const camera = this.pictures.take(slot, n)
    ingest(stored.data, camera, n)
    const scene = { camera, width: stored.width, height: stored.height, shownIn }
    if (source.half) this.coverHalf(scene, source.half)
    return scene
  }

  private chart(name: ChartName, width: number, height: number): Float32Array {
    return this.charts.get(`${name}/${width}/${height}`, () => drawChart(name, width, height))
  }

  /** Puts a chart over the right half. */
  private coverHalf({ camera, width, height }: Scene, name: ChartName): void {
    const half = width >> 1
    const chart = this.chart(name, half, height)
    for (let y = 0; y < height; y++)
      camera.set(chart.subarray(4 * y * half, 4 * (y + 1) * half), 4 * (y * width + width - half))
  }

  /** Treats a scene; the result is code values of the delivery, in a buffer that the next treatment overwrites. */
  treat(scene: Scene, recipe: Recipe, trims: Trims, quick: boolean): Float32Array {
    const size = quick ? QUICK_SIZE : EXACT_SIZE
    const { baths, strength } = recipe
    const plan = this.plans.get(JSON.stringify([baths, strength, trims, size]), () =>
      compileLine(recipe, { size, trims }),
    )
    const n = scene.width * scene.height
    const picture = runPlan(plan, scene.camera, scene.width, scene.height, this.bench)
    this.recodes.get(scene.shownIn, () => makeRecode(encodingById(scene.shownIn)))(picture, n)
    return picture
  }

  /** The mask of a bath on a scene, 0..1, one number a pixel; null when the bath has none. */
  mask(scene: Scene, recipe: Recipe, trims: Trims, bathId: string): Float32Array | null {
    const plan = this.masks.get(JSON.stringify([recipe.baths, trims, bathId]), () =>
      compileMask(recipe, bathId, { trims }),
    )
    if (!plan) return null
    runPlan(plan, scene.camera, scene.width, scene.height, this.bench)
    return maskPlane(bathId, scene.width * scene.height, this.bench)
  }

  /** The untreated picture; kept as long as the scene is the same. */
  footage(scene: Scene): Float32Array {
    const n = scene.width * scene.height
    if (this.footageOf === scene) return this.pictures.take('footage', n)
    this.footageOf = scene
    return this.copy('footage', this.treat(scene, NOTHING, NO_TRIMS, false))
  }

  /** A plane as a grey picture. */
  grey(plane: Float32Array): Float32Array {
    const picture = this.pictures.take('grey', plane.length)
    for (let i = 0; i < plane.length; i++) picture.fill(plane[i]!, 4 * i, 4 * i + 3)
    return picture
  }

  /** A named buffer of the size of a scene. */
  copy(name: string, picture: Float32Array): Float32Array {
    const buffer = this.pictures.take(name, picture.length / 4)
    buffer.set(picture)
    return buffer
  }
}

/** Display footage is shown as it is delivered; camera footage as BT.1886. */
const deliveryOf = (encoding: string): string => (encodingById(encoding).refers === 'display' ? encoding : 'bt1886')

/** The line up to a tapped bath. */
export function tapped(recipe: Recipe, tap: number | null): Recipe {
  return tap === null ? recipe : { ...recipe, strength: 100, baths: recipe.baths.slice(0, tap) }
}
