import Type from 'typebox'

/** Most keys in one lane, and frames of the longest shot. */
const MOST_KEYS = 500
const MOST_FRAMES = 1e7

/**
 * Where the keys of a lane stand. `start`: frames from the shot's first one on. `end`: frames from its last one, so 0 and below.
 * `share`: parts of the shot's length, 0 its first frame, 1 its last.
 */
export const TIMES = ['start', 'end', 'share'] as const
export type Times = (typeof TIMES)[number]

/** How it goes on from a key to the next: evenly, smoothly at both ends, or not before the next. */
export const WAYS = ['straight', 'eased', 'held'] as const
export type Way = (typeof WAYS)[number]

export interface Key<V = unknown> {
  readonly at: number
  readonly value: V
  readonly way: Way
}

/** What a value is over a shot; before the first key and behind the last it stays. */
export interface Lane<V = unknown> {
  readonly times: Times
  /** In their order. */
  readonly keys: readonly Key<V>[]
}

/** Lanes by what they change. */
export type Lanes = Readonly<Record<string, Lane>>

const closed = <T extends Parameters<typeof Type.Object>[0]>(fields: T) =>
  Type.Object(fields, { additionalProperties: false })

/** @param value schema of the values, where they are all of one kind */
export const laneSchema = (value: object = {}) =>
  closed({
    times: Type.Unsafe<Times>({ type: 'string', enum: [...TIMES] }),
    keys: Type.Array(
      closed({
        at: Type.Number({ minimum: -MOST_FRAMES, maximum: MOST_FRAMES }),
        value: Type.Unsafe<unknown>(value),
        way: Type.Unsafe<Way>({ type: 'string', enum: [...WAYS] }),
      }),
      { minItems: 1, maxItems: MOST_KEYS },
    ),
  })

export const LanesSchema = Type.Unsafe<Lanes>({ type: 'object', additionalProperties: laneSchema() })
