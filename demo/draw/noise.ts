/** Value noise and its sums; the same on every machine. */
function hash(x: number, y: number, z: number): number {
  let h = Math.imul(x | 0, 374761393) + Math.imul(y | 0, 668265263) + Math.imul(z | 0, 1440662683)
  h = Math.imul(h ^ (h >>> 13), 1274126177)
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296
}

const smooth = (t: number): number => t * t * (3 - 2 * t)
export const mix = (a: number, b: number, t: number): number => a + (b - a) * t
export const clamp = (v: number, low = 0, high = 1): number => (v < low ? low : v > high ? high : v)
export const step = (from: number, to: number, v: number): number => smooth(clamp((v - from) / (to - from)))

/** Value noise, 0..1, period 1 in each direction. */
export function noise(x: number, y: number, z = 0): number {
  const [xi, yi, zi] = [Math.floor(x), Math.floor(y), Math.floor(z)]
  const [fx, fy, fz] = [smooth(x - xi), smooth(y - yi), smooth(z - zi)]
  const plane = (k: number): number =>
    mix(
      mix(hash(xi, yi, zi + k), hash(xi + 1, yi, zi + k), fx),
      mix(hash(xi, yi + 1, zi + k), hash(xi + 1, yi + 1, zi + k), fx),
      fy,
    )
  return fz === 0 ? plane(0) : mix(plane(0), plane(1), fz)
}

/** Noise summed over octaves, 0..1. */
export function fbm(x: number, y: number, z = 0, octaves = 4): number {
  let sum = 0
  let size = 0.5
  let total = 0
  for (let i = 0; i < octaves; i++) {
    sum += size * noise(x, y, z)
    total += size
    x = x * 2.03 + 17.1
    y = y * 2.03 + 31.7
    size *= 0.5
  }
  return sum / total
}
