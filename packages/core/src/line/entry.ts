import type { Encoding } from '../colour/encodings'
import { STRAIGHT, UNPRINTED_STRAIGHT } from '../film/ends'
import type { PointStage } from '../stages/stage'
import { NO_TRIMS, trimStages, type Trims } from './trims'
import { UNPRINTED } from './unprinted'

/** What footage means to a line: display code values (BT.1886, BT.709 colours), or scene light. */
export type Refers = Encoding['refers']

/** How footage comes into a line. */
export interface Entry {
  /** To the scene light that baths take. */
  readonly scene: readonly PointStage[]
  /** To the untreated picture's code values. */
  readonly untreated: readonly PointStage[]
}

const noTrims = (trims: Trims): boolean =>
  (Object.keys(NO_TRIMS) as (keyof Trims)[]).every((key) => trims[key] === NO_TRIMS[key])

/** Untreated display footage is itself, to the last digit; trimmed, its tones alone are unprinted and printed again. */
export function entryOf(trims: Trims, refers: Refers): Entry {
  const trimmed = trimStages(trims)
  if (refers === 'scene') return { scene: trimmed, untreated: [...trimmed, ...STRAIGHT] }
  const untreated = noTrims(trims) ? [] : [UNPRINTED_STRAIGHT, ...trimmed, ...STRAIGHT]
  return { scene: [...UNPRINTED, ...trimmed], untreated }
}
