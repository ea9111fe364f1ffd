import { len, type Light } from './march'
import { clamp, fbm, mix, noise, step } from './noise'

const CLOTHS: readonly Light[] = [
  [0.62, 0.025, 0.035],
  [0.72, 0.46, 0.02],
  [0.02, 0.12, 0.5],
  [0.03, 0.32, 0.1],
  [0.75, 0.72, 0.66],
  [0.55, 0.16, 0.01],
  [0.24, 0.03, 0.36],
  [0.02, 0.36, 0.4],
]

/** Regatta bunting on three lines before a summer sky, the nearest one sharp. */
export function bunting(u: number, v: number, time: number, aspect: number): Light {
  const x = (u - 0.5) * aspect + 0.015 * time
  let out = sky(x, v, time)
  const lines = [
    { y: 0.2, sag: 0.1, size: 0.085, soft: 0.02, shift: 2.2, lit: 0.75 },
    { y: 0.36, sag: 0.14, size: 0.15, soft: 0.006, shift: 5.9, lit: 0.9 },
    { y: 0.5, sag: -0.12, size: 0.26, soft: 0.0016, shift: 0.4, lit: 1 },
  ]
  for (const line of lines) out = flags(out, x, v, time, line)
  return out
}

function sky(x: number, v: number, time: number): Light {
  const cloud = step(0.42, 0.8, fbm(x * 1.3 + 0.02 * time + 4, v * 2.4, 0, 5))
  const blue: Light = [mix(0.16, 0.42, v), mix(0.36, 0.6, v), mix(0.82, 0.9, v)]
  const lit = 1.5 - 0.5 * fbm(x * 3, v * 5, 0, 3)
  const sun = Math.exp(-len(x - 0.75, v + 0.02) * 3.4) * 3
  return [
    mix(blue[0], lit, cloud) + sun,
    mix(blue[1], lit, cloud) + sun * 0.92,
    mix(blue[2], lit * 1.02, cloud) + sun * 0.74,
  ]
}

interface Row {
  readonly y: number
  readonly sag: number
  readonly size: number
  readonly soft: number
  readonly shift: number
  readonly lit: number
}

/** One line of pennants; `soft` is how far it lies out of focus. */
function flags(out: Light, x: number, v: number, time: number, row: Row): Light {
  const rope = row.y + row.sag * (1 - (x * x) / 0.9) * 0.6 + 0.01 * Math.sin(time * 1.2 + row.shift) * (1 - x * x)
  const at = (x + row.shift) / (row.size * 1.12)
  const index = Math.floor(at)
  const along = (at - index - 0.5) * 1.12
  const wind = Math.sin(time * 3.1 + index * 1.3) * 0.5 + Math.sin(time * 5.3 + index * 2.9) * 0.25
  const down = (v - rope) / (row.size * 1.25)
  const lean = along - wind * 0.22 * down * down
  const width = 0.5 * (1 - down)
  const soft = row.soft / row.size
  const cover = step(soft, -soft, Math.abs(lean) - width) * step(-soft, soft, down)
  const cord = (step(row.soft + 0.0022, row.soft * 0.4, Math.abs(v - rope)) * 0.003) / (0.003 + row.soft)
  if (cover <= 0 && cord <= 0) return out
  const cloth = CLOTHS[(((index * 5 + Math.floor(row.shift)) % CLOTHS.length) + CLOTHS.length) % CLOTHS.length]!
  const fold = Math.sin(lean * 7 + wind * 2.4 + down * 2 + index) * (0.35 + 0.65 * down)
  const weave = 0.92 + 0.16 * noise(x * 700, v * 700) * step(0.01, 0.002, row.soft)
  const front = clamp(0.75 + 0.5 * fold)
  // Thin cloth before a bright sky: part of its colour comes through it, more saturated.
  const light = (k: 0 | 1 | 2): number =>
    (cloth[k] * (1.5 * front + 0.45) + cloth[k] * cloth[k] * 0.9) * weave * row.lit
  const hem = down < 0.07 ? 0.75 : 1
  const seen: Light = [light(0) * hem, light(1) * hem, light(2) * hem]
  const shown: Light = [mix(out[0], seen[0], cover), mix(out[1], seen[1], cover), mix(out[2], seen[2], cover)]
  return cord > 0 ? [mix(shown[0], 0.5, cord), mix(shown[1], 0.45, cord), mix(shown[2], 0.36, cord)] : shown
}
