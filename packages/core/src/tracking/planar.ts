import { valueAt, type Grey } from './grey'
import { templateOf, type Template } from './template'
import { after, back, warped, type Warp } from '../numbers/warp'
import { MOTIONS, stepped, type Motion } from './motions'

const ROUNDS = 16
/** A round that moves corners by less than this share of the radius is the last. */
const STILL_ENOUGH = 1e-4
/** How many times the deviation is taken in the first round, and how much less in each that follows. */
const [LENIENT, LESS] = [12, 0.6]
/** Rounds after which it is taken as it is. */
const STRICT = Math.ceil(Math.log(1 / LENIENT) / Math.log(LESS))
/** Tukey's biweight: differences beyond so many standard deviations do not count (J. Tukey; constant of 95 % efficiency, from memory). */
const TUKEY = 4.685
/** What was not believed is given this much of a chance in the next frame. */
const CHANCE = 0.02
/** Differences are never taken for smaller than this, of a white of 1. */
const LEAST_DEVIATION = 0.002

/** Nor for more than this share of what the template varies by: another picture is no noise. */
const MOST_OF_CONTRAST = 0.15

/**
 * Follows a part of a picture that lies in a plane from frame to frame: inverse compositional alignment (S. Baker, I. Matthews
 * 2004) of one template on two sizes of the picture, the small one first, with a gain and an offset of brightness; places that
 * do not fit count less (Tukey's biweight), and what was believed is remembered for the next frame.
 */
export class PlanarTracker {
  private readonly levels: readonly { readonly template: Template; readonly level: number }[]
  private readonly generators
  private gain = 1
  private offset = 0

  /**
   * @param pyramid of the frame that shows the shape, large ones first
   * @param insideAt the shape's mask at a level, 0..1 a pixel
   * @param middle and radius of the shape in pixels of the first level
   */
  constructor(
    pyramid: readonly Grey[],
    insideAt: (grey: Grey) => Float32Array,
    middle: readonly [number, number],
    radius: number,
    motions: readonly Motion[],
  ) {
    this.generators = motions.flatMap((m) => MOTIONS[m])
    this.levels = pyramid
      .map((grey, level) => {
        const scale = 2 ** level
        const about = [middle[0] / scale, middle[1] / scale] as const
        return { level, template: templateOf(grey, insideAt(grey), about, radius / scale, motions) }
      })
      .reverse()
  }

  /** Places of the template on the largest level. */
  get places(): number {
    return this.levels.at(-1)!.template.count
  }

  /**
   * @param from where the shape was in the frame before, about its middle and in units of its radius
   * @returns where it is, and the share of it that was believed
   */
  next(pyramid: readonly Grey[], from: Warp): { readonly warp: Warp; readonly used: number } {
    let found = { warp: from, used: 0 }
    for (const { template, level } of this.levels)
      if (template.count > 0) found = this.aligned(pyramid[level]!, template, found.warp)
    return found
  }

  private aligned(grey: Grey, template: Template, from: Warp): { warp: Warp; used: number } {
    const { count, x, y, values, believed } = template
    const off = new Float64Array(count)
    const weights = new Float64Array(count)
    const solver = new Normal(this.generators.length + 2)
    let warp = from
    for (let round = 0; round < ROUNDS; round++) {
      const inPicture = after(template.placed, warp)
      for (let k = 0; k < count; k++) {
        const [u, v] = warped(inPicture, x[k]!, y[k]!)
        off[k] = valueAt(grey, u, v) - this.gain * values[k]! - this.offset
      }
      // At first nearly everything counts: what is a little off at hard edges is what tells where to go.
      const lenient = Math.max(1, LENIENT * LESS ** round)
      const deviation = Math.min(deviationOf(off, believed), MOST_OF_CONTRAST * template.contrast)
      weigh(off, weights, lenient * deviation)
      const step = solver.solve(template, off, weights, this.gain)
      if (!step) break
      this.gain += step[this.generators.length]!
      this.offset += step[this.generators.length + 1]!
      warp = after(warp, back(stepped(this.generators, step)))
      if (round >= STRICT && Math.hypot(...step.slice(0, this.generators.length)) < STILL_ENOUGH) break
    }
    let used = 0
    for (let k = 0; k < count; k++) {
      believed[k] = CHANCE + (1 - CHANCE) * weights[k]!
      used += weights[k]!
    }
    return { warp, used: used / count }
  }
}

/** Standard deviation by the median of the differences of what was believed. */
function deviationOf(off: Float64Array, believed: Float64Array): number {
  const step = Math.max(1, Math.floor(off.length / 1500))
  const some: number[] = []
  for (let k = 0; k < off.length; k += step) if (off[k] === off[k] && believed[k]! > 0.3) some.push(Math.abs(off[k]!))
  if (some.length === 0) return LEAST_DEVIATION
  const sorted = Float64Array.from(some).sort()
  return Math.max(LEAST_DEVIATION, 1.4826 * sorted[sorted.length >> 1]!)
}

function weigh(off: Float64Array, weights: Float64Array, deviation: number): void {
  const most = TUKEY * deviation
  for (let k = 0; k < off.length; k++) {
    const r = off[k]! / most
    weights[k] = r * r < 1 ? (1 - r * r) ** 2 : 0
    if (!(weights[k]! > 0)) off[k] = 0
  }
}

/** Weighted least squares for a step of all motions, gain and offset. */
class Normal {
  /** Rows one after the other, of each what is asked for last; only what lies on and above the diagonal is filled. */
  private readonly sums: Float64Array
  private readonly column: Float64Array
  constructor(private readonly n: number) {
    this.sums = new Float64Array(n * (n + 1))
    this.column = new Float64Array(n + 1)
  }

  /** Null where there is too little to tell. */
  solve(
    { count, slopes, values, believed }: Template,
    off: Float64Array,
    weights: Float64Array,
    gain: number,
  ): number[] | null {
    const { n, sums, column } = this
    sums.fill(0)
    const motions = n - 2
    for (let k = 0; k < count; k++) {
      const w = weights[k]! * believed[k]!
      if (w === 0) continue
      for (let m = 0, at = k * motions; m < motions; m++) column[m] = gain * slopes[at + m]!
      column[motions] = values[k]!
      column[motions + 1] = 1
      column[n] = off[k]!
      for (let r = 0, at = 0; r < n; r++, at += n + 1) {
        const part = w * column[r]!
        for (let c = r; c <= n; c++) sums[at + c]! += part * column[c]!
      }
    }
    return this.eliminated()
  }

  private eliminated(): number[] | null {
    const { n, sums } = this
    const wide = n + 1
    for (let r = 0; r < n; r++) {
      const pivot = sums[r * wide + r]!
      if (!(pivot > 1e-12)) return null
      for (let below = r + 1; below < n; below++) {
        const factor = sums[r * wide + below]! / pivot
        for (let c = below; c <= n; c++) sums[below * wide + c]! -= factor * sums[r * wide + c]!
      }
    }
    const x = new Array<number>(n).fill(0)
    for (let r = n - 1; r >= 0; r--) {
      let rest = sums[r * wide + n]!
      for (let c = r + 1; c < n; c++) rest -= sums[r * wide + c]! * x[c]!
      x[r] = rest / sums[r * wide + r]!
    }
    return x.every(Number.isFinite) ? x : null
  }
}
