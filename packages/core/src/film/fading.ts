import type { Triple } from '../colour/matrix'

/** Gas constant, J/(mol K) (CODATA 2018). */
const R = 8.314462618

/** Stocks by how well their cyan dye keeps in the dark. */
export const GENERATIONS = ['early', 'later'] as const
export type Generation = (typeof GENERATIONS)[number]

/** Loss of cyan, magenta and yellow dye, share a year at 24 °C and 40 % of humidity, and activation energies (from memory). */
const DARK: { readonly rates: Record<Generation, Triple>; readonly energy: number } = {
  rates: { early: [0.03, 0.0022, 0.0055], later: [0.011, 0.0022, 0.0055] },
  energy: 95_000,
}
const LIGHT = { rates: [0.004, 0.012, 0.007] as Triple, energy: 20_000 }
const REFERENCE = 297.15

/** Arrhenius: how much faster a reaction runs at a temperature than at 24 °C. @param celsius -20..60 */
export const arrhenius = (energy: number, celsius: number): number =>
  Math.exp((-energy / R) * (1 / (celsius + 273.15) - 1 / REFERENCE))

/** How much faster prints fade in the dark at a relative humidity than at 40 %: twice as fast at 65 % (from memory). */
const damp = (humidity: number): number => 2 ** ((humidity - 40) / 25)

/** How a print was kept. */
export interface Keeping {
  readonly years: number
  readonly celsius: number
  /** Per cent; 40 when left out. */
  readonly humidity?: number
  /** Share of the time's harm done by light, 0..1; 0 when left out: kept in the dark. */
  readonly light?: number
}

/** Shares of the three dyes that are left. */
export function dyesLeft({ years, celsius, humidity = 40, light = 0 }: Keeping, generation: Generation): Triple {
  const left = (k: 0 | 1 | 2): number => {
    const dark = DARK.rates[generation][k] * arrhenius(DARK.energy, celsius) * damp(humidity) * (1 - light)
    const lit = LIGHT.rates[k] * arrhenius(LIGHT.energy, celsius) * light
    return Math.exp(-years * (dark + lit))
  }
  return [left(0), left(1), left(2)]
}

/** Stain that grows as couplers and gelatine yellow: density at 420 nm (from memory). */
export const stainAfter = ({ years, celsius, humidity = 40 }: Keeping): number =>
  0.35 * (1 - Math.exp(-years * 0.006 * arrhenius(70_000, celsius) * damp(humidity)))
