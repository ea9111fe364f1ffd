import Type, { type Static } from 'typebox'
import { KINDS } from '../baths/kinds'
import { LanesSchema, type Lanes } from '../keys/schema'
import { MOST_LETTERS, MOST_TAGS } from './texts'
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
    name: Type.String({ minLength: 1, maxLength: MOST_LETTERS.recipe }),
    summary: Type.String({ maxLength: MOST_LETTERS.sentence, default: '' }),
    tags: Type.Array(Type.String({ minLength: 1, maxLength: MOST_LETTERS.tag }), { maxItems: MOST_TAGS, default: [] }),
    strength: Type.Number({ minimum: 0, maximum: 100, default: 100 }),
    baths: Type.Array(BathSchema, { maxItems: MOST_BATHS }),
    keys: Type.Optional(LanesSchema),
    madeFor: Type.Optional(
      Type.Unsafe<'display' | 'scene'>({
        type: 'string',
        enum: ['display', 'scene'],
        description: 'What the footage referred to on which it was made: a screen, or the light of a scene.',
      }),
    ),
  },
  { additionalProperties: false },
)

type RecipeFields = Static<typeof RecipeSchema>
export type Recipe = Readonly<Omit<RecipeFields, 'baths' | 'tags' | 'keys'>> & {
  readonly tags: readonly string[]
  readonly baths: readonly Bath[]
  /** What changes over the shot: its `strength`. */
  readonly keys?: Lanes | undefined
}

/** A look without any bath. */
export const NOTHING: Recipe = {
  version: RECIPE_VERSION,
  id: 'footage',
  name: 'Footage',
  summary: '',
  tags: [],
  strength: 100,
  baths: [],
}
