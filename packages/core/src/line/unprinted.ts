import { displayCode, displayLight } from '../colour/transfer'
import { SCENE_BLACK, SCENE_WHITE } from '../film/plain-levels'
import { straightView, unprint } from '../film/straight'
import { UNPRINT_NODES } from '../film/unprint-nodes'
import { halfToNumber } from '../numbers/half'
import { memoized } from '../numbers/memoized'
import { held, openHeld } from '../stages/held'
import { evenCurves, cacheKey, type PointStage, type Solid, type Tone } from '../stages/stage'

const ends = [SCENE_BLACK, SCENE_WHITE].map((x) => held(0.18 * 10 ** x)) as [number, number]

/** Where a code value stands in the table: at its own tone unprinted, so that greys lie on it exactly. */
const codePlace = (code: number): number => held(unprint(displayLight(code)))
export const codeAt = (place: number): number => displayCode(straightView(openHeld(place)))

const PLACES: Tone = { key: 'unprinted place', axis: { nodes: 'even', from: 0, to: 1, steps: 8192 }, f: codePlace }

/** Half floats to numbers, four a node. */
function nodes(): Float32Array {
  const halves = new Uint16Array(Uint8Array.from(atob(UNPRINT_NODES), (c) => c.charCodeAt(0)).buffer)
  const all = new Float32Array((4 * halves.length) / 3)
  for (let i = 0, at = 0; i < all.length; i += 4) for (let k = 0; k < 3; k++) all[i + k] = halfToNumber(halves[at++]!)
  return all
}

/** The table of unprinting, see baths/colour-print/unprint.ts for what its nodes are. */
const SOLID: Solid = {
  key: cacheKey('unprint', UNPRINT_NODES.length),
  from: [ends[0], ends[0], ends[0]],
  to: [ends[1], ends[1], ends[1]],
  valueAt: (place) => place,
  nodes: memoized(1, nodes),
  holds: 'light',
}

/** Places of the table's nodes along a side. */
export const placesOf = (side: number): number[] =>
  Array.from({ length: side }, (_, i) => ends[0] + ((ends[1] - ends[0]) * i) / (side - 1))

/** Display code values to the scene light that the plain process would have printed them from. */
export const UNPRINTED: readonly PointStage[] = [evenCurves(PLACES), { at: 'solid', solid: SOLID }]
