import { triple, type Triple } from '../colour/matrix'
import { hash32 } from '../numbers/random'
import { memoized } from '../numbers/memoized'

/**
 * Grain of an emulsion, added to densities. With clear film at density c the deviation of a layer grows as sqrt(d - c),
 * and falls as the square root of the area that is looked at (E. W. H. Selwyn 1935, P. G. Nutting 1913, both from memory).
 */
export interface Grain {
  /** 1000 times the deviation of density in a round aperture of 48 µm, at a density of 1 over clear film. */
  readonly rms: number
  /** Width of the picture on the film, µm. */
  readonly gauge: number
  /** Radius of the clumps, µm, more than 0: the noise is blurred by a Gaussian of this deviation. */
  readonly clump: number
  /** 0: all layers have the same noise, 1: each its own. */
  readonly colour: number
  /** Densities of clear film. */
  readonly clear: Triple
  /** Density of metallic silver for 1 of each layer; its noise is common to all. */
  readonly silver: Triple
  readonly seed: number
}

/** Grain on a picture of a width: what kernels, shaders and the plain form are given. */
export interface GrainOnPixels {
  readonly key: number
  /** Factors of the noise (whose own deviation is {@link BELL}) of the layer, the common one, and the silver's. */
  readonly own: number
  readonly common: number
  readonly silver: number
  /** Half of the kernel that noise is blurred by along and down, the centre first. */
  readonly weights: Float32Array
}

/** Diameter of the aperture in which granularity is measured, µm (ISO 10505, from memory). */
const APERTURE = 48

/** Deviation of the sum of four numbers that are each evenly spread over 0..15. */
const BELL = Math.sqrt((4 * (16 * 16 - 1)) / 12)

export function grainOnPixels({ rms, gauge, clump, colour, seed }: Grain, width: number, frame: number): GrainOnPixels {
  const pixel = gauge / width
  const aperture = (Math.PI * APERTURE ** 2) / 4
  const deviation = ((rms / 1000) * Math.sqrt(aperture)) / pixel / Math.sqrt(seenThrough(clump)) / BELL
  const whole = Math.hypot(1 - colour, colour)
  return {
    key: keyOfFrame(seed, frame),
    own: (deviation * colour) / whole,
    common: (deviation * (1 - colour)) / whole,
    silver: deviation,
    weights: clumpWeights(clump / pixel),
  }
}

/** Weights below this are left out. */
const LEAST_WEIGHT = 0.013

/**
 * The kernel by which noise of single pixels gets the correlations that noise blurred by a Gaussian has when it is
 * averaged over pixels. Between pixels n apart these are c(n) = ∫ tri(x - n) g(x) dx, g of deviation sqrt(2) σ; the
 * kernel's transfer is the root of their spectrum. A sampled Gaussian would be too strong by a half where clumps are
 * smaller than pixels.
 * @param sigma of the clumps in pixels @returns half of it, the centre first; the whole sums to 1
 */
const clumpWeights = memoized(16, (sigma: number): Float32Array => {
  const apart = Math.SQRT2 * Math.max(sigma, 0.02)
  const reach = Math.ceil(4 * apart) + 1
  const shared = Array.from({ length: reach + 1 }, (_, n) => correlationOf(n, apart))
  const places = 8 * reach
  const transfer = Array.from({ length: places + 1 }, (_, i) => {
    const spectrum = shared.reduce((sum, c, n) => sum + (n === 0 ? c : 2 * c * Math.cos((Math.PI * i * n) / places)), 0)
    return Math.sqrt(Math.max(0, spectrum))
  })
  const whole = Array.from({ length: reach + 1 }, (_, n) => {
    const sum = transfer.reduce(
      (total, h, i) => total + h * Math.cos((Math.PI * i * n) / places) * (i === 0 || i === places ? 0.5 : 1),
      0,
    )
    return sum / places
  })
  const length = 1 + whole.findLastIndex((w) => Math.abs(w) > LEAST_WEIGHT)
  const half = Float32Array.from(whole.slice(0, length))
  const sum = half.reduce((total, w, n) => total + (n === 0 ? w : 2 * w), 0)
  return half.map((w) => w / sum)
})

/** ∫ tri(x - n) g(x) dx by the trapezium rule. @param deviation of g */
function correlationOf(n: number, deviation: number): number {
  const steps = 400
  let sum = 0
  for (let i = 1; i < steps; i++) {
    const x = (2 * i) / steps - 1
    sum += (1 - Math.abs(x)) * Math.exp(-((x + n) ** 2) / (2 * deviation * deviation))
  }
  return (sum * 2) / steps / (deviation * Math.sqrt(2 * Math.PI))
}

/**
 * Share of the variance of fine noise that is left in a round aperture when the noise is blurred by a deviation of
 * `clump`: the mean, over the distance r between two places, of how much of the aperture lies over itself moved by r.
 */
function seenThrough(clump: number): number {
  const steps = 256
  let sum = 0
  for (let i = 0; i < steps; i++) {
    const part = (i + 0.5) / steps
    const r = part * APERTURE
    const over = (2 / Math.PI) * (Math.acos(part) - part * Math.sqrt(1 - part * part))
    sum += over * (r / (2 * clump * clump)) * Math.exp(-(r * r) / (4 * clump * clump)) * (APERTURE / steps)
  }
  return sum
}

/** Whole numbers by which places, layers and frames are told apart; odd, their bits without a pattern. */
export const HASH = { across: 0x9e3779b1, down: 0x85ebca77, layer: 0xc2b2ae3d } as const

/** A number for a seed and a frame. */
const keyOfFrame = (seed: number, frame: number): number => hash32(hash32(seed | 0) + frame) | 0

/**
 * Noise of one layer (3 is the common one) at a pixel: the sum of four nibbles of a hash, without its mean; near to normal.
 * Pixels 2n and 2n + 1 have the lower and the upper half of one hash.
 */
function grainNoise(key: number, x: number, y: number, layer: number): number {
  const place = Math.imul(x >> 1, HASH.across) + Math.imul(y, HASH.down) + Math.imul(layer, HASH.layer) + key
  const half = hash32(place | 0) >>> (16 * (x & 1))
  return (half & 15) + ((half >>> 4) & 15) + ((half >>> 8) & 15) + ((half >>> 12) & 15) - 30
}

/** The plain form: densities of one pixel with their grain, in double precision. */
export function grainPlain(grain: Grain, width: number, frame: number) {
  const { key, own, common, silver, weights } = grainOnPixels(grain, width, frame)
  const reach = weights.length - 1
  const blurred = (x: number, y: number, layer: number): number => {
    let sum = 0
    for (let j = -reach; j <= reach; j++)
      for (let i = -reach; i <= reach; i++)
        sum += weights[Math.abs(i)]! * weights[Math.abs(j)]! * grainNoise(key, x + i, y + j, layer)
    return sum
  }
  return (densities: Triple, x: number, y: number): Triple => {
    const over = densities.map((d, k) => Math.max(0, d - grain.clear[k]!))
    const shared = blurred(x, y, 3)
    const metal = silver * Math.sqrt(over.reduce((sum, d, k) => sum + d * grain.silver[k]!, 0)) * shared
    return triple(densities.map((d, k) => d + Math.sqrt(over[k]!) * (own * blurred(x, y, k) + common * shared) + metal))
  }
}
