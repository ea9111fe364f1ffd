import { CutSchema } from '@fogbath/core/edits'
import { EncodingDefinitionSchema, EncodingIdSchema } from '@fogbath/core/encodings'
import { ReadingSchema } from '@fogbath/core/footage'
import {
  BathsSchema,
  KeptStepSchema,
  MarksSchema,
  RecipeSchema,
  MOST_TAGS,
  nameOf,
  textOf,
  type Bath,
  type Recipe,
} from '@fogbath/core/line'
import { MaskSchema, type Mask } from '@fogbath/core/masks'
import { MOST_TRACKS, TrackSchema } from '@fogbath/core/tracking'
import Type, { type Static } from 'typebox'
import { MOST_PROOF_SIDE } from '../limits'
import { EditList, MOST_WHOLE, MediaInfo as InfoSchema, closed } from '@fogbath/contract'

/**
 * A backup is a ZIP archive. `contents.json` holds what stands in the database, without its row numbers; `media/` the
 * footage under its SHA-256, where it goes along; `proofs/` pictures. `manifest.json` comes last and names every other
 * entry with its SHA-256.
 */
export const FORMAT = 'fogbath-backup'
export const VERSION = 1
/** Most bytes of `contents.json`: what is longer could not be read again. */
export const MOST_CONTENTS = 256e6

const whole = Type.Integer({ minimum: 0, maximum: MOST_WHOLE })
const bytes = Type.Integer({ minimum: 0 })
const side = (most: number) => Type.Integer({ minimum: 1, maximum: most })
const hash = Type.String({ pattern: '^[0-9a-f]{64}$' })
const recipe = Type.Unsafe<Recipe>(RecipeSchema)
const baths = Type.Unsafe<readonly Bath[]>(BathsSchema)
const encoding = Type.Unsafe<string>(EncodingIdSchema)

export const ManifestSchema = closed({
  format: Type.Unsafe<typeof FORMAT>({ type: 'string', enum: [FORMAT] }),
  version: Type.Integer({ minimum: 1 }),
  /** Its own, so that it is known again; archives from before there was one have none. */
  id: Type.Optional(Type.String({ pattern: '^[0-9a-f-]{36}$' })),
  madeAt: Type.String({ maxLength: 40 }),
  entries: Type.Array(closed({ path: Type.String({ maxLength: 200 }), sha256: hash, size: bytes })),
  /** Names of footage that should have gone along, and was missing or damaged. */
  missing: Type.Optional(Type.Array(nameOf('file'))),
})
export type Manifest = Static<typeof ManifestSchema>

const TrialSchema = closed({ ref: whole, name: nameOf('trial'), recipe, after: baths })
const EditSchema = closed({
  stack: Type.Unsafe<'past' | 'future'>({ type: 'string', enum: ['past', 'future'] }),
  kept: KeptStepSchema,
})
const ProofSchema = closed({
  name: nameOf('proof'),
  frame: whole,
  width: side(MOST_PROOF_SIDE),
  height: side(MOST_PROOF_SIDE),
  encoding,
  recipe,
  preparation: baths,
  after: baths,
  picture: Type.String({ pattern: '^proofs/[0-9]{1,9}\\.png$' }),
})
const ShotSchema = closed({
  name: nameOf('shot'),
  medium: hash,
  first: whole,
  last: whole,
  still: whole,
  encoding,
  /** Backups from before there were readings have none. */
  reading: Type.Optional(ReadingSchema),
  preparation: baths,
  marks: Type.Union([MarksSchema, Type.Null()]),
  /** Of shots that are from an edit. */
  cut: Type.Optional(CutSchema),
  /** Of shots whose masks follow something. */
  tracks: Type.Optional(Type.Array(TrackSchema, { maxItems: MOST_TRACKS })),
  /** `ref` of the chosen trial. */
  chosen: Type.Union([whole, Type.Null()]),
  trials: Type.Array(TrialSchema, { minItems: 1 }),
  edits: Type.Array(EditSchema),
  proofs: Type.Array(ProofSchema),
})
const ProductionSchema = closed({
  name: nameOf('production'),
  notes: textOf('notes'),
  /** The edit list that its shots were last put in order by. */
  list: Type.Optional(EditList),
  shots: Type.Array(ShotSchema),
})
const MediumSchema = closed({
  sha256: hash,
  name: nameOf('file'),
  size: bytes,
  /** Ending of the numbered files of a sequence, or empty for one file. */
  sequence: Type.String({ maxLength: 8, pattern: '^(\\.[a-z0-9]+)?$' }),
  /** Files that go along: none, one, or the stills of a sequence. */
  files: whole,
  info: InfoSchema,
})
const KeptSchema = closed({
  key: Type.String({ pattern: '^[a-z0-9]{8,32}$' }),
  name: nameOf('recipe'),
  sentence: textOf('sentence'),
  // Backups from long ago may name a tag twice.
  tags: Type.Array(nameOf('tag'), { maxItems: MOST_TAGS }),
  archived: Type.Boolean(),
  /** Only in older backups; `favourites` of the contents came for it. */
  favourite: Type.Optional(Type.Boolean()),
  /** Backups from before these were there have none. */
  maker: Type.Optional(textOf('maker')),
  notes: Type.Optional(textOf('notes')),
  versions: Type.Array(closed({ recipe, changes: Type.Array(Type.String({ maxLength: 2000 }), { maxItems: 1000 }) }), {
    minItems: 1,
    maxItems: 1000,
  }),
})
const KeptMaskSchema = closed({
  key: KeptSchema.properties.key,
  name: nameOf('mask'),
  mask: Type.Unsafe<Mask>(MaskSchema),
  archived: Type.Boolean(),
})
export const ContentsSchema = closed({
  productions: Type.Array(ProductionSchema),
  media: Type.Array(MediumSchema),
  /** Recipes of the shelf, in a backup of all productions; backups from before there was one have none. */
  shelf: Type.Optional(Type.Array(KeptSchema)),
  masks: Type.Optional(Type.Array(KeptMaskSchema)),
  /** Encodings of one's own that shots and proofs are taken for, and in a backup of all productions the others. */
  encodings: Type.Optional(Type.Array(EncodingDefinitionSchema, { maxItems: 10_000 })),
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
