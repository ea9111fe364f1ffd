/** A curve for code values 0..1, the same for all three channels: even steps, linear between, held outside. */
export type CodeCurve = Float32Array

const STEPS = 8192

/** @param f finite on 0..1 */
export const codeCurve = (f: (code: number) => number): CodeCurve =>
  Float32Array.from({ length: STEPS + 2 }, (_, i) => f(Math.min(1, i / STEPS)))

/** @param src,dst interleaved RGBA float32, length >= 4n; may be the same array. Alpha is copied. */
export function applyCurve(curve: CodeCurve, src: Float32Array, dst: Float32Array, n: number): void {
  for (let i = 0; i < 4 * n; i++) {
    const v = src[i]!
    if ((i & 3) === 3) {
      dst[i] = v
      continue
    }
    // Written so that what is no number is held at the low end.
    const at = v > 0 ? (v < 1 ? v : 1) * STEPS : 0
    const node = at | 0
    const low = curve[node]!
    dst[i] = low + (curve[node + 1]! - low) * (at - node)
  }
}
