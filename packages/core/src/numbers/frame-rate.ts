import Fraction from 'fraction.js'
import { FogBathError } from '../errors'

/**
 * Frames a second, of a rate as media files give it.
 * @param fps such as '24', '23.976' or '24000/1001'
 * @returns 0 where there is none: '0/1' of stills, '0/0' of files that do not say
 */
export const framesASecond = (fps: string): number => (/\/0+$/.test(fps) ? 0 : new Fraction(fps).valueOf())

/**
 * How many seconds so many frames last, worked out in whole numbers.
 * @throws FogBathError without a rate
 */
export function secondsOf(frames: number, fps: string): number {
  if (framesASecond(fps) === 0)
    throw new FogBathError('range', 'fps', `A rate of '${fps}' frames a second gives frames no length.`)
  return new Fraction(frames).div(fps).valueOf()
}
