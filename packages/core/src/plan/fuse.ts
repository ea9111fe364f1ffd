import type { Field } from '../stages/space'
import type { Op, RunStep, Slot } from './plan'

/** A step as the processor does it: what changes pixels by their place alone does so while they stand in a register. */
export type FusedStep = RunStep | { readonly do: 'field'; readonly field: Field }
export type FusedOp = Exclude<Op, { op: 'run' }> | { readonly op: 'run'; readonly steps: readonly FusedStep[] }

export const isOwn = (step: FusedStep | undefined, what: 'load' | 'store', slot: Slot): boolean =>
  step?.do === what && step.slot === slot && step.register === 'own'

/** Whether the picture of a slot is only put down there by the run before, to be taken up again by the run behind. */
export const passedOn = (before: FusedOp | undefined, slot: Slot, behind: FusedOp | undefined): boolean =>
  before?.op === 'run' &&
  behind?.op === 'run' &&
  before.steps.some((step) => isOwn(step, 'store', slot)) &&
  isOwn(behind.steps[0], 'load', slot)

/** Runs with nothing but smooth fields between them become one, so that the picture is not written and read in between. */
export function fused(ops: readonly Op[]): readonly FusedOp[] {
  const done: FusedOp[] = []
  for (let i = 0; i < ops.length; i++) {
    const [before, op, behind] = [done.at(-1), ops[i]!, ops[i + 1]]
    const smooth = op.op === 'space' && op.step.kind === 'field' && op.step.smooth
    if (!smooth || before?.op !== 'run' || behind?.op !== 'run' || !passedOn(before, op.slot, behind)) {
      done.push(op)
      continue
    }
    const kept = before.steps.filter((step) => !isOwn(step, 'store', op.slot))
    const field: FusedStep = { do: 'field', field: op.step.field }
    done[done.length - 1] = { op: 'run', steps: [...kept, field, ...behind.steps.slice(1)] }
    i++
  }
  return done
}
