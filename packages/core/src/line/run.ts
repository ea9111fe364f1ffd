import { applyCurve } from '../kernels/curve'
import { applyLut3d, type PointFunction } from '../kernels/lut3d'
import { layPictures } from '../kernels/lay'
import { runSpace } from '../kernels/space'
import type { Workbench } from '../kernels/workbench'
import type { BufferName, Op, Plan } from './compile'

/**
 * Runs a plan over a picture.
 * @param camera scene light, RGBA, width·height pixels; not changed. It must not lie in `bench`, whose buffers are the
 * plan's alone: whoever keeps pictures beside it takes a workbench of their own.
 * @returns display code values (BT.1886, 0..1), in a buffer of the workbench that the next run overwrites
 */
export function runPlan(
  plan: Plan,
  camera: Float32Array,
  width: number,
  height: number,
  bench: Workbench,
): Float32Array {
  if (bench.holds(camera)) throw new Error('The picture handed to a plan must not lie in the workbench of the plan.')
  const n = width * height
  const at = (name: BufferName) => (name === 'camera' ? camera : bench.take(name, n))
  for (const op of plan.ops) {
    if (op.op === 'lut') applyLut3d(op.lut, at(op.from), at(op.to), n)
    else if (op.op === 'curve') applyCurve(op.curve, at(op.from), at(op.to), n)
    else if (op.op === 'point') applyPoint(op.point, at(op.from), at(op.to), n)
    else if (op.op === 'space') runSpace(op.step, at('bath'), width, height, bench)
    else if (op.op === 'mask') runMask(op, at, width, height, bench)
    else layPictures(op.how, at('line'), at('bath'), n, op.mask ? maskPlane(op.mask, n, bench) : null)
  }
  return at('line')
}

/** The mask of a bath, as the last run left it: one number a pixel, 0..1. */
export const maskPlane = (bath: string, n: number, bench: Workbench): Float32Array => bench.takePlane(`mask ${bath}`, n)

function runMask(
  { mask, bath }: Extract<Op, { op: 'mask' }>,
  at: (name: BufferName) => Float32Array,
  width: number,
  height: number,
  bench: Workbench,
): void {
  const reading = mask.reads ? at(mask.reads) : null
  mask.run(reading, maskPlane(bath, width * height, bench), width, height, bench)
}

const scratch = new Float64Array(3)

function applyPoint(point: PointFunction, src: Float32Array, dst: Float32Array, n: number): void {
  for (let i = 0; i < 4 * n; i += 4) {
    point(src[i]!, src[i + 1]!, src[i + 2]!, scratch)
    dst[i] = scratch[0]!
    dst[i + 1] = scratch[1]!
    dst[i + 2] = scratch[2]!
    dst[i + 3] = src[i + 3]!
  }
}
