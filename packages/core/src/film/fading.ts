import type { Triple } from '../colour/matrix'

/** Gas constant, J/(mol K) (CODATA 2018). */
const R = 8.314462618

/** Loss of cyan, magenta and yellow dye, share a year at 24 °C, and activation energies (from memory). */
const DARK = { rates: [0.011, 0.0022, 0.0055] as Triple, energy: 95_000 }
const LIGHT = { rates: [0.004, 0.012, 0.007] as Triple, energy: 20_000 }
const REFERENCE = 297.15

/** Arrhenius: how much faster a reaction runs at a temperature than at 24 °C. @param celsius -20..60 */
export const arrhenius = (energy: number, celsius: number): number =>
  Math.exp((-energy / R) * (1 / (celsius + 273.15) - 1 / REFERENCE))

/**
 * Shares of the three dyes left after years.
 * @param light share of the time's harm done by light, 0..1 (0: kept in the dark)
 */
export function dyesLeft(years: number, celsius: number, light: number): Triple {
  const left = (k: 0 | 1 | 2): number => {
    const dark = DARK.rates[k] * arrhenius(DARK.energy, celsius) * (1 - light)
    const lit = LIGHT.rates[k] * arrhenius(LIGHT.energy, celsius) * light
    return Math.exp(-years * (dark + lit))
  }
  return [left(0), left(1), left(2)]
}

/** Stain that grows as couplers and gelatine yellow: density at 420 nm (from memory). */
export const stainAfter = (years: number, celsius: number): number =>
  0.35 * (1 - Math.exp(-years * 0.006 * arrhenius(70_000, celsius)))
