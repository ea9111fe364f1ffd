import type { Triple } from '../colour/matrix'

/**
 * The blend modes of the W3C Recommendation track document "Compositing and Blending Level 1", section 10, and `plus-lighter`,
 * its sum of two pictures (section 9.1.14).
 */
export const LAY_MODES = [
  'normal',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'plus-lighter',
  'hue',
  'saturation',
  'color',
  'luminosity',
] as const
export type LayMode = (typeof LAY_MODES)[number]
/** A mode in words. */
export const layName = (mode: LayMode): string => (mode === 'plus-lighter' ? 'add' : mode.replace('-', ' '))

type Separable = (backdrop: number, source: number) => number

const multiply: Separable = (b, s) => b * s
const screen: Separable = (b, s) => b + s - b * s
const hardLight: Separable = (b, s) => (s <= 0.5 ? multiply(b, 2 * s) : screen(b, 2 * s - 1))

function softLight(b: number, s: number): number {
  if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b)
  const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b)
  return b + (2 * s - 1) * (d - b)
}

/** Section 10.1: B(Cb, Cs) for each channel on its own. */
const SEPARABLE: Partial<Record<LayMode, Separable>> = {
  normal: (_, s) => s,
  multiply,
  screen,
  overlay: (b, s) => hardLight(s, b),
  darken: Math.min,
  lighten: Math.max,
  'color-dodge': (b, s) => (b === 0 ? 0 : s >= 1 ? 1 : Math.min(1, b / (1 - s))),
  'color-burn': (b, s) => (b >= 1 ? 1 : s <= 0 ? 0 : 1 - Math.min(1, (1 - b) / s)),
  'hard-light': hardLight,
  'soft-light': softLight,
  difference: (b, s) => Math.abs(b - s),
  exclusion: (b, s) => b + s - 2 * b * s,
  'plus-lighter': (b, s) => Math.min(1, b + s),
}

const lum = (c: Triple): number => 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]
const sat = (c: Triple): number => Math.max(...c) - Math.min(...c)

function clipColor(c: Triple): Triple {
  const l = lum(c)
  const low = Math.min(...c)
  const high = Math.max(...c)
  let scaled: Triple = c
  const map = (f: (v: number) => number): Triple => [f(scaled[0]), f(scaled[1]), f(scaled[2])]
  // A grey that rounding left just outside 0..1 has nothing to scale; the bounds at the end take care of it.
  if (low < 0 && l > low) scaled = map((v) => l + ((v - l) * l) / (l - low))
  if (high > 1 && high > l) scaled = map((v) => l + ((v - l) * (1 - l)) / (high - l))
  return map((v) => Math.min(1, Math.max(0, v)))
}

function setLum(c: Triple, l: number): Triple {
  const d = l - lum(c)
  return clipColor([c[0] + d, c[1] + d, c[2] + d])
}

function setSat(c: Triple, s: number): Triple {
  const low = Math.min(...c)
  const range = sat(c)
  if (range === 0) return [0, 0, 0]
  return [((c[0] - low) * s) / range, ((c[1] - low) * s) / range, ((c[2] - low) * s) / range]
}

/** Section 10.2: the modes that take all channels together. */
const TOGETHER: Partial<Record<LayMode, (b: Triple, s: Triple) => Triple>> = {
  hue: (b, s) => setLum(setSat(s, sat(b)), lum(b)),
  saturation: (b, s) => setLum(setSat(b, sat(s)), lum(b)),
  color: (b, s) => setLum(s, lum(b)),
  luminosity: (b, s) => setLum(b, lum(s)),
}

/** B(backdrop, source) of one colour; both 0..1. */
export function blend(mode: LayMode, backdrop: Triple, source: Triple): Triple {
  const separable = SEPARABLE[mode]
  if (separable)
    return [separable(backdrop[0], source[0]), separable(backdrop[1], source[1]), separable(backdrop[2], source[2])]
  return TOGETHER[mode]!(backdrop, source)
}

/** How a bath's picture is laid on the line's. */
export interface Laying {
  readonly lay: LayMode
  /** The line's picture is laid over the bath's instead. */
  readonly under: boolean
  /** 0..100 per cent. */
  readonly strength: number
}

/**
 * The line's picture after laying: mixed from the line by strength, so that 0 always leaves it alone. A sum is different: so
 * much of the bath's picture is added, whichever of the two lies above.
 */
export function layOne(how: Laying, line: Triple, bath: Triple): Triple {
  const share = how.strength / 100
  if (how.lay === 'plus-lighter') return blend(how.lay, line, mix([0, 0, 0], bath, share))
  if (how.lay === 'normal' && !how.under) return mix(line, bath, share)
  const laid = how.under ? blend(how.lay, bath, line) : blend(how.lay, line, bath)
  return mix(line, laid, share)
}

const mix = (a: Triple, b: Triple, share: number): Triple =>
  share >= 1 ? b : [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share, a[2] + (b[2] - a[2]) * share]
