import { triple } from '../colour/matrix'
import { gaussian } from '../numbers/gaussian'
import type { Sigmas } from '../stages/space'
import { runJob } from './jobs'
import { kernelMemory } from './memory'

/** Below this many pixels a Gaussian does nothing. */
const NOTHING = 0.05
/** A shrunk picture is blurred by at least this many of its own pixels, so that its coarseness does not show. */
const LEAST_SMALL = 2
/** Rows that a thread takes at a time. */
const ROWS = 16

/** One of the blurs that a blur of three records is put together from. */
export interface BlurPass {
  /** The picture is first shrunk so many times; 1 leaves it as it is. */
  readonly factor: number
  /** Standard deviations in pixels of the picture that is blurred, 0 for the channels that keep their values. */
  readonly sigmas: Sigmas
}

/**
 * How a blur is done. Up to about 5 pixels it is a separable convolution cut at 3 sigma; wider ones shrink the picture,
 * blur that, and stretch it again. Averaging over a square and stretching with linear interpolation each blur a little:
 * their variances, (f² - 1)/12 and (f² - 1)/6, are left out of the Gaussian between them.
 * @param sigmas in per mille of the width, one a channel
 */
export function blurPasses(sigmas: Sigmas, width: number): BlurPass[] {
  const pixels = sigmas.map((s) => (s * width) / 1000)
  const factors = pixels.map(factorFor)
  const passes = [...new Set(factors)].map((factor): BlurPass => {
    const small = (s: number): number => (factor === 1 ? s : Math.sqrt(s * s - (factor * factor - 1) / 4) / factor)
    const own = pixels.map((s, k) => (factors[k] === factor && s >= NOTHING ? small(s) : 0))
    return { factor, sigmas: triple(own) }
  })
  return passes.filter((p) => Math.max(...p.sigmas) > 0)
}

/**
 * Gaussian blur of each record with its own sigma; the edge's colour continues outside.
 * @param sigmas in per mille of the width, one a channel; 0 leaves the channel alone. Alpha stays as far as it is even.
 * @param at address of an RGBA float32 picture, changed in place
 */
export function blurRecords(sigmas: Sigmas, at: number, width: number, height: number): void {
  for (const { factor, sigmas: own } of blurPasses(sigmas, width)) {
    if (factor === 1) blurDirect(own, at, width, height)
    else blurShrunk(own, factor, at, width, height)
  }
}

function factorFor(sigma: number): number {
  let factor = 1
  while (sigma / (2 * factor) >= LEAST_SMALL) factor *= 2
  return factor
}

/** Weights of four channels side by side; a channel without a sigma keeps its value. @param sigmas in pixels */
export function blurWeights(sigmas: Sigmas): { weights: Float32Array; reach: number } {
  const reach = Math.max(1, ...sigmas.map((s) => Math.ceil(3 * s)))
  const weights = new Float32Array(4 * (reach + 1))
  for (let k = 0; k < 4; k++) {
    const sigma = sigmas[k] ?? 0
    if (sigma > 0) gaussian(sigma, reach).forEach((w, i) => (weights[4 * i + k] = w))
    else weights[k] = 1
  }
  return { weights, reach }
}

/** Along the rows into a picture beside, then down the columns back. */
function blurDirect(sigmas: Sigmas, at: number, width: number, height: number): void {
  const { weights, reach } = blurWeights(sigmas)
  const memory = kernelMemory()
  memory.borrow(4 * weights.length + 16 * width * height, (atWeights) => {
    const beside = atWeights + 4 * weights.length
    memory.floats(atWeights, weights.length).set(weights)
    const rows = { units: height, per: ROWS }
    runJob({
      kind: 'blurAlong',
      ...rows,
      scratch: 16 * (width + 2 * reach),
      words: [at, beside, width, atWeights, reach],
    })
    runJob({ kind: 'blurDown', ...rows, words: [beside, at, width, height, atWeights, reach] })
  })
}

/** A picture shrunk so many times along each side, and the blur that is done to it. */
export interface ShrunkBlur {
  readonly factor: number
  readonly w: number
  readonly h: number
  readonly sigmas: Sigmas
}

/** How a blur is done that shrinks the picture as a whole, or null: others shrink nothing, or not all of its records. */
export function shrunkBlur(sigmas: Sigmas, width: number, height: number): ShrunkBlur | null {
  const [pass, another] = blurPasses(sigmas, width)
  if (!pass || another || pass.factor === 1 || pass.sigmas.some((s) => s === 0)) return null
  return { ...pass, ...sizeOf(pass.factor, width, height) }
}

const sizeOf = (factor: number, width: number, height: number) => ({
  w: Math.ceil(width / factor),
  h: Math.ceil(height / factor),
})

/** Blurs a picture that is shrunk already. */
export const blurSmall = ({ sigmas, w, h }: ShrunkBlur, at: number): void => blurDirect(sigmas, at, w, h)

function blurShrunk(sigmas: Sigmas, factor: number, at: number, width: number, height: number): void {
  const { w, h } = sizeOf(factor, width, height)
  const memory = kernelMemory()
  memory.borrow(16 + 16 * w * h, (mask) => {
    const shrunk = mask + 16
    // Where all colours are stretched nothing of the old picture is needed; alpha was averaged on the way like them.
    const whole = sigmas.every((s) => s > 0)
    memory.ints(mask, 4).set([...sigmas.map((s) => (s > 0 ? -1 : 0)), whole ? -1 : 0])
    runJob({ kind: 'shrink', units: h, per: ROWS, words: [at, shrunk, width, height, factor, w] })
    blurDirect(sigmas, shrunk, w, h)
    runJob({
      kind: 'stretch',
      units: height,
      per: ROWS,
      scratch: 32 * (w + 2),
      words: [shrunk, at, w, h, factor, width, mask],
    })
  })
}
