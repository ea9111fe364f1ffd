import { displayCode, displayLight } from '../colour/transfer'
import { softBlack } from './plain-levels'
import { evenCurves, type PointStage } from '../stages/stage'
import { straightView, unprint } from './straight'

/** The two ends of every process: how pictures come in, and how light on the wall becomes code values. */

const shownCode = (light: number): number => displayCode(softBlack(light))

/** Display-linear light of a process to display code values (BT.1886): fitted to the gamut, its black softened, encoded. */
export const FINISH: readonly PointStage[] = [
  { at: 'fit' },
  evenCurves({ key: 'display code', axis: { nodes: 'octaves', from: -40, to: 1 }, f: shownCode }),
]

/** Scene light to the untreated picture's display code values, one tone at a time. */
export const STRAIGHT: readonly PointStage[] = [
  evenCurves({
    key: 'straight view',
    axis: { nodes: 'octaves', from: -13, to: 3 },
    f: (light) => displayCode(straightView(light)),
  }),
]

/** Its inverse: code values to scene light, one tone at a time. */
export const UNPRINTED_STRAIGHT: PointStage = evenCurves({
  key: 'straight view undone',
  axis: { nodes: 'even', from: 0, to: 1, steps: 8192 },
  f: (code) => unprint(displayLight(code)),
})
