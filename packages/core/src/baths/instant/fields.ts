import type { Triple } from '../../colour/matrix'
import { seededRandom } from '../../numbers/random'
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

/** Paste that lies unevenly: broad clouds and streaks along the rollers' path, multiplying the dyes. */
export function spreadField(amount: number, seed: number): Field {
  const random = seededRandom(Math.round(seed))
  const waves = Array.from({ length: 9 }, (_, i) => ({
    fx: (1 + 5 * random()) * (i % 3 === 0 ? 3 : 1),
    fy: 0.3 + 2.2 * random(),
    phase: 6.283 * random(),
    tint: random() - 0.5,
  }))
  return (u, v, _aspect, out) => {
    let common = 0
    let tint = 0
    for (const w of waves) {
      const wave = Math.sin(6.283 * (w.fx * u + w.fy * v) + w.phase)
      common += wave
      tint += wave * w.tint
    }
    const strength = amount / 100
    out[0] = 1 + strength * (0.1 * common + 0.16 * tint)
    out[1] = 1 + strength * 0.1 * common
    out[2] = 1 + strength * (0.1 * common - 0.16 * tint)
    out.fill(0, 3, 6)
  }
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
