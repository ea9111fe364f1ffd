import type { Triple } from '../colour/matrix'
import { cacheKey, type Tone } from '../stages/stage'
import { DENSITIES } from './curve'

/** Density over which places move half as far as at first. */
const SCALE = 2

/**
 * Where the densities low..high stand in a solid: at the logarithm of 1 + (d - low) / SCALE, so that its nodes lie closer in
 * the lights, where the eye sees most (own choice: of the scales tried, all shipped recipes err least at this one).
 */
export function densityPlaces(low: number, high: number) {
  const placeOf = (density: number): number => Math.log1p(Math.max(0, density - low) / SCALE)
  const top = placeOf(high)
  return {
    /** Density to place. */
    tone: { key: cacheKey('places', low), axis: DENSITIES, f: placeOf } satisfies Tone,
    /** The solid's box, and the density that stands at a place of it. */
    box: {
      from: [0, 0, 0] satisfies Triple,
      to: [top, top, top] satisfies Triple,
      valueAt: (place: number): number => low + SCALE * Math.expm1(place),
    },
  }
}
