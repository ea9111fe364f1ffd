import { blurRecords, blurSmall, shrunkBlur, type ShrunkBlur } from '../cpu/blur'
import { paintShapes } from '../cpu/cover'
import { applyField, fieldStep } from '../cpu/field'
import { grainStep } from '../cpu/grain'
import { kernelMemory } from '../cpu/memory'
import { Pictures, type Picture, type Values } from '../cpu/pictures'
import { runAlone, runSteps } from '../cpu/program'
import type { Shrunk, Step } from '../cpu/step'
import { shiftRecords } from '../cpu/shift'
import { clearHaze, spreadRecords } from '../cpu/spread'
import { maskWork } from '../masks/mask'
import type { SpaceStep } from '../stages/space'
import { fused, isOwn, passedOn, type FusedOp, type FusedStep } from './fuse'
import { SLOT, type Plan, type Slot } from './plan'

/** What a plan is given besides the footage. */
export interface RunGiven {
  /** The footage as scene light, for a plan that was compiled to take it. */
  readonly scene?: Picture | undefined
  /** Number of the frame, by which grain and all that moves is told apart; 0 where it is left out. */
  readonly frame?: number
}

/** Runs plans over pictures, with buffers of its own that are reused from frame to frame. */
export class PlanRunner {
  private readonly pictures = new Pictures()

  /**
   * @param camera the footage as the plan takes it, width·height pixels; not changed. It must not be what this runner gave.
   * @returns display code values (0..1), in a picture that the next run overwrites
   */
  run(plan: Plan, camera: Picture, width: number, height: number, { scene, frame = 0 }: RunGiven = {}): Picture {
    const n = width * height
    if (camera.at === this.pictures.take(SLOT.LINE, n).at)
      throw new Error('The picture handed to a plan must not be the one that it makes.')
    const given = new Map<Slot, number | undefined>([
      [SLOT.CAMERA, camera.at],
      [SLOT.SCENE, scene?.at],
    ])
    const at = (slot: Slot): number => given.get(slot) ?? this.pictures.take(slot, n).at
    const ops = fused(plan.ops)
    const wide = ops.map((_, i) => this.wideBlur(ops, i, width, height))
    for (const [i, op] of ops.entries()) {
      const blur = wide[i]
      if (op.op === 'run')
        runSteps(
          op.steps.map(
            (step) => besideBlurs(step, wide[i - 1], wide[i + 1]) ?? this.placed(step, at, frame, width, height),
          ),
          n,
        )
      else if (blur) blurSmall(blur, blur.small.address)
      else if (op.op === 'space') runSpace(op.step, frame, at(op.slot), width, height)
      else {
        const plane = maskWork(op.mask)(op.reads === null ? null : at(op.reads), width, height)
        this.mask(op.bath, n).values.set(plane)
      }
    }
    return this.pictures.take(SLOT.LINE, n)
  }

  /** The mask of a bath, as the last run left it: one number a pixel, 0..1. */
  mask(bath: string, n: number): Values {
    return this.pictures.takePlane(`mask of ${bath}`, n)
  }

  /** Gives the buffers back. */
  release(): void {
    this.pictures.release()
  }

  /** The wide blur that an operation is, where the runs before and behind it can make and take its picture shrunk. */
  private wideBlur(ops: readonly FusedOp[], i: number, width: number, height: number): WideBlur | null {
    const op = ops[i]!
    if (op.op !== 'space' || op.step.kind !== 'blur' || !passedOn(ops[i - 1], op.slot, ops[i + 1])) return null
    const blur = shrunkBlur(op.step.sigmas, width, height)
    if (!blur) return null
    const { at: address } = this.pictures.take(`shrunk ${blur.factor} times`, blur.w * blur.h)
    return { ...blur, slot: op.slot, small: { ...blur, address, width, height } }
  }

  private placed(step: FusedStep, at: (slot: Slot) => number, frame: number, width: number, height: number): Step {
    if ('slot' in step) return { do: step.do, register: step.register, address: at(step.slot) }
    if (step.do === 'lay') return { ...step, mask: step.mask === null ? 0 : this.mask(step.mask, width * height).at }
    if (step.do === 'field') return fieldStep(step.field, width, height)
    return step.do === 'grain' ? grainStep(step.grain, width, frame) : step
  }
}

interface WideBlur extends ShrunkBlur {
  readonly slot: Slot
  readonly small: Shrunk
}

/** What becomes of a step that a wide blur stands behind or before. */
function besideBlurs(
  step: FusedStep,
  before: WideBlur | null | undefined,
  behind: WideBlur | null | undefined,
): Step | null {
  if (behind && isOwn(step, 'store', behind.slot)) return { do: 'storeShrunk', small: behind.small }
  if (before && isOwn(step, 'load', before.slot)) return { do: 'loadStretched', small: before.small }
  return null
}

/** A step on a whole picture, in place. */
function runSpace(step: SpaceStep, frame: number, at: number, width: number, height: number): void {
  switch (step.kind) {
    case 'shift':
      return shiftRecords(step.records, at, width, height)
    case 'blur':
      return blurRecords(step.sigmas, at, width, height)
    case 'field':
      return applyField(step.field, step.smooth, at, width, height)
    case 'grain':
      return runAlone(grainStep(step.grain, width, frame), at, width * height)
    case 'spread':
      return spreadRecords(step.spread, at, width, height)
    case 'haze':
      return clearHaze(step.sigma, step.amount, at, width, height)
    case 'cover':
      return paintShapes(step.shapes, kernelMemory().floats(at, 4 * width * height), width, height)
    case 'moving':
      for (const now of step.at(frame)) runSpace(now, frame, at, width, height)
  }
}
