import type { Encoding } from '../encodings'
import { STRAIGHT, UNPRINTED_STRAIGHT } from '../film/ends'
import type { PointStage } from '../stages/stage'
import { workOf } from './bath'
import { whyIdle } from './edit'
import type { Bath } from './recipe'
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

/**
 * Untreated display footage is itself, to the last digit; prepared, its tones alone are unprinted and printed again.
 * @param stages what the preparation does to scene light
 */
export function entryOf(stages: readonly PointStage[], refers: Refers): Entry {
  if (refers === 'scene') return { scene: stages, untreated: [...stages, ...STRAIGHT] }
  const untreated = stages.length === 0 ? [] : [UNPRINTED_STRAIGHT, ...stages, ...STRAIGHT]
  return { scene: [...UNPRINTED, ...stages], untreated }
}

/** Stages of a bath that is whole and works on single colours everywhere; null for any other. */
function simpleStages(bath: Bath): readonly PointStage[] | null {
  // What does nothing leaves display footage to the last digit as it came.
  if (whyIdle(bath)) return []
  const { stages, how, mask } = workOf(bath)
  const points = stages.flatMap((stage) => (stage.at === 'space' ? [] : [stage]))
  const whole = !mask && how.strength >= 100 && how.lay === 'normal' && !how.under
  return whole && points.length === stages.length ? points : null
}

/**
 * The baths of a preparation that make the way in, and their stages. From the first on that is laid, masked or looks at
 * neighbours, baths are laid on the scene light one by one.
 */
export function wayIn(preparation: readonly Bath[]): {
  readonly baths: number
  readonly stages: readonly PointStage[]
} {
  const stages: PointStage[] = []
  for (const [i, bath] of preparation.entries()) {
    const own = simpleStages(bath)
    if (!own) return { baths: i, stages }
    stages.push(...own)
  }
  return { baths: preparation.length, stages }
}
