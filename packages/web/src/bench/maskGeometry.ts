import { MOST_POINTS, ROUND_PIECES, roundOff, type MaskPart, type PartSettings } from '@fogbath/core/masks'

/**
 * Handles of a mask's shape on the picture. Places are in per cent of the picture's width, in both directions, so that
 * turning keeps shapes; `tall` is the picture's height in the same measure.
 */
export interface Handle {
  readonly id: string
  readonly label: string
  readonly x: number
  readonly y: number
  /** `move` takes the whole shape, `turn` turns it, `insert` makes a new point. */
  readonly look: 'point' | 'move' | 'turn' | 'insert'
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

const radians = (degrees: number): number => (degrees * Math.PI) / 180
const hold = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v))
/** Two digits are finer than any pixel. */
const tidy = (v: number): number => Math.round(v * 100) / 100

export function drawingOf(part: MaskPart, tall: number): Drawing | null {
  if (part.type === 'ellipse' || part.type === 'rectangle') return boxDrawing(part.type, part.settings, tall)
  if (part.type === 'gradient') return gradientDrawing(part.settings, tall)
  if (part.type === 'outline') return outlineDrawing(part.settings, tall)
  return null
}

function boxDrawing(type: 'ellipse' | 'rectangle', s: PartSettings['ellipse'], tall: number): Drawing {
  const [cx, cy] = [s.x, (s.y / 100) * tall]
  const [c, n] = [Math.cos(radians(s.turn)), Math.sin(radians(s.turn))]
  const at = (x: number, y: number): [number, number] => [cx + c * x - n * y, cy + n * x + c * y]
  const [a, b] = [s.width / 2, s.height / 2]
  const corners = [at(-a, -b), at(a, -b), at(a, b), at(-a, b)]
  const [left, right] = [at(-a, 0), at(a, 0)]
  const path =
    type === 'rectangle'
      ? `M${corners.join('L')}Z`
      : `M${left}A${a} ${b} ${s.turn} 1 1 ${right}A${a} ${b} ${s.turn} 1 1 ${left}Z`
  const handle = (id: string, label: string, [x, y]: [number, number], look: Handle['look'] = 'point'): Handle => ({
    id,
    label,
    x,
    y,
    look,
  })
  return {
    path,
    handles: [
      handle('move', 'Move the shape', [cx, cy], 'move'),
      handle('width', 'Width of the shape', right),
      handle('height', 'Height of the shape', at(0, b)),
      handle('turn', 'Turn the shape', at(0, b < SMALL ? -b - STALK : -0.55 * b), 'turn'),
    ],
  }
}

function gradientDrawing(s: PartSettings['gradient'], tall: number): Drawing {
  const [ax, ay, bx, by] = [s.x0, (s.y0 / 100) * tall, s.x1, (s.y1 / 100) * tall]
  const length = Math.hypot(bx - ax, by - ay) || 1
  // Across the line at its two ends: there the mask is all and nothing.
  const [px, py] = [(-(by - ay) / length) * 12, ((bx - ax) / length) * 12]
  const across = (x: number, y: number): string => `M${x - px} ${y - py}L${x + px} ${y + py}`
  return {
    path: `M${ax} ${ay}L${bx} ${by}${across(ax, ay)}${across(bx, by)}`,
    handles: [
      { id: 'from', label: 'Start of the gradient, where the mask is all', x: ax, y: ay, look: 'point' },
      { id: 'to', label: 'End of the gradient, where the mask is nothing', x: bx, y: by, look: 'point' },
      { id: 'move', label: 'Move the gradient', x: (ax + bx) / 2, y: (ay + by) / 2, look: 'move' },
    ],
  }
}

function outlineDrawing(s: PartSettings['outline'], tall: number): Drawing {
  const points = s.points.map(([x, y]) => [x!, (y! / 100) * tall])
  const curve = s.round ? roundOff(points) : points
  const between = points.map((p, i) => {
    const next = points[(i + 1) % points.length]!
    return s.round ? curve[(i + 0.5) * ROUND_PIECES]! : [(p[0]! + next[0]!) / 2, (p[1]! + next[1]!) / 2]
  })
  const middle = [0, 1].map((k) => points.reduce((sum, p) => sum + p[k]!, 0) / points.length)
  return {
    path: `M${curve.map((p) => p.join(' ')).join('L')}Z`,
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
    return handle === 'width'
      ? { width: tidy(hold(2 * (c * dx + n * dy), 0.5, 200)) }
      : { height: tidy(hold(2 * (c * dy - n * dx), 0.5, 200)) }
  }
  if (part.type === 'gradient') {
    const s = part.settings
    if (handle === 'from') return { x0: across(x), y0: down(y) }
    if (handle === 'to') return { x1: across(x), y1: down(y) }
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

/** The outline with a new point behind point `at`, or without one; three are the least. */
export const inserted = (s: PartSettings['outline'], at: number, x: number, y: number, tall: number): Settings => ({
  points: [...s.points.slice(0, at + 1), [tidy(x), tidy((y / tall) * 100)], ...s.points.slice(at + 1)],
})
export const deleted = (s: PartSettings['outline'], at: number): Settings =>
  s.points.length > 3 ? { points: s.points.filter((_, i) => i !== at) } : {}
