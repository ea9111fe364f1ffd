import { invert, matrix, three, transform, triple, type Matrix3 } from '../../colour/matrix'
import { nodesOfValues, readNodes } from '../../stages/nodes'
import type { PointFunction } from '../../stages/stage'
import { chain, nothing } from '../../stages/plain'
import { memoized } from '../../numbers/memoized'
import { curvesOf } from './curves'
import type { CdlOp, Lut3dOp, MatrixOp, Op } from './op'
import { unpackFloats } from './pack'

/** ASC CDL, version 1.2: luma weights are those of BT.709. */
const CDL_LUMA = [0.2126, 0.7152, 0.0722] as const
const clip = (v: number): number => Math.min(1, Math.max(0, v))

function cdl({ back, slope, offset, power, saturation, clamp }: CdlOp): PointFunction {
  const held = clamp ? clip : (v: number): number => v
  // Without clamping, what is below 0 goes by the power untouched.
  const powered = (v: number, p: number): number => (v < 0 ? v : v ** p)
  const saturate = (out: Float64Array, times: number): void => {
    const luma = CDL_LUMA[0] * out[0]! + CDL_LUMA[1] * out[1]! + CDL_LUMA[2] * out[2]!
    for (let k = 0; k < 3; k++) out[k] = luma + times * (out[k]! - luma)
  }
  if (!back)
    return (r, g, b, out) => {
      const given = [r, g, b]
      for (const k of [0, 1, 2] as const) out[k] = powered(held(given[k]! * slope[k] + offset[k]), power[k])
      saturate(out, saturation)
      for (const k of [0, 1, 2] as const) out[k] = held(out[k])
    }
  return (r, g, b, out) => {
    nothing(held(r), held(g), held(b), out)
    saturate(out, 1 / saturation)
    for (const k of [0, 1, 2] as const) out[k] = held((powered(held(out[k]), 1 / power[k]) - offset[k]) / slope[k])
  }
}

const grid = memoized(4, (op: Lut3dOp): PointFunction => {
  const values = unpackFloats(op.nodes, 3 * op.side ** 3)
  return readNodes({ from: op.from, to: op.to, nodes: () => nodesOfValues(values), holds: 'codes' })
})

function matrixOf({ matrix: m, offset }: MatrixOp): PointFunction {
  return (r, g, b, out) => {
    const mixed = transform(m, [r, g, b])
    nothing(mixed[0] + offset[0], mixed[1] + offset[1], mixed[2] + offset[2], out)
  }
}

/** One op in double precision. */
function runOp(op: Op): PointFunction {
  const curves = curvesOf(op)
  if (curves) return (r, g, b, out) => nothing(curves[0](r), curves[1](g), curves[2](b), out)
  switch (op.op) {
    case 'matrix':
      return matrixOf(op)
    case 'cdl':
      return cdl(op)
    default:
      return grid(op as Lut3dOp)
  }
}

/** Ops one after the other, exactly. */
export const runOps = (ops: readonly Op[]): PointFunction => ops.map(runOp).reduce(chain, nothing)

function inverseMatrix(op: MatrixOp): MatrixOp {
  const inverse: Matrix3 = invert(matrix(op.matrix))
  return { op: 'matrix', matrix: inverse, offset: triple(transform(inverse, op.offset).map((v) => 0 - v)) }
}

/** Whether nodes rise or fall all the way, so that a value has one place. */
function goesOneWay(op: Extract<Op, { op: 'lut1d' }>): boolean {
  const curves = curvesOf({ ...op, back: false })!
  const out = three()
  const steps = 512
  return ([0, 1, 2] as const).every((k) => {
    const at = Array.from({ length: steps + 1 }, (_, i) =>
      curves[k](op.from[k] + ((op.to[k] - op.from[k]) * i) / steps),
    )
    out[k] = Math.sign(at.at(-1)! - at[0]!)
    return out[k] !== 0 && at.every((v, i) => i === 0 || (v - at[i - 1]!) * out[k] >= 0)
  })
}

/** The op that undoes another; null where none does. */
function inverseOp(op: Op): Op | null {
  switch (op.op) {
    case 'matrix':
      try {
        return inverseMatrix(op)
      } catch {
        return null
      }
    case 'exponent':
      return { ...op, power: [1 / op.power[0], 1 / op.power[1], 1 / op.power[2]] }
    case 'range':
      return op.scale === 0 ? null : { ...op, scale: 1 / op.scale, offset: -op.offset / op.scale, ...inverseEnds(op) }
    case 'lut1d':
      // What is undone is a table already; half domains have no even places to look for.
      return op.half || (!op.back && !goesOneWay(op)) ? null : { ...op, back: !op.back }
    case 'lut3d':
      return null
    default:
      return { ...op, back: !op.back }
  }
}

const inverseEnds = ({ scale, offset, least, most }: Extract<Op, { op: 'range' }>) => {
  const ends = [least, most].map((v) => (v === null ? null : (v - offset) / scale))
  const [low, high] = scale < 0 ? [ends[1]!, ends[0]!] : [ends[0]!, ends[1]!]
  return { least: low, most: high }
}

/** The way back; null where a step has none. */
export function inverseOps(ops: readonly Op[]): readonly Op[] | null {
  const inverse = [...ops].reverse().map(inverseOp)
  return inverse.every((op) => op !== null) ? inverse : null
}
