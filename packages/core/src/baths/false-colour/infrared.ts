import type { Triple } from '../../colour/matrix'
import { softplus } from '../../film/curve'

/** Infrared of leaves rises by this power of how far their green stands above red and blue. */
const LEAF = { power: 2.6, width: 0.1 }
/** Infrared of a clear sky falls by this power of how far its blue stands above green, or above red where that is more. */
const SKY = { power: 2.0, width: 0.2 }
/** Purple begins here to be no sky. */
const PURPLE = 0.1
/** Light that every record holds beside its own, so that what is all but black is neither leaf nor sky. */
const STRAY = 0.02
/** Clouds and lamps are neither: at this light the estimate counts by half, and by a power of it less beyond. */
const BRIGHT = { light: 0.5, power: 1.2 }

/** 0 at 0, straight in the end: with a slope of 1 above, of 0 below. */
const rise = (v: number, width: number): number => softplus(v, width) - softplus(0, width)

/**
 * Infrared light, which footage does not hold, estimated from what an ordinary stock would see: leaves mirror it strongly, a
 * clear sky sends less of it than of red, and all else, skin and cloth too, about as much as red light. Ratios of records
 * go in by powers, so that the estimate is nearly straight over densities and small differences of colour stay small (own
 * estimate).
 * @param r record of 0 and above, 0.18 being mid grey; `g` and `b` alike
 * @param amount how strongly leaves stand out, 1 as they do
 */
export function infraredLight([r, g, b]: Triple, amount: number): number {
  const [red, green, blue] = [Math.log(r + STRAY), Math.log(g + STRAY), Math.log(b + STRAY)]
  const leaf = LEAF.power * amount * rise(green - (red + blue) / 2, LEAF.width)
  const sky = SKY.power * rise(blue - green - rise(red - green, PURPLE), SKY.width)
  const share = 1 / (1 + ((r + g + b) / 3 / BRIGHT.light) ** BRIGHT.power)
  return r * Math.exp(share * (leaf - sky))
}
