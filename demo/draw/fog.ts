import { len, type Light } from './march'
import { clamp, fbm, mix, noise, step } from './noise'

const HORIZON = 0.5

/** Dawn: a low sun behind fog, tree lines fading away, a moored boat, still water. */
export function dawnFog(u: number, v: number, time: number, aspect: number): Light {
  const x = (u - 0.5) * aspect
  if (v <= HORIZON) return over(x, v, time)
  const depth = v - HORIZON
  const ripple = (fbm(x * 5, 8 / (depth + 0.04) + time * 0.5, time * 0.2, 3) - 0.5) * (0.004 + 0.05 * depth)
  const seen = over(x + ripple, clamp(HORIZON - depth + ripple * 0.6, 0, HORIZON), time)
  const share = mix(0.92, 0.5, depth * 1.9)
  const mist = step(0.1, 0, depth) * (0.35 + 0.3 * fbm(x * 3 + time * 0.1, depth * 20, 0, 3))
  const water: Light = [seen[0] * share + 0.01, seen[1] * share + 0.014, seen[2] * share + 0.02]
  const out = mixed(water, FOG, mist)
  return reeds(out, x, v, time)
}

const FOG: Light = [0.66, 0.56, 0.5]
const mixed = (a: Light, b: Light, t: number): Light => [mix(a[0], b[0], t), mix(a[1], b[1], t), mix(a[2], b[2], t)]

function sky(x: number, v: number): Light {
  const up = clamp((HORIZON - v) / HORIZON)
  const d = len((x - 0.42) * 1, v - 0.3)
  const halo = Math.exp(-d * 5.5) * 1.5 + Math.exp(-d * 1.8) * 0.35
  const disc = step(0.05, 0.042, d) * 5
  const body: Light = [mix(0.74, 0.2, up ** 0.9), mix(0.6, 0.3, up ** 0.9), mix(0.52, 0.46, up)]
  return [body[0] + halo * 1.1 + disc, body[1] + halo * 0.62 + disc * 0.72, body[2] + halo * 0.25 + disc * 0.4]
}

/** Tree lines, far to near: height, roughness, how much fog lies before them, and their drift. */
const LINES = [
  { top: 0.43, rough: 0.05, scale: 3, fog: 0.86, drift: 0.004, tone: [0.1, 0.12, 0.12] },
  { top: 0.41, rough: 0.09, scale: 2.2, fog: 0.68, drift: 0.008, tone: [0.07, 0.09, 0.085] },
  { top: 0.4, rough: 0.16, scale: 1.5, fog: 0.36, drift: 0.014, tone: [0.045, 0.06, 0.05] },
] as const

function over(x: number, v: number, time: number): Light {
  let out = sky(x, v)
  LINES.forEach((line, i) => {
    const px = x + line.drift * time + i * 3.1
    const crown =
      line.top + line.rough * (0.5 - fbm(px * line.scale, i * 5.3, 0, 5)) + 0.012 * (0.5 - noise(px * 60, i))
    const cover = step(crown - 0.002, crown + 0.003, v)
    const bank = clamp((v - crown) / (HORIZON - crown + 0.001))
    const fog = clamp(line.fog + 0.35 * bank * fbm(px * 2 - time * 0.05, v * 8, time * 0.06, 3) + 0.25 * bank)
    out = mixed(out, mixed([...line.tone] as Light, warm(x, v), fog), cover)
  })
  return boat(out, x + 0.02 * time, v)
}

/** The fog takes the sun's colour near the sun. */
function warm(x: number, v: number): Light {
  const near = Math.exp(-len(x - 0.42, v - 0.3) * 2.2)
  return [FOG[0] + 0.5 * near, FOG[1] + 0.26 * near, FOG[2] + 0.06 * near]
}

/** A narrowboat lying at the left bank, its colours thinned by fog. */
function boat(out: Light, x: number, v: number): Light {
  const [bx, by] = [x + 0.5, v - 0.485]
  const bow = clamp((Math.abs(bx) - 0.22) / 0.1)
  const hull = Math.max(Math.abs(bx) - 0.31 + 0.25 * Math.max(0, by), Math.abs(by) - 0.02 - 0.008 * bow)
  const cabin = Math.max(Math.abs(bx - 0.03) - 0.2, Math.abs(by + 0.04) - 0.026)
  const edge = (d: number): number => step(0.0022, -0.0022, d)
  const windows = Math.abs(((((bx + 0.5) % 0.08) + 0.08) % 0.08) - 0.04) < 0.02 && Math.abs(by + 0.04) < 0.012
  const paint: Light = windows ? [0.9, 0.62, 0.3] : by < -0.058 ? [0.3, 0.26, 0.2] : [0.05, 0.19, 0.14]
  let seen = mixed(out, mixed(paint, FOG, windows ? 0.1 : 0.3), edge(cabin))
  const side: Light = by < -0.01 ? [0.55, 0.1, 0.06] : [0.05, 0.05, 0.055]
  seen = mixed(seen, mixed(side, FOG, 0.28), edge(hull))
  return seen
}

function reeds(out: Light, x: number, v: number, time: number): Light {
  if (v < 0.58 || x < 0.08) return out
  let cover = 0
  for (let i = 0; i < 46; i++) {
    const foot = 0.25 + noise(i * 7.7, 2.2) * 0.75
    const sway = 0.014 * Math.sin(time * 1.1 + i * 1.9) + (noise(i * 3.1, 8.8) - 0.5) * 0.1
    const top = 0.62 + 0.3 * noise(i * 1.7, 5.5)
    const along = clamp((1.02 - v) / (1.02 - top))
    const at = foot + sway * along * along
    if (v > top) cover = Math.max(cover, step(0.0042 * (1.1 - along), 0.0018 * (1.1 - along), Math.abs(x - at)))
    const spike = len((x - at) / 0.008, (v - top - 0.02) / 0.032)
    if (i % 3 === 0) cover = Math.max(cover, step(1, 0.86, spike))
  }
  return mixed(out, [0.028, 0.026, 0.018], cover * 0.94)
}
