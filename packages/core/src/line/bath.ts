import { kindById } from '../baths/kinds'
import type { Stage } from '../baths/kind'
import { displayLight } from '../colour/transfer'
import type { Triple } from '../colour/matrix'
import { straightView, unprint } from '../film/straight'
import type { PointFunction } from '../kernels/lut3d'
import { remembered } from '../kernels/remembered'
import { encodeDisplay, finishLight } from './finish'
import { layOne, type Laying } from './blend'
import type { Bath } from './recipe'

/** The worked-out stages of the baths last seen: film models are not built again. */
const stagesFor = remembered(200, (kind: string, settings: Bath['settings']) => kindById(kind).stages(settings))
export const stagesOf = (bath: Bath): readonly Stage[] => stagesFor(bath.kind, bath.settings)

/** Scene light to the untreated picture's display code values. */
export const straightPoint: PointFunction = (r, g, b, out) => {
  out[0] = encodeDisplay(straightView(r))
  out[1] = encodeDisplay(straightView(g))
  out[2] = encodeDisplay(straightView(b))
}

/** A display code value to scene light: the picture so far, photographed again. */
export const rephotographed = (code: number): number => unprint(displayLight(code))

export const rephotograph: PointFunction = (r, g, b, out) => {
  out[0] = rephotographed(r)
  out[1] = rephotographed(g)
  out[2] = rephotographed(b)
}

/** f, then g. */
export const chain =
  (f: PointFunction, g: PointFunction): PointFunction =>
  (r, gg, b, out) => {
    f(r, gg, b, out)
    g(out[0]!, out[1]!, out[2]!, out)
  }

/** All per-colour stages of a bath one after the other; steps that look at neighbours are left out. */
export function bathPoint(bath: Bath): PointFunction {
  const points = stagesOf(bath).flatMap((s) => (s.at === 'point' ? [s.point] : []))
  const whole = points.reduce(chain)
  return kindById(bath.kind).stretch === 'process' ? chain(whole, (r, g, b, out) => setAndFinish(r, g, b, out)) : whole
}

export function setAndFinish(r: number, g: number, b: number, out: Float64Array): void {
  out[0] = r
  out[1] = g
  out[2] = b
  finishLight(out)
}

/** Lays what `bath` makes on what `line` makes of the same input. */
export function layPoint(how: Laying, line: PointFunction, bath: PointFunction): PointFunction {
  if (how.lay === 'normal' && !how.under && how.strength >= 100) return bath
  const scratch = new Float64Array(3)
  return (r, g, b, out) => {
    line(r, g, b, scratch)
    const under: Triple = [scratch[0]!, scratch[1]!, scratch[2]!]
    bath(r, g, b, scratch)
    const laid = layOne(how, under, [scratch[0]!, scratch[1]!, scratch[2]!])
    out[0] = laid[0]
    out[1] = laid[1]
    out[2] = laid[2]
  }
}

/** What the line becomes where a mask lets only a share of the change through; the share is asked for each colour. */
export function maskedPoint(line: PointFunction, changed: PointFunction, share: () => number): PointFunction {
  const scratch = new Float64Array(3)
  return (r, g, b, out) => {
    line(r, g, b, scratch)
    const before: Triple = [scratch[0]!, scratch[1]!, scratch[2]!]
    changed(r, g, b, scratch)
    const part = share()
    for (let k = 0; k < 3; k++) out[k] = before[k]! + (scratch[k]! - before[k]!) * part
  }
}

/** Baths that do something: in the line, not at strength 0. */
export const atWork = (bath: Bath): boolean => bath.in && bath.strength > 0
