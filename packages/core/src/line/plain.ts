import { kindById } from '../baths/kinds'
import type { PointFunction } from '../kernels/lut3d'
import { atWork, bathPoint, chain, layPoint, maskedPoint, rephotograph, straightPoint } from './bath'
import type { Bath, Recipe } from './recipe'
import { NO_TRIMS, trimPoint, type Trims } from './trims'

/**
 * The line as plain per-colour functions: scene light in, display code values (BT.1886) out. This is the truth that
 * compiled plans are compared with. Work on neighbouring pixels (blurs, shifts) is left out.
 */
export function plainLine(recipe: Recipe, trims: Trims = NO_TRIMS): PointFunction {
  return plainSteps(recipe, trims).whole
}

export interface PlainSteps {
  /** The picture as it leaves each bath (before the line's own strength). */
  readonly leaving: readonly PointFunction[]
  /** The untreated picture: the straight view of the trimmed footage. */
  readonly footage: PointFunction
  /** The finished picture, the line's strength applied. */
  readonly whole: PointFunction
}

/**
 * The line bath by bath.
 * @param maskAt how much a bath's mask lets through where the colour lies, 0..1; without it masks let all through, as
 * on the test strips, which show what a bath does where it works
 */
export function plainSteps(recipe: Recipe, trims: Trims = NO_TRIMS, maskAt?: (bath: Bath) => number): PlainSteps {
  const trim = trimPoint(trims)
  const footage = chain(trim, straightPoint)
  let camera: PointFunction = trim
  let line: PointFunction = footage
  const leaving: PointFunction[] = []
  for (const bath of recipe.baths) {
    if (atWork(bath)) {
      if (kindById(bath.kind).stretch === 'prepare') {
        camera = prepared(camera, bath)
        line = chain(camera, straightPoint)
      } else {
        const laid = layPoint(bath, line, sourceOf(bath, camera, line))
        line = bath.mask && maskAt ? maskedPoint(line, laid, () => maskAt(bath)) : laid
      }
    }
    leaving.push(line)
  }
  const whole = layPoint({ lay: 'normal', under: false, strength: recipe.strength }, footage, line)
  return { leaving, footage, whole }
}

/** What a bath makes, from the same input as the line. */
function sourceOf(bath: Bath, camera: PointFunction, line: PointFunction): PointFunction {
  const own = bathPoint(bath)
  if (kindById(bath.kind).stretch === 'finish') return chain(line, own)
  return bath.takes === 'camera' ? chain(camera, own) : chain(chain(line, rephotograph), own)
}

/** A Prepare bath works on scene light; its strength mixes there. */
export function prepared(camera: PointFunction, bath: Bath): PointFunction {
  return layPoint({ lay: 'normal', under: false, strength: bath.strength }, camera, chain(camera, bathPoint(bath)))
}
