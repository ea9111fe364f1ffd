import type { Encoding } from '../encodings'
import { FogBathError } from '../errors'
import { bisect } from '../film/plain-levels'
import { CURVE, type Curve, type CurvesPart } from './parts'

/**
 * How much closer nodes stand at black and at white than between, and how far that reaches. Scene light goes by fastest
 * there: the last eight code values are worth a stop (own design, fitted on photographs).
 */
const ENDS = { black: { more: 2, reach: 0.1 }, white: { more: 5, reach: 0.03 } }

/** The share of all nodes up to a code value, not yet scaled: the integral of 1 + more·exp(-distance / reach) of both ends. */
function nodesUpTo(code: number): number {
  const { black, white } = ENDS
  const fromBlack = black.more * black.reach * (1 - Math.exp(-code / black.reach))
  const toWhite = white.more * white.reach * (Math.exp((code - 1) / white.reach) - Math.exp(-1 / white.reach))
  return code + fromBlack + toWhite
}

const ALL = nodesUpTo(1)

/** Display code values 0..1 to places 0..1 in a table whose nodes stand closer at both ends. */
const shaped: Curve = (code) => nodesUpTo(Math.min(1, Math.max(0, code))) / ALL

/** The inverse of {@link shaped}. */
export const unshaped: Curve = (place) => (place <= 0 ? 0 : place >= 1 ? 1 : bisect(shaped, place, 0, 1))

/** The shaper of a table that takes an encoding. Throws where there are no ends of display code values to spread. */
export function shaperFor(takes: Encoding): CurvesPart {
  if (takes.refers === 'display') return { part: 'curves', domain: CURVE, f: [shaped, shaped, shaped] }
  throw new FogBathError(
    'format',
    'shaper',
    `A shaper spreads the ends of display code values, and '${takes.label}' is spread evenly already; leave it out.`,
  )
}

/** What the table says of its shaper, and the shaper of itself. */
export const BEHIND_SHAPER = 'Its input goes through its shaper first, the .cube of one curve that was made with it.'
export const aboutShaper = (recipe: string, takes: Encoding): string[] => [
  `Fog Bath, shaper of recipe ${recipe}`,
  `Takes ${takes.label}; gives places in the table that was made with it, which comes next.`,
]
