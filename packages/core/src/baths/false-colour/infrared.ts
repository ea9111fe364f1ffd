import { softplus } from '../../film/curve'

/** Infrared of leaves rises by this power of how far their green stands above red and blue. */
const LEAF = { power: 2.2, width: 0.1 }
/** Infrared of a clear sky falls by this power of how far its blue stands above green. */
const SKY = { power: 1.3, width: 0.2 }
/** Light that every record holds beside its own, so that what is all but black is neither leaf nor sky. */
const STRAY = 0.01
/** Clouds and lamps are neither: at this light the estimate counts by half, and by a power of it less beyond. */
const BRIGHT = { light: 0.4, power: 1.5 }

/** 0 at 0, straight in the end: with a slope of 1 above, of 0 below. */
const rise = (v: number, width: number): number => softplus(v, width) - softplus(0, width)

/**
 * Infrared light, which footage does not hold, estimated from the three records: leaves mirror it strongly, a clear sky
 * sends next to none, and all else, skin and cloth too, about as much as red light. Ratios of records go in by powers,
 * so that the estimate is nearly straight over densities and small differences of colour stay small (own estimate).
 * @param r light of 0 and above, 0.18 being mid grey; `g` and `b` alike
 * @param amount how strongly leaves stand out, 1 as they do
 */
export function infraredLight(r: number, g: number, b: number, amount: number): number {
  const [red, green, blue] = [Math.log(r + STRAY), Math.log(g + STRAY), Math.log(b + STRAY)]
  const leaf = LEAF.power * amount * rise(green - (red + blue) / 2, LEAF.width)
  const sky = SKY.power * rise(blue - green, SKY.width)
  const share = 1 / (1 + ((r + g + b) / 3 / BRIGHT.light) ** BRIGHT.power)
  return r * Math.exp(share * (leaf - sky))
}
