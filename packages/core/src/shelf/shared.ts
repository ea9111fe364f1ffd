import Type, { type Static } from 'typebox'
import { FogBathError } from '../errors'
import { completeRecipe, upToDate } from '../line/complete'
import { RecipeSchema, type Recipe } from '../line/recipe'
import { TagsSchema, nameOf, textOf } from '../line/texts'

/** The form of shared files that is written; older ones are brought up to it step by step. */
export const SHARED_FORM = 2

const closed = { additionalProperties: false } as const

/** A recipe of the shelf as one open file: texts, a small picture, and all its versions, the oldest first. */
export const SharedSchema = Type.Object(
  {
    form: Type.Literal(SHARED_FORM),
    key: Type.String({ pattern: '^[a-z0-9]{8,32}$' }),
    name: nameOf('recipe'),
    sentence: textOf('sentence'),
    notes: textOf('notes'),
    maker: textOf('maker'),
    tags: TagsSchema,
    /** A JPEG or PNG as a data address. */
    picture: Type.Union([
      Type.Null(),
      Type.String({ maxLength: 300_000, pattern: '^data:image/(jpeg|png);base64,[A-Za-z0-9+/=]+$' }),
    ]),
    versions: Type.Array(
      Type.Object(
        {
          recipe: Type.Unsafe<Recipe>(RecipeSchema),
          changes: Type.Array(Type.String({ maxLength: 500 }), { maxItems: 500 }),
          /** When it was made, or empty where that is not known. */
          made: Type.String({ maxLength: 40 }),
        },
        closed,
      ),
      { minItems: 1, maxItems: 1000 },
    ),
  },
  closed,
)
export type SharedRecipe = Static<typeof SharedSchema>

type Loose = Record<string, unknown>
const isObject = (v: unknown): v is Loose => typeof v === 'object' && v !== null && !Array.isArray(v)

/** From each form to the next one. The first form was a bare recipe without texts or versions beside it. */
const UPGRADES: Readonly<Record<number, (value: Loose) => Loose>> = {
  1: (bare) => {
    const recipe = completeRecipe(bare) as Recipe
    const { summary, tags } = recipe
    return {
      form: 2,
      key: keyOfLine(recipe),
      name: recipe.name,
      sentence: summary,
      notes: '',
      maker: '',
      tags,
      picture: null,
      versions: [{ recipe, changes: [], made: '' }],
    }
  },
}

/** Brings a shared file up to the present form and its lines up to date; whether it is right is the validator's business. */
export function upgradeShared(value: unknown): unknown {
  if (!isObject(value)) throw new FogBathError('recipe', 'file', 'A shared recipe must be a JSON object.')
  const form = value['form'] ?? 1
  if (typeof form !== 'number' || !Number.isInteger(form) || form < 1 || form > SHARED_FORM)
    throw new FogBathError(
      'recipe',
      'form',
      `The file has form ${JSON.stringify(form)}; this version reads 1 to ${SHARED_FORM}.`,
    )
  let now = value
  for (let at = form; at < SHARED_FORM; at++) now = UPGRADES[at]!(now)
  const versions = now['versions']
  if (!Array.isArray(versions)) return now
  return { ...now, versions: versions.map((v: unknown) => (isObject(v) ? { ...v, recipe: lineOf(v['recipe']) } : v)) }
}

/** A line with settings that have come since, where it is one at all. */
const lineOf = (recipe: unknown): unknown => (isObject(recipe) ? upToDate(recipe as unknown as Recipe) : recipe)

/** The key of a bare recipe: that of the shelf that it came from, or one made from what it does, so that it is known again. */
function keyOfLine({ id, strength, baths }: Recipe): string {
  const [, key] = /^shelf-([a-z0-9]+)-\d+$/.exec(id) ?? []
  if (key) return key
  // FNV-1a, 64 bits, over code units (G. Fowler, L. C. Noll, K.-P. Vo 1991, from memory).
  let hash = 14_695_981_039_346_656_037n
  for (const letter of JSON.stringify({ strength, baths }))
    hash = BigInt.asUintN(64, (hash ^ BigInt(letter.codePointAt(0)!)) * 1_099_511_628_211n)
  return hash.toString(36).padStart(13, '0')
}

/**
 * What a file is to the shelf: unknown there; the same; with versions that the shelf lacks; behind it; or of the same origin
 * and gone another way.
 */
export type SharedState = 'new' | 'same' | 'newer' | 'older' | 'conflict'

/**
 * @param brought what the versions that are brought do, the oldest first, each as one text (see `treatmentOf`)
 * @param own the same of the recipe on the shelf; null where it is not there
 */
export function stateOfVersions(brought: readonly string[], own: readonly string[] | null): SharedState {
  if (!own) return 'new'
  const both = Math.min(brought.length, own.length)
  for (let i = 0; i < both; i++) if (brought[i] !== own[i]) return 'conflict'
  return brought.length === own.length ? 'same' : brought.length > own.length ? 'newer' : 'older'
}
