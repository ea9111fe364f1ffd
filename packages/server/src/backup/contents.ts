import {
  ENCODING_IDS,
  KeptStepSchema,
  MarksSchema,
  MaskSchema,
  RecipeSchema,
  TrimsSchema,
  type Mask,
  type Recipe,
} from '@fogbath/core'
import Type, { type Static, type TSchema } from 'typebox'
import type { MediaInfo } from '../media/probe'

/**
 * A backup is a ZIP archive. `contents.json` holds what stands in the database, without its row numbers; `media/` the
 * footage under its SHA-256, where it goes along; `proofs/` pictures. `manifest.json` comes last and names every other
 * entry with its SHA-256.
 */
export const FORMAT = 'fogbath-backup'
export const VERSION = 1

const closed = <T extends Record<string, TSchema>>(fields: T) => Type.Object(fields, { additionalProperties: false })
const whole = Type.Integer({ minimum: 0 })
const name = (most: number) => Type.String({ minLength: 1, maxLength: most })
const hash = Type.String({ pattern: '^[0-9a-f]{64}$' })
const recipe = Type.Unsafe<Recipe>(RecipeSchema)
const encoding = Type.Unsafe<string>({ type: 'string', enum: ENCODING_IDS })

export const ManifestSchema = closed({
  format: Type.Unsafe<typeof FORMAT>({ type: 'string', enum: [FORMAT] }),
  version: Type.Integer({ minimum: 1 }),
  madeAt: Type.String({ maxLength: 40 }),
  entries: Type.Array(closed({ path: Type.String({ maxLength: 200 }), sha256: hash, size: whole })),
})
export type Manifest = Static<typeof ManifestSchema>

const TrialSchema = closed({ ref: whole, name: name(60), recipe })
const EditSchema = closed({
  stack: Type.Unsafe<'past' | 'future'>({ type: 'string', enum: ['past', 'future'] }),
  kept: KeptStepSchema,
})
const ProofSchema = closed({
  ...{ name: name(60), frame: whole, width: whole, height: whole, encoding },
  ...{ recipe, trims: TrimsSchema, picture: Type.String({ pattern: '^proofs/[0-9]{1,9}\\.png$' }) },
})
const ShotSchema = closed({
  ...{ name: name(120), medium: hash, first: whole, last: whole, still: whole, encoding, trims: TrimsSchema },
  marks: Type.Union([MarksSchema, Type.Null()]),
  /** `ref` of the chosen trial. */
  chosen: Type.Union([whole, Type.Null()]),
  trials: Type.Array(TrialSchema),
  edits: Type.Array(EditSchema),
  proofs: Type.Array(ProofSchema),
})
const ProductionSchema = closed({
  name: name(120),
  notes: Type.String({ maxLength: 2000 }),
  shots: Type.Array(ShotSchema),
})
const MediumSchema = closed({
  sha256: hash,
  name: name(255),
  size: whole,
  /** Ending of the numbered files of a sequence, or empty for one file. */
  sequence: Type.String({ maxLength: 8, pattern: '^(\\.[a-z0-9]+)?$' }),
  /** Files that go along: none, one, or the stills of a sequence. */
  files: whole,
  info: Type.Unsafe<MediaInfo>({ type: 'object' }),
})
const KeptSchema = closed({
  key: Type.String({ pattern: '^[a-z0-9]{8,32}$' }),
  ...{ name: name(80), sentence: Type.String({ maxLength: 300 }), tags: Type.Array(name(40), { maxItems: 20 }) },
  archived: Type.Boolean(),
  /** Only in older backups; `favourites` of the contents came for it. */
  favourite: Type.Optional(Type.Boolean()),
  /** Backups from before these were there have none. */
  ...{ maker: Type.Optional(Type.String({ maxLength: 80 })), notes: Type.Optional(Type.String({ maxLength: 2000 })) },
  versions: Type.Array(closed({ recipe, changes: Type.Array(Type.String()) }), { minItems: 1 }),
})
const KeptMaskSchema = closed({
  key: KeptSchema.properties.key,
  name: name(80),
  mask: Type.Unsafe<Mask>(MaskSchema),
  archived: Type.Boolean(),
})
export const ContentsSchema = closed({
  productions: Type.Array(ProductionSchema),
  media: Type.Array(MediumSchema),
  /** Recipes of the shelf, in a backup of all productions; backups from before there was one have none. */
  shelf: Type.Optional(Type.Array(KeptSchema)),
  masks: Type.Optional(Type.Array(KeptMaskSchema)),
  /** Keys of recipes that stand first on the shelf. */
  favourites: Type.Optional(Type.Array(Type.String({ maxLength: 60 }))),
})
export type Contents = Static<typeof ContentsSchema>
export type ContentsRecipe = Static<typeof KeptSchema>
export type ContentsMask = Static<typeof KeptMaskSchema>
export type ContentsShot = Static<typeof ShotSchema>
export type ContentsMedium = Static<typeof MediumSchema>

/** Where the files of a medium lie in the archive. */
export const mediumPaths = ({ sha256, sequence, files }: Omit<ContentsMedium, 'info'>): string[] =>
  sequence
    ? Array.from({ length: files }, (_, i) => `media/${sha256}/${String(i).padStart(6, '0')}${sequence}`)
    : files > 0
      ? [`media/${sha256}`]
      : []

/** Every path that an archive may hold. */
export const PATHS =
  /^(?:contents\.json|manifest\.json|proofs\/[0-9]{1,9}\.png|media\/[0-9a-f]{64}(?:\/[0-9]{6}\.[a-z0-9]{1,7})?)$/
