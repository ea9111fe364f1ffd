import { triple, diagonal, type Triple } from '../colour/matrix'
import type { Grain } from '../stages/grain'
import type { Spread } from '../stages/space'
import { evenCurves, mix, type PointStage, type Stage, type Tone } from '../stages/stage'
import { DENSITIES, LIGHT } from './curve'

/** What happens to light and density between neighbouring places of a film. Lengths in µm on the film. */
export interface Emulsion {
  /** Width of the picture on the film. */
  readonly gauge: number
  /** Share of an unbacked film's halation, 0 for none, and the base's thickness. */
  readonly halation: number
  readonly base: number
  /** Spread of light in negative and print: deviations of a Gaussian, 0 for none. */
  readonly spreadNegative: number
  readonly spreadPrint: number
  /** Share of a density's difference from its surroundings that is added to it. */
  readonly adjacency: number
  /** Seconds. */
  readonly exposureTime: number
  readonly grainNegative: Grain | null
  readonly grainPrint: Grain | null
}

/** A film's stages, cut where an emulsion works on neighbours. */
export interface FilmParts {
  /** Scene light to the exposures of the layers. */
  readonly exposed: readonly PointStage[]
  /** To densities as the printer meets them. */
  readonly negative: readonly PointStage[]
  /** To the densities of the print. */
  readonly print: readonly PointStage[]
  /** To display-linear light. */
  readonly shown: readonly Stage[]
}

export const wholeOf = ({ exposed, negative, print, shown }: FilmParts): Stage[] => [
  ...exposed,
  ...negative,
  ...print,
  ...shown,
]

/** A film with its emulsions at work, in the order of the light's way. */
export function throughEmulsion(e: Emulsion, { exposed, negative, print, shown }: FilmParts): Stage[] {
  const perMille = (micrometres: number): number => (1000 * micrometres) / e.gauge
  return [
    ...exposed,
    ...reciprocity(e.exposureTime),
    ...blurred(perMille(e.spreadNegative)),
    ...(e.halation > 0 ? [spread(halation(e.halation, perMille(ringRadius(e.base))))] : []),
    ...negative,
    ...(e.adjacency > 0 ? [spread(adjacency(e.adjacency, perMille(ADJACENT)))] : []),
    ...grained(e.grainNegative),
    ...(e.spreadPrint > 0 ? [evenCurves(PASSED), ...blurred(perMille(e.spreadPrint)), evenCurves(STOPPED)] : []),
    ...print,
    ...grained(e.grainPrint),
    ...shown,
  ]
}

/** Whether an emulsion does anything. */
export const works = (e: Emulsion): boolean =>
  throughEmulsion(e, { exposed: [], negative: [], print: [], shown: [] }).length > 0

const spread = (s: Spread): Stage => ({ at: 'space', space: { kind: 'spread', spread: s } })
const blurred = (sigma: number): Stage[] =>
  sigma > 0 ? [{ at: 'space', space: { kind: 'blur', sigmas: [sigma, sigma, sigma] } }] : []
const grained = (grain: Grain | null): Stage[] => (grain ? [{ at: 'space', space: { kind: 'grain', grain } }] : [])

/** Light that a density lets pass, and the density that lets so much pass. */
const PASSED: Tone = { key: 'passed', axis: DENSITIES, f: (d) => 10 ** -d }
const STOPPED: Tone = { key: 'stopped', axis: LIGHT, f: (t) => -Math.log10(Math.max(t, 2 ** -18)) }

/**
 * Deviation of the Gaussian spread of light whose modulation transfer is one half at `cycles` a millimetre, µm: of
 * MTF(f) = exp(-(f/f0)²) the line spread is a Gaussian of 1 / (sqrt(2) π f0). 0 stands for none, less than 4 for 4.
 */
export const spreadOfResolution = (cycles: number): number =>
  cycles > 0 ? (1000 * Math.sqrt(Math.LN2)) / (Math.SQRT2 * Math.PI * Math.max(4, cycles)) : 0

/** Refractive index of the base. */
const INDEX = 1.5

/**
 * Radius of the halation ring, µm: light beyond the critical angle comes back from the base's far side 2 t tan θ away,
 * tan θ = 1 / sqrt(n² - 1). @param thickness of the base, µm
 */
export const ringRadius = (thickness: number): number => (2 * thickness) / Math.sqrt(INDEX * INDEX - 1)

/** Light that an unbacked base sends back into the red, green and blue layer (from memory). */
const SENT_BACK: Triple = [0.08, 0.02, 0.004]

/** The inner Gaussian of the ring, by the outer one. */
const INNER = 0.7

/**
 * A softened ring: the difference of two Gaussians that leaves nothing in the middle, a·G(σ) - b·G(qσ) with b = q²a and
 * a - b = 1; it is highest at r² = 2σ² ln(1/q²) / (1/q² - 1). Even light stays what it is: stocks are balanced with their
 * own halation.
 */
export function halation(share: number, radius: number): Spread {
  const q2 = INNER * INNER
  const outer = radius / Math.sqrt((2 * Math.log(1 / q2)) / (1 / q2 - 1))
  const a = 1 / (1 - q2)
  const back = SENT_BACK.map((h) => h * share)
  return {
    copies: [
      { sigma: outer, share: a },
      { sigma: INNER * outer, share: 1 - a },
    ],
    keep: triple(back.map((h) => 1 / (1 + h))),
    amounts: triple(back.map((h) => h / (1 + h))),
  }
}

/** How far spent developer creeps, µm (from memory). */
const ADJACENT = 40

/** Fresh developer comes from less exposed neighbours, spent one from denser ones: d' = d + a · (d - blurred d). */
const adjacency = (share: number, sigma: number): Spread => ({
  copies: [
    { sigma: 0, share: 1 },
    { sigma, share: -1 },
  ],
  keep: [1, 1, 1],
  amounts: [share, share, share],
})

/** Exponents of E = I·t^p for the red, green and blue layer (K. Schwarzschild 1900; the values from memory). */
const SCHWARZSCHILD: Triple = [0.92, 0.9, 0.86]

/** Metered light for a time: beyond a second each layer answers less, t^(p - 1), and not alike. */
const reciprocity = (seconds: number): PointStage[] =>
  seconds > 1 ? [mix(diagonal(triple(SCHWARZSCHILD.map((p) => seconds ** (p - 1)))))] : []
