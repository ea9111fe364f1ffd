import { transfer } from 'comlink'
import { encodingOf } from '@fogbath/core/encodings'
import { emit8, type Picture } from '@fogbath/core/cpu'
import {
  NOTHING,
  atWork,
  entryOf,
  lineAt,
  plainSteps,
  wholeLine,
  worksInSpace,
  type Line,
  type Recipe,
} from '@fogbath/core/line'
import { coloursOfPicture, makeLook, type LookFile, type LookOptions } from '@fogbath/core/look'
import { matchReference, type MatchProgress, type MatchRequest, type MatchResult } from '@fogbath/core/match'
import {
  incomingOf,
  lineFigures,
  proposeLevels,
  type Figure,
  type Incoming,
  type Proposal,
} from '@fogbath/core/readings'
import { plainStages } from '@fogbath/core/stages'
import { tapped, type Order, type Scene } from '@fogbath/core/treat'
import { stillOf } from './compare'
import { FrameStore } from './frames'
import { readProbe, type ProbeReading } from './probe'
import type { BathChange, FrameOrder, StripColours, Wanted } from './protocol'
import { drawScope } from './scope-draw'
import { changesOf, stripsOf } from './strips'
import { Treater } from './treat'

/** Bytes of decoded frames that one worker keeps. */
const BUDGET = 400e6
const SAMPLE_WIDTH = 320
/** What moves less is not seen: half a step of 8 bits. */
const SEEN = 0.5 / 255
/** Size of a mask on its tile. */
const SMALL: ImageBitmapOptions = { resizeWidth: 80, resizeQuality: 'medium' }

/** What is asked beside the shown picture: strips, figures, what each bath does, thumbnails, proofs, probes. */
export class SideEngine {
  protected readonly treater = new Treater(new FrameStore(BUDGET))
  private seed = 0

  strips(order: Order): StripColours[] {
    return stripsOf(order)
  }

  figures(line: Line): Figure[] {
    return lineFigures(
      plainSteps(line.recipe, { around: line }).whole,
      plainSteps(NOTHING).footage,
      wholeLine(line).some((b) => b.mask && atWork(b)),
    )
  }

  /** The frame as lines take it, at the width that is asked for or that samples are taken at. */
  private async sceneOf(of: FrameOrder, width = SAMPLE_WIDTH): Promise<Scene> {
    return this.treater.scene(await this.treater.load(of, width))
  }

  /** What each bath does to this frame. */
  async changes(of: FrameOrder): Promise<BathChange[]> {
    const scene = await this.sceneOf(of)
    const order = lineAt(of.order, of.frame)
    const baths = wholeLine(order)
    const masks = this.masks(scene, order)
    const moved = changesOf(scene, order, masks).map((most, i) =>
      most < SEEN && worksInSpace(baths[i]!) ? this.movedInSpace(scene, order, i) : most,
    )
    const changes = baths.map(async ({ id }, i): Promise<BathChange> => {
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
  private movedInSpace(scene: Scene, line: Line, at: number): number {
    const before = this.treater.copy('before', this.treater.treat(scene, tapped(line, at))).pixels
    const after = this.treater.treat(scene, tapped(line, at + 1)).pixels
    return before.reduce((most, v, i) => Math.max(most, Math.abs(v - after[i]!)), 0)
  }

  private masks(scene: Scene, line: Line): Map<string, Float32Array> {
    const found = wholeLine(line).map(({ id }) => [id, this.treater.mask(scene, line, id)] as const)
    return new Map(found.filter((f): f is readonly [string, Float32Array] => f[1] !== null))
  }

  /** A small treated picture. */
  async thumbnail(request: Wanted): Promise<ImageBitmap> {
    return createImageBitmap(await this.treated(request))
  }

  /** The waveform of a treated frame. @param size of its picture, pixels */
  async waveform(request: Wanted, size: readonly [width: number, height: number]): Promise<ImageBitmap> {
    const scene = await this.sceneOf(request, request.width)
    const { pixels } = this.treater.treat(scene, request.order)
    const still = { data: pixels, width: scene.width, height: scene.height }
    const canvas = new OffscreenCanvas(...size)
    const { shownIn } = scene
    drawScope(canvas.getContext('2d')!, {
      kind: 'waveform',
      picture: still,
      shownIn,
      greyCode: null,
      ghost: null,
      area: null,
    })
    return canvas.transferToImageBitmap()
  }

  /** The treated frame as a PNG file, for keeping. */
  async proof(request: Wanted): Promise<Blob> {
    const image = await this.treated(request)
    const canvas = new OffscreenCanvas(image.width, image.height)
    canvas.getContext('2d')!.putImageData(image, 0, 0)
    return canvas.convertToBlob({ type: 'image/png' })
  }

  private async treated(request: Wanted): Promise<ImageData> {
    const scene = await this.sceneOf(request, request.width)
    return this.dithered(this.treater.treat(scene, request.order), scene.width, scene.height)
  }

  /** Reads an area around a place of the picture, u and v 0..1, `reach` half its side in shares of the width. */
  async probe(request: Wanted, u: number, v: number, reach: number): Promise<ProbeReading> {
    const scene = await this.sceneOf(request, request.width)
    const order = lineAt(request.order, request.frame)
    return readProbe(scene, order, { u, v, reach }, this.masks(scene, order))
  }

  /** How often values occur in the frame as it comes to a bath. */
  async incoming(of: FrameOrder, bathId: string): Promise<Incoming> {
    const scene = await this.sceneOf(of)
    const order = lineAt(of.order, of.frame)
    const { entering } = plainSteps(order.recipe, { around: order, refers: scene.refers })
    return incomingOf(entering[wholeLine(order).findIndex((b) => b.id === bathId)]!, scene.camera.pixels)
  }

  /** Levels for a frame, before all baths. */
  async proposal(of: FrameOrder): Promise<Proposal> {
    const scene = await this.sceneOf(of)
    const { pixels } = scene.camera
    // Camera light has no upper end of its own: what its brightest pixels share is taken for it.
    const top =
      scene.refers === 'display' ? 1 : pixels.reduce((most, v, i) => (i % 4 === 3 ? most : Math.max(most, v)), 0)
    return proposeLevels(plainStages(entryOf([], scene.refers).scene), pixels, top)
  }

  /** A look as a file, measured on a frame as well where it can be said in the numbers that the file takes. */
  async look(recipe: Recipe, options: LookOptions, on: FrameOrder | null): Promise<LookFile> {
    if (!on) return makeLook(recipe, options)
    const scene = await this.sceneOf(on)
    const takes = encodingOf(options.takes ?? 'bt1886')
    if (takes.refers !== scene.refers || !takes.encode) return makeLook(recipe, options)
    const frame = coloursOfPicture(scene.camera.pixels, scene.width * scene.height, takes)
    return makeLook(recipe, { ...options, frame })
  }

  /**
   * Fits a process to a reference picture.
   * @param references picture files; one of the same frame is brought to the footage's size
   * @param tell answers whether to go on; else what was found so far is the result
   */
  async match(
    of: FrameOrder,
    references: readonly Blob[],
    options: Pick<MatchRequest, 'sameFrame' | 'kinds' | 'settings'>,
    tell: (progress: MatchProgress) => Promise<boolean>,
  ): Promise<MatchResult> {
    const scene = await this.sceneOf(of)
    const { width, height } = scene
    const { preparation, after } = of.order
    const size = options.sameFrame ? { resizeWidth: width, resizeHeight: height } : { resizeWidth: SAMPLE_WIDTH }
    const pictures: Float32Array[] = []
    for (const reference of references)
      pictures.push(stillOf(await createImageBitmap(reference, { ...size, resizeQuality: 'high' })).data)
    const footage = scene.camera.pixels.slice(0, 4 * width * height)
    return matchReference(
      { ...options, footage, refers: scene.refers, around: { preparation, after }, references: pictures },
      tell,
    )
  }

  protected dithered(picture: Picture, width: number, height: number): ImageData {
    const image = new ImageData(width, height)
    emit8(picture, image.data, this.seed++)
    return image
  }
}
