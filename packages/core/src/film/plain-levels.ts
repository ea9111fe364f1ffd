import { CAMERA_NEGATIVE, COLOUR_PRINT, densityAt, type Curve } from './curve'

/**
 * The plain colour negative and print on the neutral axis, in closed form. By the definition of equivalent neutral
 * density a neutral of layer densities d transmits 10^-d, so no spectra are needed here.
 */
export const POINT = 0.025

/** Flare that every projection has, as a share of white: the display on which we look stands for it. */
export const DEFAULT_FLARE = 0.0015

/** Transmittance relative to clear film of a neutral at x = log10(E / 0.18), for a printer light (log exposure). */
export function plainTransmittance(x: number, light: number, negative: Curve, print: Curve): number {
  return 10 ** -(densityAt(print, light - densityAt(negative, x)) - print.dmin)
}

/** Bisects a rising or falling function to `target`; about 1e-15 of the interval. */
export function bisect(f: (v: number) => number, target: number, low: number, high: number): number {
  const rising = f(high) > f(low)
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2
    if (f(middle) < target === rising) low = middle
    else high = middle
  }
  return (low + high) / 2
}

/** Darkest and brightest scene light that ordinary display footage is unprinted to, log10(E / 0.18). */
export const SCENE_BLACK = -3
export const SCENE_WHITE = 0.9

const levelAt = (x: number, light: number) => plainTransmittance(x, light, CAMERA_NEGATIVE, COLOUR_PRINT)

/**
 * The printer light (log exposure at the print, without any negative) at which mid grey prints to 18 % of display
 * white. Black and white levels depend on the light, so the search is on their ratio.
 */
export const PLAIN_LIGHT = bisect(
  (light) => {
    const black = levelAt(SCENE_BLACK, light)
    return (levelAt(0, light) - black) / (levelAt(SCENE_WHITE, light) - black)
  },
  0.18,
  0,
  3,
)

/** Transmittance, relative to clear film, that is shown as display black and as display white. */
export const BLACK_LEVEL = levelAt(SCENE_BLACK, PLAIN_LIGHT)
export const WHITE_LEVEL = levelAt(SCENE_WHITE, PLAIN_LIGHT)

/**
 * The black level, as a share of display white. Half of it leaves a jump of two codes in hard processes, twice it another
 * in veiled ones (measured on all recipes).
 */
const TOE = BLACK_LEVEL / (WHITE_LEVEL - BLACK_LEVEL)

/**
 * The display's soft toe: u³ / (u² + toe²), so that code values leave black with a finite slope instead of jumping, and
 * all above keeps its light (own design). Odd: what lies outside the gamut goes on below 0.
 * @param light display-linear with the black level taken off
 */
export const softBlack = (light: number): number => (light * light * light) / (light * light + TOE * TOE)
