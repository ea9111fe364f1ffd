import { LUMA_709 } from '@fogbath/core/colour'
import type { MaskView } from './protocol'

/** Code values of what marks a mask on a picture; no film, skin or sky has this colour. */
const MARK = [0.1, 0.95, 0.75] as const
/** How strongly it lies over the picture where the mask is all. */
const OVER = 0.55
/** How bright the picture is where a mask lets nothing through. */
const DIM = 0.6

/** Shows a mask on a picture. @param from RGBA code values @param to where it is put */
export function showMask(
  view: Exclude<MaskView, 'white'>,
  plane: Float32Array,
  from: Float32Array,
  to: Float32Array,
  width: number,
): void {
  for (let i = 0; i < plane.length; i++) {
    const at = 4 * i
    const luma = LUMA_709[0] * from[at]! + LUMA_709[1] * from[at + 1]! + LUMA_709[2] * from[at + 2]!
    const edge = view === 'outline' && isEdge(plane, i, width)
    for (let k = 0; k < 3; k++) {
      const own = from[at + k]!
      if (view === 'over') to[at + k] = luma + OVER * plane[i]! * (MARK[k]! - luma)
      else if (view === 'within') to[at + k] = DIM * luma + plane[i]! * (own - DIM * luma)
      else to[at + k] = edge ? MARK[k]! : own
    }
    to[at + 3] = 1
  }
}

/** Whether a mask passes a half between this pixel and its neighbour on the right or below. */
function isEdge(plane: Float32Array, i: number, width: number): boolean {
  const inside = plane[i]! >= 0.5
  const right = (i + 1) % width === 0 ? inside : plane[i + 1]! >= 0.5
  const below = i + width < plane.length ? plane[i + width]! >= 0.5 : inside
  return inside !== right || inside !== below
}
