import { bell, bells, spectrumFrom, type Spectrum } from './grid'

/**
 * Spectral densities per unit amount (peak about 1) of generic dyes and of silver and its compounds. The bell shapes
 * are typical absorption bands, from memory; they belong to no particular product.
 *
 * Those of a late, good print: pure enough that the print can show what photographs hold, with peaks where a visual neutral
 * reads in Status A what laboratories aim at (1.09, 1.06 and 1.03 for a density of 1, from memory).
 */
export const PRINT_DYES: readonly [Spectrum, Spectrum, Spectrum] = [
  bells([
    [1, 639, 94],
    [0.5, 708, 110],
    [0.025, 430, 90],
  ]),
  bells([
    [1, 534, 91],
    [0.035, 425, 80],
  ]),
  bells([
    [1, 448, 64],
    [0.28, 400, 70],
  ]),
]

/** Dyes of early colour prints and of instant film: wide bands, and more of the light they should let pass (from memory). */
export const EARLY_DYES: readonly [Spectrum, Spectrum, Spectrum] = [
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
export const SILVER: Spectrum = spectrumFrom((nm) => (550 / nm) ** 0.1)

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

/** Imbibition (dye-transfer) dyes: purer still than those a print develops (from memory). */
export const IMBIBITION_DYES: readonly [Spectrum, Spectrum, Spectrum] = [
  bells([
    [1, 638, 88],
    [0.5, 710, 110],
    [0.01, 430, 80],
  ]),
  bells([
    [1, 534, 84],
    [0.02, 430, 70],
  ]),
  bells([
    [1, 448, 58],
    [0.3, 400, 70],
  ]),
]

/** The two dyes of two-colour prints: blue-green for the red record, orange-red for the green one (typical bands from
 * memory; their absorption of blue is set so that a pair can make a neutral grey). */
export const TWO_COLOUR_DYES: readonly [Spectrum, Spectrum] = [
  bells([
    [1, 645, 152],
    [0.285, 430, 90],
  ]),
  bells([
    [1, 500, 117],
    [0.345, 430, 90],
  ]),
]

const powerOf = (exponent: number): Spectrum => spectrumFrom((nm) => (550 / nm) ** exponent)
/** Raised about a wavelength. */
const raised = (spectrum: Spectrum, share: number, nm: number, width: number): Spectrum => {
  const peak = bells([[share, nm, width]])
  return spectrum.map((v, i) => v * (1 + peak[i]!))
}
/**
 * Silver sulphide as a toner of thiourea makes it: its hue goes by the size of its grains, from yellow-brown with little alkali
 * to purple-brown with much (h 75 and 35 at mid grey, from memory). @param brown -1..1, 0 as sulphide of old baths
 */
export const sulphideOf = (brown: number): Spectrum =>
  brown < 0
    ? raised(powerOf(1.4), 0.14 + 0.11 * brown, 515, 120)
    : raised(powerOf(1.4 - 0.25 * brown), 0.14 + 0.38 * brown, 515, 120)
/** Selenide is nearly as neutral as silver, a little denser in green: purplish in the darks. */
const selenium = raised(powerOf(0.2), 0.12, 540, 100)
const ironBlue = (() => {
  const raw = bells([
    [1, 670, 270],
    [0.2, 410, 90],
  ])
  // Scaled to a mean of 0.85 over 520..600 nm, so that toning keeps the picture's weight.
  const mean = raw.slice(14, 23).reduce((sum, v) => sum + v, 0) / 9
  return raw.map((v) => (v * 0.85) / mean)
})()
/** Copper ferrocyanide is reddish brown: densest in blue, less in green, half open in red (from memory). */
const copper = bells([
  [1, 430, 170],
  [0.4, 545, 100],
  [0.42, 660, 300],
])

/** Compounds that toning makes of silver: density per unit of the silver's density (from memory). */
export const TONED = {
  sulphide: sulphideOf(0),
  selenium,
  gold: powerOf(-0.55),
  'iron-blue': ironBlue,
  copper,
} as const
export type TonerName = keyof typeof TONED

/** Sulphide that a gold bath has gone through: it turns from brown towards orange-red (from memory). */
export const GILDED_SULPHIDE: Spectrum = raised(powerOf(1.1), 1.1, 504, 100)

/** Dyed film bases by their historical names: density of a base tint of strength 1 (from memory). */
export const TINTS = {
  amber: bells([
    [0.5, 440, 110],
    [0.14, 530, 70],
  ]),
  rose: bells([
    [0.4, 535, 90],
    [0.16, 440, 70],
  ]),
  blue: bells([
    [0.42, 640, 150],
    [0.1, 550, 80],
  ]),
  green: bells([
    [0.45, 660, 110],
    [0.3, 430, 90],
  ]),
  lavender: bells([[0.3, 570, 100]]),
  straw: bells([[0.35, 435, 80]]),
} as const
