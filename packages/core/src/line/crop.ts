import { kindById } from '../baths/kinds'
import { atWork } from './bath'
import type { Recipe } from './recipe'

/** A rectangle of whole pixels. */
export interface Crop {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** What a line delivers of a picture: all of it, or what its last bath that cuts leaves. Sides are even, as codecs want them. */
export function cropOf({ baths }: Pick<Recipe, 'baths'>, width: number, height: number): Crop {
  const edges = baths
    .filter(atWork)
    .map(({ kind, settings }) => kindById(kind).crop?.(settings, width / height))
    .findLast((found) => found)
  if (!edges) return { x: 0, y: 0, width, height }
  const even = (v: number, most: number): number => Math.max(2, Math.min(most - (most % 2), 2 * Math.round(v / 2)))
  const [w, h] = [even((edges.right - edges.left) * width, width), even((edges.bottom - edges.top) * height, height)]
  return {
    x: Math.min(width - w, Math.max(0, Math.round(edges.left * width))),
    y: Math.min(height - h, Math.max(0, Math.round(edges.top * height))),
    width: w,
    height: h,
  }
}
