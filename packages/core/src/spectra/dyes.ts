import { bell, bells, spectrumFrom, type Spectrum } from './grid'

/**
 * Spectral densities per unit amount (peak about 1) of generic dyes and of silver and its compounds. The bell shapes
 * are typical absorption bands, from memory; they belong to no particular product.
 */
export const PRINT_DYES: readonly [Spectrum, Spectrum, Spectrum] = [
  bells([
    [1, 665, 125],
    [0.1, 430, 90],
    [0.12, 560, 90],
  ]),
  bells([
    [1, 542, 85],
    [0.16, 425, 80],
    [0.03, 660, 80],
  ]),
  bells([
    [1, 445, 90],
    [0.06, 540, 70],
  ]),
]

/** Metallic silver in an emulsion: almost flat, a little denser towards blue (from memory). */
export const SILVER: Spectrum = spectrumFrom((nm) => (550 / nm) ** 0.12)

/** A yellowish stain, as gelatine and coupler residues make it (from memory). */
export const STAIN: Spectrum = spectrumFrom(bell(420, 160))

/**
 * Colour negative sensitivities: what the red, green and blue layers see, peak 1. Typical peaks and widths from memory,
 * then fitted together with the inter-image matrix so that the plain process hands natural pictures back.
 */
export const NEGATIVE_LAYERS: readonly [Spectrum, Spectrum, Spectrum] = [
  bells([[1, 617, 75]]),
  bells([[1, 552, 78]]),
  bells([[1, 450, 75]]),
]
