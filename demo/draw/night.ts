import { len, type Light } from './march'
import { clamp, fbm, mix, noise, step } from './noise'

/** Lamps along the towpath: place, size, colour and strength; the first is the lantern that swings. */
const LAMPS: readonly {
  readonly x: number
  readonly y: number
  readonly size: number
  readonly power: number
  readonly hue: Light
}[] = [
  { x: 0.36, y: 0.4, size: 0.012, power: 38, hue: [1, 0.62, 0.26] },
  { x: 0.86, y: 0.455, size: 0.004, power: 16, hue: [1, 0.72, 0.4] },
  { x: 0.735, y: 0.47, size: 0.003, power: 10, hue: [0.75, 0.9, 1] },
  { x: 0.655, y: 0.474, size: 0.0026, power: 8, hue: [1, 0.5, 0.2] },
  { x: 0.12, y: 0.468, size: 0.003, power: 9, hue: [1, 0.35, 0.2] },
  { x: 0.585, y: 0.478, size: 0.002, power: 6, hue: [0.5, 1, 0.7] },
]
const WATERLINE = 0.56

/** A lantern on a pole over black water, a brick lock house behind it, lamps in the distance. */
export function lantern(u: number, v: number, time: number, aspect: number): Light {
  const drift = 0.012 * time
  const x = u + drift * 0.4
  if (v > WATERLINE) return reflection(x, v, time, aspect)
  return above(x, v, time, aspect)
}

function above(x: number, v: number, time: number, aspect: number): Light {
  const out: Light = [0.004 + 0.012 * v, 0.007 + 0.018 * v, 0.018 + 0.03 * v]
  const star = noise(x * 900, v * 500)
  if (star > 0.985 && v < 0.35) add(out, [0.7, 0.8, 1], (star - 0.985) * 8)
  const hill = 0.47 - 0.05 * fbm(x * 3 + 2, 1.5, 0, 4)
  if (v > hill) set(out, [0.0035, 0.005, 0.007])
  brickHouse(out, x, v, time, aspect)
  pole(out, x, v, aspect)
  figure(out, x, v, time, aspect)
  glow(out, x, v, time, aspect)
  return out
}

const add = (out: Light, hue: Light, amount: number): void => {
  for (const k of [0, 1, 2] as const) out[k] += hue[k] * amount
}
const set = (out: Light, c: Light): void => {
  for (const k of [0, 1, 2] as const) out[k] = c[k]
}

const sway = (time: number): number => 0.006 * Math.sin(time * 2.1)

/** Light of the lantern on a wall behind it: falls off with the square of the distance. */
function lanternOn(x: number, v: number, time: number, aspect: number): number {
  const dx = (x - LAMPS[0]!.x - sway(time)) * aspect
  const dy = v - LAMPS[0]!.y
  return (0.016 * (1 + 0.05 * Math.sin(time * 17) + 0.03 * Math.sin(time * 29))) / (dx * dx + dy * dy + 0.012)
}

function brickHouse(out: Light, x: number, v: number, time: number, aspect: number): void {
  if (x > 0.33 || v < 0.12 + 0.35 * Math.max(0, x - 0.22)) return
  const row = Math.floor(v * 62)
  const across = x * aspect * 26 + (row % 2) * 0.5
  const joint = Math.min(Math.abs((across % 1) - 0.5), 0.46) > 0.44 || (v * 62) % 1 < 0.12
  const tone = 0.7 + 0.6 * noise(Math.floor(across), row) * fbm(x * 30, v * 30, 0, 2)
  const brick: Light = joint ? [0.22, 0.19, 0.16] : [0.3 * tone, 0.12 * tone, 0.075 * tone]
  const lit = lanternOn(x, v, time, aspect) * step(0.35, 0.2, x) + 0.018
  set(out, [brick[0] * (lit * 1 + 0.01), brick[1] * (lit * 0.62 + 0.014), brick[2] * (lit * 0.28 + 0.03)])
  const [wx, wy] = [(x - 0.15) / 0.055, (v - 0.33) / 0.085]
  if (Math.abs(wx) < 1 && Math.abs(wy) < 1) {
    const bar = Math.abs(wx) < 0.06 || Math.abs(wy) < 0.05 || Math.abs(wx) > 0.9 || Math.abs(wy) > 0.92
    set(
      out,
      bar ? [0.03, 0.018, 0.01] : [1.6 - 0.5 * wy + 0.3 * noise(x * 60, v * 20), 0.85 - 0.3 * wy, 0.28 - 0.1 * wy],
    )
  }
}

function pole(out: Light, x: number, v: number, aspect: number): void {
  const dx = (x - 0.385) * aspect
  if (Math.abs(dx) < 0.007 && v > 0.3) {
    const side = clamp(0.5 - dx / 0.014)
    set(out, [0.03 + 0.5 * side * side, 0.022 + 0.3 * side * side, 0.018 + 0.12 * side * side])
  }
  if (Math.abs(v - 0.325) < 0.006 && x > 0.355 && x < 0.39) set(out, [0.12, 0.07, 0.03])
}

/** The apprentice beyond the lantern, lit from the left. */
function figure(out: Light, x: number, v: number, time: number, aspect: number): void {
  const px = (x - 0.5 - 0.004 * Math.sin(time)) * aspect
  const head = len(px / 0.034, (v - 0.345) / 0.046)
  const body = len(px / 0.1, (v - 0.56) / 0.17)
  if (head > 1 && body > 1) return
  const form = head <= 1 ? clamp(-px / 0.034) : clamp(-px / 0.1)
  const lit = lanternOn(x, v, time, aspect) * (0.15 + 0.85 * Math.pow(form, 1.3)) + 0.012
  const cap = head <= 1 && v < 0.328
  const paint: Light = cap ? [0.05, 0.05, 0.06] : head <= 1 ? [0.19, 0.1, 0.06] : [0.05, 0.1, 0.11]
  const weave = head <= 1 ? 1 : 0.8 + 0.4 * noise(x * 400, v * 260)
  set(out, [
    paint[0] * lit * weave * 1.4,
    paint[1] * (lit * 0.75 + 0.006) * weave * 1.4,
    paint[2] * (lit * 0.42 + 0.016) * weave * 1.4,
  ])
}

function glow(out: Light, x: number, v: number, time: number, aspect: number): void {
  LAMPS.forEach((lamp, i) => {
    const lx = lamp.x + (i === 0 ? sway(time) : 0)
    const d = len((x - lx) * aspect, v - lamp.y)
    const flame = lamp.power * step(lamp.size, lamp.size * 0.6, d)
    const air = (lamp.power * lamp.size * 0.014) / (d * d + lamp.size * 0.35 + 0.0016)
    add(out, lamp.hue, flame + air * (i === 0 ? 0.11 : 0.06))
  })
}

function reflection(x: number, v: number, time: number, aspect: number): Light {
  const depth = v - WATERLINE
  const ripple =
    (fbm(x * 14 + 0.6 * time, 12 / (depth + 0.06) + time * 1.7, time * 0.5, 3) - 0.5) * (0.02 + depth * 0.12)
  const stretch = (fbm(x * 5, 30 / (depth + 0.05) - time * 2.2, time * 0.4, 3) - 0.5) * depth * 0.9
  const mirrored = above(x + ripple, clamp(WATERLINE - depth * 1.02 + stretch, 0.02, WATERLINE), time, aspect)
  const share = mix(0.62, 0.3, depth / (1 - WATERLINE))
  return [mirrored[0] * share + 0.0015, mirrored[1] * share + 0.002, mirrored[2] * share + 0.004]
}
