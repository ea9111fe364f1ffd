import { PlanRunner } from '@fogbath/core/plan'
import { lineAt, type Line } from '@fogbath/core/line'
import { UNTREATED, tapped, type SceneSize } from '@fogbath/core/treat'
import type { Against, Painter, PictureRequest } from '../protocol'
import type { Loaded, Treater } from '../treat'
import { Device, type Texture } from './device'
import { NotReady } from './program'
import { GraphicsRunner } from './runner'
import { Screen } from './screen'
import { agrees, isQuicker, type Sides } from './trust'

/** The first pictures are the processor's. */
const SOON_MS = 300
/** When a lost context is tried again, and how often that is done. */
const AGAIN_MS = 2000
const MOST_LOSSES = 5

/** Takes a drawn picture over: the treated one, or the one that it is compared with. */
export type Put = (canvas: OffscreenCanvas, which: 'own' | 'other') => void

/**
 * Draws pictures by graphics hardware where that agrees with the processor. Whatever it cannot do, and whatever goes
 * wrong, is left to the processor without a word.
 */
export class GraphicsPainter {
  private sides: Sides | undefined
  private wanted: Painter | undefined
  private timer: ReturnType<typeof setTimeout> | undefined
  private quicker: boolean | undefined
  private losses = 0
  private seed = 0

  constructor(private readonly treater: Treater) {}

  /** Graphics that is wanted for the first time is opened and tried a little later: nothing waits for it. */
  want(wanted: 'auto' | 'graphics'): void {
    if (wanted === this.wanted) return
    this.wanted = wanted
    this.sides = undefined
    this.openIn(SOON_MS)
  }

  private openIn(ms: number): void {
    clearTimeout(this.timer)
    this.timer = setTimeout(() => this.open(), ms)
  }

  private open(): void {
    try {
      const device = Device.open(this.wanted === 'graphics')
      if (!device) return
      const graphics = new GraphicsRunner(device)
      const processor = new PlanRunner()
      const sides = { device, graphics, processor, screen: new Screen(device, graphics) }
      const trusted = agrees(sides) && (this.wanted === 'graphics' || (this.quicker ??= isQuicker(sides)))
      processor.release()
      if (!trusted) return
      // From here on nobody waits for graphics.
      device.patient = false
      this.sides = sides
    } catch {
      this.sides = undefined
    }
  }

  /** Draws what is asked for. @returns false where the processor has to do it */
  paint(request: PictureRequest, [own, another]: readonly [Loaded, Loaded | null], put: Put): boolean {
    const { sides } = this
    if (!sides || another || (request.mask && request.compare.mode === 'off')) return false
    try {
      const size = this.treater.sizeOf(own)
      const light = this.lightOf(own, size, sides)
      const done = light !== null && this.paintAll(request, light, size, sides, put)
      if (!sides.device.lost) return done
    } catch (error) {
      if (error instanceof NotReady) return false
    }
    this.lose()
    return false
  }

  private paintAll(request: PictureRequest, light: Texture, size: SceneSize, sides: Sides, put: Put): boolean {
    const { compare, order, tap } = request
    const paint = (line: Line, which: 'own' | 'other'): boolean => {
      const drawn = sides.graphics.run(
        this.treater.planOf(lineAt(line, size.frame), size),
        light,
        size.width,
        size.height,
        size.frame,
      )
      if (!drawn) return false
      sides.screen.emit(drawn, size.width, size.height, this.seed++)
      if (sides.device.lost) return false
      put(sides.device.canvas, which)
      return true
    }
    const other = compare.mode === 'wipe' || compare.mode === 'pair' ? otherOf(compare.against) : null
    if (other === 'elsewhere') return false
    if (compare.mode === 'footage') return paint(UNTREATED, 'own')
    return paint(tapped(order, tap), 'own') && (!other || paint(other, 'other'))
  }

  private lightOf(own: Loaded, { width, height }: SceneSize, { screen }: Sides): Texture | null {
    if (own.stored && !own.source.half) return screen.ingest(own.key, own.stored, own.encoding)
    return screen.adopt(own.key, this.treater.scene(own).camera.pixels, width, height)
  }

  /** The picture stays as it is; the processor draws the next ones. */
  private lose(): void {
    this.sides = undefined
    if (++this.losses < MOST_LOSSES)
      setTimeout(() => this.wanted !== 'processor' && !this.sides && this.open(), AGAIN_MS)
  }
}

/** What a picture is compared with, where it is made of the same light. */
function otherOf(against: Against): Line | 'elsewhere' {
  if (against.type === 'footage') return UNTREATED
  return against.type === 'line' ? against.line : 'elsewhere'
}
