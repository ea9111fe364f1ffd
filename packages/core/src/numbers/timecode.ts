import { FogBathError } from '../errors'
import { framesASecond } from './frame-rate'

/** Where footage starts that carries no timecode of its own. */
const NO_START = '00:00:00:00'

/** Frames that a second of timecode counts: the rate, rounded. */
const baseOf = (fps: string): number => Math.round(framesASecond(fps)) || 24

/**
 * Frame numbers that are left out at the beginning of each minute but every tenth, where timecode drops: 2 at 29.97, 4 at
 * 59.94 frames a second (SMPTE ST 12-1:2014, 5.2.2; from memory).
 * @param start of the footage; a semicolon before its frames says that it drops
 */
const droppedBy = (start: string, fps: string): number =>
  start.includes(';') && baseOf(fps) % 30 === 0 ? baseOf(fps) / 15 : 0

const written = (parts: readonly number[], drops: boolean): string => {
  const [h, m, s, f] = parts.map((v) => String(v).padStart(2, '0'))
  return `${h}:${m}:${s}${drops ? ';' : ':'}${f}`
}

/**
 * The timecode of a frame, hh:mm:ss:ff, with a semicolon before the frames where it drops; it begins anew after a day.
 * @param frame counted from 0 @param fps such as '24' or '24000/1001' @param start timecode of frame 0
 */
export function timecode(frame: number, fps: string, start = NO_START): string {
  const base = baseOf(fps)
  const drop = droppedBy(start, fps)
  const aMinute = 60 * base - drop
  const aDay = 24 * 6 * (10 * aMinute + drop)
  let n = (((frame + countOf(start, fps, drop)) % aDay) + aDay) % aDay
  if (drop > 0) {
    const tens = Math.floor(n / (10 * aMinute + drop))
    const rest = n % (10 * aMinute + drop)
    // The first minute of ten is whole.
    n += drop * (9 * tens + Math.max(0, Math.floor((rest - drop) / aMinute)))
  }
  const seconds = Math.floor(n / base)
  return written([Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60, n % base], drop > 0)
}

/** Frames from midnight to a whole timecode. */
function countOf(text: string, fps: string, drop: number): number {
  const [hours = 0, minutes = 0, seconds = 0, frames = 0] = text.split(/[:;.]/).map(Number)
  const all = 60 * hours + minutes
  return frames + baseOf(fps) * (60 * all + seconds) - drop * (all - Math.floor(all / 10))
}

/** Whether text is a timecode that exists at a rate. */
function exists(text: string, fps: string, drop: number): boolean {
  const [, minutes = 0, seconds = 0, frames = 0] = text.split(/[:;.]/).map(Number)
  if (minutes > 59 || seconds > 59 || frames >= baseOf(fps)) return false
  return !(drop > 0 && seconds === 0 && frames < drop && minutes % 10 > 0)
}

/**
 * The frame that a timecode names, as it is typed: hh:mm:ss:ff, or its last parts alone with the others as the footage starts;
 * a number alone is a frame of the footage; `+10` and `-10` are frames from where one is.
 * @param from the frame where one is @param fps, start as above
 * @returns counted from 0, below 0 for what lies before the start
 * @throws FogBathError for what is no timecode, and for numbers that drop-frame timecode leaves out
 */
export function frameOf(typed: string, from: number, fps: string, start = NO_START): number {
  const text = typed.trim()
  if (/^[+-]\d{1,7}$/.test(text)) return from + Number(text)
  if (/^\d{1,7}$/.test(text)) return Number(text)
  const refuse = (rule: string): never => {
    throw new FogBathError('range', 'timecode', `'${typed}' is no timecode${rule}`)
  }
  if (!/^\d{1,2}([:;.]\d{1,2}){1,3}$/.test(text)) refuse(': hh:mm:ss:ff, its last parts, or +10 and -10 frames.')
  const given = text.split(/[:;.]/)
  const whole = [...start.split(/[:;.]/).slice(0, 4 - given.length), ...given].join(':')
  const drop = droppedBy(start, fps)
  if (!exists(whole, fps, drop))
    refuse(
      drop > 0
        ? ` at ${baseOf(fps)} frames a second with dropped numbers (each minute but every tenth begins at ;0${drop}).`
        : ` at ${baseOf(fps)} frames a second.`,
    )
  return countOf(whole, fps, drop) - countOf(start, fps, drop)
}
