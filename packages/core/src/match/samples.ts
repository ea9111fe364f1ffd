import { bt709ToLab } from '../colour/lab'
import { type Triple, three } from '../colour/matrix'
import { displayLight } from '../colour/transfer'
import { FogBathError } from '../errors'
import type { Refers } from '../line/entry'
import type { Around } from '../line/parts'
import { plainSteps } from '../line/plain'
import { NOTHING } from '../line/recipe'
import type { Labs } from './transport'

export interface MatchRequest {
  /** The footage as a line takes it, RGBA, and what its numbers mean. */
  readonly footage: Float32Array
  readonly refers: Refers
  /** What the shot adds around the process. */
  readonly around: Around
  /** Pictures of the look that is wanted, display code values (BT.1886), RGBA; one of the same size where it shows the same frame. */
  readonly references: readonly Float32Array[]
  readonly sameFrame: boolean
  /** Kinds of processes to try, and which of their settings may move; those shown first where nothing is said. */
  readonly kinds: readonly string[]
  readonly settings?: readonly string[]
}

/** Pixels of a same frame that are looked at, and of which representatives of other frames are made. */
const [LOOKED_AT, MADE_OF] = [500, 12_000]
/** Representatives are 2 to this power: until a process is chosen, and after that. */
export const [FEW, MANY] = [8, 9]

export interface Samples {
  /** The footage's own numbers. */
  readonly camera: readonly Triple[]
  readonly untreated: Labs
  readonly reference: Labs
}

export const labOf = (r: number, g: number, b: number): Triple =>
  bt709ToLab([displayLight(r), displayLight(g), displayLight(b)])

/** What a fit looks at, the picture and the references: of the same frame pixels that lie at the same places, else representatives. */
export function samplesOf(request: MatchRequest, many: number): Samples {
  const { footage, references, refers, around, sameFrame } = request
  checkReferences(request)
  const toCode = plainSteps(NOTHING, { around, refers }).footage
  const out = three()
  const shown = (c: Triple): Triple => {
    toCode(...c, out)
    return labOf(out[0], out[1], out[2])
  }
  const most = sameFrame ? LOOKED_AT : MADE_OF
  const seen = spread(footage, most).map((at): Triple => [footage[at]!, footage[at + 1]!, footage[at + 2]!])
  const wanted = references.flatMap((picture) =>
    spread(picture, Math.ceil(most / references.length)).map((at) =>
      labOf(picture[at]!, picture[at + 1]!, picture[at + 2]!),
    ),
  )
  const camera = sameFrame ? seen : representatives(seen, seen.map(shown), many)
  const reference = sameFrame ? wanted : representatives(wanted, wanted, many)
  return { camera, untreated: camera.map(shown), reference }
}

function checkReferences({ footage, references, sameFrame }: MatchRequest): void {
  if (references.length === 0 || (sameFrame && references.length > 1))
    throw new FogBathError(
      'range',
      'references',
      `${references.length} references were given; a fit takes ${sameFrame ? 'one of the same frame' : 'at least one'}.`,
    )
  if (sameFrame && footage.length !== references[0]!.length)
    throw new FogBathError('range', 'reference', 'Pictures of the same frame must have the same size.')
}

/**
 * Means of parts of a picture that hold as many pixels each: cut in the middle along the axis of CIELAB on which a part is
 * widest, again and again (P. Heckbert 1982, from memory). A few hundred stand for the whole better than as many pixels do.
 * @param values of the pixels, to be averaged
 * @param labs of the pixels, by which they are parted
 */
function representatives(values: readonly Triple[], labs: Labs, times: number): Triple[] {
  const parted = (part: readonly number[], left: number): Triple[] => {
    if (left === 0 || part.length < 2) return [meanOf(part.map((i) => values[i]!))]
    const widest = [0, 1, 2].reduce((best, k) => (width(part, k) > width(part, best) ? k : best), 0)
    const order = [...part].sort((i, j) => labs[i]![widest]! - labs[j]![widest]!)
    const half = order.length >> 1
    return [...parted(order.slice(0, half), left - 1), ...parted(order.slice(half), left - 1)]
  }
  const width = (part: readonly number[], k: number): number => {
    let [least, most] = [Infinity, -Infinity]
    for (const i of part) [least, most] = [Math.min(least, labs[i]![k]!), Math.max(most, labs[i]![k]!)]
    return most - least
  }
  return parted(
    values.map((_, i) => i),
    times,
  )
}

const meanOf = (list: readonly Triple[]): Triple => {
  const mean = (k: 0 | 1 | 2): number => list.reduce((sum, c) => sum + c[k], 0) / list.length
  return [mean(0), mean(1), mean(2)]
}

/** Places of pixels all over a picture, by the golden section, so that no pattern is met. */
function spread(pixels: Float32Array, most: number): number[] {
  const n = pixels.length / 4
  if (n < 1) throw new FogBathError('range', 'picture', 'A picture without pixels cannot be matched.')
  const count = Math.min(n, most)
  return Array.from({ length: count }, (_, i) => 4 * Math.floor(n * ((i * 0.6180339887498949) % 1)))
}
