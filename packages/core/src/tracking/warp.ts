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

export type Motion = 'move' | 'turn' | 'scale' | 'shear' | 'perspective'

/** Ways in which what is tracked may move, each by small steps of a homography about the middle. */
export const MOTIONS: Readonly<Record<Motion, readonly (readonly number[])[]>> = {
  move: [
    [0, 0, 1, 0, 0, 0, 0, 0, 0],
    [0, 0, 0, 0, 0, 1, 0, 0, 0],
  ],
  turn: [[0, -1, 0, 1, 0, 0, 0, 0, 0]],
  scale: [[1, 0, 0, 0, 1, 0, 0, 0, 0]],
  shear: [
    [1, 0, 0, 0, -1, 0, 0, 0, 0],
    [0, 1, 0, 1, 0, 0, 0, 0, 0],
  ],
  perspective: [
    [0, 0, 0, 0, 0, 0, 1, 0, 0],
    [0, 0, 0, 0, 0, 0, 0, 1, 0],
  ],
}
export const ALL_MOTIONS = Object.keys(MOTIONS) as Motion[]

/** 1 and small steps along generators. */
export const stepped = (generators: readonly (readonly number[])[], by: ArrayLike<number>): Warp =>
  STILL.map((v, k) => v + generators.reduce((sum, g, n) => sum + by[n]! * g[k]!, 0)) as unknown as Warp
