import { triple } from '../colour/matrix'
import { BT1886_GAMMA } from '../colour/transfer'
import { plainStages } from '../stages/plain'
import type { PointFunction, PointStage } from '../stages/stage'
import { FINE, STEPS, evenPart, gridOf, type Part } from './parts'

/** Light over which places of light are straight. */
const STRAIGHT = 0.003
const GAMMA = 1 / BT1886_GAMMA
const coded = (light: number): number => Math.sign(light) * ((Math.abs(light) + STRAIGHT) ** GAMMA - STRAIGHT ** GAMMA)
const decoded = (place: number): number =>
  Math.sign(place) * ((Math.abs(place) + STRAIGHT ** GAMMA) ** (1 / GAMMA) - STRAIGHT)
/** Light near white, where all colours run together, and how fast places go by there. */
const NEAR_WHITE = { from: 0.95, to: 1.03, slope: 1.5 }
const [FROM, TO] = [
  coded(NEAR_WHITE.from),
  coded(NEAR_WHITE.from) + NEAR_WHITE.slope * (NEAR_WHITE.to - NEAR_WHITE.from),
]
/**
 * Where light stands in a grid over it: about as code values do, but straight about black, so that colours outside the gamut
 * have places too, and wider apart near white.
 */
function placeOfLight(light: number): number {
  if (light <= NEAR_WHITE.from) return coded(light)
  if (light <= NEAR_WHITE.to) return FROM + NEAR_WHITE.slope * (light - NEAR_WHITE.from)
  return TO + coded(light) - coded(NEAR_WHITE.to)
}
function lightAtPlace(place: number): number {
  if (place <= FROM) return decoded(place)
  if (place <= TO) return NEAR_WHITE.from + (place - FROM) / NEAR_WHITE.slope
  return decoded(place - TO + coded(NEAR_WHITE.to))
}
const WHITE_PLACE = placeOfLight(1)
/**
 * Cells of such a grid by channel: below black, from black to white, above. Black and white lie on nodes, so that what is
 * within the gamut passes exactly. Dyes throw hardly any light outside: red from -0.36 to 1.2, green from -0.08, blue
 * from -0.11 to 1.05.
 */
const CELLS = [
  [23, 37, 4],
  [13, 48, 3],
  [15, 45, 4],
] as const

/** A function of light as a grid over places of light; see {@link placeOfLight}. */
export function overLight(stage: PointStage): Part[] {
  const f = plainStages([stage])
  const placed: PointFunction = (r, g, b, out) => {
    f(lightAtPlace(r), lightAtPlace(g), lightAtPlace(b), out)
    for (let k = 0; k < 3; k++) out[k] = placeOfLight(out[k]!)
  }
  const from = triple(CELLS.map(([below, inside]) => (-below * WHITE_PLACE) / inside))
  const to = triple(CELLS.map(([, inside, above]) => (1 + above / inside) * WHITE_PLACE))
  const domain = { from: Math.min(...from), to: Math.max(...to), steps: STEPS }
  const grid = gridOf(FINE, from, to, placed)
  return [evenPart('half', placeOfLight), { part: 'grid', grid }, evenPart(domain, lightAtPlace)]
}
