import { expose } from 'comlink'
import {
  NO_TRIMS,
  STRIP_PATCHES,
  STRIP_WEDGE,
  emit8,
  encodingById,
  lineFigures,
  makeRecode,
  pictureFigures,
  plainSteps,
  type Figure,
  type PointFunction,
  type Recipe,
  type Triple,
  type Trims,
} from '@fogbath/core'
import { FrameStore } from './frames'
import { readProbe, type ProbeReading } from './probe'
import type { PictureAnswer, PictureRequest, PlayRequest, StripColours } from './protocol'
import { drawScope } from './scope-draw'
import { NOTHING, Treater, tapped, type Scene } from './treat'

/** Bytes of decoded frames that one worker keeps. */
const BUDGET = 400e6
const GAP = 4

/** Picture work off the page's thread: the newest question wins, whatever is asked meanwhile is dropped. */
class PictureEngine {
  private readonly treater = new Treater(new FrameStore(BUDGET))
  private canvas: OffscreenCanvas | undefined
  private scope: OffscreenCanvas | undefined
  private run = 0
  private latest: PictureRequest | undefined
  private playing: PlayRequest | undefined
  private readonly stills = new Map<
    number,
    { readonly data: Float32Array; readonly width: number; readonly height: number }
  >()
  private seed = 0

  attach(canvas: OffscreenCanvas, scope: OffscreenCanvas): void {
    this.canvas = canvas
    this.scope = scope
  }

  /** Sets the size of the scope's canvas in device pixels. */
  sizeScope(width: number, height: number): void {
    if (!this.scope || (this.scope.width === width && this.scope.height === height)) return
    this.scope.width = width
    this.scope.height = height
  }

  /** Draws; null when a newer question has come meanwhile. */
  async ask(request: PictureRequest): Promise<(PictureAnswer & { readonly figures: readonly Figure[] }) | null> {
    const started = performance.now()
    const run = ++this.run
    this.latest = request
    if (this.playing) return null
    // Messages that already wait in the queue are let in first, so that of many questions only the last is worked on.
    await new Promise((resolve) => setTimeout(resolve))
    if (run !== this.run) return null
    const scene = await this.treater.scene(request.source, request.frame, request.width)
    if (run !== this.run) return null
    const figures = this.draw(request, scene)
    return {
      width: scene.width,
      height: scene.height,
      frame: request.frame,
      took: performance.now() - started,
      exact: !request.quick,
      figures,
    }
  }

  private draw(request: PictureRequest, scene: Scene): readonly Figure[] {
    const { treater } = this
    const n = scene.width * scene.height
    const footage = treater.copy('footage', treater.footage(scene))
    const recipe = request.compare.mode === 'footage' ? NOTHING : tapped(request.recipe, request.tap)
    const treated =
      request.compare.mode === 'footage'
        ? footage
        : treater.copy('treated', treater.treat(scene, recipe, request.trims, request.quick))
    const other = this.otherSide(request, scene, footage)
    if (request.compare.mode === 'pair' && other) this.paintPair(treated, other, scene.width, scene.height)
    else {
      const shown =
        other && request.compare.mode === 'wipe'
          ? wiped(treater.copy('wiped', treated), other, scene, request.compare.at, request.compare.upright)
          : treated
      this.paint(shown, scene.width, scene.height)
    }
    if (this.scope) {
      const of = request.scopeOf === 'footage' ? footage : treated
      drawScope(
        this.scope,
        request.scope,
        of,
        scene.width,
        scene.height,
        scene.shownIn,
        request.scopeOf === 'both' ? footage : null,
      )
    }
    return pictureFigures(treated, footage, n)
  }

  private otherSide(request: PictureRequest, scene: Scene, footage: Float32Array): Float32Array | null {
    const { compare } = request
    if (compare.mode !== 'wipe' && compare.mode !== 'pair') return null
    const { against } = compare
    if (against.type === 'footage') return footage
    if (against.type === 'recipe')
      return this.treater.copy('other', this.treater.treat(scene, against.recipe, against.trims, request.quick))
    const still = this.stills.get(against.bitmap)
    return still ? fitted(still, scene) : footage
  }

  /** Keeps a still picture to compare with: its pixels as code values. */
  keepStill(id: number, bitmap: ImageBitmap): void {
    const canvas = new OffscreenCanvas(bitmap.width, bitmap.height)
    const pen = canvas.getContext('2d')!
    pen.drawImage(bitmap, 0, 0)
    const { data } = pen.getImageData(0, 0, bitmap.width, bitmap.height)
    this.stills.set(id, { data: Float32Array.from(data, (v) => v / 255), width: bitmap.width, height: bitmap.height })
    bitmap.close()
  }

  private paint(picture: Float32Array, width: number, height: number): void {
    const canvas = this.canvas
    if (!canvas) return
    if (canvas.width !== width || canvas.height !== height) [canvas.width, canvas.height] = [width, height]
    canvas.getContext('2d')!.putImageData(this.dithered(picture, width, height), 0, 0)
  }

  private paintPair(left: Float32Array, right: Float32Array, width: number, height: number): void {
    const canvas = this.canvas
    if (!canvas) return
    ;[canvas.width, canvas.height] = [2 * width + GAP, height]
    const pen = canvas.getContext('2d')!
    pen.putImageData(this.dithered(left, width, height), 0, 0)
    pen.putImageData(this.dithered(right, width, height), width + GAP, 0)
  }

  private dithered(picture: Float32Array, width: number, height: number): ImageData {
    const image = new ImageData(width, height)
    emit8(picture, image.data, width * height, this.seed++)
    return image
  }

  /** Plays until stop(); frames that come too late are left out. @returns by callback the frame shown and the rate */
  async play(request: PlayRequest, onFrame: (frame: number, rate: number) => void): Promise<void> {
    if (!this.latest) return
    this.playing = request
    const begun = performance.now()
    const from = Math.min(Math.max(this.latest.frame, request.first), request.last)
    const length = request.last - request.first + 1
    let shown = -1
    const times: number[] = []
    while (this.playing === request) {
      const passed = Math.floor(((performance.now() - begun) / 1000) * request.fps)
      const position = from - request.first + passed
      if (!request.loop && position >= length) break
      const frame = request.first + (position % length)
      if (frame === shown) {
        await new Promise((resolve) => setTimeout(resolve, 2))
        continue
      }
      shown = frame
      this.fetchAhead(frame, request)
      const asked = this.latest
      const scene = await this.treater.scene(asked.source, frame, asked.width)
      if (this.playing !== request) break
      this.draw({ ...asked, frame, quick: false }, scene)
      times.push(performance.now())
      if (times.length > 24) times.shift()
      const rate = times.length > 1 ? (1000 * (times.length - 1)) / (times[times.length - 1]! - times[0]!) : 0
      onFrame(frame, rate)
      // Lets messages in, such as stop() or a changed recipe.
      await new Promise((resolve) => setTimeout(resolve))
    }
    if (this.playing === request) this.playing = undefined
  }

  stop(): void {
    this.playing = undefined
  }

  private fetchAhead(frame: number, { first, last }: PlayRequest): void {
    const { source, width } = this.latest!
    if (source.type !== 'shot') return
    for (let i = 1; i <= 6; i++) {
      const next = frame + i > last ? first + ((frame + i - last - 1) % (last - first + 1)) : frame + i
      void this.treater.frames.get(source.mediumId, next, width).catch(() => undefined)
    }
  }

  /** Test strips: the footage's, then what leaves each bath. */
  strips(recipe: Recipe, trims: Trims, encoding: string): StripColours[] {
    const steps = plainSteps(recipe, trims)
    const shownIn = encodingById(encoding).refers === 'display' ? encoding : 'bt1886'
    return [steps.footage, ...steps.leaving, steps.whole].map((point) => stripOf(point, shownIn))
  }

  figures(recipe: Recipe, trims: Trims): Figure[] {
    return lineFigures(plainSteps(recipe, trims).whole, plainSteps(NOTHING, NO_TRIMS).footage)
  }

  /** A small treated picture. */
  async thumbnail(
    request: Pick<PictureRequest, 'source' | 'frame' | 'width' | 'recipe' | 'trims'>,
  ): Promise<ImageBitmap> {
    const scene = await this.treater.scene(request.source, request.frame, request.width)
    const picture = this.treater.treat(scene, request.recipe, request.trims, true)
    return createImageBitmap(this.dithered(picture, scene.width, scene.height))
  }

  /** Reads a small area around a place of the picture, u and v 0..1. */
  async probe(request: PictureRequest, u: number, v: number): Promise<ProbeReading> {
    const scene = await this.treater.scene(request.source, request.frame, request.width)
    return readProbe(scene, request.recipe, request.trims, u, v)
  }
}

function stripOf(point: PointFunction, encoding: string): StripColours {
  const lights: Triple[] = [...STRIP_WEDGE.map((g): Triple => [g, g, g]), ...STRIP_PATCHES.map((p) => p.light)]
  const out = new Float64Array(3)
  const codes = new Float32Array(4 * lights.length)
  lights.forEach((light, i) => {
    point(light[0], light[1], light[2], out)
    codes.set(out, 4 * i)
  })
  makeRecode(encodingById(encoding))(codes, lights.length)
  return lights.map(
    (_, i) =>
      [0, 1, 2].map((k) =>
        Math.round(255 * Math.min(1, Math.max(0, codes[4 * i + k]!))),
      ) as unknown as StripColours[number],
  )
}

/** Replaces the part beyond the wipe's edge by the other picture, in place. */
function wiped(
  picture: Float32Array,
  other: Float32Array,
  { width, height }: Scene,
  at: number,
  upright: boolean,
): Float32Array {
  if (upright) {
    const from = Math.round(at * width)
    for (let y = 0; y < height; y++)
      picture.set(other.subarray(4 * (y * width + from), 4 * (y + 1) * width), 4 * (y * width + from))
  } else {
    const from = 4 * Math.round(at * height) * width
    picture.set(other.subarray(from, 4 * width * height), from)
  }
  return picture
}

/** A still at the size of the scene, nearest pixel. */
function fitted(still: { data: Float32Array; width: number; height: number }, scene: Scene): Float32Array {
  const out = new Float32Array(4 * scene.width * scene.height)
  for (let y = 0, at = 0; y < scene.height; y++) {
    const row = Math.floor((y * still.height) / scene.height) * still.width
    for (let x = 0; x < scene.width; x++, at += 4) {
      const from = 4 * (row + Math.floor((x * still.width) / scene.width))
      out.set(still.data.subarray(from, from + 4), at)
    }
  }
  return out
}

export type PictureWorker = PictureEngine
expose(new PictureEngine())
