import type { Register } from '../cpu/step'
import type { Laying } from '../lay/blend'
import type { Mask } from '../masks/schema'
import type { SpaceStep } from '../stages/space'
import type { PointStage } from '../stages/stage'

/**
 * Pictures of a plan, by number. `CAMERA`: the footage, the host's, display code values or scene light; it is only read. `LINE`: display code
 * values so far, and the result in the end. `BATH`: what a bath is making. `SCENE`: the footage as scene light, the host's as well, where it has it. `FOOTAGE`: the untreated picture, where masks
 * read it. `PREPARED`: scene light that Prepare baths have changed. `KEPT`: the line's picture while a strand is
 * made in its place. `BASE`: the prepared picture that a look of less than full strength is laid on.
 */
export const SLOT = { CAMERA: 0, LINE: 1, BATH: 2, FOOTAGE: 3, PREPARED: 4, KEPT: 5, SCENE: 6, BASE: 7 } as const
export type Slot = (typeof SLOT)[keyof typeof SLOT]

/** A step of a run over single pixels; stages work on `own`. After `lay` the result is in both registers. */
export type RunStep =
  | { readonly do: 'load' | 'store'; readonly slot: Slot; readonly register: Register }
  /** `own` becomes the line; the line becomes `own`. */
  | { readonly do: 'keep' | 'take' }
  | { readonly do: 'stage'; readonly stage: PointStage }
  /** `mask`: id of the bath whose mask limits what is laid, or null. */
  | { readonly do: 'lay'; readonly how: Laying; readonly mask: string | null }

export type Op =
  | { readonly op: 'run'; readonly steps: readonly RunStep[] }
  | { readonly op: 'space'; readonly slot: Slot; readonly step: SpaceStep }
  /** Makes the mask of a bath from the picture that it reads, or from shapes alone. */
  | { readonly op: 'mask'; readonly bath: string; readonly mask: Mask; readonly reads: Slot | null }

/** A line made ready to run over pictures. The last operation leaves the finished picture in `LINE`. */
export interface Plan {
  readonly ops: readonly Op[]
}
