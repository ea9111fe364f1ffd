import { isOfScreens, type Encoding } from './encoding'

/** From which code to which footage goes, 0..1, but for the darkest and the brightest thousandth. */
export interface Reach {
  readonly low: number
  readonly high: number
  /** The code that half of all lie below; footage taken in long ago does not say. */
  readonly middle?: number
}

/** Log curves of cameras leave room below black and hardly reach the top; finished video uses nearly all codes (common practice). */
const LOG = { low: 0.055, high: 0.85 }
const FULL = { low: 0.02, high: 0.97 }
/**
 * A display's curve that is laid on twice raises dark codes far (0.02 becomes 0.2) and the middle of pictures (light of 0.1
 * has the code 0.38 in video and 0.67 then), and keeps white. Bright pictures have a bright middle too, but dark codes as
 * well. Without any curve light of 0.1 is 0.1.
 */
const RAISED = 0.18
const TWICE = 0.65
const WHITE = 0.95
const NOT_AT_ALL = 0.06

const percent = (code: number): number => Math.round(100 * code)
const told = ({ low, high }: Reach): string => `Its codes run from ${percent(low)} to ${percent(high)} %`

/**
 * What speaks against an encoding, as a question; null where nothing does.
 * @param bits of footage of whole numbers, or null of floats
 */
export function doubtOf(encoding: Encoding, reach: Reach | null, bits: number | null): string | null {
  if (encoding.numbers === 'light')
    return bits !== null && bits <= 12
      ? `Its numbers have ${bits} bits, and light without a curve needs more. Is it video, or a log encoding?`
      : null
  if (!reach) return null
  if (isOfScreens(encoding) && reach.low >= LOG.low && reach.high <= LOG.high)
    return `${told(reach)}, as those of a camera’s log curve do. Is it not finished video?`
  if (encoding.refers === 'scene' && reach.low <= FULL.low && reach.high >= FULL.high)
    return `${told(reach)}, as those of finished video do. Is it camera light?`
  const { middle = 0.4 } = reach
  if (isOfScreens(encoding) && reach.low >= RAISED && reach.high >= WHITE && middle >= TWICE)
    return `Half of its codes lie above ${percent(middle)} %. Was the curve of a display laid on it twice?`
  if (isOfScreens(encoding) && reach.high >= FULL.high && middle <= NOT_AT_ALL)
    return `Half of its codes lie below ${percent(middle)} %. Is it light without a curve?`
  return null
}
