import Type, { type Static, type TSchema } from 'typebox'
import { KINDS } from '../baths/kinds'
import { MaskSchema, type Mask } from '../masks/schema'
import { LAY_MODES, type LayMode } from '../lay/blend'

/** Version of the recipe's form; older ones are brought up to it on the way in. */
export const RECIPE_VERSION = 1
/** Most baths in one line. */
export const MOST_BATHS = 40

const ID = '^[a-z0-9][a-z0-9-]{0,63}$'

const bathFields = {
  id: Type.String({ pattern: ID, description: 'Unique in the line.' }),
  kind: Type.Unsafe<string>({ type: 'string', enum: KINDS.map((k) => k.id) }),
  name: Type.String({
    maxLength: 60,
    default: '',
    description: 'The colourist’s own name for the bath; empty for the kind’s.',
  }),
  in: Type.Boolean({ default: true, description: 'False while the bath is lifted out.' }),
  strength: Type.Number({ minimum: 0, maximum: 100, default: 100, description: 'Per cent.' }),
  lay: Type.Unsafe<LayMode>({ type: 'string', enum: [...LAY_MODES], default: 'normal' }),
  under: Type.Boolean({ default: false, description: 'The line is laid over the bath instead.' }),
  takes: Type.Unsafe<'camera' | 'line'>({ type: 'string', enum: ['camera', 'line'] }),
  mask: Type.Unsafe<Mask | null>(MaskSchema),
}

/** A bath's settings depend on its kind: one if/then rule a kind keeps the errors of a validator exact. */
const bathSchema = (settings: TSchema) => Type.Object({ ...bathFields, settings }, { additionalProperties: false })

const BathSchema = {
  ...bathSchema(Type.Unsafe<Record<string, unknown>>({ type: 'object' })),
  allOf: KINDS.map((kind) => ({
    if: { type: 'object', required: ['kind'], properties: { kind: { const: kind.id } } },
    then: { type: 'object', properties: { settings: kind.schema } },
  })),
} as unknown as ReturnType<typeof bathSchema>

export interface Bath {
  readonly id: string
  readonly kind: string
  readonly name: string
  readonly in: boolean
  /** 0..100 per cent. */
  readonly strength: number
  readonly lay: LayMode
  readonly under: boolean
  readonly takes: 'camera' | 'line'
  /** Where the bath works; null for everywhere. */
  readonly mask: Mask | null
  readonly settings: Readonly<Record<string, unknown>>
}

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
