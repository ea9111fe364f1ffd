import {
  Kept,
  NO_TRIMS,
  Pictures,
  PlanRunner,
  SHIPPED_RECIPES,
  compileLine,
  compileMask,
  compileScene,
  displayCode,
  drawChart,
  encodingById,
  makeIngest,
  recodeStages,
  straightView,
  type ChartName,
  type Ingest,
  type Picture,
  type Plan,
  type Recipe,
  type Refers,
  type Trims,
} from '@fogbath/core'
import type { FrameStore, StoredFrame } from './frames'
import type { ChartSource, FileSource, ShotSource, Source } from './protocol'

/** A line without any bath: the untreated footage. */
export const NOTHING: Recipe = { ...SHIPPED_RECIPES[0]!, id: 'footage', baths: [] }

/** A picture as lines take it. */
export interface Scene {
  readonly camera: Picture
  /** Whether it holds scene light or display code values. */
  readonly refers: Refers
  readonly width: number
  readonly height: number
  /** Its number: grain and all that moves goes by it. */
  readonly frame: number
  /** Encoding in which the picture is shown: that of its delivery. */
  readonly shownIn: string
}

/** What a scene is made from: a frame as the server gave it, or only the name of a chart. */
export type Loaded = { readonly key: string; readonly width: number; readonly frame: number } & (
  | { readonly source: ShotSource | FileSource; readonly stored: StoredFrame }
  | { readonly source: ChartSource; readonly stored: null }
)

/** What turns footage into treated pictures: tables, plans and buffers, kept from question to question. */
export class Treater {
  private readonly ingests = new Kept<Ingest>(4)
  private readonly plans = new Kept<Plan>(10)
  private readonly masks = new Kept<Plan | null>(10)
  private readonly charts = new Kept<Float32Array>(3)
  private readonly runner = new PlanRunner()
  /** What is kept beside the buffers of the plans. */
  private readonly pictures = new Pictures()
  /** The last scene of each slot, and whose footage the buffer of that name holds. */
  private readonly scenes = new Map<string, { readonly key: string; readonly scene: Scene }>()
  private footageOf: Scene | undefined
  /** The scene that was treated last, and whether its light is kept. */
  private lightOf: { readonly scene: Scene | undefined; readonly made: boolean } = { scene: undefined, made: false }

  constructor(readonly frames: FrameStore) {}

  /** Fetches what a scene needs. This is all that takes time: from {@link scene} on nothing may be waited for. */
  async load(source: Source, frame: number, width: number): Promise<Loaded> {
    if (source.type === 'chart')
      return { key: JSON.stringify([source, frame, width]), source, frame, width, stored: null }
    const { frames } = this
    const stored = await (source.type === 'file'
      ? frames.file(source.url, width)
      : frames.get(source.mediumId, frame, width))
    return { key: JSON.stringify([source, frame, width]), source, frame, width, stored }
  }

  /**
   * A source as lines take it. It stands in a buffer that the next call with the same slot overwrites, so the caller
   * uses it at once, without waiting for anything in between.
   */
  scene(loaded: Loaded, slot = 'camera'): Scene {
    const last = this.scenes.get(slot)
    if (last?.key === loaded.key) return last.scene
    const scene = this.read(loaded, slot)
    this.scenes.set(slot, { key: loaded.key, scene })
    return scene
  }

  /** A scene whose picture came from another worker. */
  adopt = (camera: Float32Array, rest: Omit<Scene, 'camera'>): Scene => ({
    ...rest,
    camera: this.pictures.copy('adopted', camera),
  })

  /** Whether a scene's picture is still in its buffer. */
  holds = (scene: Scene): boolean => [...this.scenes.values()].some((kept) => kept.scene === scene)

  /** Of the scene that is made of it. */
  sizeOf({ source, stored, width, frame }: Loaded): Omit<Scene, 'camera'> {
    const shownIn = deliveryOf(source.encoding)
    if (stored) {
      const { refers } = encodingById(source.encoding)
      return { width: stored.width, height: stored.height, frame, refers, shownIn }
    }
    // Charts are drawn as scene light.
    return { width, height: Math.round((width * 9) / 16), frame, refers: 'scene', shownIn }
  }

  private read(loaded: Loaded, slot: string): Scene {
    const size = this.sizeOf(loaded)
    if (!loaded.stored) {
      const camera = this.pictures.copy(slot, this.chart(loaded.source.chart, size.width, size.height))
      return { camera, ...size }
    }
    const { source, stored } = loaded
    const ingest = this.ingests.get(`${source.encoding}/${stored.format}`, () =>
      makeIngest(encodingById(source.encoding), stored.format),
    )
    const camera = this.pictures.take(slot, stored.width * stored.height)
    ingest(stored.data, camera)
    const scene = { camera, ...size }
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

  /** Treats a scene; the result is code values of the delivery, in a picture that the next treatment overwrites. */
  treat(scene: Scene, recipe: Recipe, trims: Trims): Picture {
    const { camera, width, height, frame } = scene
    const light = this.sceneLight(scene)
    const plan = this.planOf(recipe, trims, scene, light !== undefined)
    return this.runner.run(plan, camera, width, height, { scene: light, frame })
  }

  /** Scene light of display footage, which takes a while to unprint: kept from the second treatment of the same scene on. */
  private sceneLight(scene: Scene): Picture | undefined {
    const { camera, width, height, refers } = scene
    if (refers !== 'display') return undefined
    const known = this.lightOf.scene === scene
    if (known && !this.lightOf.made)
      this.copy('scene light', this.runner.run(compileScene(refers), camera, width, height))
    this.lightOf = { scene, made: known }
    return known ? this.pictures.take('scene light', camera.n) : undefined
  }

  planOf(recipe: Recipe, trims: Trims, { refers, shownIn }: Pick<Scene, 'refers' | 'shownIn'>, given = false): Plan {
    const { baths, strength } = recipe
    return this.plans.get(JSON.stringify([baths, strength, trims, refers, shownIn, given]), () =>
      compileLine(recipe, { trims, refers, given, shown: recodeStages(encodingById(shownIn)) }),
    )
  }

  /** The mask of a bath on a scene, 0..1, one number a pixel; null when the bath has none. */
  mask(
    { camera, width, height, refers, frame }: Scene,
    recipe: Recipe,
    trims: Trims,
    bathId: string,
  ): Float32Array | null {
    const plan = this.masks.get(JSON.stringify([recipe.baths, trims, refers, bathId]), () =>
      compileMask(recipe, bathId, { trims, refers }),
    )
    if (!plan) return null
    this.runner.run(plan, camera, width, height, { frame })
    return this.runner.mask(bathId, width * height).values
  }

  /** The untreated picture; kept as long as the scene is the same. */
  footage(scene: Scene): Picture {
    if (this.footageOf === scene) return this.pictures.take('footage', scene.camera.n)
    this.footageOf = scene
    return this.copy('footage', this.treat(scene, NOTHING, NO_TRIMS))
  }

  /** A plane as a grey picture. */
  grey(plane: Float32Array): Picture {
    const picture = this.pictures.take('grey', plane.length)
    const { pixels } = picture
    for (let i = 0; i < plane.length; i++) pixels.fill(plane[i]!, 4 * i, 4 * i + 3)
    return picture
  }

  /** A copy under a name. */
  copy = (name: string, picture: Picture): Picture => this.pictures.copy(name, picture.pixels)

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

/** Display footage is shown as it is delivered; camera footage as BT.1886. */
const deliveryOf = (encoding: string): string => (encodingById(encoding).refers === 'display' ? encoding : 'bt1886')

/** The line up to a tapped bath. */
export function tapped(recipe: Recipe, tap: number | null): Recipe {
  return tap === null ? recipe : { ...recipe, strength: 100, baths: recipe.baths.slice(0, tap) }
}
