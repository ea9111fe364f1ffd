import { LUMA_709 } from './spaces'

/**
 * Code values as luma and a plane of chroma: u points to red, v is at right angles to it, so that red, yellow, green, cyan, blue and
 * magenta stand every sixty degrees. Chroma is the distance from grey, 1 for a full primary. (The hexagon's plane of hue and
 * saturation, A. R. Smith 1978, with luma in place of its lightness: turning and draining keep luma.)
 */

const [WR, WG, WB] = LUMA_709
export const ROOT3 = Math.sqrt(3)

export const codeLuma = (r: number, g: number, b: number): number => WR * r + WG * g + WB * b
export const uOf = (r: number, g: number, b: number): number => r - (g + b) / 2
export const vOf = (g: number, b: number): number => (ROOT3 / 2) * (g - b)

/** Luma of what u and v add to a grey: its weights. */
export const U_LUMA = (2 * WR - WG - WB) / 3
export const V_LUMA = (WG - WB) / ROOT3

/** Code values of a luma and a chroma. */
export function fromChroma(luma: number, u: number, v: number, out: { [k: number]: number }): void {
  const mean = luma - U_LUMA * u - V_LUMA * v
  out[0] = mean + (2 / 3) * u
  out[1] = mean - u / 3 + v / ROOT3
  out[2] = mean - u / 3 - v / ROOT3
}

/**
 * A hue without a trigonometric function, 0..4 around the circle: the place on a square that stands on its corner. Tables over hue have
 * their nodes by it. 0 for grey.
 */
export function squareTurn(u: number, v: number): number {
  const share = v / Math.max(1e-20, Math.abs(u) + Math.abs(v))
  return u < 0 ? 2 - share : share < 0 ? 4 + share : share
}

/** The hue, 0..1 around the circle, at a place of the square. */
export function turnAt(square: number): number {
  const t = ((square % 4) + 4) % 4
  const u = t < 2 ? 1 - t : t - 3
  const v = t < 1 ? t : t < 3 ? 2 - t : t - 4
  const turn = Math.atan2(v, u) / (2 * Math.PI)
  return turn < 0 ? turn + 1 : turn
}

/** Hue of code values, 0..1 around the circle: red 0, green 1/3, blue 2/3. */
export const turnOf = (r: number, g: number, b: number): number => turnAt(squareTurn(uOf(r, g, b), vOf(g, b)))
export const codeChroma = (r: number, g: number, b: number): number => Math.hypot(uOf(r, g, b), vOf(g, b))

/** Code values that move a colour towards a hue and leave luma as it is. @param chroma how far */
export function towards(turn: number, chroma: number): [number, number, number] {
  const out: [number, number, number] = [0, 0, 0]
  const angle = 2 * Math.PI * turn
  fromChroma(0, chroma * Math.cos(angle), chroma * Math.sin(angle), out)
  return out
}
