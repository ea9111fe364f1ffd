import { triple, diagonal, type Triple, three } from '../colour/matrix'
import { luminance } from '../colour/spaces'
import { chain, plainStages } from '../stages/plain'
import { mix, type PointFunction, type PointStage } from '../stages/stage'
import { bisect } from './plain-levels'

/** The printer's light falls through a negative: log exposure of each layer is its light less the density before it. */
export const throughNegative = (lights: Triple): PointStage => mix(diagonal([-1, -1, -1]), lights)

/**
 * Timing: the neutral printer light (log exposure) at which scene light 0.18 prints to a luminance of 0.18.
 * Where no light can reach it (flash or flare too strong) the end of the range is taken.
 */
export function timeToGrey(printAt: (light: number) => PointFunction): number {
  const out = three()
  const printed = (light: number): number => {
    printAt(light)(0.18, 0.18, 0.18, out)
    return luminance(out)
  }
  return bisect(printed, 0.18, -2, 6)
}

/** The same for a negative and a print of stages. @param lights those of the layers for a neutral light */
export function timeStages(
  negative: readonly PointStage[],
  print: readonly PointStage[],
  lights: (light: number) => Triple = (light) => [light, light, light],
): number {
  const grey = three()
  plainStages(negative)(0.18, 0.18, 0.18, grey)
  const [r, g, b] = triple([...grey])
  const printed = plainStages(print)
  return timeToGrey((light) => {
    const exposed = plainStages([throughNegative(lights(light))])
    return chain((_r, _g, _b, out) => exposed(r, g, b, out), printed)
  })
}
