import { CAMERA_NEGATIVE, COLOUR_PRINT } from './curve'
import {
  BLACK_LEVEL,
  PLAIN_LIGHT,
  SCENE_BLACK,
  SCENE_WHITE,
  WHITE_LEVEL,
  plainTransmittance,
  softBlack,
} from './plain-levels'

/**
 * The straight view: scene light to display-linear light by the grey-scale transfer of the plain colour negative and
 * print, one channel at a time. @param light scene light, any finite value @returns 0..1
 */
export function straightView(light: number): number {
  const x = Math.log10(light / 0.18)
  if (!(x > SCENE_BLACK)) return 0
  if (x >= SCENE_WHITE) return 1
  const t = plainTransmittance(x, PLAIN_LIGHT, CAMERA_NEGATIVE, COLOUR_PRINT)
  return softBlack((t - BLACK_LEVEL) / (WHITE_LEVEL - BLACK_LEVEL))
}

const NODES = 8192
const X_AT = (i: number) => SCENE_BLACK + ((SCENE_WHITE - SCENE_BLACK) * i) / NODES
const TABLE = Float64Array.from({ length: NODES + 1 }, (_, i) => (i === NODES ? 1 : straightView(0.18 * 10 ** X_AT(i))))

/**
 * Unprinting: the inverse of {@link straightView}, so that ordinary video becomes the scene light which the plain
 * process hands back as the same video. Binary search in a table of 8192 steps, linear between (error < 1e-5 of the
 * light). @param display display-linear, cut to 0..1 @returns scene light, 0.18·10^-3 .. 0.18·10^1.15
 */
export function unprint(display: number): number {
  if (!(display > 0)) return 0.18 * 10 ** SCENE_BLACK
  if (display >= 1) return 0.18 * 10 ** SCENE_WHITE
  let low = 0
  let high = NODES
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (TABLE[middle]! <= display) low = middle
    else high = middle
  }
  const share = (display - TABLE[low]!) / (TABLE[high]! - TABLE[low]!)
  return 0.18 * 10 ** (X_AT(low) + (share * (SCENE_WHITE - SCENE_BLACK)) / NODES)
}
