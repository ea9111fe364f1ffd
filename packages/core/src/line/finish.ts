import { fitGamut } from '../colour/gamut'
import { displayCode } from '../colour/transfer'
import { readShaped, shapedTable } from '../kernels/shaped'

/** Display light to BT.1886 code values, by table: relative error below 4e-6. */
const codeTable = shapedTable(displayCode, -40, 1)
export const encodeDisplay = (light: number): number => (light > 0 ? readShaped(codeTable, light) : 0)

/** Display-linear light of a process to display code values: fitted to the gamut, then encoded. In place. */
export function finishLight(out: Float64Array): void {
  fitGamut(out)
  for (let k = 0; k < 3; k++) out[k] = encodeDisplay(out[k]!)
}
