import { dot, type Triple } from '../colour/matrix'

/** Silver that a layer keeps, as diffuse density per unit of its image density, with no bleach at all (from memory). */
export const SILVER_IN_NEGATIVE = 0.5
export const SILVER_IN_PRINT = 0.36
/** An interpositive is as soft as a negative, but fine-grained, with less silver (from memory). */
export const SILVER_IN_INTERMEDIATE = 0.3

/** Shares of the cyan, magenta and yellow layer in the silver that is kept: the yellow one is coated thickest (from memory). */
export const SILVER_SHARES: Triple = [0.27, 0.28, 0.45]

/**
 * Silver scatters: light that a projector's lens does not catch counts as absorbed. Specular density of silver over its
 * diffuse density (A. Callier 1909; the value from memory). In contact printing it is 1.
 */
export const CALLIER = 1.25

/** The image density that silver goes by. @param densities of the three layers, without base */
export const silverDensity = (densities: Triple): number => dot(SILVER_SHARES, densities)

/**
 * Neutral density of the silver that incomplete bleaching leaves.
 * @param completeness of the bleach in per cent, 0 (bypassed) .. 100 (all silver turned back)
 * @param density see {@link silverDensity}, >= 0
 */
export const keptSilver = (completeness: number, perDensity: number, density: number): number =>
  (1 - completeness / 100) * perDensity * density
