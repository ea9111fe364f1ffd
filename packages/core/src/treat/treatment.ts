import { encodingOf, idOfEncoding, type EncodingRef } from '../encodings'
import { recodeStages } from '../cpu/emit'
import { makeIngest, type FrameData, type FrameFormat, type Ingest } from '../cpu/ingest'
import { Pictures, type Picture } from '../cpu/pictures'
import { lineAt } from '../line/at-frame'
import { compileLine, compileMask, compileScene } from '../line/compile'
import type { Refers } from '../line/entry'
import { Recent } from '../numbers/recent'
import type { Plan } from '../plan/plan'
import { PlanRunner } from '../plan/run'
import type { Line } from '../line/parts'
import { Drafts, type Drafted } from './drafts'
import { UNTREATED, shownIn, type Order } from './order'

/** A frame of footage. */
export interface Frame {
  /** Code values, interleaved RGB. */
  readonly data: FrameData
  readonly format: FrameFormat
  readonly width: number
  readonly height: number
  /** Its number: grain and all that moves goes by it. */
  readonly frame: number
}

/** What is known of a picture as lines take it. */
export interface SceneSize {
  /** Whether it holds scene light or display code values. */
  readonly refers: Refers
  readonly width: number
  readonly height: number
  readonly frame: number
  /** Encoding in which it is shown or delivered. */
  readonly shownIn: EncodingRef
}
/** A picture as lines take it. */
export interface Scene extends SceneSize {
  readonly camera: Picture
}

/** Turns footage into treated pictures, for page and server alike: tables, plans and buffers, kept from order to order. */
export class Treatment {
  private readonly ingests = new Recent<Ingest>(4)
  private readonly plans = new Recent<Plan>(10)
  private readonly masks = new Recent<Plan | null>(10)
  private readonly runner = new PlanRunner()
  private readonly drafts = new Drafts()
  /** What is kept beside the buffers of the plans. */
  protected readonly pictures = new Pictures()
  /** Whose footage the buffer of that name holds. */
  private footageOf: Scene | undefined
  /** The scene that was treated last, and whether its light is kept. */
  private lightOf: { readonly scene: Scene | undefined; readonly made: boolean } = { scene: undefined, made: false }

  /**
   * A frame as lines take it. It stands in a buffer that the next call with the same slot overwrites.
   * @param encoding of the footage @param to encoding of the delivery, see {@link shownIn}
   */
  read(
    { data, format, ...size }: Frame,
    encoding: EncodingRef,
    slot = 'camera',
    to: EncodingRef = shownIn(encoding),
  ): Scene {
    const from = encodingOf(encoding)
    const ingest = this.ingests.get(`${from.id}/${format}`, () => makeIngest(from, format))
    const camera = this.pictures.take(slot, size.width * size.height)
    ingest(data, camera)
    return { camera, ...size, refers: from.refers, shownIn: to }
  }

  /** Treats a scene; the result is code values of the delivery, in a picture that the next treatment overwrites. */
  treat(scene: Scene, line: Line): Picture {
    const { camera, width, height, frame } = scene
    const light = this.sceneLight(scene)
    const plan = this.planOf(lineAt(line, frame), scene, light !== undefined)
    return this.runner.run(plan, camera, width, height, { scene: light, frame })
  }

  /**
   * What {@link treat} gives, near enough for a picture that moves: see {@link Drafts}. Footage of a scene has no greatest
   * light that a table could end at.
   * @returns null where the exact run has to do it
   */
  draft(scene: Scene, line: Line): Drafted | null {
    if (scene.refers !== 'display') return null
    return this.drafts.run(this.planOf(lineAt(line, scene.frame), scene), scene.camera)
  }

  /** One frame, from code values of the footage to those of the delivery. @returns what the next treatment overwrites */
  run(frame: Frame, order: Order, to?: EncodingRef): Picture {
    return this.treat(this.read(frame, order.encoding, 'camera', to), order)
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

  planOf(
    { recipe, preparation, after }: Line,
    { refers, shownIn: to }: Pick<SceneSize, 'refers' | 'shownIn'>,
    given = false,
  ): Plan {
    const { baths, strength } = recipe
    return this.plans.get(JSON.stringify([preparation, baths, strength, after, refers, idOfEncoding(to), given]), () =>
      compileLine(recipe, { around: { preparation, after }, refers, given, shown: recodeStages(encodingOf(to)) }),
    )
  }

  /** The mask of a bath on a scene, 0..1, one number a pixel; null when the bath has none. */
  mask({ camera, width, height, refers, frame }: Scene, line: Line, bathId: string): Float32Array | null {
    const { recipe, preparation, after } = lineAt(line, frame)
    const around = { preparation, after }
    const plan = this.masks.get(JSON.stringify([around, recipe.baths, recipe.strength, refers, bathId]), () =>
      compileMask(recipe, bathId, { around, refers }),
    )
    if (!plan) return null
    this.runner.run(plan, camera, width, height, { frame })
    return this.runner.mask(bathId, width * height).values
  }

  /** The untreated picture; kept as long as the scene is the same. */
  footage(scene: Scene): Picture {
    if (this.footageOf === scene) return this.pictures.take('footage', scene.camera.n)
    this.footageOf = scene
    return this.copy('footage', this.treat(scene, UNTREATED))
  }

  /** A copy under a name. */
  copy = (name: string, picture: Picture): Picture => this.pictures.copy(name, picture.pixels)

  /** Gives the buffers back. */
  release(): void {
    this.runner.release()
    this.drafts.release()
    this.pictures.release()
  }
}
