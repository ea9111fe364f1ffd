import { BT1886 } from '../colour/transfer'
import { straightView } from '../film/straight'
import { shapedTable, type ShapedTable } from './shaped'

/**
 * What a 3D LUT takes in: a range of values and how its nodes are spread over it.
 * `scene` light needs many stops; `display` is a code value 0..1; `density` is 0..5.
 */
export interface Domain {
  readonly id: 'scene' | 'display' | 'density'
  /** Value at a position 0..1 of the grid. */
  readonly valueAt: (position: number) => number
  /** Position 0..1 of a value; held at the ends outside the range. */
  readonly positionOf: (value: number) => number
  /** The position as a table over float bits, or a plain scale where the position is proportional to the value. */
  readonly shaper: ShapedTable | { readonly scale: number }
}

const LOW = -3.1
const HIGH = 3.1
/** How the nodes are shared out: by what the eye will see, evenly over the stops that prints show, and over all. */
const SEEN = 0.11
const SHOWN = 0.87
const SHOWN_FROM = -2.5
const SHOWN_TO = 2.9

const within = (x: number, low: number, high: number): number => Math.min(1, Math.max(0, (x - low) / (high - low)))

function scenePosition(light: number): number {
  const x = Math.log10(light / 0.18)
  if (!(x > LOW)) return 0
  if (x >= HIGH) return 1
  const seen = BT1886.encode(straightView(light))
  return SEEN * seen + SHOWN * within(x, SHOWN_FROM, SHOWN_TO) + (1 - SEEN - SHOWN) * within(x, LOW, HIGH)
}

function sceneValue(position: number): number {
  let low = LOW
  let high = HIGH
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2
    if (scenePosition(0.18 * 10 ** middle) < position) low = middle
    else high = middle
  }
  return 0.18 * 10 ** ((low + high) / 2)
}

const hold = (v: number): number => (v > 0 ? (v < 1 ? v : 1) : 0)

/** Scene light from 0.18·10^-3.1 to 0.18·10^3.1 (20 stops); below and above that no film answers. */
export const SCENE: Domain = {
  id: 'scene',
  valueAt: sceneValue,
  positionOf: scenePosition,
  shaper: shapedTable(scenePosition, -13, 8),
}

export const DISPLAY: Domain = { id: 'display', valueAt: (p) => p, positionOf: hold, shaper: { scale: 1 } }

const TOP = 5
export const DENSITY: Domain = {
  id: 'density',
  valueAt: (p) => p * TOP,
  positionOf: (v) => hold(v / TOP),
  shaper: { scale: 1 / TOP },
}
