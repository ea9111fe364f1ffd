/** False, at once or later, for enough. */
export type GoesOn = boolean | void | Promise<boolean | void>

/** What a fit tells after each step. */
interface FitStep {
  readonly step: number
  readonly cost: number
}

export interface FitOptions {
  readonly steps: number
  /** Told after each step; stops the fit by returning false. */
  readonly onStep?: (step: FitStep) => GoesOn
}

/** Width of the differences that derivatives are taken from. */
const DELTA = 0.004
/** A step that gains less than this share of the cost is the last. */
const LEAST_GAIN = 1e-4

/**
 * Least squares in the box 0..1 by Levenberg and Marquardt (K. Levenberg 1944, D. Marquardt 1963, from memory): derivatives
 * by differences, damping by the diagonal, steps held in the box. What nothing depends on stays where it is.
 * @param residuals of a place; always as many
 */
export async function leastSquares(
  residuals: (place: readonly number[]) => Float64Array,
  start: readonly number[],
  { steps, onStep }: FitOptions,
): Promise<{ readonly place: readonly number[]; readonly cost: number }> {
  let place = [...start]
  let now = residuals(place)
  let cost = costOf(now)
  let damping = 1e-2
  for (let step = 1; step <= steps; step++) {
    const { normal, gradient } = withoutHeld(derivatives(residuals, place, now), place)
    let gained = false
    for (let tries = 0; tries < 6 && !gained; tries++) {
      const change = solved(normal, gradient, damping)
      const next = place.map((v, k) => Math.min(1, Math.max(0, v - change[k]!)))
      const there = residuals(next)
      const nextCost = costOf(there)
      gained = nextCost < cost * (1 - LEAST_GAIN)
      if (gained) [place, now, cost, damping] = [next, there, nextCost, Math.max(1e-9, damping / 5)]
      else damping *= 4
    }
    const goesOn = (await onStep?.({ step, cost })) !== false
    if (!gained || !goesOn) break
  }
  return { place, cost }
}

const costOf = (r: Float64Array): number => r.reduce((sum, v) => sum + v * v, 0)

interface Derivatives {
  readonly normal: readonly (readonly number[])[]
  readonly gradient: readonly number[]
}

/** What stands at an edge of the box and would go out of it stays there, and says nothing to the others. */
function withoutHeld({ normal, gradient }: Derivatives, place: readonly number[]): Derivatives {
  const held = place.map((v, k) => (v <= 0 && gradient[k]! > 0) || (v >= 1 && gradient[k]! < 0))
  return {
    normal: normal.map((row, k) => row.map((v, j) => (held[k] || held[j] ? 0 : v))),
    gradient: gradient.map((v, k) => (held[k] ? 0 : v)),
  }
}

/** J'J and J'r. */
function derivatives(
  residuals: (place: readonly number[]) => Float64Array,
  place: readonly number[],
  now: Float64Array,
): Derivatives {
  const columns = place.map((v, k) => {
    const by = v + DELTA <= 1 ? DELTA : -DELTA
    const there = residuals(place.map((u, j) => (j === k ? u + by : u)))
    return there.map((r, i) => (r - now[i]!) / by)
  })
  const dot = (a: Float64Array, b: Float64Array): number => a.reduce((sum, v, i) => sum + v * b[i]!, 0)
  return {
    normal: columns.map((a) => columns.map((b) => dot(a, b))),
    gradient: columns.map((a) => dot(a, now)),
  }
}

/** (N + damping · diag N) x = g by elimination with pivots; 0 where a row says nothing. */
function solved(normal: readonly (readonly number[])[], gradient: readonly number[], damping: number): number[] {
  const n = gradient.length
  const most = Math.max(...normal.map((row, k) => row[k]!), 1e-12)
  const rows = normal.map((row, k) => [
    ...row.map((v, j) => (j === k ? v * (1 + damping) + 1e-9 * most : v)),
    gradient[k]!,
  ])
  for (let k = 0; k < n; k++) {
    const pivot = rows
      .slice(k)
      .reduce((best, row, i) => (Math.abs(row[k]!) > Math.abs(rows[best]![k]!) ? k + i : best), k)
    ;[rows[k], rows[pivot]] = [rows[pivot]!, rows[k]!]
    for (let i = k + 1; i < n; i++) {
      const factor = rows[i]![k]! / rows[k]![k]!
      for (let j = k; j <= n; j++) rows[i]![j]! -= factor * rows[k]![j]!
    }
  }
  const x = new Array<number>(n).fill(0)
  for (let k = n - 1; k >= 0; k--) {
    const rest = rows[k]!.slice(k + 1, n).reduce((sum, v, j) => sum + v * x[k + 1 + j]!, 0)
    x[k] = (rows[k]![n]! - rest) / rows[k]![k]!
  }
  return x
}
