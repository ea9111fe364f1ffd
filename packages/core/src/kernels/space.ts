import type { SpaceStep } from '../baths/kind'
import type { Workbench } from '../line/run'
import { blurRecords } from './blur'
import { shiftRecords } from './shift'

/** Runs a step that looks at neighbouring pixels, in place on an RGBA float picture. */
export function runSpace(
  step: SpaceStep,
  picture: Float32Array,
  width: number,
  height: number,
  bench: Workbench,
): void {
  if (step.kind === 'shift') shiftRecords(step.records, picture, bench.take('scratch', width * height), width, height)
  else if (step.kind === 'blur') blurRecords(step.sigmas, picture, bench.take('scratch', width * height), width, height)
  else applyField(step.field, picture, width, height)
}

/** Multiplies or changes each pixel by its place: u, v run 0..1 over width and height. */
function applyField(
  field: (u: number, v: number, aspect: number, out: Float64Array) => void,
  picture: Float32Array,
  width: number,
  height: number,
): void {
  const out = new Float64Array(6)
  for (let y = 0, at = 0; y < height; y++) {
    for (let x = 0; x < width; x++, at += 4) {
      field((x + 0.5) / width, (y + 0.5) / height, width / height, out)
      for (let k = 0; k < 3; k++) picture[at + k] = picture[at + k]! * out[k]! + out[k + 3]!
    }
  }
}
