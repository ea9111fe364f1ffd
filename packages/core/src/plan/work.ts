import type { Laying } from '../lay/blend'
import type { Mask } from '../masks/schema'
import type { PointStage, Stage } from '../stages/stage'

/** What a bath does, complete: from scene light or from the line's code values, to scene light or code values. */
export interface BathWork {
  readonly id: string
  /** `prepare`: scene light stays scene light. `untreated`: the code values of the picture without any bath but those. */
  readonly from: 'prepare' | 'camera' | 'untreated' | 'line'
  readonly stages: readonly Stage[]
  /** A line of its own in place of stages; it begins with what `from` says. */
  readonly strand?: readonly BathWork[]
  /** Whether code values within 0..1 stay there. */
  readonly inside: boolean
  readonly how: Laying
  readonly mask: Mask | null
}

export interface LineWork {
  /** The footage to scene light, before all baths; from the scene light that the host has where `given`. */
  readonly scene: readonly PointStage[]
  readonly given?: boolean
  /** The footage to the untreated picture's code values. */
  readonly untreated: readonly PointStage[]
  /** Scene light to the untreated picture's code values. */
  readonly straight: readonly PointStage[]
  /** Laid on the scene light first, where the way in does not hold them. */
  readonly preparation?: readonly BathWork[]
  readonly baths: readonly BathWork[]
  /** Of those baths together, per cent. */
  readonly strength: number
  /** Laid on what comes of them. */
  readonly after?: readonly BathWork[]
  /** Code values to those of the delivery. */
  readonly shown: readonly PointStage[]
}
