import { D65_WHITE, xyzOf } from './spaces'
import type { Triple } from './matrix'

type Uv = readonly [u: number, v: number]

/** CIE 1976 u', v' of xy (CIE 15:2018, section 8.1). */
const uvOf = ([x, y]: readonly [number, number]): Uv => [
  (4 * x) / (-2 * x + 12 * y + 3),
  (9 * y) / (-2 * x + 12 * y + 3),
]
const xyOf = ([u, v]: Uv): [number, number] => [(9 * u) / (6 * u - 16 * v + 12), (4 * v) / (6 * u - 16 * v + 12)]

/** Chromaticity of CIE daylight (CIE 15:2018, equations 4.6 and 4.7), 4000..25000 K; temperatures are held there. */
export function daylightXy(kelvin: number): [number, number] {
  const t = Math.min(25000, Math.max(4000, kelvin))
  const x =
    t <= 7000
      ? -4.607e9 / t ** 3 + 2.9678e6 / t ** 2 + 0.09911e3 / t + 0.244063
      : -2.0064e9 / t ** 3 + 1.9018e6 / t ** 2 + 0.24748e3 / t + 0.23704
  return [x, -3 * x * x + 2.87 * x - 0.275]
}

/**
 * Chromaticity of a black body, 1000..15000 K (M. Krystek 1985, in CIE 1960 u, v; from memory; within 0.0001 of Planck's law under the 1931 observer).
 */
export function blackBodyXy(kelvin: number): [number, number] {
  const t = Math.min(15000, Math.max(1000, kelvin))
  const u = (0.860117757 + 1.54118254e-4 * t + 1.28641212e-7 * t * t) / (1 + 8.42420235e-4 * t + 7.08145163e-7 * t * t)
  const v = (0.317398726 + 4.22806245e-5 * t + 4.20481691e-8 * t * t) / (1 - 2.89741816e-5 * t + 1.61456053e-7 * t * t)
  return xyOf([u, 1.5 * v])
}

/** u', v' of light of a temperature: a black body below 4000 K, daylight above 5000 K, mixed between. */
function locus(kelvin: number): Uv {
  const share = Math.min(1, Math.max(0, (kelvin - 4000) / 1000))
  const [warm, cool] = [uvOf(blackBodyXy(kelvin)), uvOf(daylightXy(kelvin))]
  return [warm[0] + share * (cool[0] - warm[0]), warm[1] + share * (cool[1] - warm[1])]
}

const TINT = 0.03 / 100

/** The way at right angles to the locus, towards green. */
function across(kelvin: number): Uv {
  const [a, b] = [locus(kelvin * 0.98), locus(kelvin * 1.02)]
  const [du, dv] = [b[0] - a[0], b[1] - a[1]]
  const long = Math.hypot(du, dv)
  return [dv / long, -du / long]
}

/**
 * XYZ (Y = 1) of the light of a scene. 6504 K without tint is exactly D65.
 * @param kelvin 2000..20000 @param tint -100..100, towards green above 0
 */
export function lightXyz(kelvin: number, tint: number): Triple {
  if (kelvin === 6504 && tint === 0) return D65_WHITE
  const [u, v] = locus(kelvin)
  const [du, dv] = across(kelvin)
  return xyzOf(xyOf([u + du * tint * TINT, v + dv * tint * TINT]))
}

/** Reciprocal temperatures of 2000 and 20000 K. */
const [WARMEST, COOLEST] = [500, 50]

/**
 * The light under which a colour is neutral: the temperature and the tint whose light has its chromaticity, held within what can be set.
 * @param xyz of the colour, any brightness
 */
export function lightOf([x, y, z]: Triple): { kelvin: number; tint: number } {
  const sum = x + y + z
  const own = uvOf([x / sum, y / sum])
  const from = (mired: number): Uv => {
    const [u, v] = locus(1e6 / mired)
    return [own[0] - u, own[1] - v]
  }
  const steps = Array.from({ length: 451 }, (_, i) => WARMEST - i)
  let mired = steps.reduce((best, m) => (Math.hypot(...from(m)) < Math.hypot(...from(best)) ? m : best), WARMEST)
  // What is left along the locus is walked off, so that only what is across it remains.
  for (let i = 0; i < 12; i++) {
    const [du, dv] = from(mired)
    const [au, av] = across(1e6 / mired)
    const [bu, bv] = [from(mired - 1), from(mired + 1)].reduce(([u, v], w) => [w[0] - u, w[1] - v], [0, 0] as Uv)
    const along = (du * av - dv * au) / Math.hypot(bu / 2, bv / 2)
    mired = Math.min(WARMEST, Math.max(COOLEST, mired + along))
  }
  const kelvin = Math.round(1e6 / mired)
  const [du, dv] = from(1e6 / kelvin)
  const [au, av] = across(kelvin)
  const tint = (du * au + dv * av) / TINT
  return { kelvin, tint: Math.min(100, Math.max(-100, Math.round(tint * 10) / 10)) }
}
