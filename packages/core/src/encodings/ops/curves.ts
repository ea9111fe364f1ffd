import { ACESCC, ACESCCT, BT1886, BT709_CURVE, HLG, PQ, SRGB, acesProxy, type Transfer } from '../../colour/transfer'
import { halfToNumber, numberToHalf } from '../../numbers/half'
import { memoized } from '../../numbers/memoized'
import type { CurveOp, ExponentOp, Lut1dOp, LogOp, MoncurveOp, Op, RangeOp } from './op'
import { packedCount, unpackFloats } from './pack'

type Curve = (v: number) => number
export type Curves = readonly [Curve, Curve, Curve]

const each = (make: (k: 0 | 1 | 2) => Curve): Curves => [make(0), make(1), make(2)]

/** Log of what is not above 0 is that of the smallest float, as programs that work in floats have it. */
const SMALLEST = 1.17549435e-38

function logCurves(op: LogOp): Curves {
  const perBase = 1 / Math.log(op.base)
  return each((k) => {
    const [slope, offset, linSlope, linOffset] = [op.logSlope[k], op.logOffset[k], op.linSlope[k], op.linOffset[k]]
    const toLog: Curve = (x) => slope * Math.log(Math.max(SMALLEST, linSlope * x + linOffset)) * perBase + offset
    const toLin: Curve = (y) => (op.base ** ((y - offset) / slope) - linOffset) / linSlope
    if (!op.linBreak) return op.back ? toLin : toLog
    const at = op.linBreak[k]
    const straight = op.linearSlope?.[k] ?? (slope * linSlope * perBase) / (linSlope * at + linOffset)
    const meet = toLog(at)
    if (op.back) return (y) => (y > meet ? toLin(y) : at + (y - meet) / straight)
    return (x) => (x > at ? toLog(x) : meet + straight * (x - at))
  })
}

const exponentCurves = ({ power, below }: ExponentOp): Curves =>
  each((k) => {
    const p = power[k]
    if (below === 'clamp') return (v) => Math.max(0, v) ** p
    return (v) => (v >= 0 ? v ** p : below === 'mirror' ? -((-v) ** p) : v)
  })

function moncurves({ back, power, offset, mirror }: MoncurveOp): Curves {
  return each((k) => {
    const [g, off] = [power[k], offset[k]]
    const at = off / (g - 1)
    const slope = ((g - 1) / off) * ((off * g) / ((g - 1) * (1 + off))) ** g
    const forward: Curve = (x) => (x > at ? ((x + off) / (1 + off)) ** g : slope * x)
    const inverse: Curve = (y) => (y > at * slope ? y ** (1 / g) * (1 + off) - off : y / slope)
    // A power of 1, or no offset, has no straight piece.
    const plain = off === 0 || g === 1
    const f: Curve = plain ? (v) => Math.max(0, v) ** (back ? 1 / g : g) : back ? inverse : forward
    return mirror ? (v) => (v < 0 ? -f(-v) : f(v)) : f
  })
}

function rangeCurve({ scale, offset, least, most }: RangeOp): Curves {
  return each(() => (v) => {
    const out = v * scale + offset
    return Math.min(most ?? Infinity, Math.max(least ?? -Infinity, out))
  })
}

const TRANSFERS: Readonly<Record<CurveOp['curve'], Transfer>> = {
  pq: PQ,
  hlg: HLG,
  srgb: SRGB,
  bt1886: BT1886,
  bt709: BT709_CURVE,
  acescc: ACESCC,
  acescct: ACESCCT,
  acesproxy: acesProxy(10),
}

/** Straight between nodes that stand evenly from 0 to `last`. */
function between(nodes: Curve, last: number, place: number): number {
  const held = Math.min(last, Math.max(0, place))
  const node = Math.min(last - 1, Math.floor(held))
  const low = nodes(node)
  return low + (held - node) * (nodes(node + 1) - low)
}

/** Between the half floats on either side of a number. */
function overHalves(nodes: Curve, v: number): number {
  const near = numberToHalf(Math.min(65504, Math.max(-65504, v)))
  const own = halfToNumber(near)
  if (own === v || Math.abs(v) >= 65504) return nodes(near)
  // Bits grow with the size of a number, on either side of 0.
  const next = Math.abs(own) < Math.abs(v) ? near + 1 : near === 0x8000 || near === 0 ? near : near - 1
  const other = halfToNumber(next)
  return nodes(near) + ((v - own) / (other - own)) * (nodes(next) - nodes(near))
}

/** The place at which nodes that rise or fall all the way have a value. */
function placeOf(nodes: Curve, last: number, value: number): number {
  const falls = nodes(last) < nodes(0)
  let [low, high] = [0, last]
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (nodes(middle) <= value !== falls) low = middle
    else high = middle
  }
  const span = nodes(high) - nodes(low)
  return span === 0 ? low : low + Math.min(1, Math.max(0, (value - nodes(low)) / span))
}

const lutCurves = memoized(8, (op: Lut1dOp): Curves => {
  const count = packedCount(op.nodes) / op.channels
  const values = unpackFloats(op.nodes, count * op.channels)
  const last = count - 1
  return each((k) => {
    const nodes: Curve = (i) => values[op.channels === 3 ? 3 * i + k : i]!
    const [from, to] = [op.from[k], op.to[k]]
    if (op.back) return (v) => from + (placeOf(nodes, last, v) / last) * (to - from)
    return op.half ? (v) => overHalves(nodes, v) : (v) => between(nodes, last, ((v - from) / (to - from)) * last)
  })
})

/** The function of each channel; null of what mixes them. */
export function curvesOf(op: Op): Curves | null {
  switch (op.op) {
    case 'log':
      return logCurves(op)
    case 'exponent':
      return exponentCurves(op)
    case 'moncurve':
      return moncurves(op)
    case 'range':
      return rangeCurve(op)
    case 'curve': {
      const { decode, encode } = TRANSFERS[op.curve]
      return each(() => (op.back ? encode : decode))
    }
    case 'lut1d':
      return lutCurves(op)
    default:
      return null
  }
}
