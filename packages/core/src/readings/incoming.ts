import { three } from '../colour/matrix'
import { codeChroma, codeLuma, turnOf } from '../colour/chroma'
import { luminance } from '../colour/spaces'
import type { PointFunction } from '../stages/stage'

/** How often values occur in a picture as it comes to a bath; each list has its greatest at 1. */
export interface Incoming {
  readonly red: readonly number[]
  readonly green: readonly number[]
  readonly blue: readonly number[]
  readonly luma: readonly number[]
  /** By hue, each pixel counting by its chroma. */
  readonly hues: readonly number[]
  readonly chroma: readonly number[]
}

const BINS = 128
const HUES = 96

/**
 * @param point what comes to the bath, as code values, for a colour of the footage
 * @param pixels RGBA of the footage
 */
export function incomingOf(point: PointFunction, pixels: Float32Array): Incoming {
  const counts = {
    red: bins(BINS),
    green: bins(BINS),
    blue: bins(BINS),
    luma: bins(BINS),
    hues: bins(HUES),
    chroma: bins(BINS),
  }
  const out = three()
  const at = (v: number): number => Math.min(BINS - 1, Math.max(0, Math.floor(v * BINS)))
  for (let i = 0; i < pixels.length; i += 4) {
    point(pixels[i]!, pixels[i + 1]!, pixels[i + 2]!, out)
    const [r, g, b] = [out[0], out[1], out[2]]
    counts.red[at(r)]!++
    counts.green[at(g)]!++
    counts.blue[at(b)]!++
    counts.luma[at(codeLuma(r, g, b))]!++
    const chroma = codeChroma(r, g, b)
    counts.chroma[at(chroma)]!++
    counts.hues[Math.floor(turnOf(r, g, b) * HUES) % HUES]! += chroma
  }
  return Object.fromEntries(Object.entries(counts).map(([name, list]) => [name, scaled(list)])) as unknown as Incoming
}

const bins = (n: number): number[] => Array.from({ length: n }, () => 0)
/** Roots, so that what is rare is still seen. */
function scaled(list: readonly number[]): number[] {
  const most = Math.max(1e-9, ...list)
  return list.map((v) => Math.sqrt(v / most))
}

/** Levels that a picture asks for, as the balance bath has them. */
export interface Proposal {
  /** In per cent of white. */
  readonly black: number
  /** In stops. */
  readonly white: number
  /** Share of pixels with a channel at the footage's upper end, 0..1. */
  readonly clipped: number
}

/** Where the lights are brought to, just under a white paper (0.9 of white). */
const LIGHTS = 0.85
/** The darkest and the lightest pixels that count. */
const [DARK, LIGHT] = [0.002, 0.995]
/** More than this is not taken off, and not added. */
const MOST_BLACK = 1.5
const MOST_STOPS = 1.5

/**
 * Black and white levels from the distribution of light (common practice: a few pixels may be lost at either end).
 * @param scene to scene light @param pixels RGBA of the footage @param top the footage's highest number
 */
export function proposeLevels(scene: PointFunction, pixels: Float32Array, top: number): Proposal {
  const n = pixels.length / 4
  const lights = new Float64Array(n)
  const out = three()
  let clipped = 0
  for (let i = 0; i < n; i++) {
    const [r, g, b] = [pixels[4 * i]!, pixels[4 * i + 1]!, pixels[4 * i + 2]!]
    scene(r, g, b, out)
    lights[i] = luminance(out)
    if (Math.max(r, g, b) >= top * 0.995) clipped++
  }
  lights.sort()
  const at = (share: number): number => lights[Math.min(n - 1, Math.floor(share * n))]!
  const black = Math.min(MOST_BLACK, Math.max(0, 100 * at(DARK) - 0.15))
  const white = Math.log2(LIGHTS / Math.max(1e-3, at(LIGHT) - black / 100))
  const round = (v: number): number => Math.round(v * 100) / 100
  return { black: round(black), white: round(Math.min(MOST_STOPS, Math.max(-MOST_STOPS, white))), clipped: clipped / n }
}
