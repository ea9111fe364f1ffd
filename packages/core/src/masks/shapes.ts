import { smooth } from '../numbers/smooth'
import { STILL, after, back, warped, type Warp } from '../numbers/warp'
import type { PartSettings } from './parts'

/** A mask's values, 0..1, one a pixel. */
export type Plane = Float32Array

/** Signed distance from an outline, negative inside; all lengths in per cent of the picture's width. */
type Distance = (x: number, y: number) => number

/** Math.hypot takes ten times as long. */
const length = (x: number, y: number): number => Math.sqrt(x * x + y * y)

/** First-order distance, f / |grad f| (G. Taubin, 1994, from memory): exact on the outline and along the axes. */
const ellipse =
  (a: number, b: number): Distance =>
  (x, y) => {
    const f = length(x / a, y / b)
    return f === 0 ? -Math.min(a, b) : ((f - 1) * f) / length(x / (a * a), y / (b * b))
  }

const rectangle =
  (a: number, b: number): Distance =>
  (x, y) => {
    const dx = Math.abs(x) - a
    const dy = Math.abs(y) - b
    return length(Math.max(dx, 0), Math.max(dy, 0)) + Math.min(Math.max(dx, dy), 0)
  }

/** A picture's, and from where a shape is drawn to where it is in it. */
interface Size {
  readonly width: number
  readonly height: number
  readonly warp?: Warp | undefined
}

/**
 * A value for each pixel by where its middle lies beside a place of the drawing, across and down in per cent of the width.
 * @param place in per cent of width and height
 */
function fillPlaces(
  plane: Plane,
  { width, height, warp = STILL }: Size,
  place: readonly [number, number],
  valueAt: (u: number, v: number) => number,
): void {
  const aspect = height / width
  const toPerCent: Warp = [100 / width, 0, 50 / width, 0, 100 / height, 50 / height, 0, 0, 1]
  const beside: Warp = [1, 0, -place[0], 0, aspect, -place[1] * aspect, 0, 0, 1]
  const [a, b, c, d, e, f, g, h, i] = after(beside, after(back(warp), toPerCent))
  for (let y = 0, k = 0; y < height; y++)
    for (let x = 0; x < width; x++, k++) {
      const w = g * x + h * y + i
      plane[k] = valueAt((a * x + b * y + c) / w, (d * x + e * y + f) / w)
    }
}

/** Fills a plane with an ellipse or a rectangle; an edge is never sharper than a pixel. */
export function fillBox(type: 'ellipse' | 'rectangle', s: PartSettings['ellipse'], plane: Plane, size: Size): void {
  const [across, down] = [s.width / 2, s.height / 2]
  const distance = (type === 'ellipse' ? ellipse : rectangle)(across, down)
  const edge = Math.max(100 / size.width, s.edge)
  const angle = (-s.turn * Math.PI) / 180
  const [c, n] = [Math.cos(angle), Math.sin(angle)]
  // Beyond this there is nothing of it. An ellipse's distance is not exact, so it is asked for further out.
  const beyond = type === 'ellipse' ? 2 * edge : edge
  fillPlaces(plane, size, [s.x, s.y], (u, v) => {
    const [p, q] = [c * u - n * v, n * u + c * v]
    if (Math.abs(p) > across + beyond || Math.abs(q) > down + beyond) return 0
    return smooth(0.5 - distance(p, q) / edge)
  })
}

/** 1 up to its start, 0 from its end on, along the line between the two. */
export function fillGradient(s: PartSettings['gradient'], plane: Plane, size: Size): void {
  const [dx, dy] = [s.x1 - s.x0, (s.y1 - s.y0) * (size.height / size.width)]
  // Start and end in one place: an edge of one pixel.
  const square = Math.max(dx * dx + dy * dy, (100 / size.width) ** 2)
  fillPlaces(plane, size, [s.x0, s.y0], (u, v) => 1 - smooth((u * dx + v * dy) / square))
}

type Point = readonly number[]

/** Straight pieces between two points of a rounded outline; an even number, so that the middle is a corner of them. */
export const ROUND_PIECES = 8

/** Straight pieces of a closed curve through the points (centripetal weights are not needed for so short pieces). */
export function roundOff(points: readonly Point[], pieces = ROUND_PIECES): Point[] {
  const at = (i: number): Point => points[(i + points.length) % points.length]!
  return points.flatMap((_, i) =>
    Array.from({ length: pieces }, (_, j) => {
      const t = j / pieces
      return [0, 1].map((k) => {
        const [p, q, r, s] = [at(i - 1)[k]!, at(i)[k]!, at(i + 1)[k]!, at(i + 2)[k]!]
        // Catmull-Rom (E. Catmull, R. Rom, 1974, from memory).
        return q + 0.5 * t * (r - p + t * (2 * p - 5 * q + 4 * r - s + t * (3 * (q - r) + s - p)))
      })
    }),
  )
}

/** Scan lines a pixel row; along a row coverage is exact. */
const SCANS = 4

/** Fills a plane with how much of each pixel lies inside a closed outline (even-odd rule). */
export function fillOutline(s: PartSettings['outline'], plane: Plane, { width, height, warp = STILL }: Size): void {
  const points = (s.round ? roundOff(s.points) : s.points).map((p) => {
    const [x, y] = warped(warp, p[0]!, p[1]!)
    return [(x * width) / 100, (y * height) / 100]
  })
  plane.fill(0, 0, width * height)
  const crossings: number[] = []
  for (let scan = 0; scan < SCANS * height; scan++) {
    const y = (scan + 0.5) / SCANS
    crossings.length = 0
    points.forEach(([x0, y0], i) => {
      const [x1, y1] = points[(i + 1) % points.length] as [number, number]
      if (y0! <= y !== y1 <= y) crossings.push(x0! + ((y - y0!) / (y1 - y0!)) * (x1 - x0!))
    })
    crossings.sort((a, b) => a - b)
    const row = Math.floor(scan / SCANS) * width
    for (let i = 0; i + 1 < crossings.length; i += 2) span(plane, row, width, crossings[i]!, crossings[i + 1]!)
  }
}

/** Adds one scan line's share from x0 to x1. */
function span(plane: Plane, row: number, width: number, x0: number, x1: number): void {
  const from = Math.max(0, x0)
  const to = Math.min(width, x1)
  for (let x = Math.floor(from); x < to; x++) plane[row + x]! += (Math.min(to, x + 1) - Math.max(from, x)) / SCANS
}
