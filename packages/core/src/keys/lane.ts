import { FogBathError } from '../errors'
import { smooth } from '../numbers/smooth'
import type { Key, Lane, Times, Way } from './schema'

/** The frames of a shot: the number of its first, and how many there are. */
export interface Span {
  readonly first: number
  readonly length: number
}

/** Frames from the shot's first one at which something stands. */
export function placeOf(at: number, times: Times, length: number): number {
  if (times === 'start') return at
  return times === 'end' ? length - 1 + at : at * (length - 1)
}

/** The other way round; a shot of one frame has it at its start. */
export function timeAt(place: number, times: Times, length: number): number {
  if (times === 'start') return place
  if (times === 'end') return place - (length - 1)
  return length > 1 ? place / (length - 1) : 0
}

/**
 * What a lane says of a frame. Numbers go over into each other, also those in lists and things of the same form, and colours
 * by their code values; all else is that of the key before.
 * @param turns numbers by their names that go round, and how far once is: 350° to 10° goes over 0
 */
export function valueAt<V>({ times, keys }: Lane<V>, frame: number, span: Span, turns: Turns = {}): V {
  const place = frame - span.first
  const places = keys.map(({ at }) => placeOf(at, times, span.length))
  const next = places.findIndex((p) => p > place)
  if (next === 0) return keys[0]!.value
  if (next < 0) return keys.at(-1)!.value
  const [from, to] = [keys[next - 1]!, keys[next]!]
  const share = (place - places[next - 1]!) / (places[next]! - places[next - 1]!)
  return between(from.value, to.value, passed(from.way, share), turns) as V
}

const passed = (way: Way, share: number): number => (way === 'held' ? 0 : way === 'eased' ? smooth(share) : share)

/** How far once round is, by the name of what turns; '' is the value itself. */
export type Turns = Readonly<Record<string, number>>

const COLOUR = /^#[0-9a-f]{6}$/i

function between(a: unknown, b: unknown, share: number, turns: Turns, name = ''): unknown {
  if (share === 0) return a
  if (typeof a === 'number' && typeof b === 'number') return a + share * wayTo(b - a, turns[name])
  if (typeof a === 'string' && typeof b === 'string')
    return COLOUR.test(a) && COLOUR.test(b) ? colourBetween(a, b, share) : a
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length ? a.map((v: unknown, i) => between(v, b[i], share, turns, name)) : a
  if (!isThing(a) || !isThing(b)) return a
  return Object.fromEntries(Object.entries(a).map(([key, v]) => [key, between(v, b[key], share, turns, key)]))
}

const isThing = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null && !Array.isArray(v)

/** The shorter way round. */
const wayTo = (difference: number, round: number | undefined): number =>
  round === undefined ? difference : difference - round * Math.round(difference / round)

function colourBetween(a: string, b: string, share: number): string {
  const channel = (text: string, k: number): number => parseInt(text.slice(1 + 2 * k, 3 + 2 * k), 16)
  const mixed = [0, 1, 2].map((k) => Math.round(channel(a, k) + share * (channel(b, k) - channel(a, k))))
  return `#${mixed.map((v) => v.toString(16).padStart(2, '0')).join('')}`
}

/** A value at a time, in place of the key that stood there, else with the way of the one before it. */
export function withKey<V>(lane: Lane<V>, at: number, value: V): Lane<V> {
  const there = lane.keys.find((key) => key.at === at)
  const before = lane.keys.findLast((key) => key.at < at)
  const key: Key<V> = { at, value, way: there?.way ?? before?.way ?? 'straight' }
  return ordered(lane, [...lane.keys.filter((k) => k.at !== at), key])
}

/** Without one of its keys; null when none is left. */
export const withoutKey = <V>(lane: Lane<V>, index: number): Lane<V> | null =>
  lane.keys.length > 1 ? { ...lane, keys: lane.keys.filter((_, i) => i !== index) } : null

/** A key at another time, or going on in another way; a key that stood where it comes to is gone. */
export function changeKey<V>(lane: Lane<V>, index: number, change: Partial<Key<V>>): Lane<V> {
  const key = { ...lane.keys[index]!, ...change }
  return ordered(lane, [...lane.keys.filter((k, i) => i !== index && k.at !== key.at), key])
}

/** The same keys with their times counted in another way. */
export const countedBy = <V>({ times, keys }: Lane<V>, other: Times, length: number): Lane<V> => ({
  times: other,
  keys: keys.map((key) => ({ ...key, at: timeAt(placeOf(key.at, times, length), other, length) })),
})

const ordered = <V>(lane: Lane<V>, keys: readonly Key<V>[]): Lane<V> => ({
  ...lane,
  keys: [...keys].sort((a, b) => a.at - b.at),
})

/** Rules that a schema cannot state. @param where it stands. Throws naming it. */
export function checkLane({ times, keys }: Lane, where: string): void {
  for (const [i, { at }] of keys.entries()) {
    const wrong =
      i > 0 && at <= keys[i - 1]!.at
        ? 'keys stand one behind the other'
        : times === 'share' && (at < 0 || at > 1)
          ? 'parts of the shot’s length go from 0 to 1'
          : times === 'end' && at > 0
            ? 'frames from the end are 0 and below'
            : times === 'start' && at < 0
              ? 'frames from the start are 0 and above'
              : null
    if (wrong) throw new FogBathError('recipe', `${where}/keys/${i}/at`, `${where}/keys/${i}/at is ${at}; ${wrong}.`)
  }
}
