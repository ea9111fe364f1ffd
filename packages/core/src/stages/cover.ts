import type { Triple } from '../colour/matrix'

/** A shape painted over the picture. Lengths in per mille of the picture's width, places from its upper left corner. */
export type CoverShape = Speck | Fibre | Scratch | Outside

interface Painted {
  readonly colour: Triple
  /** 0..1. */
  readonly opacity: number
}

/** A wave by its amount, a share of what it bends, and its phase, radians. */
export type Wave = readonly [amount: number, phase: number]

/** A grain of dust: an ellipse whose outline is bent. */
interface Speck extends Painted {
  readonly shape: 'speck'
  readonly x: number
  readonly y: number
  readonly radius: number
  /** Longer than broad by so many times; turned by radians. */
  readonly longer: number
  readonly turn: number
  /** Waves around the outline: two of them, three, four, and so on. */
  readonly bends: readonly Wave[]
  /** Breadth of the soft edge. */
  readonly soft: number
}

/** A hair or thread, with both ends free. */
interface Fibre extends Painted {
  readonly shape: 'fibre'
  /** Along its middle. */
  readonly points: readonly (readonly [x: number, y: number])[]
  readonly breadth: number
  readonly soft: number
}

/** A scratch along the film, over the whole height. */
interface Scratch extends Painted {
  readonly shape: 'scratch'
  readonly x: number
  readonly breadth: number
  /** How far it strays to either side, and where in its way it is, radians. */
  readonly strays: number
  readonly phase: number
  /** How its depth changes along the film: waves of {@link LONG} per mille, half of it, a quarter, and so on. */
  readonly depth: readonly Wave[]
}

/** The longest wave of a scratch's depth. */
const LONG = 260

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
  if (shape.shape === 'fibre') return fibreOf(shape, perMille)
  return shape.shape === 'scratch' ? scratchOf(shape, perMille) : outsideOf(shape, perMille)
}

function speckOf({ x, y, radius, longer, turn, bends, soft }: Speck, k: number): Cover {
  const [cx, cy] = [x * k, y * k]
  const small = Math.max(0.5, radius * k)
  const most = bends.reduce((sum, [amount]) => sum + amount, 1)
  const reach = small * longer * most + Math.max(1, soft * k)
  const [c, s] = [Math.cos(turn), Math.sin(turn)]
  const columns = [[Math.floor(cx - reach), Math.ceil(cx + reach)] as const]
  return {
    rows: [Math.floor(cy - reach), Math.ceil(cy + reach)],
    columns: () => columns,
    share: (px, py) => {
      const [dx, dy] = [px + 0.5 - cx, py + 0.5 - cy]
      const [u, v] = [(c * dx + s * dy) / longer, c * dy - s * dx]
      const angle = Math.atan2(v, u)
      const bent = bends.reduce((sum, [amount, phase], i) => sum + amount * Math.sin((i + 2) * angle + phase), 1)
      return within(Math.hypot(u, v) - small * bent, soft * k)
    },
  }
}

function fibreOf({ points, breadth, soft }: Fibre, k: number): Cover {
  const at = points.map(([x, y]) => [x * k, y * k] as const)
  const half = Math.max(0.4, (breadth * k) / 2)
  const reach = half + Math.max(1, soft * k)
  const [xs, ys] = [at.map(([x]) => x), at.map(([, y]) => y)]
  const columns = [[Math.floor(Math.min(...xs) - reach), Math.ceil(Math.max(...xs) + reach)] as const]
  return {
    rows: [Math.floor(Math.min(...ys) - reach), Math.ceil(Math.max(...ys) + reach)],
    columns: () => columns,
    share: (px, py) => {
      let nearest = Infinity
      for (let i = 1; i < at.length; i++)
        nearest = Math.min(nearest, squareToStretch(px + 0.5, py + 0.5, at[i - 1]!, at[i]!))
      return within(Math.sqrt(nearest) - half, soft * k)
    },
  }
}

type Place = readonly [x: number, y: number]

/** Square of the distance of a place from the stretch between two others. */
function squareToStretch(x: number, y: number, [ax, ay]: Place, [bx, by]: Place): number {
  const [dx, dy] = [bx - ax, by - ay]
  const along = ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)
  const t = Math.min(1, Math.max(0, along))
  return (x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2
}

function scratchOf({ x, breadth, strays, phase, depth }: Scratch, k: number): Cover {
  const half = Math.max(0.35, (breadth * k) / 2)
  const at = (py: number): number => k * (x + strays * Math.sin(phase + (0.9 * py) / (k * 100)))
  const deep = (py: number): number => {
    const turns = (2 * Math.PI * py) / (k * LONG)
    return depth.reduce((sum, [amount, start], i) => sum + amount * Math.sin(2 ** i * turns + start), 0.7)
  }
  return {
    rows: [0, Infinity],
    columns: (py) => [[Math.floor(at(py) - half - 1), Math.ceil(at(py) + half + 1)]],
    share: (px, py) => Math.min(1, Math.max(0, deep(py))) * within(Math.abs(px + 0.5 - at(py)) - half),
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
