import { expose } from 'comlink'
import { canShare, kernelMemory, useThreads, type Picture } from '@fogbath/core/cpu'
import { wholeLine } from '@fogbath/core/line'
import { areaWithin, withinBorders } from '@fogbath/core/readings'
import { tapped, type Scene } from '@fogbath/core/treat'
import { PictureCanvas } from './canvas'
import { fitted, stillOf, wiped, type Still } from './compare'
import { GraphicsPainter, type Put } from './gpu/painter'
import { showMask } from './mask-view'
import { Playing } from './playing'
import type { Painted, PictureAnswer, PictureRequest } from './protocol'
import { ReadingSender, readPictures, type Reading, type Shown } from './readings'
import { SideEngine } from './side'
import type { Help } from './tile.worker'
import type { Loaded } from './treat'

const MOST_STILLS = 12
/** More threads than this gain nothing at the sizes that are shown. */
const MOST_THREADS = 8

/** Who asks again so soon is moving something. */
const MOVING_MS = 400

/** While it plays, or the processor does not draw, readings are renewed this often. */
const READ_MS = 250

/** Picture work off the page's thread: the newest question wins, whatever is asked meanwhile is dropped. */
class PictureEngine extends SideEngine {
  private canvas: PictureCanvas | undefined
  private run = 0
  private latest: PictureRequest | undefined
  private readonly stills = new Map<string, Still>()
  private readings: ReadingSender | undefined
  private readonly graphics = new GraphicsPainter(this.treater)
  private lastRead = 0
  private lastAsked = -Infinity
  private moving = false
  private readonly playing = new Playing({
    frames: this.treater.frames,
    latest: () => this.latest!,
    draw: async (request, going) => {
      const loaded = await this.load(request)
      return going() ? this.draw(request, loaded) : 'processor'
    },
    warm: async (request) => {
      const loaded = await this.treater.load(request, request.width)
      this.treater.treat(this.treater.scene(loaded, 'ready'), request.order)
      this.treater.forget('ready')
    },
  })

  /** Starts threads that share the work on pictures, where the page may share memory; they end with this one. */
  startHelpers(): void {
    if (!canShare()) return
    const threads = Math.min(MOST_THREADS, navigator.hardwareConcurrency)
    for (let thread = 1; thread < threads; thread++) {
      const helper = new Worker(new URL('./tile.worker.ts', import.meta.url), { type: 'module' })
      helper.postMessage({ memory: kernelMemory().memory, thread } satisfies Help)
    }
    useThreads(threads)
  }

  /** @param readings leads to the worker that reads what is shown */
  attach(canvas: OffscreenCanvas, readings: MessagePort): void {
    this.canvas = new PictureCanvas(canvas)
    this.readings = new ReadingSender(readings)
  }

  /** This worker reads what another one shows. @param tell is told what was read */
  attachReadings(scope: OffscreenCanvas, pictures: MessagePort, tell: (reading: Reading) => void): void {
    readPictures(pictures, this.treater, scope, tell)
  }

  /** Draws; null when a newer question has come meanwhile. */
  async ask(request: PictureRequest): Promise<PictureAnswer | null> {
    const started = performance.now()
    const run = ++this.run
    this.moving = started - this.lastAsked < MOVING_MS
    this.lastAsked = started
    this.latest = request
    if (this.playing.going) return null
    // Messages that already wait in the queue are let in first, so that of many questions only the last is worked on.
    await new Promise((resolve) => setTimeout(resolve))
    if (run !== this.run) return null
    const loaded = await this.load(request)
    if (run !== this.run) return null
    const by = this.draw(request, loaded)
    const { width, height } = this.treater.sizeOf(loaded[0])
    return {
      width,
      height,
      by,
      proxy: loaded[0].stored?.proxy ?? false,
      frame: request.frame,
      took: performance.now() - started,
      shownAt: performance.timeOrigin + performance.now(),
    }
  }

  /** The frame that is asked for, and the one of the other shot where one is compared with. */
  private load(request: PictureRequest): Promise<[Loaded, Loaded | null]> {
    const { width, compare } = request
    const pair = compare.mode === 'wipe' || compare.mode === 'pair'
    const other = pair && compare.against.type === 'shot' ? compare.against : null
    return Promise.all([this.treater.load(request, width), other && this.treater.load(other, width)])
  }

  /** Shows the picture and offers it for reading. */
  private draw(request: PictureRequest, loaded: readonly [Loaded, Loaded | null]): Painted {
    if (request.by !== 'processor') this.graphics.want(request.by)
    const put: Put = (from, which) => this.canvas?.put(request.compare, from, which)
    const by =
      request.by !== 'processor' && this.graphics.paint(request, loaded, put)
        ? 'graphics'
        : request.by === 'auto' && this.drawByTable(request, loaded)
          ? 'table'
          : 'processor'
    if (by === 'processor') this.drawByProcessor(request, loaded)
    else this.readBeside(by, request, loaded)
    return by
  }

  /** While something moves. @returns false where no table does, or where more than the treated picture is asked for */
  private drawByTable({ order, tap, compare, mask }: PictureRequest, [own, another]: readonly [Loaded, Loaded | null]) {
    if (another || mask || compare.mode !== 'off' || !(this.moving || this.playing.going)) return false
    const scene = this.treater.scene(own)
    const drafted = this.treater.draft(scene, tapped(order, tap))
    if (drafted) this.paint([drafted.picture], scene)
    return drafted !== null
  }

  /** Whether this picture is read. While it plays, or the processor does not draw, readings come now and then: they cost as much as a picture. */
  private isRead(by: Painted): boolean {
    const now = performance.now()
    if ((this.playing.going || by !== 'processor') && now - this.lastRead < READ_MS) return false
    this.lastRead = now
    return true
  }

  /** Readings are the processor's. */
  private readBeside(by: Painted, request: PictureRequest, [own, other]: readonly [Loaded, Loaded | null]): void {
    if (!this.isRead(by)) return
    setTimeout(() => {
      const scene = this.treater.scene(own)
      const { order, tap, compare } = request
      const treated = (): Picture =>
        compare.mode === 'footage' ? this.treater.footage(scene) : this.treater.treat(scene, tapped(order, tap))
      const another = other && this.treater.scene(other, 'other-camera')
      const beside = comparesShots(request) ? this.otherSide(request, scene, another) : null
      this.readings?.offer(scene, () => this.shown(request, scene, treated(), beside))
    })
  }

  private drawByProcessor(request: PictureRequest, [own, another]: readonly [Loaded, Loaded | null]): void {
    const scene = this.treater.scene(own)
    const otherScene = another && this.treater.scene(another, 'other-camera')
    const { treater } = this
    const { compare } = request
    const line = tapped(request.order, request.tap)
    const read = this.isRead('processor')
    const treat = (): Picture => {
      const picture = treater.treat(scene, line)
      // What is treated next overwrites it.
      return read || compare.mode !== 'off' ? treater.copy('treated', picture) : picture
    }
    const treated = compare.mode === 'footage' ? treater.footage(scene) : treat()
    const other = this.otherSide(request, scene, otherScene)
    if (compare.mode === 'pair' && other) this.paint([other, treated], scene)
    else if (compare.mode === 'wipe' && other)
      this.paint([wiped(treater.copy('wiped', treated), other, scene, compare.at, compare.upright)], scene)
    else {
      this.paint([this.maskSeen(request, scene, treated) ?? treated], scene)
      treater.forget('other', 'other-camera', 'wiped')
    }
    // Behind what the canvas shows: copying it for the reader would hold the picture up.
    const beside = comparesShots(request) ? other : null
    if (read) setTimeout(() => this.readings?.offer(scene, () => this.shown(request, scene, treated, beside)))
  }

  /** What is to be read off a picture; null when it is gone. */
  private shown(request: PictureRequest, scene: Scene, treated: Picture, other: Picture | null): Shown | null {
    if (!this.treater.holds(scene)) return null
    const { scope, scopeOf, scopeSize, greyCode, order, under } = request
    const { width, height, frame, refers, shownIn } = scene
    // A mask stands in a place that the next one overwrites.
    const skin = request.skin === null ? null : (this.treater.mask(scene, order, request.skin)?.slice() ?? null)
    const area = areaWithin(
      withinBorders(wholeLine(tapped(order, request.tap)), width / height),
      width,
      height,
      under ? this.treater.mask(scene, order, under) : null,
    )
    const pictures = { treated: treated.pixels, camera: scene.camera.pixels, other: other?.pixels ?? null }
    return { scope, scopeOf, scopeSize, greyCode, area, skin, ...pictures, width, height, frame, refers, shownIn }
  }

  /** The mask that is to be looked at, as a picture. */
  private maskSeen({ mask, order, compare }: PictureRequest, scene: Scene, treated: Picture): Picture | null {
    if (!mask || compare.mode !== 'off') return null
    const plane = this.treater.mask(scene, order, mask.bath)
    if (!plane || mask.view === 'white') return plane && this.treater.grey(plane)
    const picture = this.treater.blank('grey', plane.length)
    showMask(mask.view, plane, treated.pixels, picture.pixels, scene.width)
    return picture
  }

  private otherSide({ compare }: PictureRequest, scene: Scene, otherScene: Scene | null): Picture | null {
    if (compare.mode !== 'wipe' && compare.mode !== 'pair') return null
    const { against } = compare
    const { treater } = this
    const fit = (still: Still): Picture => fitted(still, scene, treater.blank('other', scene.camera.n))
    if (against.type === 'line') return treater.copy('other', treater.treat(scene, against.line))
    if (against.type === 'shot' && otherScene) {
      const { pixels } = treater.treat(otherScene, against.order)
      return fit({ data: pixels, width: otherScene.width, height: otherScene.height })
    }
    const still = against.type === 'still' ? this.stills.get(against.key) : undefined
    return still ? fit(still) : treater.footage(scene)
  }

  /** Keeps a still picture to compare with; the oldest of many goes. */
  keepStill(key: string, bitmap: ImageBitmap): void {
    this.stills.set(key, stillOf(bitmap))
    if (this.stills.size > MOST_STILLS) this.stills.delete(this.stills.keys().next().value!)
  }

  /** Pictures side by side on the canvas. */
  private paint(pictures: readonly Picture[], { width, height }: Scene): void {
    this.canvas?.show(pictures.map((p) => this.dithered(p, width, height)))
  }

  /** Plays until stop(). */
  async play(...args: Parameters<Playing['play']>): Promise<void> {
    if (this.latest) await this.playing.play(...args)
  }
  async playReel(...args: Parameters<Playing['playReel']>): Promise<void> {
    if (this.latest) await this.playing.playReel(...args)
  }
  stop(): void {
    this.playing.stop()
  }
}

/** Whether another shot stands beside this one: then both are read. */
const comparesShots = ({ compare }: PictureRequest): boolean =>
  (compare.mode === 'pair' || compare.mode === 'wipe') && compare.against.type === 'shot'

// What fails without anybody waiting for it is told to the page as an error of the worker.
self.addEventListener('unhandledrejection', (e) => {
  e.preventDefault()
  reportError(e.reason)
})

export type PictureWorker = PictureEngine
expose(new PictureEngine())
