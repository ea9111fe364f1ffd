import type { Triple } from '../../colour/matrix'
import { seededRandom } from '../../numbers/random'
import { smooth } from '../../numbers/smooth'
import type { Field } from '../../stages/space'

/** Exposure that the corners lose, as log exposure: the square of the distance from the middle. */
export const falloffField =
  (share: number): Field =>
  (u, v, aspect, out) => {
    const [x, y] = [2 * u - 1, (2 * v - 1) / aspect]
    const r2 = (x * x + y * y) / (1 + 1 / (aspect * aspect))
    const loss = Math.log10(Math.max(0.05, 1 - (share / 100) * r2))
    out.fill(1, 0, 3)
    out.fill(loss, 3, 6)
  }

/** Octaves of unevenness: cells across the picture in the broadest, and how much longer clouds are along the rollers' path. */
const SPREAD = { octaves: 6, across: 2.2, drawn: 3.5 }

/**
 * Paste that lies unevenly, multiplying the dyes: 1/f noise, each octave half as wide and half as strong, drawn out along
 * the rollers' path, which is upright (own design).
 */
export function spreadField(amount: number, seed: number): Field {
  const random = seededRandom(Math.round(seed))
  const layer = () => Array.from({ length: SPREAD.octaves }, () => [random() * 4096, random() * 4096] as const)
  const [common, tint] = [layer(), layer()]
  const noise = (places: typeof common, u: number, v: number): number =>
    places.reduce((sum, [x, y], i) => {
      const cells = SPREAD.across * 2 ** i
      return sum + cloud(x + u * cells, y + (v * cells) / SPREAD.drawn) / 2 ** i
    }, 0)
  return (u, v, aspect, out) => {
    const strength = amount / 100
    const [all, warm] = [1.1 * noise(common, u, v / aspect), 0.8 * noise(tint, u, v / aspect)]
    out[0] = 1 + strength * (all + warm)
    out[1] = 1 + strength * all
    out[2] = 1 + strength * (all - warm)
    out.fill(0, 3, 6)
  }
}

/** Smooth noise between the corners of a lattice, -1..1. */
function cloud(x: number, y: number): number {
  const [i, j] = [Math.floor(x), Math.floor(y)]
  const [s, t] = [smooth(x - i), smooth(y - j)]
  const row = (k: number): number => cornerAt(i, k) + s * (cornerAt(i + 1, k) - cornerAt(i, k))
  return row(j) + t * (row(j + 1) - row(j))
}

/** A number for a corner, -1..1: a hash of whole numbers that is the same everywhere. */
function cornerAt(i: number, j: number): number {
  let h = Math.imul(i, 0x27d4eb2d) ^ Math.imul(j, 0x165667b1)
  h = Math.imul(h ^ (h >>> 15), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return ((h ^ (h >>> 16)) >>> 0) / 0x7fffffff - 1
}

/** White of the card in display code values; the picture's window is square, its lower margin three times the upper. */
const CARD: Triple = [0.93, 0.92, 0.885]
export const cardField: Field = (u, v, aspect, out) => {
  const side = 0.78
  const [x, y] = [Math.abs((u - 0.5) * aspect), v - 0.055]
  const inside = x < side / 2 && y > 0 && y < side
  const onCard = x < side / 2 + 0.055
  out.fill(inside ? 1 : 0, 0, 3)
  for (let k = 0; k < 3; k++) out[3 + k] = inside ? 0 : onCard ? CARD[k]! : 0.05
}
