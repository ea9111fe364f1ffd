import type { Triple } from '../../colour/matrix'
import { BT709_TO_XYZ, luminance } from '../../colour/spaces'
import { transform } from '../../colour/matrix'
import { lightOf } from '../../colour/white'
import { plainStages } from '../../stages/plain'
import { balanceMix, type BalanceSettings } from './balance'

/** Settings of the balance bath that follow from a place of the picture. @param light scene light as it comes to the bath */

/** The light under which a place is grey. */
export const neutralAt = (light: Triple): Pick<BalanceSettings, 'kelvin' | 'tint'> =>
  lightOf(transform(BT709_TO_XYZ, light))

const LONGEST = 8

/** The exposure that makes a place 18 % grey, all else as it is set. */
export function exposureOfGrey(s: BalanceSettings, light: Triple): Pick<BalanceSettings, 'exposure'> {
  const out = new Float64Array(3)
  plainStages([balanceMix({ ...s, exposure: 0 })])(...light, out)
  // Mid grey itself is where shadows and roll-off do nothing.
  const stops = Math.log2(0.18 / Math.max(1e-6, luminance(out)))
  return { exposure: Math.round(100 * Math.min(LONGEST, Math.max(-LONGEST, stops))) / 100 }
}
