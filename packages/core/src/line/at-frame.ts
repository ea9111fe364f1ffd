import { fieldsOf, type Control } from '../baths/fields'
import { kindById } from '../baths/kinds'
import { valueAt, type Lane, type Lanes, type Turns } from '../keys'
import type { Mask, MaskPart } from '../masks/schema'
import { warpAt, type Track } from '../tracking/kept'
import { allBaths } from './complete'
import { eachBath } from './edit'
import { bathsOf, wholeLine, PARTS, type Line, type ShotTime } from './parts'
import type { Bath } from './recipe'

/** A frame of the footage, and what changes over its shot; null where there is no shot. */
type Moment = (ShotTime & { readonly frame: number }) | null

/** Whether a bath is another one from frame to frame. */
const changesOverShot = ({ keys, mask }: Pick<Bath, 'keys' | 'mask'>): boolean =>
  keys !== undefined ||
  (mask?.parts.some(({ follows, moves }) => follows !== undefined || moves !== undefined) ?? false)

/** Whether a line is another one from frame to frame. */
export const lineChanges = (line: Pick<Line, 'preparation' | 'recipe' | 'after'>): boolean =>
  line.recipe.keys !== undefined || allBaths({ baths: wholeLine(line) }).some(changesOverShot)

/**
 * A line as it is in one frame of the footage: settings that change over the shot have their values of that frame, parts of
 * masks that follow something their places. Without a shot all stands as it is set beside its keys. A line in which nothing
 * changes is given back as it came.
 */
export function lineAt<L extends Line>(line: L, frame: number): L {
  if (!lineChanges(line)) return line
  const at: Moment = line.time ? { ...line.time, frame } : null
  const { keys: _, ...recipe } = line.recipe
  const strength = numberAt(line.recipe.keys?.['strength'], at) ?? recipe.strength
  const made = bathsOf(line)
  const [preparation, baths, after] = PARTS.map((part) =>
    eachBath(made[part], (bath) => [changesOverShot(bath) ? bathAt(bath, at) : bath]),
  )
  return { ...line, preparation: preparation!, recipe: { ...recipe, strength, baths: baths! }, after: after! }
}

const numberAt = (lane: Lane | undefined, at: Moment): number | undefined =>
  lane && at ? (valueAt(lane, at.frame, at) as number) : undefined

function bathAt({ keys = {}, ...bath }: Bath, at: Moment): Bath {
  return {
    ...bath,
    strength: numberAt(keys['strength'], at) ?? bath.strength,
    settings: { ...bath.settings, ...settingsAt(bath.kind, keys, at) },
    mask: bath.mask && maskAt(bath.mask, at),
  }
}

const ONCE_ROUND = 360

/** Those settings of a kind that have lanes. */
function settingsAt(kind: string, { strength: _, ...lanes }: Lanes, at: Moment): Record<string, unknown> {
  if (!at) return {}
  const fields = fieldsOf<{ readonly control?: Control }>(kindById(kind).schema)
  return Object.fromEntries(
    Object.entries(lanes).map(([name, lane]) => {
      const turns: Turns = fields[name]?.control === 'hue' ? { '': ONCE_ROUND } : {}
      return [name, valueAt(lane, at.frame, at, turns)]
    }),
  )
}

const maskAt = (mask: Mask, at: Moment): Mask => ({ ...mask, parts: mask.parts.map((part) => partAt(part, at)) })

/** What moves a part by hand lies on top of its track, and says nothing of a shot without that track. */
export function partAt({ follows, moves, ...part }: MaskPart, at: Moment): MaskPart {
  if (!at) return part
  const track = follows === undefined ? undefined : at.tracks.find(({ id }) => id === follows)
  const counts = moves && (follows === undefined || track)
  return {
    ...part,
    ...(counts && { settings: valueAt(moves as Lane, at.frame, at, { turn: ONCE_ROUND }) }),
    ...(track && { warp: warpAt(track, at.frame) }),
  } as MaskPart
}

/** What a line needs to know of its shot; nothing where nothing in it changes over the shot. */
export function timeOf(
  { first, last, tracks }: { readonly first: number; readonly last: number; readonly tracks: readonly Track[] },
  line: Pick<Line, 'preparation' | 'recipe' | 'after'>,
): ShotTime | undefined {
  if (!lineChanges(line)) return undefined
  const followed = tracksFollowed(line)
  return { first, length: last - first + 1, tracks: tracks.filter(({ id }) => followed.includes(id)) }
}

/** Ids of the tracks that a line's masks follow. */
export const tracksFollowed = (line: Pick<Line, 'preparation' | 'recipe' | 'after'>): string[] => [
  ...new Set(
    allBaths({ baths: wholeLine(line) }).flatMap(({ mask }) => (mask?.parts ?? []).flatMap((p) => p.follows ?? [])),
  ),
]
