import type { Plane } from './shapes'

/**
 * Moves the edge of a mask by a distance: each pixel takes the greatest (growing) or least value within a regular
 * octagon around it. The octagon is put together from four straight lines, each a running maximum whose cost does not
 * depend on its length (M. van Herk, 1992; from memory). Outside the picture the edge's value goes on.
 * @param radius pixels; negative shrinks
 */
export function growPlane(plane: Plane, width: number, height: number, radius: number): void {
  const sign = radius < 0 ? -1 : 1
  if (sign < 0) negate(plane)
  const { side, slant } = octagon(Math.abs(radius))
  along(plane, width, height, 1, 0, side)
  along(plane, width, height, 0, 1, side)
  along(plane, width, height, 1, 1, slant)
  along(plane, width, height, 1, -1, slant)
  if (sign < 0) negate(plane)
}

/**
 * Reach of the straight and the slanting lines. Along an axis the octagon reaches side + 2 · slant = radius; its sides
 * are equally long where side = slant · √2 (lengths of slanting lines are √2 steps). Slanting steps alone would leave out
 * every other pixel, so that there is always a straight one.
 */
function octagon(radius: number): { side: number; slant: number } {
  const reach = Math.round(radius)
  const slant = Math.max(0, Math.min(Math.round(radius / (2 + Math.SQRT2)), (reach - 1) >> 1))
  return { slant, side: reach - 2 * slant }
}

const negate = (plane: Plane): void => {
  for (let i = 0; i < plane.length; i++) plane[i] = -plane[i]!
}

/** A running maximum of 2·reach + 1 pixels along one direction, in place. */
function along(plane: Plane, width: number, height: number, dx: 0 | 1, dy: -1 | 0 | 1, reach: number): void {
  if (reach === 0) return
  const line = new Float32Array(Math.max(width, height) + 2 * reach)
  const scratch = { ahead: new Float32Array(line.length), back: new Float32Array(line.length) }
  for (const [x, y] of starts(width, height, dx, dy)) {
    const across = dx === 0 ? Infinity : width - x
    const down = dy === 0 ? Infinity : dy > 0 ? height - y : y + 1
    const n = Math.min(across, down)
    const step = dy * width + dx
    let at = y * width + x
    for (let i = 0; i < n; i++, at += step) line[reach + i] = plane[at]!
    line.fill(line[reach]!, 0, reach)
    line.fill(line[reach + n - 1]!, reach + n, n + 2 * reach)
    greatest(line, n, reach, scratch)
    at = y * width + x
    for (let i = 0; i < n; i++, at += step) plane[at] = line[i]!
  }
}

/** First pixels of all lines of a direction. */
function* starts(width: number, height: number, dx: 0 | 1, dy: -1 | 0 | 1): Generator<[number, number]> {
  if (dx === 1) for (let y = 0; y < height; y++) yield [0, y]
  if (dy !== 0) for (let x = dx; x < width; x++) yield [x, dy > 0 ? 0 : height - 1]
}

/** Greatest of each window of 2·reach + 1 values; result i is for the window that begins at i. */
function greatest(
  line: Float32Array,
  n: number,
  reach: number,
  { ahead, back }: { ahead: Float32Array; back: Float32Array },
): void {
  const size = 2 * reach + 1
  const length = n + 2 * reach
  for (let i = 0; i < length; i++) ahead[i] = i % size === 0 ? line[i]! : Math.max(ahead[i - 1]!, line[i]!)
  for (let i = length - 1; i >= 0; i--)
    back[i] = i === length - 1 || i % size === size - 1 ? line[i]! : Math.max(back[i + 1]!, line[i]!)
  for (let i = 0; i < n; i++) line[i] = Math.max(back[i]!, ahead[i + size - 1]!)
}
