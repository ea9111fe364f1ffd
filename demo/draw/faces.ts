import {
  blend,
  capsule,
  ellipsoid,
  len,
  openness,
  rayOf,
  shadow,
  trace,
  unit,
  type Hit,
  type Light,
  type World,
} from './march'
import { clamp, fbm, mix, noise, step } from './noise'

const KEY = unit(-0.75, 0.5, -0.55)
const KEY_LIGHT: Light = [2.5, 2.15, 1.7]
const FILL: Light = [0.3, 0.36, 0.45]
const RIM = unit(0.8, 0.35, 0.7)

const SKIN_KEEPER = 1
const SKIN_APPRENTICE = 2
const EYE = 3
const HAIR_GREY = 4
const HAIR_BLACK = 5
const COAT = 6
const SCARF = 7
const CAP = 8
const LIPS_KEEPER = 9
const LIPS_APPRENTICE = 10
const JUMPER = 11
const BRASS = 12

type Take = (d: number, m: number) => void

/** A head of about 0.24 m, its chin at the origin's height, looking along -z; `turn` in radians. */
function head(
  x: number,
  y: number,
  z: number,
  turn: number,
  skin: number,
  lips: number,
  hair: number,
  take: Take,
): void {
  const [c, s] = [Math.cos(turn), Math.sin(turn)]
  const px = x * c - z * s
  const pz = x * s + z * c
  const ax = Math.abs(px)
  if (len(px, y - 0.12, pz) > 0.45) return take(len(px, y - 0.12, pz) - 0.36, skin)
  let d = ellipsoid(px, y - 0.15, pz - 0.012, 0.078, 0.108, 0.098)
  d = blend(d, ellipsoid(px, y - 0.055, pz + 0.022, 0.058, 0.066, 0.068), 0.05)
  d = blend(d, ellipsoid(px, y - 0.002, pz + 0.066, 0.026, 0.021, 0.022), 0.035)
  // Brow, cheekbones, nose and eye sockets.
  d = blend(d, ellipsoid(ax - 0.03, y - 0.163, pz + 0.078, 0.032, 0.011, 0.018), 0.025)
  d = blend(d, ellipsoid(ax - 0.046, y - 0.1, pz + 0.062, 0.022, 0.02, 0.02), 0.035)
  d = -blend(-d, ellipsoid(ax - 0.032, y - 0.137, pz + 0.1, 0.022, 0.014, 0.02), 0.02)
  d = blend(d, ellipsoid(px, y - 0.118, pz + 0.096, 0.012, 0.034, 0.018), 0.02)
  d = blend(d, ellipsoid(px, y - 0.094, pz + 0.108, 0.017, 0.012, 0.015), 0.014)
  d = blend(d, ellipsoid(ax - 0.014, y - 0.09, pz + 0.099, 0.009, 0.008, 0.011), 0.01)
  d = blend(d, capsule(px, y + 0.16, pz - 0.025, 0.17, 0.05), 0.03)
  d = blend(d, ellipsoid(ax - 0.082, y - 0.125, pz - 0.005, 0.011, 0.03, 0.018), 0.014)
  take(d * 0.85, skin)
  take(ellipsoid(px, y - 0.056, pz + 0.089, 0.024, 0.0055, 0.011) * 0.9, lips)
  take(ellipsoid(px, y - 0.045, pz + 0.087, 0.021, 0.0065, 0.012) * 0.9, lips)
  take(len(ax - 0.032, y - 0.137, pz + 0.068) - 0.0185, EYE)
  const lid = Math.max(len(ax - 0.032, y - 0.137, pz + 0.068) - 0.0205, -(y - 0.1425))
  take(lid, skin)
  take(ellipsoid(ax - 0.033, y - 0.168 + 6 * (ax - 0.033) * (ax - 0.033), pz + 0.086, 0.019, 0.0035, 0.008) * 0.8, hair)
  const strands = 0.004 * noise(px * 90, y * 20, pz * 90)
  take(
    (Math.max(ellipsoid(px, y - 0.165, pz - 0.022, 0.091, 0.108, 0.108), -(pz + 0.045 + (y - 0.19) * 0.9)) - strands) *
      0.8,
    hair,
  )
}

function makeWorld(time: number): World {
  let material = 0
  const nod = 0.006 * Math.sin(time * 1.7)
  const world: World = {
    far: 2.4,
    get material() {
      return material
    },
    set material(m) {
      material = m
    },
    distance: (x, y, z) => {
      let best = 9
      const take: Take = (d, m) => {
        if (d < best) {
          best = d
          material = m
        }
      }
      const [kx, ky, kz] = [x + 0.17, y - 1.5 - nod, z]
      head(kx, ky, kz, -0.42 + 0.05 * Math.sin(time * 0.8), SKIN_KEEPER, LIPS_KEEPER, HAIR_GREY, take)
      take(Math.max(ellipsoid(kx, ky - 0.225, kz - 0.005, 0.108, 0.05, 0.122), -(ky - 0.205)), CAP)
      take(ellipsoid(kx + 0.03, ky - 0.207, kz + 0.1, 0.075, 0.008, 0.06), CAP)
      take(ellipsoid(kx, ky + 0.27, kz - 0.03, 0.25, 0.23, 0.14), COAT)
      take(ellipsoid(kx, ky + 0.072, kz + 0.005, 0.085, 0.04, 0.085) * 0.8, SCARF)
      for (let i = 0; i < 3; i++) take(len(kx - 0.02, ky + 0.14 + 0.09 * i, kz + 0.165 - 0.012 * i) - 0.012, BRASS)
      const [ax, ay, az] = [x - 0.2, y - 1.44 + nod, z - 0.16]
      head(ax, ay, az, 0.36 - 0.04 * Math.sin(time * 0.9), SKIN_APPRENTICE, LIPS_APPRENTICE, HAIR_BLACK, take)
      take(
        ellipsoid(ax, ay - 0.21, az - 0.05, 0.115, 0.085, 0.115) - 0.012 * noise(ax * 60, ay * 60, az * 60),
        HAIR_BLACK,
      )
      take(ellipsoid(ax, ay + 0.26, az - 0.03, 0.22, 0.22, 0.13), JUMPER)
      return best
    },
    shade: (h) => shade(world, h),
    sky: (dx, dy, dz) => backdrop(dx, dy, dz, time),
  }
  return world
}

/** Far out of focus: a bright bank, water, leaves with round highlights. */
function backdrop(dx: number, dy: number, dz: number, time: number): Light {
  const [u, v] = [dx / dz, dy / dz]
  const leaf = fbm(u * 7 + 3, v * 7, 0, 3)
  const bank = step(0.14, -0.02, v + 0.04 * leaf)
  let r = mix(0.3 + 0.9 * step(0, 0.35, v), 0.16 * (0.6 + leaf), bank)
  let g = mix(0.45 + 0.8 * step(0, 0.35, v), 0.22 * (0.6 + leaf), bank)
  let b = mix(0.32 + 0.95 * step(0, 0.35, v), 0.1 * (0.6 + leaf), bank)
  for (let i = 0; i < 26; i++) {
    const cx = (noise(i * 3.7, 1.3) - 0.5) * 1.5
    const cy = (noise(i * 5.1, 7.9) - 0.3) * 0.6
    const d = len(u - cx - 0.004 * time, v - cy)
    const size = 0.02 + 0.02 * noise(i, 4.4)
    const lit = step(size, size * 0.86, d) * (0.15 + 0.5 * noise(i, 9.9) * (0.7 + 0.3 * Math.sin(time * 2 + i)))
    r += lit * 1.2
    g += lit * 1.1
    b += lit * 0.8
  }
  return [r * 0.8, g * 0.8, b * 0.8]
}

function albedo(h: Hit): Light {
  const pore = 0.94 + 0.1 * noise(h.x * 320, h.y * 320, h.z * 320) + 0.06 * (fbm(h.x * 40, h.y * 40, h.z * 40, 2) - 0.5)
  const cloth = 0.75 + 0.5 * noise(h.x * 260, h.y * 170, h.z * 260)
  const scale = (c: Light, s: number): Light => [c[0] * s, c[1] * s, c[2] * s]
  switch (h.material) {
    case SKIN_KEEPER:
      return scale([0.56, 0.33, 0.23], pore)
    case SKIN_APPRENTICE:
      return scale([0.175, 0.088, 0.05], pore)
    case LIPS_KEEPER:
      return scale([0.45, 0.17, 0.14], pore)
    case LIPS_APPRENTICE:
      return scale([0.16, 0.06, 0.05], pore)
    case HAIR_GREY:
      return scale([0.3, 0.29, 0.28], 0.5 + noise(h.x * 200, h.y * 30, h.z * 200))
    case HAIR_BLACK:
      return scale([0.018, 0.014, 0.012], 0.6 + noise(h.x * 200, h.y * 60, h.z * 200))
    case COAT:
      return scale([0.03, 0.045, 0.1], cloth)
    case SCARF:
      return scale([0.5, 0.07, 0.04], cloth)
    case JUMPER:
      return scale(Math.sin(h.y * 110) > 0.2 ? [0.5, 0.36, 0.08] : [0.06, 0.2, 0.17], cloth)
    case BRASS:
      return [0.55, 0.38, 0.12]
    default:
      return scale([0.02, 0.022, 0.03], cloth)
  }
}

function shade(world: World, h: Hit): Light {
  if (h.material === EYE) return eye(h)
  const a = albedo(h)
  const skin =
    h.material === SKIN_KEEPER ||
    h.material === SKIN_APPRENTICE ||
    h.material === LIPS_KEEPER ||
    h.material === LIPS_APPRENTICE
  const cos = h.nx * KEY[0] + h.ny * KEY[1] + h.nz * KEY[2]
  const lit = shadow(world, h.x + h.nx * 0.004, h.y + h.ny * 0.004, h.z + h.nz * 0.004, KEY[0], KEY[1], KEY[2], 0.7, 9)
  // Light that has gone through skin comes back redder and wraps around the form.
  const wrap = skin ? ([0.34, 0.14, 0.08] as const) : ([0.02, 0.02, 0.02] as const)
  const open = openness(world, h, 0.02) * (0.6 + 0.4 * h.ny)
  const rim = Math.pow(clamp(h.nx * RIM[0] + h.ny * RIM[1] + h.nz * RIM[2]), 2) * 0.55
  const half = unit(KEY[0] - h.dx, KEY[1] - h.dy, KEY[2] - h.dz)
  const glossy = skin ? 0.1 : h.material === BRASS ? 1.6 : 0.03
  const shine = Math.pow(clamp(h.nx * half[0] + h.ny * half[1] + h.nz * half[2]), skin ? 26 : 50) * glossy * lit
  const light = (k: 0 | 1 | 2): number => {
    const wrapped = clamp((cos + wrap[k]) / (1 + wrap[k]))
    return (
      a[k] * (KEY_LIGHT[k] * wrapped * mix(lit, 1, wrap[k] * 0.5) + FILL[k] * open + rim) + shine * KEY_LIGHT[k] * 0.5
    )
  }
  return [light(0), light(1), light(2)]
}

function eye(h: Hit): Light {
  const facing = clamp(-(h.nx * h.dx + h.ny * h.dy + h.nz * h.dz))
  const iris = step(0.86, 0.9, facing)
  const pupil = step(0.965, 0.975, facing)
  const half = unit(KEY[0] - h.dx, KEY[1] - h.dy, KEY[2] - h.dz)
  const spark = step(0.985, 0.992, h.nx * half[0] + h.ny * half[1] + h.nz * half[2]) * 3
  const light = (white: number, brown: number): number => mix(mix(white, brown, iris), 0.008, pupil) * 0.75 + spark
  return [light(0.5, 0.09), light(0.46, 0.055), light(0.44, 0.03)]
}

export function faces(u: number, v: number, time: number, aspect: number): Light {
  const camera = {
    from: [0.02 * Math.sin(time * 0.7), 1.56, -1.35 + 0.03 * time],
    to: [0.02, 1.53, 0],
    view: 24,
  } as const
  const [dx, dy, dz] = rayOf(camera, u, v, aspect)
  return trace(worldAt(time), camera.from[0], camera.from[1], camera.from[2], dx, dy, dz)
}

let world: World | undefined
let worldTime = NaN
function worldAt(time: number): World {
  if (!world || worldTime !== time) [world, worldTime] = [makeWorld(time), time]
  return world
}
