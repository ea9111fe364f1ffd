import { transfer } from 'comlink'
import {
  atWork,
  coloursOfPicture,
  emit8,
  encodingById,
  entryOf,
  incomingOf,
  lineFigures,
  makeLook,
  matchReference,
  plainStages,
  plainSteps,
  proposeLevels,
  worksInSpace,
  type Figure,
  type Incoming,
  type LookFile,
  type LookOptions,
  type MatchProgress,
  type MatchRequest,
  type MatchResult,
  type Picture,
  type Proposal,
  type Recipe,
  type Trims,
} from '@fogbath/core'
import { stillOf } from './compare'
import { FrameStore } from './frames'
import { readProbe, type ProbeReading } from './probe'
import type { BathChange, PictureRequest, StripColours } from './protocol'
import { changesOf, stripsOf } from './strips'
import { NOTHING, Treater, tapped, type Scene } from './treat'

/** Bytes of decoded frames that one worker keeps. */
const BUDGET = 400e6
const SAMPLE_WIDTH = 320
/** What moves less is not seen: half a step of 8 bits. */
const SEEN = 0.5 / 255
/** Size of a mask on its tile. */
const SMALL: ImageBitmapOptions = { resizeWidth: 80, resizeQuality: 'medium' }

export type Wanted = Pick<PictureRequest, 'source' | 'frame' | 'width' | 'recipe' | 'trims'>

/** What is asked beside the shown picture: strips, figures, what each bath does, thumbnails, proofs, probes. */
export class SideEngine {
  protected readonly treater = new Treater(new FrameStore(BUDGET))
  private seed = 0

  strips(recipe: Recipe, trims: Trims, encoding: string): StripColours[] {
    return stripsOf(recipe, trims, encoding)
  }

  figures(recipe: Recipe, trims: Trims): Figure[] {
    return lineFigures(
      plainSteps(recipe, { trims }).whole,
      plainSteps(NOTHING).footage,
      recipe.baths.some((b) => b.mask && atWork(b)),
    )
  }

  /** What each bath does to this frame. */
  async changes({ source, frame, recipe, trims }: Omit<Wanted, 'width'>): Promise<BathChange[]> {
    const scene = this.treater.scene(await this.treater.load(source, frame, SAMPLE_WIDTH))
    const masks = this.masks(scene, recipe, trims)
    const moved = changesOf(scene, recipe, trims, masks).map((most, i) =>
      most < SEEN && worksInSpace(recipe.baths[i]!) ? this.movedInSpace(scene, recipe, trims, i) : most,
    )
    const changes = recipe.baths.map(async ({ id }, i): Promise<BathChange> => {
      const plane = masks.get(id)
      if (!plane) return { moved: moved[i]!, mask: null }
      const image = this.dithered(this.treater.grey(plane), scene.width, scene.height)
      const most = plane.reduce((a, b) => Math.max(a, b), 0)
      return { moved: moved[i]!, mask: { most, picture: await createImageBitmap(image, SMALL) } }
    })
    const done = await Promise.all(changes)
    return transfer(
      done,
      done.flatMap((c) => (c.mask ? [c.mask.picture] : [])),
    )
  }

  /** How far a bath that sees neighbours moves the picture at most: the pictures before and behind it, compared. */
  private movedInSpace(scene: Scene, recipe: Recipe, trims: Trims, at: number): number {
    const before = this.treater.copy('before', this.treater.treat(scene, tapped(recipe, at), trims)).pixels
    const after = this.treater.treat(scene, tapped(recipe, at + 1), trims).pixels
    return before.reduce((most, v, i) => Math.max(most, Math.abs(v - after[i]!)), 0)
  }

  private masks(scene: Scene, recipe: Recipe, trims: Trims): Map<string, Float32Array> {
    const found = recipe.baths.map(({ id }) => [id, this.treater.mask(scene, recipe, trims, id)] as const)
    return new Map(found.filter((f): f is readonly [string, Float32Array] => f[1] !== null))
  }

  /** A small treated picture. */
  async thumbnail(request: Wanted): Promise<ImageBitmap> {
    return createImageBitmap(await this.treated(request))
  }

  /** The treated frame as a PNG file, for keeping. */
  async proof(request: Wanted): Promise<Blob> {
    const image = await this.treated(request)
    const canvas = new OffscreenCanvas(image.width, image.height)
    canvas.getContext('2d')!.putImageData(image, 0, 0)
    return canvas.convertToBlob({ type: 'image/png' })
  }

  private async treated(request: Wanted): Promise<ImageData> {
    const scene = this.treater.scene(await this.treater.load(request.source, request.frame, request.width))
    return this.dithered(this.treater.treat(scene, request.recipe, request.trims), scene.width, scene.height)
  }

  /** Reads an area around a place of the picture, u and v 0..1, `reach` half its side in shares of the width. */
  async probe(request: Wanted, u: number, v: number, reach: number): Promise<ProbeReading> {
    const scene = this.treater.scene(await this.treater.load(request.source, request.frame, request.width))
    const { recipe, trims } = request
    return readProbe(scene, recipe, trims, u, v, reach, this.masks(scene, recipe, trims))
  }

  /** How often values occur in the frame as it comes to a bath. */
  async incoming({ source, frame, recipe, trims }: Omit<Wanted, 'width'>, bathId: string): Promise<Incoming> {
    const scene = this.treater.scene(await this.treater.load(source, frame, SAMPLE_WIDTH))
    const { entering } = plainSteps(recipe, { trims, refers: scene.refers })
    return incomingOf(entering[recipe.baths.findIndex((b) => b.id === bathId)]!, scene.camera.pixels)
  }

  /** Levels for a frame, before all baths. */
  async proposal({ source, frame, trims }: Pick<Wanted, 'source' | 'frame' | 'trims'>): Promise<Proposal> {
    const scene = this.treater.scene(await this.treater.load(source, frame, SAMPLE_WIDTH))
    const { pixels } = scene.camera
    // Camera light has no upper end of its own: what its brightest pixels share is taken for it.
    const top =
      scene.refers === 'display' ? 1 : pixels.reduce((most, v, i) => (i % 4 === 3 ? most : Math.max(most, v)), 0)
    return proposeLevels(plainStages(entryOf(trims, scene.refers).scene), pixels, top)
  }

  /** A look as a file, measured on a frame as well where what the file takes refers to the same as the footage. */
  async look(recipe: Recipe, options: LookOptions, on: Pick<Wanted, 'source' | 'frame'> | null): Promise<LookFile> {
    if (!on) return makeLook(recipe, options)
    const scene = this.treater.scene(await this.treater.load(on.source, on.frame, SAMPLE_WIDTH))
    const takes = encodingById(options.takes ?? 'bt1886')
    if (takes.refers !== scene.refers) return makeLook(recipe, options)
    const frame = coloursOfPicture(scene.camera.pixels, scene.width * scene.height, takes)
    return makeLook(recipe, { ...options, frame })
  }

  /**
   * Fits a process to a reference picture.
   * @param reference a picture file; of the same frame it is brought to the footage's size
   * @param tell answers whether to go on; else what was found so far is the result
   */
  async match(
    { source, frame, trims }: Pick<Wanted, 'source' | 'frame' | 'trims'>,
    reference: Blob,
    options: Pick<MatchRequest, 'sameFrame' | 'kinds' | 'settings'>,
    tell: (progress: MatchProgress) => Promise<boolean>,
  ): Promise<MatchResult> {
    const scene = this.treater.scene(await this.treater.load(source, frame, SAMPLE_WIDTH))
    const { width, height } = scene
    const size = options.sameFrame ? { resizeWidth: width, resizeHeight: height } : { resizeWidth: SAMPLE_WIDTH }
    const { data } = stillOf(await createImageBitmap(reference, { ...size, resizeQuality: 'high' }))
    const footage = scene.camera.pixels.slice(0, 4 * width * height)
    return matchReference({ ...options, footage, refers: scene.refers, trims, reference: data }, tell)
  }

  protected dithered(picture: Picture, width: number, height: number): ImageData {
    const image = new ImageData(width, height)
    emit8(picture, image.data, this.seed++)
    return image
  }
}
