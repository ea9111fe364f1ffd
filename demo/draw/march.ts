import { clamp } from './noise'

/** Length of a vector; Math.hypot guards against overflow at twenty times the cost. */
export const len = (x: number, y: number, z = 0): number => Math.sqrt(x * x + y * y + z * z)

/** Scene-linear BT.709 light; 0.18 is mid grey. */
export type Light = [number, number, number]

/** A world to be ray-marched: a distance field whose last call also tells the material of the nearest thing. */
export interface World {
  /** Distance in metres to the nearest surface; sets `material`. */
  readonly distance: (x: number, y: number, z: number) => number
  material: number
  /** Light leaving a surface point towards the eye. */
  readonly shade: (hit: Hit) => Light
  /** Light from a direction that meets nothing. */
  readonly sky: (dx: number, dy: number, dz: number) => Light
  readonly far: number
}

export interface Hit {
  readonly x: number
  readonly y: number
  readonly z: number
  readonly nx: number
  readonly ny: number
  readonly nz: number
  readonly dx: number
  readonly dy: number
  readonly dz: number
  readonly distance: number
  readonly material: number
  /** 0 for what the camera sees, 1 in a mirror. */
  readonly bounce: number
}

/** Length along a ray to the first surface, or -1. */
function march(world: World, x: number, y: number, z: number, dx: number, dy: number, dz: number): number {
  let t = 0.01
  for (let i = 0; i < 80; i++) {
    const d = world.distance(x + dx * t, y + dy * t, z + dz * t)
    if (d < 0.0004 + 0.0009 * t) return t
    t += d
    if (t > world.far) return -1
  }
  return t < world.far * 0.9 ? t : -1
}

/** Light along a ray. */
export function trace(
  world: World,
  x: number,
  y: number,
  z: number,
  dx: number,
  dy: number,
  dz: number,
  bounce = 0,
): Light {
  const t = march(world, x, y, z, dx, dy, dz)
  if (t < 0) return world.sky(dx, dy, dz)
  const [px, py, pz] = [x + dx * t, y + dy * t, z + dz * t]
  world.distance(px, py, pz)
  const material = world.material
  const e = 0.0006 + 0.0005 * t
  const at = world.distance(px, py, pz)
  let nx = world.distance(px + e, py, pz) - at
  let ny = world.distance(px, py + e, pz) - at
  let nz = world.distance(px, py, pz + e) - at
  const n = 1 / Math.max(1e-9, len(nx, ny, nz))
  nx *= n
  ny *= n
  nz *= n
  return world.shade({ x: px, y: py, z: pz, nx, ny, nz, dx, dy, dz, distance: t, material, bounce })
}

/** Share of a light that reaches a point, with a penumbra of `softness` (larger is harder). */
export function shadow(
  world: World,
  x: number,
  y: number,
  z: number,
  lx: number,
  ly: number,
  lz: number,
  reach: number,
  softness: number,
): number {
  let lit = 1
  let t = 0.02
  for (let i = 0; i < 22 && t < reach; i++) {
    const d = world.distance(x + lx * t, y + ly * t, z + lz * t)
    if (d < 0.0005) return 0
    lit = Math.min(lit, (softness * d) / t)
    t += clamp(d, 0.02, 0.6)
  }
  return clamp(lit)
}

/** How open a point lies to the sky, 0..1. */
export function openness(world: World, h: Hit, scale = 0.12): number {
  let closed = 0
  for (let i = 1; i <= 3; i++) {
    const r = scale * i * i
    closed += (r - world.distance(h.x + h.nx * r, h.y + h.ny * r, h.z + h.nz * r)) / (r * (1 + i * 0.6))
  }
  return clamp(1 - 0.6 * closed)
}

export const box = (x: number, y: number, z: number, w: number, h: number, d: number, round = 0): number => {
  const [qx, qy, qz] = [Math.abs(x) - w + round, Math.abs(y) - h + round, Math.abs(z) - d + round]
  return len(Math.max(qx, 0), Math.max(qy, 0), Math.max(qz, 0)) + Math.min(0, Math.max(qx, qy, qz)) - round
}
export const ellipsoid = (x: number, y: number, z: number, rx: number, ry: number, rz: number): number => {
  const k0 = len(x / rx, y / ry, z / rz)
  const k1 = len(x / (rx * rx), y / (ry * ry), z / (rz * rz))
  return k1 === 0 ? -Math.min(rx, ry, rz) : (k0 * (k0 - 1)) / k1
}
export const capsule = (x: number, y: number, z: number, height: number, radius: number): number =>
  len(x, y - clamp(y, 0, height), z) - radius
/** Union with a soft seam of width k. */
export const blend = (a: number, b: number, k: number): number => {
  const h = Math.max(k - Math.abs(a - b), 0) / k
  return Math.min(a, b) - h * h * k * 0.25
}

export interface Camera {
  readonly from: readonly [number, number, number]
  readonly to: readonly [number, number, number]
  /** Vertical field of view in degrees. */
  readonly view: number
}

/** Ray direction for picture coordinates u (0..1, left to right) and v (0..1, top to bottom). */
export function rayOf(camera: Camera, u: number, v: number, aspect: number): Light {
  const [fx, fy, fz] = unit(camera.to[0] - camera.from[0], camera.to[1] - camera.from[1], camera.to[2] - camera.from[2])
  const [rx, , rz] = unit(-fz, 0, fx)
  const [ux, uy, uz] = [-rz * fy, rz * fx - rx * fz, rx * fy]
  const tall = Math.tan((camera.view * Math.PI) / 360)
  const a = (2 * u - 1) * tall * aspect
  const b = (1 - 2 * v) * tall
  return unit(fx + rx * a + ux * b, fy + uy * b, fz + rz * a + uz * b)
}

export function unit(x: number, y: number, z: number): Light {
  const n = 1 / len(x, y, z)
  return [x * n, y * n, z * n]
}
