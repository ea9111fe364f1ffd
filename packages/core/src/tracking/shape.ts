import { FogBathError } from '../errors'
import type { MaskPart } from '../masks/schema'
import { fillBox, fillOutline, roundOff } from '../masks/shapes'
import type { Grey } from './grey'

/** A corner of a shape's frame, in per cent of the picture's width and height. */
export interface Corner {
  readonly x: number
  readonly y: number
}

/** The four corners of a shape's frame, clockwise from its upper left one before it was turned. */
export function frameOf(part: MaskPart, aspect: number): Corner[] {
  if (part.type === 'ellipse' || part.type === 'rectangle') {
    const { x, y, width, height, turn } = part.settings
    const [c, n] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)]
    return SIDES.map(([i, j]) => {
      const [u, v] = [(i * width) / 2, (j * height) / 2]
      return { x: x + c * u - n * v, y: y + (n * u + c * v) * aspect }
    })
  }
  if (part.type === 'outline') {
    const points = part.settings.round ? roundOff(part.settings.points) : part.settings.points
    const of = (k: number, pick: (...v: number[]) => number): number => pick(...points.map((p) => p[k]!))
    const [left, right] = [of(0, Math.min), of(0, Math.max)]
    const [top, bottom] = [of(1, Math.min), of(1, Math.max)]
    return SIDES.map(([i, j]) => ({ x: i < 0 ? left : right, y: j < 0 ? top : bottom }))
  }
  throw new FogBathError(
    'range',
    'shape',
    `A part of type '${part.type}' cannot be tracked; it must be an ellipse, a rectangle or an outline.`,
  )
}

const SIDES = [
  [-1, -1],
  [1, -1],
  [1, 1],
  [-1, 1],
] as const

/** Which pixels lie in a shape, 0..1. */
export function insideOf(part: MaskPart, { width, height }: Grey): Float32Array {
  const plane = new Float32Array(width * height)
  if (part.type === 'outline') fillOutline(part.settings, plane, { width, height })
  else if (part.type === 'ellipse' || part.type === 'rectangle')
    fillBox(part.type, { ...part.settings, edge: 0 }, plane, { width, height })
  return plane
}
