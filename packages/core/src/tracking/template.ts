import type { Grey } from './grey'
import { type Warp } from '../numbers/warp'
import { MOTIONS, type Motion } from './motions'

/** What is looked for in other frames: places of one frame about a middle, their values, and how the values change with each motion. */
export interface Template {
  readonly count: number
  /** Places about the middle, in units of the radius. */
  readonly x: Float64Array
  readonly y: Float64Array
  readonly values: Float64Array
  /** Of each place the changes by motions, one after the other. */
  readonly slopes: Float64Array
  /** How far each place was believed in the last frame, 0..1. */
  readonly believed: Float64Array
  /** Standard deviation of the values. */
  readonly contrast: number
  /** From places about the middle to pixels of this level. */
  readonly placed: Warp
}

/** More places than this tell nothing more. */
const MOST_PLACES = 5000

/** @param inside the shape's mask at this level, 0..1 @param middle and radius of the shape in pixels of this level */
export function templateOf(
  grey: Grey,
  inside: Float32Array,
  middle: readonly [number, number],
  radius: number,
  motions: readonly Motion[],
): Template {
  const { width, height } = grey
  const places: number[] = []
  for (let j = 1; j < height - 1; j++)
    for (let i = 1; i < width - 1; i++) if (inside[j * width + i]! > 0.5) places.push(j * width + i)
  const step = Math.max(1, Math.ceil(places.length / MOST_PLACES))
  const taken = places.filter((_, k) => k % step === 0)
  const generators = motions.flatMap((m) => MOTIONS[m])
  const n = taken.length
  const made = {
    x: new Float64Array(n),
    y: new Float64Array(n),
    values: new Float64Array(n),
    slopes: new Float64Array(n * generators.length),
  }
  taken.forEach((at, k) => {
    const { pixels } = grey
    const [x, y] = [((at % width) + 0.5 - middle[0]) / radius, (Math.floor(at / width) + 0.5 - middle[1]) / radius]
    const across = ((pixels[at + 1]! - pixels[at - 1]!) / 2) * radius
    const down = ((pixels[at + width]! - pixels[at - width]!) / 2) * radius
    ;[made.x[k], made.y[k], made.values[k]] = [x, y, pixels[at]!]
    generators.forEach(([a, b, c, d, e, f, g, h], m) => {
      const w = g! * x + h! * y
      const [u, v] = [a! * x + b! * y + c! - w * x, d! * x + e! * y + f! - w * y]
      made.slopes[k * generators.length + m] = across * u + down * v
    })
  })
  return {
    ...made,
    count: n,
    believed: new Float64Array(n).fill(1),
    contrast: spreadOf(made.values),
    placed: [radius, 0, middle[0], 0, radius, middle[1], 0, 0, 1],
  }
}

function spreadOf(values: Float64Array): number {
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length
  return Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length)
}
