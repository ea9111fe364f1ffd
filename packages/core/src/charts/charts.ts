import { SRGB, displayCode, displayLight } from '../colour/transfer'
import type { Triple } from '../colour/matrix'
import { SCENE_BLACK, SCENE_WHITE } from '../film/plain-levels'
import { unprint } from '../film/straight'

/** Ramp and wedge come evenly in code values of the untreated picture, mid grey in the middle, or evenly in stops of the scene. */
export const CHARTS = ['ramp', 'ramp-stops', 'wedge', 'wedge-codes', 'patches'] as const
export type ChartName = (typeof CHARTS)[number]

/** Steps of the wedge and their distance in density. */
export const WEDGE_STEPS = 21
const WEDGE_DENSITY = 0.15
/** Mid grey is the tenth step: 1.35 density below the first. */
const WEDGE_TOP = 0.18 * 10 ** (9 * WEDGE_DENSITY)

/** Scene light of the wedge, lightest step first. */
export const WEDGE: readonly number[] = Array.from(
  { length: WEDGE_STEPS },
  (_, i) => WEDGE_TOP * 10 ** (-WEDGE_DENSITY * i),
)

export interface Patch {
  readonly name: string
  /** Scene light, linear BT.709. */
  readonly light: Triple
  readonly skin: boolean
}

const patch = (name: string, hex: string, skin = false): Patch => {
  const channel = (at: number) => unprint(SRGB.decode(parseInt(hex.slice(at, at + 2), 16) / 255))
  return { name, light: [channel(0), channel(2), channel(4)], skin }
}

/** Patches given by the sRGB colour that ordinary display footage would show; six rows of four, skins first. */
export const PATCHES: readonly Patch[] = [
  patch('very fair skin', 'ecccb4', true),
  patch('fair skin', 'd6a78a', true),
  patch('olive skin', 'bf9068', true),
  patch('brown skin', '8f5f41', true),
  patch('dark skin', '5e3b29', true),
  patch('very dark skin', '3a251c', true),
  patch('flushed skin', 'cf8678', true),
  patch('lips', 'a8514f', true),
  patch('red', 'b02a30'),
  patch('orange', 'd9792b'),
  patch('yellow', 'e6c42f'),
  patch('leaf', '5a7437'),
  patch('green', '3f8f4b'),
  patch('blue-green', '2f8f92'),
  patch('sky', '7fa9d0'),
  patch('blue', '2f4a9c'),
  patch('violet', '5c3f7f'),
  patch('purple', '97407c'),
  patch('pink', 'd98aa8'),
  patch('brick', '8c4a38'),
  patch('sand', 'cdbb92'),
  patch('slate', '5b6b78'),
  patch('white paper', 'f2f2ee'),
  patch('black cloth', '1b1b1d'),
]

/** The colours of a test strip: the wedge in 11 steps, then eight patches. */
export const STRIP_WEDGE: readonly number[] = WEDGE.filter((_, i) => i % 2 === 0)
export const STRIP_PATCHES: readonly Patch[] = [
  'red',
  'orange',
  'leaf',
  'blue',
  'fair skin',
  'brown skin',
  'sky',
  'purple',
].map((name) => PATCHES.find((p) => p.name === name)!)

/**
 * Draws a chart as scene light. @returns RGBA float32, width·height pixels
 */
export function drawChart(name: ChartName, width: number, height: number): Float32Array {
  const colour = {
    ramp: rampOfCodes,
    'ramp-stops': rampOfStops,
    wedge: wedgeOfStops,
    'wedge-codes': wedgeOfCodes,
    patches: patchAt,
  }[name]
  const picture = new Float32Array(4 * width * height)
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at += 4) {
      picture.set(colour((x + 0.5) / width, (y + 0.5) / height), at)
      picture[at + 3] = 1
    }
  }
  return picture
}

/** Code value of mid grey on a display. */
const GREY = displayCode(0.18)

/** From black to white by code values: to mid grey evenly, and from there evenly, which are the same steps within a fortieth. */
function rampOfCodes(u: number): Triple {
  const code = u < 0.5 ? 2 * u * GREY : GREY + (2 * u - 1) * (1 - GREY)
  const light = unprint(displayLight(code))
  return [light, light, light]
}

/** As many steps as the wedge has, lightest first, the middle one mid grey. */
const wedgeOfCodes = (u: number): Triple =>
  rampOfCodes(1 - Math.min(WEDGE_STEPS - 1, Math.floor(u * WEDGE_STEPS)) / (WEDGE_STEPS - 1))

function rampOfStops(u: number): Triple {
  const light = 0.18 * 10 ** (SCENE_BLACK + (SCENE_WHITE - SCENE_BLACK) * u)
  return [light, light, light]
}

function wedgeOfStops(u: number): Triple {
  const light = WEDGE[Math.min(WEDGE_STEPS - 1, Math.floor(u * WEDGE_STEPS))]!
  return [light, light, light]
}

const COLUMNS = 6
const ROWS = 4
const GAP = 0.06

function patchAt(u: number, v: number): Triple {
  const [cx, cy] = [u * COLUMNS, v * ROWS]
  const [fx, fy] = [cx % 1, cy % 1]
  const between = fx < GAP / 2 || fx > 1 - GAP / 2 || fy < GAP || fy > 1 - GAP
  if (between) return [0.045, 0.045, 0.045]
  return PATCHES[Math.floor(cy) * COLUMNS + Math.floor(cx)]!.light
}
