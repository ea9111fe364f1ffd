import type { Grain } from '../stages/grain'
import type { Field, SpaceStep } from '../stages/space'
import type { Op, RunStep, Slot } from './plan'

/** A step as the processor does it: what changes pixels by their place alone does so while they stand in a register. */
export type FusedStep = RunStep | ByPlace
type ByPlace = { readonly do: 'field'; readonly field: Field } | { readonly do: 'grain'; readonly grain: Grain }
export type FusedOp = Exclude<Op, { op: 'run' }> | { readonly op: 'run'; readonly steps: readonly FusedStep[] }

export const isOwn = (step: FusedStep | undefined, what: 'load' | 'store', slot: Slot): boolean =>
  step?.do === what && step.slot === slot && step.register === 'own'

/** Whether the picture of a slot is only put down there by the run before, to be taken up again by the run behind. */
export const passedOn = (before: FusedOp | undefined, slot: Slot, behind: FusedOp | undefined): boolean =>
  before?.op === 'run' &&
  behind?.op === 'run' &&
  before.steps.some((step) => isOwn(step, 'store', slot)) &&
  isOwn(behind.steps[0], 'load', slot)

/** A step on the picture as one on single pixels, where it looks at no neighbours; else null. */
function byPlace(step: SpaceStep): ByPlace | null {
  if (step.kind === 'grain') return { do: 'grain', grain: step.grain }
  return step.kind === 'field' && step.smooth ? { do: 'field', field: step.field } : null
}

/** Runs with nothing but smooth fields and grain between them become one, so that the picture is not written and read in between. */
export function fused(ops: readonly Op[]): readonly FusedOp[] {
  const done: FusedOp[] = []
  for (let i = 0; i < ops.length; i++) {
    const [before, op, behind] = [done.at(-1), ops[i]!, ops[i + 1]]
    const between = op.op === 'space' ? byPlace(op.step) : null
    if (
      op.op !== 'space' ||
      !between ||
      before?.op !== 'run' ||
      behind?.op !== 'run' ||
      !passedOn(before, op.slot, behind)
    ) {
      done.push(op)
      continue
    }
    const kept = before.steps.filter((step) => !isOwn(step, 'store', op.slot))
    done[done.length - 1] = { op: 'run', steps: [...kept, between, ...behind.steps.slice(1)] }
    i++
  }
  return done
}
