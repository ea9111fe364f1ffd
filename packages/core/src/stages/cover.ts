import type { Triple } from '../colour/matrix'

/** A shape painted over the picture. Lengths in per mille of the picture's width, places from its upper left corner. */
export type CoverShape = Speck | Scratch | Outside

interface Painted {
  readonly colour: Triple
  /** 0..1. */
  readonly opacity: number
}

/** A grain of dust: an uneven ellipse. */
interface Speck extends Painted {
  readonly shape: 'speck'
  readonly x: number
  readonly y: number
  readonly radius: number
  /** Longer than broad by so many times; turned by radians. */
  readonly longer: number
  readonly turn: number
}

/** A scratch along the film, over the whole height. */
interface Scratch extends Painted {
  readonly shape: 'scratch'
  readonly x: number
  readonly breadth: number
  /** How far it strays to either side, and where in its way it is, radians. */
  readonly strays: number
  readonly phase: number
}

/** All that lies outside a rectangle with round corners. */
interface Outside extends Painted {
  readonly shape: 'outside'
  readonly left: number
  readonly top: number
  readonly right: number
  readonly bottom: number
  readonly radius: number
  /** Breadth of the soft edge. */
  readonly soft: number
}

/** A shape on a picture: the rows and columns that it may touch, and its share of a pixel there. */
export interface Cover {
  readonly rows: readonly [first: number, last: number]
  /** Stretches of a row, first and last pixel each; pixels between them are not covered at all. */
  readonly columns: (y: number) => readonly (readonly [first: number, last: number])[]
  readonly share: (x: number, y: number) => number
}

/** Covered by a distance from the outline, in pixels, below 0 inside. */
const within = (distance: number, soft = 1): number => Math.min(1, Math.max(0, 0.5 - distance / Math.max(1, soft)))

/** @param perMille pixels that a per mille of the width is */
export function coverOf(shape: CoverShape, perMille: number): Cover {
  if (shape.shape === 'speck') return speckOf(shape, perMille)
  return shape.shape === 'scratch' ? scratchOf(shape, perMille) : outsideOf(shape, perMille)
}

function speckOf({ x, y, radius, longer, turn }: Speck, k: number): Cover {
  const [cx, cy] = [x * k, y * k]
  const small = Math.max(0.5, radius * k)
  const reach = small * longer * 1.3 + 1
  const [c, s] = [Math.cos(turn), Math.sin(turn)]
  const columns = [[Math.floor(cx - reach), Math.ceil(cx + reach)] as const]
  return {
    rows: [Math.floor(cy - reach), Math.ceil(cy + reach)],
    columns: () => columns,
    share: (px, py) => {
      const [dx, dy] = [px + 0.5 - cx, py + 0.5 - cy]
      const [u, v] = [(c * dx + s * dy) / longer, c * dy - s * dx]
      // Three bulges, so that it is no disc.
      const outline = small * (1 + 0.22 * Math.sin(3 * Math.atan2(v, u) + turn))
      return within(Math.hypot(u, v) - outline)
    },
  }
}

function scratchOf({ x, breadth, strays, phase }: Scratch, k: number): Cover {
  const half = Math.max(0.35, (breadth * k) / 2)
  const at = (py: number): number => k * (x + strays * Math.sin(phase + (0.9 * py) / (k * 100)))
  return {
    rows: [0, Infinity],
    columns: (py) => [[Math.floor(at(py) - half - 1), Math.ceil(at(py) + half + 1)]],
    share: (px, py) => within(Math.abs(px + 0.5 - at(py)) - half),
  }
}

function outsideOf({ left, top, right, bottom, radius, soft }: Outside, k: number): Cover {
  const [cx, cy] = [((left + right) * k) / 2, ((top + bottom) * k) / 2]
  const [halfX, halfY] = [((right - left) * k) / 2, ((bottom - top) * k) / 2]
  const round = Math.min(radius * k, halfX, halfY)
  const edge = Math.max(1, soft * k)
  // Nearer to the middle than this nothing is covered.
  const inner = round + edge
  return {
    rows: [0, Infinity],
    columns: (py) => {
      const clear = Math.abs(py + 0.5 - cy) < halfY - inner
      if (!clear) return [[0, Infinity]]
      return [
        [0, Math.floor(cx - halfX + inner)],
        [Math.ceil(cx + halfX - inner), Infinity],
      ]
    },
    share: (px, py) => {
      const [x, y] = [Math.abs(px + 0.5 - cx) - halfX + round, Math.abs(py + 0.5 - cy) - halfY + round]
      const distance = Math.hypot(Math.max(0, x), Math.max(0, y)) + Math.min(0, Math.max(x, y)) - round
      return within(-distance, edge)
    },
  }
}
