import { type Triple, three } from '../../colour/matrix'
import { BT709_TO_XYZ, luminance } from '../../colour/spaces'
import { transform } from '../../colour/matrix'
import { lightOf } from '../../colour/white'
import { plainStages } from '../../stages/plain'
import { balanceMix, type BalanceSettings } from './balance'

/** Settings of the balance bath that follow from a place of the picture. @param light scene light as it comes to the bath */

/** The light under which a place is grey. */
export const neutralAt = (light: Triple): Pick<BalanceSettings, 'kelvin' | 'tint'> =>
  lightOf(transform(BT709_TO_XYZ, light))

/** Luminance that a place has behind the bath's matrix. */
function luminanceThrough(s: BalanceSettings, light: Triple): number {
  const out = three()
  plainStages([balanceMix(s)])(...light, out)
  return Math.max(1e-6, luminance(out))
}
const held = (v: number, least: number, most: number): number =>
  Math.round(100 * Math.min(most, Math.max(least, v))) / 100

/** The exposure that makes a place 18 % grey, all else as it is set. Mid grey itself is where shadows and roll-off do nothing. */
export const exposureOfGrey = (s: BalanceSettings, light: Triple): Pick<BalanceSettings, 'exposure'> => ({
  exposure: held(Math.log2(0.18 / luminanceThrough({ ...s, exposure: 0 }, light)), -8, 8),
})

/** The black level that takes a place for black. */
export const blackAt = (s: BalanceSettings, light: Triple): Pick<BalanceSettings, 'black'> => ({
  // Before any gain: the level is a share of the light as it comes.
  black: held(
    100 * luminanceThrough({ ...s, exposure: 0, white: 0, black: 0, lightRed: 0, lightGreen: 0, lightBlue: 0 }, light),
    0,
    10,
  ),
})

/** White paper reflects about as much of what a perfect white would (common practice). */
const PAPER = 0.9

/** The white level that brings a place to the light of white paper, all else as it is set. */
export const whiteAt = (s: BalanceSettings, light: Triple): Pick<BalanceSettings, 'white'> => ({
  white: held(Math.log2(PAPER / luminanceThrough({ ...s, white: 0 }, light)), -3, 3),
})
