import type { Spectrum } from './grid'

/** Light through absorbers: sum over wavelengths of weight·10^-(sum of amount·density), and an offset, for three channels. */
export interface Projection {
  readonly components: readonly Spectrum[]
  readonly weights: readonly [Spectrum, Spectrum, Spectrum]
  readonly offset: number
  /** Density that lies over the whole picture; already part of the weights. */
  readonly base?: Spectrum
}
