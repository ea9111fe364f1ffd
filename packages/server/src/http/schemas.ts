import {
  ENCODING_IDS,
  MarksSchema,
  MaskSchema,
  RecipeSchema,
  SharedSchema,
  TrimsSchema,
  type Mask,
} from '@fogbath/core'
import Type from 'typebox'

/** Ids come as text in the path; only plain positive numbers are let through. */
export const IdParams = Type.Object(
  { id: Type.String({ pattern: '^[1-9][0-9]{0,9}$' }) },
  { additionalProperties: false },
)
export const RevisionQuery = Type.Object(
  { revision: Type.String({ pattern: '^[0-9]{1,10}$' }) },
  { additionalProperties: false },
)

/** Where a page of a list begins: behind the last id of the page before. */
export const PageQuery = Type.Object({ before: Type.Optional(IdParams.properties.id) }, { additionalProperties: false })

const revision = Type.Integer({ minimum: 1 })
const name = (most: number) => Type.String({ minLength: 1, maxLength: most, pattern: '\\S' })
const strict = { additionalProperties: false } as const

export const NewProduction = Type.Object(
  { name: name(120), notes: Type.Optional(Type.String({ maxLength: 2000 })) },
  strict,
)
export const ProductionChange = Type.Object(
  { revision, name: Type.Optional(name(120)), notes: Type.Optional(Type.String({ maxLength: 2000 })) },
  strict,
)

const frame = Type.Integer({ minimum: 0 })
export const ShotChange = Type.Object(
  {
    revision,
    name: Type.Optional(name(120)),
    first: Type.Optional(frame),
    last: Type.Optional(frame),
    still: Type.Optional(frame),
    encoding: Type.Optional(Type.Unsafe<string>({ type: 'string', enum: ENCODING_IDS })),
    trims: Type.Optional(TrimsSchema),
    marks: Type.Optional(MarksSchema),
    trialId: Type.Optional(Type.Integer({ minimum: 1 })),
  },
  strict,
)
export const NewShot = Type.Object({ mediumId: Type.Integer({ minimum: 1 }), name: Type.Optional(name(120)) }, strict)

export const NewTrial = Type.Object({ name: name(60), recipe: RecipeSchema }, strict)
export const TrialChange = Type.Object(
  { revision, name: Type.Optional(name(60)), recipe: Type.Optional(RecipeSchema) },
  strict,
)

const sentence = Type.String({ maxLength: 300 })
const tags = Type.Array(name(40), { maxItems: 20, uniqueItems: true })
const texts = {
  sentence: Type.Optional(sentence),
  tags: Type.Optional(tags),
  maker: Type.Optional(Type.String({ maxLength: 80 })),
  notes: Type.Optional(Type.String({ maxLength: 2000 })),
}
export const NewKeptRecipe = Type.Object({ name: name(80), ...texts, recipe: RecipeSchema }, strict)
export const KeptRecipeChange = Type.Object(
  {
    revision,
    name: Type.Optional(name(80)),
    ...texts,
    archived: Type.Optional(Type.Boolean()),
  },
  strict,
)
export const FavouriteParams = Type.Object({ key: Type.String({ pattern: '^[a-z0-9-]{1,60}$' }) }, strict)
/** Files of recipes, as text; `beside` takes one that is in conflict as a recipe of its own. */
export const SharedFiles = Type.Object(
  {
    files: Type.Array(
      Type.Object(
        {
          name: Type.String({ minLength: 1, maxLength: 255 }),
          text: Type.String({ maxLength: 20_000_000 }),
          beside: Type.Optional(Type.Boolean()),
        },
        strict,
      ),
      { minItems: 1, maxItems: 500 },
    ),
  },
  strict,
)
export const SharedPicture = Type.Object({ picture: SharedSchema.properties.picture }, strict)
export const NewKeptMask = Type.Object(
  { name: name(80), mask: Type.Unsafe<Mask>({ ...MaskSchema, nullable: false }) },
  strict,
)
export const KeptMaskChange = Type.Object(
  { revision, name: Type.Optional(name(80)), archived: Type.Optional(Type.Boolean()) },
  strict,
)
export const NewRecipeVersion = Type.Object({ revision, recipe: RecipeSchema }, strict)
export const VersionParams = Type.Object(
  { id: IdParams.properties.id, number: IdParams.properties.id },
  { additionalProperties: false },
)

/** Lines of several trials that are changed together or not at all. */
export const LinesChange = Type.Object(
  {
    lines: Type.Array(Type.Object({ trialId: Type.Integer({ minimum: 1 }), revision, recipe: RecipeSchema }, strict), {
      minItems: 1,
      maxItems: 1000,
    }),
  },
  strict,
)
/** All shots of a production in the order that they are to have. */
export const Order = Type.Object(
  { shots: Type.Array(Type.Integer({ minimum: 1 }), { maxItems: 10_000, uniqueItems: true }) },
  strict,
)

export const NewProof = Type.Object(
  {
    name: name(60),
    frame,
    recipe: RecipeSchema,
    trims: TrimsSchema,
    picture: Type.String({ minLength: 40, description: 'PNG, as base64.' }),
  },
  strict,
)
export const ProofChange = Type.Object({ revision, name: name(60) }, strict)

export const NewRender = Type.Object(
  {
    format: Type.Unsafe<'mp4' | 'mov' | 'png' | 'tif' | 'exr'>({
      type: 'string',
      enum: ['mp4', 'mov', 'png', 'tif', 'exr'],
    }),
    trialId: Type.Optional(Type.Integer({ minimum: 1 })),
  },
  strict,
)
export const RenderAction = Type.Object(
  { action: Type.Unsafe<'cancel' | 'retry'>({ type: 'string', enum: ['cancel', 'retry'] }) },
  strict,
)
export const Pick = Type.Object(
  {
    paths: Type.Array(Type.String({ minLength: 1, maxLength: 1000 }), { minItems: 1, maxItems: 100_000 }),
    asSequence: Type.Boolean(),
    fps: Type.Optional(Type.String({ pattern: '^[1-9][0-9]{0,2}(/100[01])?$' })),
  },
  strict,
)
export const FrameParams = Type.Object(
  { id: IdParams.properties.id, frame: Type.String({ pattern: '^[0-9]{1,9}$' }) },
  strict,
)
export const FrameQuery = Type.Object({ width: Type.Optional(Type.String({ pattern: '^[0-9]{1,5}$' })) }, strict)
export const BackupQuery = Type.Object(
  { media: Type.Optional(Type.Unsafe<'0' | '1'>({ type: 'string', enum: ['0', '1'] })) },
  strict,
)
export const SweepBody = Type.Object({ dryRun: Type.Boolean() }, strict)
export const ImportParams = Type.Object({ key: Type.String({ pattern: '^[0-9a-f-]{36}$' }) }, strict)
