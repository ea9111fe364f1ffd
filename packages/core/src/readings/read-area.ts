import { kindById } from '../baths/kinds'
import type { Edges } from '../baths/kind'
import { atWork } from '../line/bath'
import type { Bath } from '../line/recipe'
import type { Area } from './scopes'

/** Where the picture itself lies when baths have put borders around it, in shares of its sides; null where they have not. */
export function withinBorders(baths: readonly Bath[], aspect: number): Edges | null {
  const all = baths.filter(atWork).flatMap(({ kind, settings }) => kindById(kind).within?.(settings, aspect) ?? [])
  if (all.length === 0) return null
  return {
    left: Math.max(...all.map((e) => e.left)),
    top: Math.max(...all.map((e) => e.top)),
    right: Math.min(...all.map((e) => e.right)),
    bottom: Math.min(...all.map((e) => e.bottom)),
  }
}

/** An area without what lies outside of edges: pixels whose middle is inside stay. */
export function areaWithin(edges: Edges | null, width: number, height: number, area: Area = null): Area {
  if (!edges) return area
  const inside = new Float32Array(width * height)
  const [left, right] = [edges.left * width - 0.5, edges.right * width - 0.5]
  for (let y = 0; y < height; y++) {
    if (y < edges.top * height - 0.5 || y > edges.bottom * height - 0.5) continue
    for (let x = Math.max(0, Math.ceil(left)); x < width && x <= right; x++)
      inside[y * width + x] = area ? area[y * width + x]! : 1
  }
  return inside
}

/** Hues and chromas between which skin of all tones lies, CIE L*a*b* (common practice). */
const SKIN = { hue: [20, 85], chroma: [6, 55], lightness: [12, 95] } as const

/** Whether a colour may be that of skin. @param lab CIE L*, a*, b* */
function maySkin([l, a, b]: readonly number[]): boolean {
  const within = ([least, most]: readonly [number, number], v: number): boolean => v >= least && v <= most
  const turn = (Math.atan2(b!, a!) * 180) / Math.PI
  return within(SKIN.lightness, l!) && within(SKIN.chroma, Math.hypot(a!, b!)) && within(SKIN.hue, turn)
}

/** The bath whose mask was picked on skin, if one has such a mask: there the picture's own skin is. */
export function skinMasked(baths: readonly Bath[]): string | null {
  const found = baths
    .filter(atWork)
    .find(({ mask }) => mask?.parts.some((part) => part.type === 'colour' && part.settings.picks.some(maySkin)))
  return found?.id ?? null
}
