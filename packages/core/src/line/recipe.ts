import Type, { type Static } from 'typebox'
import { KINDS } from '../baths/kinds'
import { ID, bathSchemaOf, type Bath } from './bath-schema'

export type { Bath }

/** Version of the recipe's form; older ones are brought up to it on the way in. */
export const RECIPE_VERSION = 1
/** Most baths in one line. */
export const MOST_BATHS = 40

const BathSchema = bathSchemaOf(KINDS)

export const RecipeSchema = Type.Object(
  {
    version: Type.Literal(RECIPE_VERSION),
    id: Type.String({ pattern: ID }),
    name: Type.String({ minLength: 1, maxLength: 80 }),
    summary: Type.String({ maxLength: 300, default: '' }),
    tags: Type.Array(Type.String({ minLength: 1, maxLength: 40 }), { maxItems: 20, default: [] }),
    strength: Type.Number({ minimum: 0, maximum: 100, default: 100 }),
    baths: Type.Array(BathSchema, { maxItems: MOST_BATHS }),
  },
  { additionalProperties: false },
)

type RecipeFields = Static<typeof RecipeSchema>
export type Recipe = Readonly<Omit<RecipeFields, 'baths' | 'tags'>> & {
  readonly tags: readonly string[]
  readonly baths: readonly Bath[]
}
