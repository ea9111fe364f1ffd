import { WEDGE } from '../charts/charts'
import { bt709ToLab } from '../colour/lab'
import { triple, type Triple, three, type Three } from '../colour/matrix'
import { displayLight } from '../colour/transfer'
import type { Projection } from '../spectra/projection'
import { atWork, workOf } from '../line/bath'
import { plainSteps } from '../line/plain'
import type { Bath, Recipe } from '../line/recipe'
import { SAMPLES } from '../spectra/grid'
import { STATUS, readThrough } from '../spectra/status'
import { chain, plainStages } from '../stages/plain'
import type { PointFunction, Stage } from '../stages/stage'

/** A step of the grey wedge through a line. */
export interface WedgeReading {
  /** Stops from mid grey. */
  readonly stops: number
  /** Densities of the print, dyes, silver and base together, in red, green and blue; null where no bath makes one. */
  readonly print: Readonly<Record<'A' | 'M', Triple>> | null
  /** What is seen: display code values, and L*, a*, b*. */
  readonly code: Triple
  readonly lab: Triple
}

/** The wedge step by step: densities of the last print in the line, and the finished picture. */
export function readWedge(recipe: Recipe): WedgeReading[] {
  const steps = plainSteps(recipe)
  const at = recipe.baths.findLastIndex((bath) => atWork(bath) && absorbersOf(bath) !== null)
  const bath = recipe.baths[at]
  const found = bath ? absorbersOf(bath)! : null
  const before = bath ? (bath.takes === 'camera' ? steps.lights[at]! : steps.entering[at]!) : null
  const out = three()
  return WEDGE.map((light) => {
    steps.whole(light, light, light, out)
    const code: Triple = [out[0], out[1], out[2]]
    const shown = triple(code.map(displayLight))
    return {
      stops: Math.log2(light / 0.18),
      code,
      lab: bt709ToLab(shown),
      print: found && before ? densitiesOf(found, chain(before, found.until), light) : null,
    }
  })
}

interface Found {
  readonly projection: Projection
  /** The stages before the absorbers. */
  readonly until: PointFunction
  readonly amounts: (numbers: Three, out: Float64Array) => void
}

/** What absorbs light in the print that a bath makes. */
function absorbersOf(bath: Bath): Found | null {
  const { stages } = workOf(bath)
  const at = stages.findLastIndex((stage) => ofStage(stage) !== null)
  const own = stages[at]
  return own ? { ...ofStage(own)!, until: plainStages(stages.slice(0, at)) } : null
}

function ofStage(stage: Stage): Omit<Found, 'until'> | null {
  if (stage.at === 'ramp') {
    const { absorbers } = stage.ramp
    return absorbers ? { projection: absorbers.projection, amounts: (v, out) => absorbers.amounts(v[0], out) } : null
  }
  if (stage.at !== 'solid' || !('projection' in stage.solid)) return null
  const { projection, amounts, valueAt } = stage.solid
  return { projection, amounts: (v, out) => amounts(valueAt(v[0]), valueAt(v[1]), valueAt(v[2]), out) }
}

function densitiesOf({ projection, amounts }: Found, until: PointFunction, light: number): WedgeReading['print'] {
  const { components, base } = projection
  const numbers = three()
  const held = new Float64Array(components.length)
  until(light, light, light, numbers)
  amounts(numbers, held)
  const density = Float64Array.from({ length: SAMPLES }, (_, i) =>
    components.reduce((sum, component, k) => sum + held[k]! * component[i]!, base?.[i] ?? 0),
  )
  const bands = (status: 'A' | 'M') => triple(STATUS[status].map((weights) => readThrough(weights, density)))
  return { A: bands('A'), M: bands('M') }
}
