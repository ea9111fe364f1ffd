import { newPart } from '../masks/edit'
import type { MaskPart } from '../masks/schema'
import { back as backOf, warped, type Warp } from '../numbers/warp'
import { frameOf } from './shape'

/** Points along an ellipse that is seen aslant. */
const POINTS = 24

/** Points of a shape as it is drawn, in per cent of width and height. @param aspect width by height */
function pointsOf(part: MaskPart, aspect: number): (readonly [number, number])[] {
  if (part.type === 'outline') return part.settings.points.map(([x, y]) => [x!, y!])
  if (part.type !== 'ellipse') return frameOf(part, aspect).map(({ x, y }) => [x, y])
  const { x, y, width, height, turn } = part.settings
  const [c, n] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)]
  return Array.from({ length: POINTS }, (_, i) => {
    const [u, v] = [
      (width / 2) * Math.cos((2 * Math.PI * i) / POINTS),
      (height / 2) * Math.sin((2 * Math.PI * i) / POINTS),
    ]
    return [x + c * u - n * v, y + (n * u + c * v) * aspect]
  })
}

const held = (v: number): number => Math.min(150, Math.max(-50, v))

/** A shape that stands where a track has brought it, as one that is drawn there. @param aspect width by height */
export function seenPart({ warp, ...part }: MaskPart, aspect: number): MaskPart {
  if (!warp) return part
  const points = pointsOf(part as MaskPart, aspect).map(([x, y]) => warped(warp, x, y).map(held))
  const round = part.type === 'ellipse' || (part.type === 'outline' && part.settings.round)
  const edge = 'edge' in part.settings ? part.settings.edge : 0
  return newPart('outline', { points, round, edge })
}

/** A gradient is not tracked, but may follow what is; so may shapes. */
export const canFollow = ({ type }: MaskPart): boolean => type !== 'tone' && type !== 'colour' && type !== 'range'
export const canBeTracked = (part: MaskPart): boolean => canFollow(part) && part.type !== 'gradient'

/**
 * A shape as it has to be drawn to be seen where it is now once it follows a track: moved, turned and scaled back as the track
 * has gone on, without its shear. @param warp of the track here @param aspect width by height
 */
export function rebased(part: MaskPart, warp: Warp, aspect: number): MaskPart {
  const way = backOf(warp)
  const back = (x: number, y: number): readonly [number, number] => warped(way, x, y)
  if (part.type === 'outline')
    return {
      ...part,
      settings: { ...part.settings, points: part.settings.points.map(([x, y]) => back(x!, y!).map(held)) },
    }
  if (part.type === 'gradient') {
    const { x0, y0, x1, y1 } = part.settings
    const [[a, b], [c, d]] = [back(x0, y0).map(held), back(x1, y1).map(held)] as [number[], number[]]
    return { ...part, settings: { x0: a!, y0: b!, x1: c!, y1: d! } }
  }
  if (part.type !== 'ellipse' && part.type !== 'rectangle') return part
  const { x, y, width, height, turn } = part.settings
  const [px, py] = back(x, y)
  const [qx, qy] = back(x + 1, y)
  const [dx, dy] = [qx - px, (qy - py) / aspect]
  const scale = Math.hypot(dx, dy)
  const turned = ((((turn + (Math.atan2(dy, dx) * 180) / Math.PI + 180) % 360) + 360) % 360) - 180
  const size = (v: number): number => Math.min(200, Math.max(0.5, v * scale))
  return {
    ...part,
    settings: { ...part.settings, x: held(px), y: held(py), width: size(width), height: size(height), turn: turned },
  }
}
