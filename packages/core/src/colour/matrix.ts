/** Row-major 3x3 matrices and triples. */
export type Triple = readonly [number, number, number]
export type Matrix3 = readonly [Triple, Triple, Triple]

/** Three numbers of which only a list is known, as a triple. */
export const triple = ([a, b, c]: readonly number[]): Triple => [a!, b!, c!]

/** Three rows of which only a list is known, as a matrix. */
export const matrix = ([a, b, c]: readonly (readonly number[])[]): Matrix3 => [triple(a!), triple(b!), triple(c!)]

export const IDENTITY: Matrix3 = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
]

export function transform(m: Matrix3, v: Triple): [number, number, number] {
  return [dot(m[0], v), dot(m[1], v), dot(m[2], v)]
}

export const dot = (a: Triple, b: Triple): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

/** a·b: applies b first. */
export function multiply(a: Matrix3, b: Matrix3): Matrix3 {
  const column = (j: 0 | 1 | 2): Triple => [b[0][j], b[1][j], b[2][j]]
  const row = (r: Triple): Triple => [dot(r, column(0)), dot(r, column(1)), dot(r, column(2))]
  return [row(a[0]), row(a[1]), row(a[2])]
}

export const diagonal = (d: Triple): Matrix3 => [
  [d[0], 0, 0],
  [0, d[1], 0],
  [0, 0, d[2]],
]

/** Inverse by cofactors. Throws on a singular matrix. */
export function invert(m: Matrix3): Matrix3 {
  const [[a, b, c], [d, e, f], [g, h, i]] = m
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g)
  if (Math.abs(det) < 1e-14) throw new Error('The matrix has no inverse: its determinant is 0.')
  return [
    [(e * i - f * h) / det, (c * h - b * i) / det, (b * f - c * e) / det],
    [(f * g - d * i) / det, (a * i - c * g) / det, (c * d - a * f) / det],
    [(d * h - e * g) / det, (b * g - a * h) / det, (a * e - b * d) / det],
  ]
}

/** Away from or towards the grey of a colour: luma + times·(colour - luma). @param luma weights of the channels, whose sum is 1 */
export function timesChroma(luma: Triple, times: number): Matrix3 {
  const row = (k: number) => triple(luma.map((w, j) => w * (1 - times) + (j === k ? times : 0)))
  return [row(0), row(1), row(2)]
}

/** Three numbers that are written to: where a colour goes. */
export type Three = Float64Array & { 0: number; 1: number; 2: number }

/** Room for three numbers, all nothing. */
export const three = (): Three => new Float64Array(3) as Three

/** Six numbers that are written to: factors of a colour, then what is added to it. */
export type Six = Three & { 3: number; 4: number; 5: number }
export const six = (): Six => new Float64Array(6) as Six
