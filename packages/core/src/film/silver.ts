/** Silver that a layer keeps, as density per unit of its image density, with no bleach at all (from memory). */
export const SILVER_IN_NEGATIVE = 0.75
export const SILVER_IN_PRINT = 0.45
/** An intermediate is a low-contrast stock like a negative; its silver is taken to lie between the two (from memory). */
export const SILVER_IN_INTERMEDIATE = 0.6

/**
 * Neutral density of the silver that incomplete bleaching leaves.
 * @param completeness of the bleach in per cent, 0 (bypassed) .. 100 (all silver turned back)
 * @param mean mean of the layers' image densities (without base), >= 0
 */
export const keptSilver = (completeness: number, perDensity: number, mean: number): number =>
  (1 - completeness / 100) * perDensity * mean
