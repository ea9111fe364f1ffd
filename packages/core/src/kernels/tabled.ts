/** A function of one number as a table with even steps, linear between; the end values hold outside. */
export type Tabled = (v: number) => number

/**
 * @param f finite on from..to @param count steps; the error is at most step²/8 times the greatest second derivative
 */
export function tabulate(f: (v: number) => number, from: number, to: number, count: number): Tabled {
  const scale = count / (to - from)
  const values = Float64Array.from({ length: count + 2 }, (_, i) => f(from + Math.min(i, count) / scale))
  return (v) => {
    const at = (v - from) * scale
    if (!(at > 0)) return values[0]!
    if (at >= count) return values[count]!
    const node = at | 0
    const low = values[node]!
    return low + (values[node + 1]! - low) * (at - node)
  }
}
