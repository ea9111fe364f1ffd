import {
  box,
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

const SUN = unit(-0.55, 0.62, 0.42)
const SUN_LIGHT: Light = [3.1, 2.75, 2.2]
const AIR: Light = [0.52, 0.62, 0.74]

const WATER = 1
const HULL = 2
const CABIN = 3
const STONE = 4
const TIMBER = 5
const GRASS = 6
const LEAVES = 7
const COAT = 8
const SKIN = 9
const WHITE = 10
const CAP = 11

/** Painted narrowboats waiting at a lock gate on a bright morning. */
function makeWorld(time: number): World {
  let material = 0
  const world: World = {
    far: 62,
    get material() {
      return material
    },
    set material(m) {
      material = m
    },
    distance: (x, y, z) => {
      let best = y + 0.0001
      material = WATER
      const take = (d: number, m: number): void => {
        if (d < best) {
          best = d
          material = m
        }
      }
      take(box(x + 7.4, y - 0.1, z - 10, 3.6, 0.75, 40, 0.05), STONE)
      take(box(x - 7.6, y - 0.1, z - 10, 3.4, 0.75, 40, 0.05), STONE)
      take(box(x + 9.6, y - 0.55, z - 10, 5, 0.42, 40, 0.1), GRASS)
      take(box(x - 10, y - 0.55, z - 10, 5.2, 0.42, 40, 0.1), GRASS)
      boat(x + 1.55, y - 0.03 * Math.sin(time * 1.3), z - 7.5, take)
      boat(x - 2.15, y - 0.03 * Math.sin(time * 1.1 + 2), z - 11.5, take)
      gate(x, y, z - 18, take)
      figure(x + 4.7, y - 0.85, z - 6.2, take)
      if (z > 14) trees(x, y, z, take)
      return best
    },
    shade: (h) => shade(world, h, time),
    sky,
  }
  return world
}

type Take = (d: number, m: number) => void

function boat(x: number, y: number, z: number, take: Take): void {
  const far = box(x, y - 0.7, z, 1.1, 1.4, 5.6)
  if (far > 0.5) return take(far, HULL)
  const bow = clamp((Math.abs(z) - 3.6) / 1.9)
  take(box(x, y - 0.15, z, 1.02 * (1 - 0.55 * bow * bow), 0.48 + 0.12 * bow, 5.4, 0.06) * 0.8, HULL)
  take(box(x, y - 1.0, z - 0.6, 0.82 - 0.06 * (y - 0.8), 0.5, 3.4, 0.05), CABIN)
  take(box(x - 0.3, y - 1.62, z - 1.8, 0.07, 0.28, 0.07, 0.03), TIMBER)
}

function gate(x: number, y: number, z: number, take: Take): void {
  const far = Math.abs(z) - 0.5
  if (far > 0.5) return take(far, TIMBER)
  take(box(x, y - 0.9, z, 4.2, 1.3, 0.16, 0.03), TIMBER)
  take(box(x + 4.2, y - 2.35, z - 0.2, 3.4, 0.17, 0.17, 0.03), TIMBER)
  take(box(x - 4.2, y - 2.35, z - 0.2, 3.4, 0.17, 0.17, 0.03), TIMBER)
  take(box(x + 7.3, y - 2.35, z - 0.2, 0.42, 0.18, 0.18, 0.03), WHITE)
  take(box(x - 7.3, y - 2.35, z - 0.2, 0.42, 0.18, 0.18, 0.03), WHITE)
}

/** The keeper, hands behind the back, looking at the boats. */
function figure(x: number, y: number, z: number, take: Take): void {
  const far = len(x, y - 0.9, z) - 1.15
  if (far > 0.3) return take(far, COAT)
  take(Math.min(capsule(x - 0.1, y, z, 0.8, 0.095), capsule(x + 0.1, y, z, 0.8, 0.095)), CAP)
  take(ellipsoid(x, y - 1.13, z, 0.25, 0.4, 0.17), COAT)
  take(capsule(Math.abs(x) - 0.225, y - 0.86, z + 0.05, 0.5, 0.07), COAT)
  take(ellipsoid(x, y - 1.68, z, 0.1, 0.135, 0.115), SKIN)
  take(Math.max(ellipsoid(x, y - 1.76, z, 0.125, 0.075, 0.14), -(y - 1.73)), CAP)
}

const TREES = [
  [-9, 4.5, 26, 3.4],
  [-4.5, 3.6, 31, 2.8],
  [3, 4.2, 33, 3.6],
  [8.5, 4.8, 27, 3.3],
  [14, 5, 30, 4],
  [-15, 5, 30, 4.4],
] as const

/** Clumps of leaves, 0.6 m deep at most; sines because this is asked for a hundred times a pixel. */
function bumps(x: number, y: number, z: number): number {
  const large = Math.sin(x * 2.1 + z) * Math.sin(y * 2.3 + 1) * Math.sin(z * 1.9 + x)
  const small = Math.sin(x * 6.3) * Math.sin(y * 5.7 + z * 2) * Math.sin(z * 6.1 + y)
  return 0.4 * large + 0.16 * small
}

function trees(x: number, y: number, z: number, take: Take): void {
  for (let i = 0; i < TREES.length; i++) {
    const tree = TREES[i]!
    const d = len(x - tree[0], (y - tree[1]) * 1.1, z - tree[2]) - tree[3]
    // Leaves are only worked out close to the crown.
    take(d > 1.2 ? d - 0.7 : (d - bumps(x, y, z)) * 0.6, LEAVES)
  }
}

function sky(dx: number, dy: number, dz: number): Light {
  const up = clamp(dy)
  const glow = Math.pow(clamp(dx * SUN[0] + dy * SUN[1] + dz * SUN[2]), 24)
  const cloud =
    step(0.46, 0.72, fbm((dx / (dy + 0.12)) * 0.9 + 3, (dz / (dy + 0.12)) * 0.9, 0, 5)) * step(0.02, 0.2, dy)
  const body: Light = [mix(0.82, 0.2, Math.sqrt(up)), mix(0.9, 0.4, Math.sqrt(up)), mix(1.0, 0.85, Math.sqrt(up))]
  const lit = 1.5 + 2.4 * glow
  return [
    mix(body[0], lit * 1.02, cloud) + glow * 1.6,
    mix(body[1], lit, cloud) + glow * 1.4,
    mix(body[2], lit * 0.98, cloud) + glow,
  ]
}

/** Paint and wear of each material. */
function albedo(h: Hit): Light {
  const grit = 0.75 + 0.5 * fbm(h.x * 5, h.y * 5, h.z * 5, 3)
  const scale = (c: Light, s = grit): Light => [c[0] * s, c[1] * s, c[2] * s]
  switch (h.material) {
    case HULL:
      if (h.ny > 0.7) return scale([0.16, 0.11, 0.07])
      return h.y > 0.42 ? [0.55, 0.36, 0.045] : h.y > 0.24 ? [0.42, 0.035, 0.03] : scale([0.03, 0.032, 0.036])
    case CABIN:
      return cabin(h)
    case STONE:
      return scale(
        [0.32, 0.29, 0.24],
        grit * (0.7 + 0.3 * step(0.02, 0.1, Math.abs(((h.z * 1.2 + (Math.floor(h.y * 3) % 2) * 0.5) % 1) - 0.5))),
      )
    case TIMBER:
      return scale([0.055, 0.045, 0.04])
    case GRASS:
      return scale([0.1, 0.19, 0.035])
    case LEAVES:
      return scale([0.05, 0.1, 0.022], 0.35 + 1.3 * fbm(h.x * 3, h.y * 3, h.z * 3, 3))
    case COAT:
      return scale([0.045, 0.08, 0.2], 0.9 + 0.2 * noise(h.x * 30, h.y * 30))
    case SKIN:
      return [0.4, 0.21, 0.13]
    case WHITE:
      return [0.82, 0.8, 0.75]
    default:
      return [0.028, 0.028, 0.034]
  }
}

function cabin(h: Hit): Light {
  const near = h.z < 9.6
  const paint: Light = near ? [0.025, 0.14, 0.075] : [0.06, 0.06, 0.3]
  if (h.ny > 0.7) return [0.34, 0.3, 0.24]
  const z = near ? h.z - 7.5 : h.z - 11.5
  const [py, pz] = [h.y - 1.05, ((((z + 20) % 1.5) + 1.5) % 1.5) - 0.75]
  const window = Math.max(Math.abs(py) - 0.16, Math.abs(pz) - 0.26)
  if (window < 0 && Math.abs(h.nx) > 0.7) return window > -0.035 ? [0.7, 0.55, 0.18] : [0.05, 0.06, 0.07]
  const line = Math.abs(Math.abs(py) - 0.33) < 0.022
  return line ? [0.72, 0.5, 0.07] : paint
}

function shade(world: World, h: Hit, time: number): Light {
  if (h.material === WATER) return water(world, h, time)
  const a = albedo(h)
  const facing = clamp(h.nx * SUN[0] + h.ny * SUN[1] + h.nz * SUN[2])
  const sun =
    facing > 0
      ? facing * shadow(world, h.x + h.nx * 0.01, h.y + h.ny * 0.01, h.z + h.nz * 0.01, SUN[0], SUN[1], SUN[2], 12, 14)
      : 0
  const open = openness(world, h) * (0.55 + 0.45 * h.ny)
  const gloss =
    h.material === CABIN || h.material === HULL
      ? 0.05 * Math.pow(clamp(1 + h.dx * h.nx + h.dy * h.ny + h.dz * h.nz), 4) + 0.03
      : 0
  const shine = gloss > 0 ? sky(h.dx - 2 * (h.dx * h.nx) * h.nx, Math.abs(h.dy), h.dz) : ([0, 0, 0] as Light)
  const light = (k: 0 | 1 | 2): number => a[k] * (SUN_LIGHT[k] * sun + 0.75 * AIR[k] * open) + gloss * shine[k]
  return haze([light(0), light(1), light(2)], h.distance)
}

/** Morning air between the eye and what lies far off. */
function haze(c: Light, distance: number): Light {
  const share = 1 - Math.exp(-distance * 0.0055)
  return [mix(c[0], 0.86, share), mix(c[1], 0.9, share), mix(c[2], 0.94, share)]
}

function water(world: World, h: Hit, time: number): Light {
  const w = (k: number): number => fbm(h.x * 1.6 + k * 7.3 + time * 0.35, h.z * 0.9 - time * 0.22, time * 0.4, 3) - 0.5
  const [nx, , nz] = unit(w(0) * 0.09, 1, w(1) * 0.06)
  const dot = h.dx * nx + h.dy + h.dz * nz
  const [rx, ry, rz] = unit(h.dx - 2 * dot * nx, Math.max(0.02, h.dy - 2 * dot), h.dz - 2 * dot * nz)
  const mirror = h.bounce > 0 ? sky(rx, ry, rz) : trace(world, h.x, 0.02, h.z, rx, ry, rz, 1)
  const fresnel = 0.04 + 0.96 * Math.pow(1 - clamp(-h.dy), 5)
  const glint = Math.pow(clamp(rx * SUN[0] + ry * SUN[1] + rz * SUN[2]), 400) * 60
  const depth: Light = [0.022, 0.034, 0.028]
  const seen = (k: 0 | 1 | 2): number =>
    mix(depth[k], mirror[k], clamp(fresnel + 0.12)) + glint * fresnel * SUN_LIGHT[k]
  return haze([seen(0), seen(1), seen(2)], h.distance * 0.6)
}

export function lockGate(u: number, v: number, time: number, aspect: number): Light {
  const push = time * 0.18
  const camera = { from: [-2.6 + 0.12 * time, 2.05, -1.2 + push], to: [-0.4, 1.12, 10], view: 38 } as const
  const [dx, dy, dz] = rayOf(camera, u, v, aspect)
  return trace(worldAt(time), camera.from[0], camera.from[1], camera.from[2], dx, dy, dz)
}

let world: World | undefined
let worldTime = NaN
function worldAt(time: number): World {
  if (!world || worldTime !== time) [world, worldTime] = [makeWorld(time), time]
  return world
}
