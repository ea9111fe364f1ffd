import { type Triple, three } from '../colour/matrix'
import { STRAIGHT } from '../film/ends'
import { layOne, type Laying } from '../lay/blend'
import { HELD } from '../plan/compile'
import type { BathWork } from '../plan/work'
import { chain, nothing, plainStages } from '../stages/plain'
import type { PointFunction } from '../stages/stage'
import { atWork, workOf } from './bath'
import type { Bath, Recipe } from './recipe'
import { entryOf, wayIn, type Refers } from './entry'
import { NOTHING_AROUND, type Around } from './parts'

/**
 * The line as plain per-colour functions: footage in, display code values (BT.1886) out. This is the truth that
 * compiled plans are compared with. Work on neighbouring pixels (blurs, shifts) is left out.
 */
export function plainLine(recipe: Recipe, around: Around = NOTHING_AROUND, refers: Refers = 'scene'): PointFunction {
  return plainSteps(recipe, { around, refers }).whole
}

/** All lists go over the baths of the three parts, in their order. */
export interface PlainSteps {
  /** Scene light as it comes to each bath. */
  readonly lights: readonly PointFunction[]
  /** The picture as it comes to each bath: what the line has made so far, or to those that take the camera, the untreated one. */
  readonly entering: readonly PointFunction[]
  /** The picture as it leaves each bath (before the look's own strength). */
  readonly leaving: readonly PointFunction[]
  /** The picture without any look: the straight view of the prepared footage. */
  readonly footage: PointFunction
  /** The finished picture. */
  readonly whole: PointFunction
}

/** What comes in, and how masks let through. */
export interface PlainOptions {
  /** What the shot adds around the recipe; nothing when left out. */
  readonly around?: Around | undefined
  /** What the numbers that go in mean; scene light when left out. */
  readonly refers?: Refers
  /**
   * How much a bath's mask lets through where the colour lies, 0..1; without it masks let all through, as on the test
   * strips, which show what a bath does where it works
   */
  readonly maskAt?: (bath: Bath) => number
}

/** The line bath by bath. */
export function plainSteps(
  recipe: Recipe,
  { around = NOTHING_AROUND, refers = 'scene', maskAt }: PlainOptions = {},
): PlainSteps {
  const { preparation, after } = around
  const way = wayIn(preparation).baths
  const states = { lights: [] as PointFunction[], entering: [] as PointFunction[], leaving: [] as PointFunction[] }
  const step = (state: PlainState, bath: Bath, next: () => PlainState): PlainState => {
    states.lights.push(state.camera)
    states.entering.push(bath.takes === 'camera' ? state.untreated : state.line)
    const left = next()
    states.leaving.push(left.line)
    return left
  }
  const add = (state: PlainState, bath: Bath): PlainState =>
    step(state, bath, () => {
      if (!atWork(bath)) return state
      const next = through(state, workOf(bath))
      return bath.mask && maskAt ? masked(state, next, () => maskAt(bath)) : next
    })
  const enter = (state: PlainState, bath: Bath, i: number): PlainState =>
    step(state, bath, () => startOf(preparation.slice(0, i + 1), refers))
  const entered = preparation.slice(0, way).reduce(enter, startOf([], refers))
  const prepared = preparation.slice(way).reduce(add, entered)
  const footage = prepared.line
  const made = recipe.baths.reduce(add, prepared)
  const how = { lay: 'normal', under: false, strength: recipe.strength } as const
  const look = layPoint(how, footage, chain(made.line, held))
  const last = after.reduce(add, { ...made, line: look })
  return { ...states, footage, whole: after.length > 0 ? chain(last.line, held) : look }
}

const straight = plainStages(STRAIGHT)
const held = plainStages([HELD])

interface PlainState {
  /** Scene light that the baths take, and the line's picture so far. */
  readonly camera: PointFunction
  /** Code values of the picture that no process has touched. */
  readonly untreated: PointFunction
  readonly line: PointFunction
}

/** @param preparation baths of the way in */
export function startOf(preparation: readonly Bath[] = [], refers: Refers = 'scene'): PlainState {
  const { scene, untreated } = entryOf(wayIn(preparation).stages, refers)
  const footage = plainStages(untreated)
  return { camera: plainStages(scene), untreated: footage, line: footage }
}

/** What is there after one more bath, without its mask. */
export function through(state: PlainState, { from, stages, how, strand }: BathWork): PlainState {
  if (strand && from !== 'prepare') {
    const { line } = strand.reduce(through, { ...state, line: state[from] })
    return { ...state, line: layPoint(how, state.line, line) }
  }
  const own = plainStages(stages)
  if (from === 'prepare') {
    // Strength mixes scene light.
    return prepared(state, layPoint(how, state.camera, chain(state.camera, own)))
  }
  return { ...state, line: layPoint(how, state.line, chain(state[from], own)) }
}

/** What becomes of a picture where a mask lets only a share of the change through. */
function masked(before: PlainState, after: PlainState, share: () => number): PlainState {
  if (after.camera === before.camera) return { ...after, line: maskedPoint(before.line, after.line, share) }
  return prepared(before, maskedPoint(before.camera, after.camera, share))
}

/** Other scene light, and what is seen of it. */
function prepared(state: PlainState, camera: PointFunction): PlainState {
  const untreated = chain(camera, straight)
  return { ...state, camera, untreated, line: untreated }
}

/** Lays what `bath` makes on what `line` makes of the same input. */
function layPoint(how: Laying, line: PointFunction, bath: PointFunction): PointFunction {
  if (how.lay === 'normal' && !how.under && how.strength >= 100) return bath
  return (r, g, b, out) => {
    const under = valueOf(line, r, g, b)
    nothing(...layOne(how, under, valueOf(bath, r, g, b)), out)
  }
}

/** What the line becomes where a mask lets only a share of the change through; the share is asked for each colour. */
const maskedPoint =
  (line: PointFunction, changed: PointFunction, share: () => number): PointFunction =>
  (r, g, b, out) => {
    const [before, after] = [valueOf(line, r, g, b), valueOf(changed, r, g, b)]
    const part = share()
    for (let k = 0; k < 3; k++) out[k] = before[k]! + (after[k]! - before[k]!) * part
  }

const scratch = three()

function valueOf(point: PointFunction, r: number, g: number, b: number): Triple {
  point(r, g, b, scratch)
  return [scratch[0], scratch[1], scratch[2]]
}
