import { timeAt, withKey, withoutKey, valueAt, type Lane, type Lanes, type Span } from '../keys'
import { moving } from '../masks/edit'
import type { MaskPart } from '../masks/schema'
import type { Bath } from './recipe'

/** A frame of the footage in a shot. */
export interface Instant extends Span {
  readonly frame: number
}

/** What is changed in a frame becomes a key there where a lane says what it is; what has no lane changes for the whole shot. */
export const keyedAt = <V>(lane: Lane<V>, value: V, { frame, first, length }: Instant): Lane<V> =>
  withKey(lane, timeAt(frame - first, lane.times, length), value)

/** Of settings and strength, those that change over the shot as keys of a frame, the others as they are. */
export function putAt(
  { keys = {} }: Bath,
  values: Readonly<Record<string, unknown>>,
  at: Instant,
): { readonly own: Readonly<Record<string, unknown>>; readonly keys: Lanes | undefined } {
  const named = Object.entries(values)
  const laned = named.filter(([name]) => keys[name])
  return {
    own: Object.fromEntries(named.filter(([name]) => !keys[name])),
    keys:
      laned.length === 0
        ? undefined
        : { ...keys, ...Object.fromEntries(laned.map(([name, value]) => [name, keyedAt(keys[name]!, value, at)])) },
  }
}

/** Other settings of a part of a mask in a frame. */
export function putPartAt(part: MaskPart, settings: Readonly<Record<string, unknown>>, at: Instant): MaskPart {
  const { moves } = part as { readonly moves?: Lane<Record<string, unknown>> }
  if (!moves) return { ...part, settings: { ...part.settings, ...settings } } as MaskPart
  return moving(part, keyedAt(moves, { ...valueAt(moves, at.frame, at), ...settings }, at))
}

/** Index of the key of a lane that stands at a frame; -1 where none does. */
export const keyAt = ({ times, keys }: Lane, { frame, first, length }: Instant): number => {
  const at = timeAt(frame - first, times, length)
  return keys.findIndex((key) => Math.abs(key.at - at) < NEAR[times])
}
const NEAR = { start: 0.5, end: 0.5, share: 1e-7 } as const

/**
 * Sets a key at a frame with what is there, or takes the one away that stands there. @returns null where none is left
 */
export function toggledAt<V>(lane: Lane<V> | undefined, value: V, at: Instant): Lane<V> | null {
  if (!lane) return { times: 'start', keys: [{ at: at.frame - at.first, value, way: 'straight' }] }
  const there = keyAt(lane, at)
  return there < 0 ? keyedAt(lane, value, at) : withoutKey(lane, there)
}

/** Lanes with one of them changed; undefined where none is left. */
export function withLane(lanes: Lanes = {}, name: string, lane: Lane | null): Lanes | undefined {
  const { [name]: _, ...others } = lanes
  const all = lane ? { ...others, [name]: lane } : others
  return Object.keys(all).length > 0 ? all : undefined
}
