import { newBath } from './complete'
import type { Bath } from './recipe'

/** A shot's own corrections as versions before the three parts kept them; points of light are twelfths of a stop. */
interface Trims {
  readonly exposure: number
  /** Mired. */
  readonly temperature: number
  readonly tint: number
  readonly lightRed: number
  readonly lightGreen: number
  readonly lightBlue: number
}

/** Steps of undo and the shot itself tell of the same bath. */
const ID = 'balance-of-trims'

/** What such corrections are now: a balance in steps of mired, which works the same, to the bit; nothing where none was set. */
export function preparationOfTrims({ temperature, ...rest }: Trims): Bath[] {
  if ([temperature, ...Object.values(rest)].every((v) => v === 0)) return []
  return [newBath('balance', ID, { ...rest, mired: temperature, way: 'mired' })]
}

/**
 * A shot, proof or render as such a version kept it, its trims as a preparation and nothing after the look; what has no trims
 * is left as it is.
 */
export function withoutTrims(kept: unknown): unknown {
  if (typeof kept !== 'object' || kept === null || !('trims' in kept)) return kept
  const { trims, ...rest } = kept
  return { ...rest, preparation: preparationOfTrims(trims as Trims) }
}
