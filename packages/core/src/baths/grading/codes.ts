import { LUMA_709 } from '../../colour/spaces'
import { displayCode } from '../../colour/transfer'
import { mix, curves, type Axis, type PointStage, type Shade, type Tone } from '../../stages/stage'

/** What Finish baths have in common: they work on display code values (BT.1886), 0 black and 1 white, and may leave 0..1. */

/** Code value of 18 % grey. */
export const GREY_CODE = displayCode(0.18)

const REACH = { nodes: 'even', from: -0.5, to: 1.5 } as const
const CODES: Axis = { ...REACH, steps: 4096 }
const LUMAS: Axis = { ...REACH, steps: 1024 }

/** A function of a code value. @param key what it is made from */
export const codeTone = (key: string, f: (code: number) => number): Tone => ({ key, axis: CODES, f })

/** Factors and sums by luma. */
export const shade = (key: string, f: Shade['f']): PointStage => ({ at: 'shade', shade: { key, axis: LUMAS, f } })

const [WR, WG, WB] = LUMA_709

/** A tone for luma alone: what a colour is apart from grey in each channel stays. */
export const onLuma = (tone: Tone): PointStage[] => [
  // Luma, and how far red and blue are from it.
  mix([
    [WR, WG, WB],
    [1 - WR, -WG, -WB],
    [-WR, -WG, 1 - WB],
  ]),
  curves(tone, null, null),
  mix([
    [1, 1, 0],
    [1, -WR / WG, -WB / WG],
    [1, 0, 1],
  ]),
]

/** From 0 at `from` to 1 at `to`, without a corner. */
export function rise(v: number, from: number, to: number): number {
  const t = Math.min(1, Math.max(0, (v - from) / (to - from)))
  return t * t * (3 - 2 * t)
}

/** 0 at black and at white, 1 over most between: what colours a picture and leaves its ends clean. */
export const cleanEnds = (luma: number): number => rise(luma, 0, 0.18) * (1 - rise(luma, 0.8, 1))
