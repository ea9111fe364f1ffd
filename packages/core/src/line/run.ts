import { applyCurve } from '../kernels/curve'
import { applyLut3d, type PointFunction } from '../kernels/lut3d'
import { layPictures } from '../kernels/lay'
import { runSpace } from '../kernels/space'
import type { BufferName, Op, Plan } from './compile'

/** Working pictures, interleaved RGBA float32, reused from frame to frame. */
export class Workbench {
  private readonly buffers = new Map<string, Float32Array>()

  /** A picture of n pixels under a name; its contents are left from last time. */
  take(name: string, n: number): Float32Array {
    return this.room(name, 4 * n)
  }

  /** One number a pixel, likewise. */
  takePlane(name: string, n: number): Float32Array {
    return this.room(name, n)
  }

  private room(name: string, length: number): Float32Array {
    const known = this.buffers.get(name)
    if (known && known.length >= length) return known.length === length ? known : known.subarray(0, length)
    const fresh = new Float32Array(length)
    this.buffers.set(name, fresh)
    return fresh
  }
}

/**
 * Runs a plan over a picture.
 * @param camera scene light, RGBA, width·height pixels; not changed
 * @returns display code values (BT.1886, 0..1), in a buffer of the workbench that the next run overwrites
 */
export function runPlan(
  plan: Plan,
  camera: Float32Array,
  width: number,
  height: number,
  bench: Workbench,
): Float32Array {
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
