import { bt709ToLab } from '../colour/lab'
import { displayLight } from '../colour/transfer'
import type { Triple } from '../colour/matrix'
import { LUMA_709 } from '../colour/spaces'
import type { PartSettings } from './schema'
import { smooth } from './shapes'

/** How much a colour belongs to a selection, 0..1. Code values in. */
export type Selection = (r: number, g: number, b: number) => number

const AXES = { luma: LUMA_709, red: [1, 0, 0], green: [0, 1, 0], blue: [0, 0, 1] } as const

/** All between `from` and `to`, falling off outside them. */
export function toneSelection(s: PartSettings['tone']): Selection {
  const [kr, kg, kb] = AXES[s.channel]
  const [from, to, soft] = [s.from / 100, s.to / 100, Math.max(1e-6, s.soft / 100)]
  return (r, g, b) => {
    // The two ends of the scale hold everything beyond them as well.
    const v = Math.min(1, Math.max(0, kr * r + kg * g + kb * b))
    return Math.min(smooth(1 + (v - from) / soft), smooth(1 + (to - v) / soft))
  }
}

/** All near one of the picked colours. */
export function colourSelection(s: PartSettings['colour']): Selection {
  const weight = s.lightness / 100
  const soft = Math.max(1e-6, s.soft)
  return (r, g, b) => {
    const lab = labOfCode(r, g, b)
    let best = 0
    for (const pick of s.picks) {
      const d = Math.hypot(weight * (lab[0] - pick[0]!), lab[1] - pick[1]!, lab[2] - pick[2]!)
      best = Math.max(best, smooth(1 + (s.range - d) / soft))
    }
    return best
  }
}

/** BT.1886 code values to CIE L*a*b* under D65. */
export const labOfCode = (r: number, g: number, b: number): Triple =>
  bt709ToLab([displayLight(r), displayLight(g), displayLight(b)])
