import { Pictures, emit8, type Picture } from '@fogbath/core/cpu'
import { compileLine } from '@fogbath/core/line'
import { seededRandom } from '@fogbath/core/numbers'
import { type Plan, type PlanRunner } from '@fogbath/core/plan'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import type { Device, Texture } from './device'
import type { GraphicsRunner } from './runner'
import type { Screen } from './screen'

/** A wedge of 64 greys over 16 stops, then 4096 colours. */
const [WIDTH, ROWS] = [64, 65]
/** Codes of 8 bits that graphics may lie apart from the processor. */
const MOST_APART = 0.5
const TRIED = ['plain', 'instant', 'sepia']

/** Pictures by graphics, and the same on the processor. */
export interface Sides {
  readonly device: Device
  readonly graphics: GraphicsRunner
  readonly screen: Screen
  readonly processor: PlanRunner
}

const plansTried = (): Plan[] => SHIPPED_RECIPES.filter((r) => TRIED.includes(r.id)).map((r) => compileLine(r))

function withLight<T>(width: number, rows: number, sides: Sides, work: (light: Texture, camera: Picture) => T): T {
  const pictures = new Pictures()
  const pixels = lightOf(width, rows)
  const texture = sides.device.floats(width, rows)
  try {
    sides.device.fill(texture, pixels, width, rows, 4)
    return work(texture, pictures.copy('light', pixels))
  } finally {
    sides.device.drop(texture)
    pictures.release()
  }
}

function lightOf(width: number, rows: number): Float32Array {
  const random = seededRandom(5)
  const pixels = new Float32Array(4 * width * rows)
  for (let i = 0; i < width * rows; i++) {
    const grey = 0.18 * 2 ** (16 * (i < width ? i / width : random()) - 9)
    for (let k = 0; k < 3; k++) pixels[4 * i + k] = i < width ? grey : grey * 2 ** (4 * random() - 2)
    pixels[4 * i + 3] = 1
  }
  return pixels
}

/** Whether graphics draws what the processor draws. */
export function agrees(sides: Sides): boolean {
  const { device, graphics, processor } = sides
  return withLight(WIDTH, ROWS, sides, (light, camera) =>
    plansTried().every((plan) => {
      const drawn = graphics.run(plan, light, WIDTH, ROWS)
      if (!drawn) return false
      const made = device.read(drawn, WIDTH, ROWS)
      const wanted = processor.run(plan, camera, WIDTH, ROWS).pixels
      return wanted.every((v, i) => i % 4 === 3 || 255 * Math.abs(v - made[i]!) <= MOST_APART)
    }),
  )
}

const [TIMED_WIDTH, TIMED_ROWS] = [960, 540]

/** Whether graphics has a picture on a canvas sooner than the processor; the better of three tries each. */
export function isQuicker(sides: Sides): boolean {
  const { device, graphics, screen, processor } = sides
  const plan = compileLine(SHIPPED_RECIPES[0]!)
  const image = new ImageData(TIMED_WIDTH, TIMED_ROWS)
  return withLight(TIMED_WIDTH, TIMED_ROWS, sides, (light, camera) => {
    const byProcessor = timed(() => emit8(processor.run(plan, camera, TIMED_WIDTH, TIMED_ROWS), image.data, 0))
    const byGraphics = timed(() => {
      screen.emit(graphics.run(plan, light, TIMED_WIDTH, TIMED_ROWS)!, TIMED_WIDTH, TIMED_ROWS, 0)
      // Nothing is sure to be drawn until something is read.
      device.gl.readPixels(0, 0, 1, 1, device.gl.RGBA, device.gl.UNSIGNED_BYTE, new Uint8Array(4))
    })
    return byGraphics < byProcessor
  })
}

function timed(work: () => void): number {
  const times = [0, 1, 2, 3].map(() => {
    const started = performance.now()
    work()
    return performance.now() - started
  })
  // The first one prepares tables and programs.
  return Math.min(...times.slice(1))
}
