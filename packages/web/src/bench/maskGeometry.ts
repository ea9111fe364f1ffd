import { MOST_POINTS, ROUND_PIECES, roundOff, type MaskPart, type PartSettings } from '@fogbath/core/masks'
import { STILL, back, warped, type Warp } from '@fogbath/core/numbers'

/**
 * Handles of a mask's shape on the picture. Places are in per cent of the picture's width, in both directions, so that
 * turning keeps shapes; `tall` is the picture's height in the same measure.
 */
export interface Handle {
  readonly id: string
  readonly label: string
  readonly x: number
  readonly y: number
  /** `move` takes the whole shape, `turn` turns it, `edge` makes it softer, `insert` makes a new point. */
  readonly look: 'point' | 'move' | 'turn' | 'edge' | 'insert'
}

export interface Drawing {
  /** SVG path of the outline. */
  readonly path: string
  readonly handles: readonly Handle[]
}

type Settings = Record<string, unknown>

/** Half heights below which the turning handle stands above the shape, this far off; in larger ones it stands inside. */
const SMALL = 8
const STALK = 4
/** The handle of the soft edge stands this far off where it ends. */
const EDGE_OFF = 1.5

const radians = (degrees: number): number => (degrees * Math.PI) / 180
const hold = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v))
/** Two digits are finer than any pixel. */
const tidy = (v: number): number => Math.round(v * 100) / 100

/**
 * A place of the drawing where it is in the frame at hand, and back; both in the measure of handles. Handles are drawn where
 * the shape is, and what is dragged is told where it is drawn.
 */
export function placesOf({ warp = STILL }: MaskPart, tall: number) {
  const way = back(warp)
  const through = (by: Warp, x: number, y: number): [number, number] => {
    const [u, v] = warped(by, x, (y / tall) * 100)
    return [u, (v / 100) * tall]
  }
  return {
    there: (x: number, y: number) => through(warp, x, y),
    drawn: (x: number, y: number) => through(way, x, y),
  }
}

/** The shape where it is in the frame at hand. */
export function drawingOf(part: MaskPart, tall: number): Drawing | null {
  const drawing = drawnOf(part, tall)
  if (!drawing) return null
  const { there } = placesOf(part, tall)
  return {
    path: drawing.lines.map((line) => `M${line.map(([x, y]) => there(x, y).join(' ')).join('L')}`).join(''),
    handles: drawing.handles.map((handle) => {
      const [x, y] = there(handle.x, handle.y)
      return { ...handle, x, y }
    }),
  }
}

type Place = readonly [number, number]
/** As it is drawn: lines of places, and handles. */
interface Drawn {
  readonly lines: readonly (readonly Place[])[]
  readonly handles: readonly Handle[]
}

function drawnOf(part: MaskPart, tall: number): Drawn | null {
  if (part.type === 'ellipse' || part.type === 'rectangle') return boxDrawing(part.type, part.settings, tall)
  if (part.type === 'gradient') return gradientDrawing(part.settings, tall)
  if (part.type === 'outline') return outlineDrawing(part.settings, tall)
  return null
}

/** Straight lines that an ellipse is drawn with. */
const ROUND = 96

function boxDrawing(type: 'ellipse' | 'rectangle', s: PartSettings['ellipse'], tall: number): Drawn {
  const [cx, cy] = [s.x, (s.y / 100) * tall]
  const [c, n] = [Math.cos(radians(s.turn)), Math.sin(radians(s.turn))]
  const at = (x: number, y: number): [number, number] => [cx + c * x - n * y, cy + n * x + c * y]
  const [a, b] = [s.width / 2, s.height / 2]
  const line =
    type === 'rectangle'
      ? [at(-a, -b), at(a, -b), at(a, b), at(-a, b), at(-a, -b)]
      : Array.from({ length: ROUND + 1 }, (_, i) => {
          const turned = (2 * Math.PI * i) / ROUND
          return at(a * Math.cos(turned), b * Math.sin(turned))
        })
  const handle = (id: string, label: string, [x, y]: [number, number], look: Handle['look'] = 'point'): Handle => ({
    id,
    label,
    x,
    y,
    look,
  })
  return {
    lines: [line],
    handles: [
      handle('move', 'Move the shape', [cx, cy], 'move'),
      handle('width', 'Width of the shape', at(a, 0)),
      handle('edge', 'Soft edge of the shape', at(-a - s.edge / 2 - EDGE_OFF, 0), 'edge'),
      handle('height', 'Height of the shape', at(0, b)),
      handle('turn', 'Turn the shape', at(0, b < SMALL ? -b - STALK : -0.55 * b), 'turn'),
    ],
  }
}

function gradientDrawing(s: PartSettings['gradient'], tall: number): Drawn {
  const [ax, ay, bx, by] = [s.x0, (s.y0 / 100) * tall, s.x1, (s.y1 / 100) * tall]
  const length = Math.hypot(bx - ax, by - ay) || 1
  // Across the line at its two ends: there the mask is all and nothing.
  const [px, py] = [(-(by - ay) / length) * 12, ((bx - ax) / length) * 12]
  const across = (x: number, y: number): Place[] => [
    [x - px, y - py],
    [x + px, y + py],
  ]
  return {
    lines: [
      [
        [ax, ay],
        [bx, by],
      ],
      across(ax, ay),
      across(bx, by),
    ],
    handles: [
      { id: 'from', label: 'Start of the gradient, where the mask is all', x: ax, y: ay, look: 'point' },
      { id: 'to', label: 'End of the gradient, where the mask is nothing', x: bx, y: by, look: 'point' },
      { id: 'move', label: 'Move the gradient', x: (ax + bx) / 2, y: (ay + by) / 2, look: 'move' },
      { id: 'turn', label: 'Turn the gradient', x: (ax + bx) / 2 + px, y: (ay + by) / 2 + py, look: 'turn' },
    ],
  }
}

function outlineDrawing(s: PartSettings['outline'], tall: number): Drawn {
  const points = s.points.map(([x, y]) => [x!, (y! / 100) * tall])
  const curve = s.round ? roundOff(points) : points
  const between = points.map((p, i) => {
    const next = points[(i + 1) % points.length]!
    return s.round ? curve[(i + 0.5) * ROUND_PIECES]! : [(p[0]! + next[0]!) / 2, (p[1]! + next[1]!) / 2]
  })
  const middle = [0, 1].map((k) => points.reduce((sum, p) => sum + p[k]!, 0) / points.length)
  return {
    lines: [[...curve, curve[0]!].map(([x, y]) => [x!, y!] as const)],
    handles: [
      { id: 'move', label: 'Move the outline', x: middle[0]!, y: middle[1]!, look: 'move' },
      ...points.map(([x, y], i): Handle => ({ id: `p${i}`, label: `Point ${i + 1}`, x: x!, y: y!, look: 'point' })),
      ...(points.length < MOST_POINTS ? between : []).map(([x, y], i): Handle => ({
        id: `i${i}`,
        label: `New point after ${i + 1}`,
        x: x!,
        y: y!,
        look: 'insert',
      })),
    ],
  }
}

/** What changes when a handle is put at a place. */
export function dragged(part: MaskPart, handle: string, x: number, y: number, tall: number): Settings {
  const down = (v: number): number => tidy(hold((v / tall) * 100, -50, 150))
  const across = (v: number): number => tidy(hold(v, -50, 150))
  if (part.type === 'ellipse' || part.type === 'rectangle') {
    const s = part.settings
    if (handle === 'move') return { x: across(x), y: down(y) }
    const [dx, dy] = [x - s.x, y - (s.y / 100) * tall]
    if (handle === 'turn') return { turn: tidy((Math.atan2(dx, -dy) * 180) / Math.PI) }
    const [c, n] = [Math.cos(radians(s.turn)), Math.sin(radians(s.turn))]
    if (handle === 'edge') return { edge: tidy(hold(2 * (-(c * dx + n * dy) - s.width / 2 - EDGE_OFF), 0, 60)) }
    return handle === 'width'
      ? { width: tidy(hold(2 * (c * dx + n * dy), 0.5, 200)) }
      : { height: tidy(hold(2 * (c * dy - n * dx), 0.5, 200)) }
  }
  if (part.type === 'gradient') {
    const s = part.settings
    if (handle === 'from') return { x0: across(x), y0: down(y) }
    if (handle === 'to') return { x1: across(x), y1: down(y) }
    if (handle === 'turn') return turnedGradient(s, x, y, tall)
    const [mx, my] = [x - (s.x0 + s.x1) / 2, (y / tall) * 100 - (s.y0 + s.y1) / 2]
    const moved = (v: number, by: number): number => tidy(hold(v + by, -50, 150))
    return { x0: moved(s.x0, mx), y0: moved(s.y0, my), x1: moved(s.x1, mx), y1: moved(s.y1, my) }
  }
  if (part.type !== 'outline') return {}
  const { points } = part.settings
  if (handle === 'move') {
    const middle = [0, 1].map((k) => points.reduce((sum, p) => sum + p[k]!, 0) / points.length)
    const by = [x - middle[0]!, (y / tall) * 100 - middle[1]!]
    return { points: points.map((p) => p.map((v, k) => tidy(hold(v + by[k]!, -50, 150)))) }
  }
  const at = Number(handle.slice(1))
  return { points: points.map((p, i) => (i === at ? [across(x), down(y)] : p)) }
}

/** About its middle, so that its handle points to a place. */
function turnedGradient(s: PartSettings['gradient'], x: number, y: number, tall: number): Settings {
  const [mx, my] = [(s.x0 + s.x1) / 2, (((s.y0 + s.y1) / 2) * tall) / 100]
  const half = Math.hypot(s.x1 - s.x0, ((s.y1 - s.y0) * tall) / 100) / 2
  const away = Math.hypot(x - mx, y - my) || 1
  // The handle stands across the line: a quarter of a turn ahead of it.
  const [ux, uy] = [((y - my) / away) * half, (-(x - mx) / away) * half]
  const at = (px: number, py: number): [number, number] => [
    tidy(hold(px, -50, 150)),
    tidy(hold((py / tall) * 100, -50, 150)),
  ]
  const [[x0, y0], [x1, y1]] = [at(mx - ux, my - uy), at(mx + ux, my + uy)]
  return { x0, y0, x1, y1 }
}

/** The outline with a new point behind point `at`, or without one; three are the least. */
export const inserted = (s: PartSettings['outline'], at: number, x: number, y: number, tall: number): Settings => ({
  points: [...s.points.slice(0, at + 1), [tidy(x), tidy((y / tall) * 100)], ...s.points.slice(at + 1)],
})
export const deleted = (s: PartSettings['outline'], at: number): Settings =>
  s.points.length > 3 ? { points: s.points.filter((_, i) => i !== at) } : {}
