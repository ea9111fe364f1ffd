import type { SpaceStep } from '../baths/kind'
import { blurRecords } from './blur'
import { applyField } from './field'
import { shiftRecords } from './shift'
import type { Workbench } from './workbench'

/** Runs a step that looks at neighbouring pixels, in place on an RGBA float picture. */
export function runSpace(
  step: SpaceStep,
  picture: Float32Array,
  width: number,
  height: number,
  bench: Workbench,
): void {
  if (step.kind === 'shift') shiftRecords(step.records, picture, bench.take('scratch', width * height), width, height)
  else if (step.kind === 'blur') blurRecords(step.sigmas, picture, width, height)
  else applyField(step.field, step.smooth, picture, width, height)
}
