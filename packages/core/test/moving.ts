import { newPart } from '../src/masks'
import { seededRandom } from '../src/numbers'
import type { Grey, Tracked } from '../src/tracking'

/** Frames that are made, whose motion is known. */
export const [W, H] = [960, 540]

/** Finer than the pictures by so much, and wider by so many of their pixels on each side. */
const [FINE, ROUND] = [2, 160]

/** A made-up surface, waves of many lengths and ways, drawn once and finely. */
export function surface(seed: number): (x: number, y: number) => number {
  const random = seededRandom(seed)
  const waves = Array.from({ length: 24 }, () => {
    const [way, length] = [2 * Math.PI * random(), 12 + 90 * random()]
    return { u: (Math.cos(way) * 2 * Math.PI) / length, v: (Math.sin(way) * 2 * Math.PI) / length, at: 7 * random() }
  })
  const [w, h] = [FINE * (W + 2 * ROUND), FINE * (H + 2 * ROUND)]
  const drawn = Float32Array.from({ length: w * h }, (_, i) => {
    const [x, y] = [(i % w) / FINE - ROUND, Math.floor(i / w) / FINE - ROUND]
    return 0.45 + waves.reduce((sum, { u, v, at }) => sum + Math.sin(u * x + v * y + at), 0) * 0.025
  })
  return (x, y) => {
    const [p, q] = [FINE * (x + ROUND), FINE * (y + ROUND)]
    const [i, j] = [Math.floor(p), Math.floor(q)]
    const at = (n: number): number => drawn[n]! + (p - i) * (drawn[n + 1]! - drawn[n]!)
    return at(j * w + i) + (q - j) * (at((j + 1) * w + i) - at(j * w + i))
  }
}
const LOOK = surface(4)

/** Where a point of the surface is seen in a frame: it wanders, turns, grows and leans. */
type Seen = (frame: number, x: number, y: number) => readonly [number, number]
export const seen: Seen = (frame, x, y) => {
  const [s, turn] = [1 + 0.002 * frame, 0.002 * frame]
  const [u, v] = [x - W / 2, y - H / 2]
  const w = 1 + 3e-6 * frame * u - 2e-6 * frame * v
  const [c, n] = [s * Math.cos(turn), s * Math.sin(turn)]
  return [W / 2 + (c * u - n * v) / w + 40 * Math.sin(frame / 15), H / 2 + (n * u + c * v) / w + 0.4 * frame]
}
/** The point of the surface that is seen at a place, by Newton's method on {@link seen}. */
function surfaceAt(frame: number, x: number, y: number): readonly [number, number] {
  let [p, q] = [x, y]
  for (let i = 0; i < 6; i++) {
    const [u, v] = seen(frame, p, q)
    const [ux, vx] = seen(frame, p + 0.01, q).map((w, k) => (w - [u, v][k]!) / 0.01) as [number, number]
    const [uy, vy] = seen(frame, p, q + 0.01).map((w, k) => (w - [u, v][k]!) / 0.01) as [number, number]
    const d = ux * vy - uy * vx
    ;[p, q] = [p + (vy * (x - u) - uy * (y - v)) / d, q + (ux * (y - v) - vx * (x - u)) / d]
  }
  return [p, q]
}

/** Where the shape comes to, in tens of pixels; the rest is left black. */
const [LEFT, RIGHT, TOP, BOTTOM] = [18, 82, 5, 54]

/** A frame with grain, an exposure that drifts, and something that passes before the surface. */
export function frameOf(frame: number, passing: boolean): Grey {
  const random = seededRandom(90 + frame)
  const pixels = new Float32Array(W * H)
  // Places between a grid are straight between its corners: the motion bends by far less than a hundredth of a pixel there.
  for (let y = 10 * TOP; y < 10 * BOTTOM; y += 10)
    for (let x = 10 * LEFT; x < 10 * RIGHT; x += 10) {
      const [a, b, c] = [surfaceAt(frame, x, y), surfaceAt(frame, x + 10, y), surfaceAt(frame, x, y + 10)]
      for (let j = 0; j < 10; j++)
        for (let i = 0; i < 10; i++) {
          const [s, t] = [(i + 0.5) / 10, (j + 0.5) / 10]
          const [p, q] = [0, 1].map((k) => a[k]! + s * (b[k]! - a[k]!) + t * (c[k]! - a[k]!)) as [number, number]
          pixels[(y + j) * W + x + i] = (1 - 0.002 * frame) * LOOK(p, q) + 0.05 * (random() - 0.5)
        }
    }
  if (passing)
    for (let y = 200; y < 330; y++) for (let x = 0; x < 95; x++) pixels[y * W + 300 + 6 * frame + x] = 0.9 - 0.002 * x
  return { pixels, width: W, height: H }
}

const rectangle = newPart('rectangle')
export const part = {
  ...rectangle,
  settings: { ...rectangle.settings, x: 50, y: 50, width: 40, height: 25 },
} as typeof rectangle
/** The shape's corners by its own settings: 40 % of the width, and 25 % of the width high. */
export const CORNERS = [
  [288, 150],
  [672, 150],
  [672, 390],
  [288, 390],
] as const

/** How far the corners of a shape that was found are from where they are, pixels. */
export const offOf = ({ frame, corners }: Tracked): number[] =>
  CORNERS.map(([x, y], k) => {
    const [u, v] = seen(frame, x, y)
    return Math.hypot((corners[k]!.x * W) / 100 - u, (corners[k]!.y * H) / 100 - v)
  })
export const mean = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / list.length
