type Point = readonly [x: number, y: number]

/**
 * The monotone piecewise cubic of F. N. Fritsch and R. E. Carlson (1980): through all points, rising only where they rise. Slopes begin
 * as the mean of the two chords; where a piece would swing, they are drawn back to its circle of radius 3.
 * Outside the points the first and the last value hold.
 * @param points one or more, x rising
 */
export function monotoneCubic(points: readonly Point[]): (x: number) => number {
  const n = points.length
  if (n === 1) return () => points[0]![1]
  const xs = points.map((p) => p[0])
  const ys = points.map((p) => p[1])
  const chords = xs.slice(1).map((x, i) => (ys[i + 1]! - ys[i]!) / (x - xs[i]!))
  const slopes = monotoneSlopes(chords)
  return (x) => {
    if (!(x > xs[0]!)) return ys[0]!
    if (x >= xs[n - 1]!) return ys[n - 1]!
    const i = xs.findLastIndex((at) => at <= x)
    const h = xs[i + 1]! - xs[i]!
    const t = (x - xs[i]!) / h
    const [t2, t3] = [t * t, t * t * t]
    return (
      (2 * t3 - 3 * t2 + 1) * ys[i]! +
      (t3 - 2 * t2 + t) * h * slopes[i]! +
      (3 * t2 - 2 * t3) * ys[i + 1]! +
      (t3 - t2) * h * slopes[i + 1]!
    )
  }
}

function monotoneSlopes(chords: readonly number[]): number[] {
  const last = chords.length - 1
  // Where it turns it is level, so that it turns at the point and nowhere else.
  const inner = chords.slice(1).map((c, i) => (chords[i]! * c > 0 ? (chords[i]! + c) / 2 : 0))
  const slopes = [chords[0]!, ...inner, chords[last]!]
  chords.forEach((chord, i) => {
    if (chord === 0) {
      slopes[i] = 0
      slopes[i + 1] = 0
      return
    }
    const [a, b] = [slopes[i]! / chord, slopes[i + 1]! / chord]
    const [near, far] = [2 * a + b - 3, a + 2 * b - 3]
    // Outside the region in which a cubic is monotone (their lemma 2).
    if (near > 0 && far > 0 && a * (near + far) < near * near) {
      const pull = (3 * chord) / Math.hypot(a, b)
      slopes[i] = a * pull
      slopes[i + 1] = b * pull
    }
  })
  return slopes
}

/** The same around a circle: x from 0 to 1, and on at 0. */
export function monotoneCircle(points: readonly Point[]): (x: number) => number {
  const moved = (by: number) => points.map(([x, y]) => [x + by, y] as const)
  const f = monotoneCubic([...moved(-1), ...points, ...moved(1)])
  return (x) => f(x - Math.floor(x))
}
