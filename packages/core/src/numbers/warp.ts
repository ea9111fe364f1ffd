/** A homography, rows one after the other: (x, y) goes to ((ax + by + c) / w, (dx + ey + f) / w), w = gx + hy + i. */
export type Warp = readonly [number, number, number, number, number, number, number, number, number]

export const STILL: Warp = [1, 0, 0, 0, 1, 0, 0, 0, 1]

export function warped([a, b, c, d, e, f, g, h, i]: Warp, x: number, y: number): readonly [number, number] {
  const w = g * x + h * y + i
  return [(a * x + b * y + c) / w, (d * x + e * y + f) / w]
}

/** The first after the second. */
export function after(m: Warp, n: Warp): Warp {
  const at = (r: number, c: number): number => m[3 * r]! * n[c]! + m[3 * r + 1]! * n[3 + c]! + m[3 * r + 2]! * n[6 + c]!
  const whole = [0, 1, 2].flatMap((r) => [0, 1, 2].map((c) => at(r, c)))
  return whole.map((v) => v / whole[8]!) as unknown as Warp
}

/** The way back, by cofactors. */
export function back([a, b, c, d, e, f, g, h, i]: Warp): Warp {
  const whole = [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ]
  return whole.map((v) => v / whole[8]!) as unknown as Warp
}

type Place = { readonly x: number; readonly y: number }

/** The corners of the unit square, clockwise from (0, 0), to four others (P. Heckbert, 1989, 2.2; from memory). */
function fromSquare([p, q, r, s]: readonly Place[]): Warp {
  const [dx1, dx2, sx] = [q!.x - r!.x, s!.x - r!.x, p!.x - q!.x + r!.x - s!.x]
  const [dy1, dy2, sy] = [q!.y - r!.y, s!.y - r!.y, p!.y - q!.y + r!.y - s!.y]
  const area = dx1 * dy2 - dx2 * dy1
  const g = (sx * dy2 - dx2 * sy) / area
  const h = (dx1 * sy - sx * dy1) / area
  return [
    q!.x - p!.x + g * q!.x,
    s!.x - p!.x + h * s!.x,
    p!.x,
    q!.y - p!.y + g * q!.y,
    s!.y - p!.y + h * s!.y,
    p!.y,
    g,
    h,
    1,
  ]
}

/** From four corners, of which no three lie on a line, to four others. */
export const between = (from: readonly Place[], to: readonly Place[]): Warp =>
  after(fromSquare(to), back(fromSquare(from)))
