import { multiply, transform, type Matrix3, type Triple } from '../colour/matrix'
import { D65_WHITE, LUMA_709, XYZ_TO_BT709, adaptation } from '../colour/spaces'
import { SAMPLES, type Spectrum } from '../spectra/grid'
import { LAMPS, OBSERVER, type LampName } from '../spectra/standards'
import { transmittance } from './pow10'
import { kernelMemory } from '../kernels/memory'
import { BLACK_LEVEL, DEFAULT_FLARE, WHITE_LEVEL } from './plain-levels'

export interface ProjectionOptions {
  /** Absorbing components (dyes, silver, compounds): density per unit amount. */
  readonly components: readonly Spectrum[]
  readonly lamp: LampName
  /** Light scattered onto the screen, as a share of white, 0..1. The default is part of every viewing and draws nothing extra. */
  readonly flare?: number
  /** A density that lies over the whole picture (tint, stain), or none. */
  readonly base?: Spectrum
  /** Amounts of the components in clear film (Dmin): with `base`'s own brightness left out, this is white. */
  readonly clear: readonly number[]
}

/** Turns amounts of absorbers into display-linear BT.709 light, before gamut fitting. Allocates nothing. */
export type Projector = (amounts: ArrayLike<number>, out: Float64Array) => void

/** Lamp power to linear BT.709 after adaptation to D65: 3 weights a wavelength, flat film of T = 1 gives 1,1,1. */
function lampWeights(lamp: LampName): [Spectrum, Spectrum, Spectrum] {
  const power = LAMPS[lamp]
  let y = 0
  const white: [number, number, number] = [0, 0, 0]
  for (let i = 0; i < SAMPLES; i++) {
    y += OBSERVER.y[i]! * power[i]!
    white[0] += OBSERVER.x[i]! * power[i]!
    white[2] += OBSERVER.z[i]! * power[i]!
  }
  const lampWhite: Triple = [white[0] / y, 1, white[2] / y]
  const toRgb: Matrix3 = multiply(XYZ_TO_BT709, adaptation(lampWhite, D65_WHITE))
  const weights: [Spectrum, Spectrum, Spectrum] = [
    new Float64Array(SAMPLES),
    new Float64Array(SAMPLES),
    new Float64Array(SAMPLES),
  ]
  for (let i = 0; i < SAMPLES; i++) {
    const p = power[i]! / y
    const rgb = transform(toRgb, [OBSERVER.x[i]! * p, OBSERVER.y[i]! * p, OBSERVER.z[i]! * p])
    for (let c = 0; c < 3; c++) weights[c]![i] = rgb[c]!
  }
  return weights
}

/**
 * Sums the transmitted spectrum: T = 10^-(sum of amount·density) (Beer-Lambert), lit by the lamp, seen by the CIE 1931
 * observer, adapted from the lamp to D65 (Bradford), with clear film as white = 1 and flare added. Display black and
 * white are those of the plain print (see plain-levels.ts), so that ordinary footage keeps its full range.
 */
export function makeProjector(options: ProjectionOptions): Projector {
  const { components, base } = options
  const weights = lampWeights(options.lamp)
  const clearY = relativeLuminance(weights, components, options.clear)
  const extra = (options.flare ?? DEFAULT_FLARE) - DEFAULT_FLARE
  const scale = 1 / (clearY * (1 + extra) * (WHITE_LEVEL - BLACK_LEVEL))
  const offset = (extra / (1 + extra) - BLACK_LEVEL) / (WHITE_LEVEL - BLACK_LEVEL)
  const [wr, wg, wb] = weights.map((w) => w.map((v, i) => v * scale * (base ? transmittance(base[i]!) : 1))) as [
    Spectrum,
    Spectrum,
    Spectrum,
  ]
  const light = transmittedLight(components, [wr, wg, wb])
  return (amounts, out) => {
    light(amounts, out)
    out[0] = out[0]! + offset
    out[1] = out[1]! + offset
    out[2] = out[2]! + offset
  }
}

/**
 * Sum over wavelengths of weight·10^-(sum of amount·density), for three sets of weights; the plain form.
 */
export function transmittedLightPlain(components: readonly Spectrum[], weights: readonly Spectrum[]): Projector {
  return (amounts, out) => {
    const sums = [0, 0, 0]
    for (let i = 0; i < SAMPLES; i++) {
      const t = transmittance(components.reduce((density, c, k) => density + amounts[k]! * c[i]!, 0))
      for (let c = 0; c < 3; c++) sums[c]! += weights[c]![i]! * t
    }
    out.set(sums)
  }
}

/** Wavelengths go through the fast kernel in fours; the grid's end is padded with zero weights. */
const FOURS = Math.ceil(SAMPLES / 4)

/** The projector whose spectra lie in the kernels' memory now. */
let laid: object | undefined

/** The same by the SIMD kernel: single precision, relative error of a sum of positive weights below 1e-5. */
export function transmittedLight(components: readonly Spectrum[], weights: readonly Spectrum[]): Projector {
  const memory = kernelMemory()
  const { project } = memory.kernels
  const count = components.length
  const row = 4 * FOURS
  const spectra = new Float32Array(row * (count + 3))
  for (const [i, s] of [...components, ...weights].entries()) spectra.set(s, row * i)
  const at = memory.fixedPlace().at
  const [atWeights, atOut] = [at + 4 * row * count, at + 4 * row * (count + 3)]
  const atAmounts = atOut + 16
  const own = {}
  let held = new Float32Array()
  let result = new Float32Array()
  const lay = (): void => {
    const bytes = memory.fixedPlace().memory
    new Float32Array(bytes, at, spectra.length).set(spectra)
    held = new Float32Array(bytes, atAmounts, count)
    result = new Float32Array(bytes, atOut, 3)
    laid = own
  }
  return (amounts, out) => {
    // Length 0: the memory has grown, and what was looked at is gone.
    if (laid !== own || held.length === 0) lay()
    for (let k = 0; k < count; k++) held[k] = amounts[k]!
    project(FOURS, count, atAmounts, at, atWeights, atOut)
    out[0] = result[0]!
    out[1] = result[1]!
    out[2] = result[2]!
  }
}

function relativeLuminance(
  weights: readonly Spectrum[],
  components: readonly Spectrum[],
  amounts: readonly number[],
): number {
  let y = 0
  for (let i = 0; i < SAMPLES; i++) {
    const density = components.reduce((sum, c, k) => sum + c[i]! * (amounts[k] ?? 0), 0)
    const t = transmittance(density)
    for (let c = 0; c < 3; c++) y += LUMA_709[c]! * weights[c]![i]! * t
  }
  return y
}
