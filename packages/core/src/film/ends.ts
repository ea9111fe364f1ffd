import { displayCode, displayLight } from '../colour/transfer'
import { evenCurves, type PointStage } from '../stages/stage'
import { straightView, unprint } from './straight'

/** The two ends of every process: how pictures come in, and how light on the wall becomes code values. */

/** Display-linear light of a process to display code values (BT.1886): fitted to the gamut, then encoded. */
export const FINISH: readonly PointStage[] = [
  { at: 'fit' },
  evenCurves({ key: 'display code', axis: { nodes: 'octaves', from: -40, to: 1 }, f: displayCode }),
]

/** Scene light to the untreated picture's display code values. */
export const UNTREATED: readonly PointStage[] = [
  evenCurves({
    key: 'straight view',
    axis: { nodes: 'octaves', from: -13, to: 3 },
    f: (light) => displayCode(straightView(light)),
  }),
]

/** Display code values to scene light: the picture so far, photographed again. */
export const REPHOTOGRAPHED: PointStage = evenCurves({
  key: 'rephotographed',
  axis: { nodes: 'even', from: 0, to: 1, steps: 8192 },
  f: (code) => unprint(displayLight(code)),
})
