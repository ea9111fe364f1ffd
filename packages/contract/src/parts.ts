import { EncodingIdSchema } from '@fogbath/core/encodings'
import { ReadingSchema } from '@fogbath/core/footage'
import { BathsSchema, RecipeSchema, ShotTimeSchema, type Bath, type Recipe, type ShotTime } from '@fogbath/core/line'
import { MaskSchema, type Mask } from '@fogbath/core/masks'
import Type, { type TSchema } from 'typebox'

/** Largest number that a column holds (MariaDB, INTEGER). */
export const MOST_WHOLE = 2 ** 31 - 1

export const closed = <T extends Record<string, TSchema>>(fields: T) =>
  Type.Object(fields, { additionalProperties: false })
export const orNull = <T extends TSchema>(schema: T) => Type.Union([schema, Type.Null()])
export const oneOf = <T extends string>(...values: readonly T[]) =>
  Type.Unsafe<T>({ type: 'string', enum: [...values] })

/** Number of a row; in paths and queries it comes as text and is a number once it is checked. */
export const id = Type.Integer({ minimum: 1, maximum: MOST_WHOLE })
/** Grows with each change of a row; who writes names the one that was seen. */
export const revision = Type.Integer({ minimum: 1 })
export const whole = Type.Integer({ minimum: 0, maximum: MOST_WHOLE })
export const bytes = Type.Integer({ minimum: 0 })
export const text = Type.String()
/** Frames a second such as 24, 23.976 or 24000/1001. */
export const RATE_PATTERN = '^[1-9][0-9]{0,3}(\\.[0-9]{1,6}|/[1-9][0-9]{0,4})?$'
export const flag = Type.Boolean()
export const hash = Type.String({ pattern: '^[0-9a-f]{64}$', description: 'SHA-256.' })
export const date = Type.String({ pattern: '^\\d{4}-\\d\\d-\\d\\dT', description: 'ISO 8601, in UTC.' })
/** When a row was made, and changed last. */
export const stamps = { createdAt: date, updatedAt: date }
export const switchText = oneOf('0', '1')

export const recipe = Type.Unsafe<Recipe>(RecipeSchema)
export const mask = Type.Unsafe<Mask>({ ...MaskSchema, nullable: false })
export const baths = Type.Unsafe<readonly Bath[]>(BathsSchema)
/** What a shot adds around a look: before it, on scene light; behind it, on the picture that it makes. */
export const around = { preparation: baths, after: baths }
/** What a line knows of its shot; null where nothing in it changes over the shot. */
export const time = orNull(Type.Unsafe<ShotTime>(ShotTimeSchema))
export const encoding = Type.Unsafe<string>(EncodingIdSchema)

/** How a shot reads its footage where that is not left to the file. */
export const reading = ReadingSchema

export const IdParams = closed({ id })
export const RevisionQuery = closed({ revision })
/** Where a page of a list begins: behind the last id of the page before. */
export const PageQuery = closed({ before: Type.Optional(id) })
/** Part of a list, the newest first. */
export interface Page<T> {
  items: T[]
  /** Whether older ones follow. */
  more: boolean
}
export const pageOf = <T extends TSchema>(item: T) =>
  closed({ items: Type.Array(item), more: Type.Boolean({ description: 'Whether older ones follow.' }) })

/** Every refusal: a code for programs, a sentence for people. */
export const Refusal = Type.Object({
  error: oneOf(
    ...(['media', 'not-found', 'stale', 'invalid', 'busy', 'program', 'usage', 'denied', 'full', 'internal'] as const),
  ),
  message: text,
  details: Type.Optional(Type.Record(Type.String(), Type.Unknown())),
})
