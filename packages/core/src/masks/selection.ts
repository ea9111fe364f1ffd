import { bt709ToLab, labCurve } from '../colour/lab'
import { displayLight } from '../colour/transfer'
import { matrix, type Matrix3, type Triple } from '../colour/matrix'
import { BT709_TO_XYZ, D65_WHITE, LUMA_709 } from '../colour/spaces'
import { smooth } from '../numbers/smooth'
import { curves, evenCurves, cacheKey, mix, type PointStage } from '../stages/stage'
import type { PartSettings } from './parts'

/** Selections are stages from code values to how much a colour belongs to them, 0..1, in the first channel. */

const AXES = { luma: LUMA_709, red: [1, 0, 0], green: [0, 1, 0], blue: [0, 0, 1] } as const
export const NONE: Triple = [0, 0, 0]

/** All between `from` and `to`, falling off outside them. The two ends of the scale hold everything beyond them as well. */
export function toneSelection(s: PartSettings['tone']): PointStage[] {
  const [from, to, soft] = [s.from / 100, s.to / 100, Math.max(1e-6, s.soft / 100)]
  const share = {
    key: cacheKey('tones', s.from, s.to, s.soft),
    axis: { nodes: 'even', from: 0, to: 1, steps: 16384 } as const,
    f: (v: number) => Math.min(smooth(1 + (v - from) / soft), smooth(1 + (to - v) / soft)),
  }
  return [mix([AXES[s.channel], NONE, NONE]), curves(share, null, null)]
}

/** XYZ relative to white. */
const RELATIVE: Matrix3 = matrix(BT709_TO_XYZ.map((row, k) => row.map((v) => v / D65_WHITE[k]!)))

/** Code values to CIE L*a*b* (CIE 15:2018, 8.2.1). @param weight of L* */
function labStages(weight: number): PointStage[] {
  const light = { key: 'light', axis: { nodes: 'even', from: 0, to: 1, steps: 4096 } as const, f: displayLight }
  const cube = { key: 'lab', axis: { nodes: 'octaves', from: -20, to: 1 } as const, f: labCurve }
  const lab: Matrix3 = [
    [0, 116 * weight, 0],
    [500, -500, 0],
    [0, 200, -200],
  ]
  return [evenCurves(light), mix(RELATIVE), evenCurves(cube), mix(lab, [-16 * weight, 0, 0])]
}
export const LAB = labStages(1)

/** All near one of some colours. @param colours the picked ones, or those that do not belong to it */
export function colourSelection(s: PartSettings['colour'], colours = s.picks): PointStage[] {
  const weight = s.lightness / 100
  const picks = colours.map((p): Triple => [weight * p[0]!, p[1]!, p[2]!])
  return [...labStages(weight), { at: 'select', picks, range: s.range, soft: Math.max(1e-6, s.soft) }]
}

/** BT.1886 code values to CIE L*a*b* under D65. */
export const labOfCode = (r: number, g: number, b: number): Triple =>
  bt709ToLab([displayLight(r), displayLight(g), displayLight(b)])
