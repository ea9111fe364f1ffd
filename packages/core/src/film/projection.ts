import { multiply, transform, type Matrix3, type Triple, type Three } from '../colour/matrix'
import { D65_WHITE, LUMA_709, XYZ_TO_BT709, adaptation } from '../colour/spaces'
import { SAMPLES, type Spectrum } from '../spectra/grid'
import type { Projection } from '../spectra/projection'
import { LAMPS, OBSERVER, type LampName } from '../spectra/standards'
import { transmittance } from './pow10'
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
export type Projector = (amounts: ArrayLike<number>, out: Three) => void

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
export function makeProjection(options: ProjectionOptions): Projection {
  const { components, base } = options
  const weights = lampWeights(options.lamp)
  const clearY = relativeLuminance(weights, components, options.clear)
  const extra = (options.flare ?? DEFAULT_FLARE) - DEFAULT_FLARE
  const scale = 1 / (clearY * (1 + extra) * (WHITE_LEVEL - BLACK_LEVEL))
  const offset = (extra / (1 + extra) - BLACK_LEVEL) / (WHITE_LEVEL - BLACK_LEVEL)
  const scaled = (w: Spectrum): Spectrum => w.map((v, i) => v * scale * (base ? transmittance(base[i]!) : 1))
  return {
    components,
    weights: [scaled(weights[0]), scaled(weights[1]), scaled(weights[2])],
    offset,
    ...(base ? { base } : {}),
  }
}

/** A projection in double precision, one colour at a time. */
export function projectPlain({ components, weights: [wr, wg, wb], offset }: Projection): Projector {
  return (amounts, out) => {
    let r = offset
    let g = offset
    let b = offset
    for (let i = 0; i < SAMPLES; i++) {
      let density = 0
      for (let k = 0; k < components.length; k++) density += amounts[k]! * components[k]![i]!
      const t = transmittance(density)
      r += wr[i]! * t
      g += wg[i]! * t
      b += wb[i]! * t
    }
    out[0] = r
    out[1] = g
    out[2] = b
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
