import { wholeOf } from '../../film/emulsion'
import { bt709ToLab } from '../../colour/lab'
import { matrix, triple, dot, invert, transform, type Matrix3, type Triple, three } from '../../colour/matrix'
import { displayLight } from '../../colour/transfer'
import { fitGamutOpen } from '../../colour/gamut'
import { softBlack } from '../../film/plain-levels'
import { unprint } from '../../film/straight'
import { held, openHeld } from '../../stages/held'
import { plainStages } from '../../stages/plain'
import { defaultsOf } from '../defaults'
import { makeColourPrint } from './film'
import { ColourPrintSettings } from './settings'

/** How far off a held light may be taken for a step of a derivative. */
const STEP = 1e-4
/** Steps of damped least squares; those that reach the colour need fewer. */
const MOST_STEPS = 60
/** The longest step, so that none crosses from one way of showing a colour to another. */
const LONGEST = 0.25
/**
 * A colour is found by way of paler ones of the same brightest code, from this share of its colour on: dyes reach them, and
 * where they stop reaching there can be two nearest colours, made of very different light (a layer that sees nothing lets the
 * others print lighter). So neighbours take the same way, petals do not break into islands, and colours go to white evenly.
 */
const DEEPENING = Array.from({ length: 10 }, (_, i) => (3 + i) / 12)
/**
 * What a unit of held light away from the start counts beside a unit of CIELAB: among all that show a colour as well, the
 * nearest is taken, and where dyes hardly reach a colour its neighbours stay neighbours.
 */
const TETHER = 0.5

/** Light beyond a fence, as it is held, counts by `weight` a unit. */
interface Fence {
  readonly side: 'above' | 'below'
  readonly of: number
  readonly weight: number
}

/**
 * Light should not lie far above the brightest that the tones alone would give nor far below nothing: near the edge of what
 * the dyes can show a little more colour takes ever more light, and a print in one colour of such light would be blown out.
 * Above white it should not lie at all, or the highlights of harder prints would break up.
 */
const fencesAround = (start: Triple): readonly Fence[] => [
  { side: 'above', of: Math.max(...start) + 0.35, weight: 2 },
  { side: 'above', of: WHITE, weight: 6 },
  { side: 'below', of: -0.5, weight: 4 },
]
const WHITE = held(unprint(1))

/** Scene light, as it is held, to what the plain print shows, in CIELAB. */
function plainPrint(): (held: Triple) => Triple {
  const print = plainStages(wholeOf(makeColourPrint(defaultsOf(ColourPrintSettings) as ColourPrintSettings).parts))
  const out = three()
  return ([a, b, c]) => {
    print(openHeld(a), openHeld(b), openHeld(c), out)
    fitGamutOpen(out)
    return bt709ToLab([softBlack(out[0]), softBlack(out[1]), softBlack(out[2])])
  }
}

const minus = (a: Triple, b: Triple): Triple => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
const square = (v: Triple): number => v[0] * v[0] + v[1] * v[1] + v[2] * v[2]

/** Differences from a colour, weighed as the eye weighs them: in lightness, chroma and hue (CIE 116-1995, from memory). */
function weighed([, a, b]: Triple): Matrix3 {
  const c = Math.hypot(a, b)
  const [inChroma, inHue] = [1 / (1 + 0.045 * c), 1 / (1 + 0.015 * c)]
  const [x, y] = c > 0 ? [a / c, b / c] : [1, 0]
  return [
    [1, 0, 0],
    [0, x * inChroma, y * inChroma],
    [0, -y * inHue, x * inHue],
  ]
}

/**
 * Unprinting: the scene light which the plain process, all three layers at once, prints to a colour; where its dyes do not
 * reach it, to the nearest in CIELAB that they do (damped least squares: K. Levenberg 1944, D. Marquardt 1963, from memory).
 * Neutrals stay neutral: they go by their tone alone, see film/straight.ts.
 * @returns for BT.1886 code values of BT.709, cut to 0..1: scene light as stages/held.ts holds it
 */
export function makeUnprint(): (codes: Triple) => Triple {
  const print = plainPrint()
  return (codes) => {
    if (codes[0] === codes[1] && codes[1] === codes[2]) return startOf(triple(codes.map(displayLight)))
    let at: Triple | undefined
    const most = Math.max(...codes)
    const paler = (share: number): Triple => triple(codes.map((v) => displayLight(most + share * (v - most))))
    for (const share of DEEPENING) at = nearestFrom(print, paler(share), at)
    return at!
  }
}

/** The light that the tones alone would give. */
const startOf = (light: Triple): Triple => triple(light.map((v) => held(unprint(v))))

/** @param light display-linear @param from where to begin, the start if left out */
function nearestFrom(print: (held: Triple) => Triple, light: Triple, from?: Triple): Triple {
  const start = startOf(light)
  const wanted = bt709ToLab(light)
  const eye = weighed(wanted)
  const seen = (at: Triple): Triple => transform(eye, minus(print(at), wanted))
  const fences = fencesAround(start)
  const missOf = (at: Triple): number => square(seen(at)) + strainOf(at, start, fences).sum
  let [at, miss, damping] = [from ?? start, missOf(from ?? start), 1e-3]
  for (let i = 0; i < MOST_STEPS && miss > 1e-10; i++) {
    const next = stepFrom(seen, at, strainOf(at, start, fences), damping)
    const then = missOf(next)
    if (then < miss) {
      const gained = miss - then
      ;[at, miss, damping] = [next, then, damping / 8]
      if (gained < 1e-7 * miss) break
    } else {
      damping *= 6
      if (damping > 1e6) break
    }
  }
  return at
}

/** What it counts to lie away from the start and out of bounds; with slopes and second slopes by each light. */
interface Strain {
  readonly sum: number
  readonly slopes: Triple
  readonly curvatures: Triple
}

function strainOf(at: Triple, start: Triple, fences: readonly Fence[]): Strain {
  const away = minus(at, start)
  const slopes = [0, 0, 0] as [number, number, number]
  const curvatures = [0, 0, 0] as [number, number, number]
  let sum = 0
  for (let k = 0; k < 3; k++) {
    const pull = (off: number, weight: number) => {
      sum += (weight * off) ** 2
      slopes[k]! += weight ** 2 * off
      curvatures[k]! += weight ** 2
    }
    pull(away[k]!, TETHER)
    for (const { side, of, weight } of fences) {
      const off = at[k]! - of
      if (side === 'above' ? off > 0 : off < 0) pull(off, weight)
    }
  }
  return { sum, slopes, curvatures }
}

/** One damped step towards what is not missed any more. @param seen how a colour is missed */
function stepFrom(seen: (held: Triple) => Triple, at: Triple, strain: Strain, damping: number): Triple {
  const missed = seen(at)
  const column = (k: 0 | 1 | 2): Triple => {
    const moved = [...at] as [number, number, number]
    moved[k] += STEP
    const [l, c, h] = minus(seen(moved), missed)
    return [l / STEP, c / STEP, h / STEP]
  }
  const columns = [column(0), column(1), column(2)] as const
  const normal = matrix(
    columns.map((a, i) =>
      columns.map((b, j) => (i === j ? dot(a, b) * (1 + damping) + strain.curvatures[i as 0 | 1 | 2] : dot(a, b))),
    ),
  )
  const pull = triple(columns.map((a, i) => -dot(a, missed) - strain.slopes[i]!))
  const step = transform(invert(normal), pull)
  const share = Math.min(1, LONGEST / Math.sqrt(square(step)))
  return [at[0] + share * step[0], at[1] + share * step[1], at[2] + share * step[2]]
}
