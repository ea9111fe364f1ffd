import { timeOf, type Line, type Look, type Recipe } from '@fogbath/core/line'
import type { Shot } from '@fogbath/contract'
import { refOf } from '../api/encodings'
import type { FrameOrder, ShotSource, Wanted } from './protocol'

/** Where a shot's frames come from, as the workers ask for them. */
export const sourceOf = ({ mediumId, reading }: Shot): ShotSource => ({ type: 'shot', mediumId, reading })

/**
 * A frame of a shot through what one of its trials holds.
 * @param frame its number; the telling one when left out @param look with another preparation than the shot's where it is a whole line
 */
export const frameOrder = (
  shot: Shot,
  { preparation = shot.preparation, recipe, after }: Look & Partial<Line>,
  frame = shot.still,
): FrameOrder => ({
  source: sourceOf(shot),
  frame,
  order: { ...inTime(shot, { preparation, recipe, after }), encoding: refOf(shot.encoding) },
})

/** A line with what it needs to know of its shot. */
export const inTime = (shot: Shot, line: Line): Line => ({ ...line, time: timeOf(shot, line) })

/** The same frame through another look, at a width; what its shot adds stays. */
export const through = (of: FrameOrder, recipe: Recipe, width: number): Wanted => ({
  ...of,
  width,
  // Its own shot is not known here: what changes over a shot stands as it is set.
  order: { ...of.order, recipe, time: undefined },
})
