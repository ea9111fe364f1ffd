import { RecipeSchema, TagsSchema, nameOf, textOf, type Recipe } from '@fogbath/core/line'
import { SharedSchema, type SharedState } from '@fogbath/core/shelf'
import Type, { type Static } from 'typebox'
import { IdParams, closed, date, flag, id, mask, oneOf, orNull, recipe, revision, stamps, text, whole } from './parts'
import { route } from './route'

const key = Type.String({ pattern: '^[a-z0-9]{8,32}$', description: 'Its name in lines, the same on every machine.' })
const texts = { sentence: textOf('sentence'), maker: textOf('maker'), notes: textOf('notes'), tags: TagsSchema }
const optionalTexts = {
  sentence: Type.Optional(texts.sentence),
  maker: Type.Optional(texts.maker),
  notes: Type.Optional(texts.notes),
  tags: Type.Optional(texts.tags),
}
const changes = Type.Array(text, { description: 'What became of the version before, in words.' })
const row = {
  id,
  revision,
  key,
  name: nameOf('recipe'),
  ...texts,
  archived: flag,
  latest: Type.Integer({ minimum: 1, description: 'Number of the newest version.' }),
  ...stamps,
}
const KeptRow = closed(row)
/** A recipe of one’s own on the shelf, with its newest line. */
const KeptRecipe = closed({
  ...row,
  recipe,
  versions: Type.Array(closed({ number: whole, changes, createdAt: date }), { description: 'The newest first.' }),
})
export type KeptRecipe = Static<typeof KeptRecipe>

/** How often a line of some id is on shots, and when one of them was changed last. */
const RecipeUse = closed({ id: text, uses: whole, last: date })
export type RecipeUse = Static<typeof RecipeUse>

export const sharedState = oneOf<SharedState>('new', 'same', 'newer', 'older', 'conflict')
/** A file of a recipe, and what it is to the shelf. */
const LookedFile = closed({
  file: text,
  name: orNull(text),
  state: oneOf<SharedState | 'broken'>('new', 'same', 'newer', 'older', 'conflict', 'broken'),
  versions: whole,
  own: whole,
  problem: orNull(text),
})
export type LookedFile = Static<typeof LookedFile>
const SharedFiles = closed({
  folder: orNull(text),
  files: Type.Array(LookedFile),
  left: Type.Integer({ minimum: 0, description: 'Files that have not been read yet.' }),
})
export type SharedFiles = Static<typeof SharedFiles>

const KeptMask = closed({ id, revision, key, name: nameOf('mask'), mask, archived: flag, ...stamps })
export type KeptMask = Static<typeof KeptMask>

/** Most bytes of files that are brought at once. */
const MOST_FILES = 24e6
/** Files of recipes, as text; `beside` takes one that is in conflict as a recipe of its own. */
const files = {
  body: closed({
    files: Type.Array(
      closed({
        name: nameOf('file'),
        text: Type.String({ maxLength: 20_000_000 }),
        beside: Type.Optional(flag),
      }),
      { minItems: 1, maxItems: 500 },
    ),
  }),
  mostBytes: MOST_FILES,
} as const
const FavouriteParams = closed({ key: Type.String({ pattern: '^[a-z0-9-]{1,60}$' }) })

/** Recipes and masks that are kept, their files, and the folder that a team shares. Nothing of it is ever deleted. */
export const shelfRoutes = {
  recipes: route({
    method: 'GET',
    path: '/recipes',
    says: 'The recipes that come with the program.',
    reply: Type.Array(Type.Unsafe<Recipe>(RecipeSchema)),
  }),
  shelf: route({
    method: 'GET',
    path: '/shelf',
    says: 'Recipes of one’s own, the newest first, each with its newest line.',
    reply: Type.Array(KeptRecipe),
  }),
  shelfUses: route({
    method: 'GET',
    path: '/shelf/uses',
    says: 'How often lines of a name are on shots, and when one was changed last.',
    reply: Type.Array(RecipeUse),
  }),
  keepRecipe: route({
    method: 'POST',
    path: '/shelf',
    says: 'Keeps a line as a recipe.',
    body: closed({ name: nameOf('recipe'), ...optionalTexts, recipe }),
    reply: KeptRow,
    status: 201,
  }),
  changeKept: route({
    method: 'PATCH',
    path: '/shelf/:id',
    says: 'Changes what is written about a recipe, or puts it in the archive.',
    params: IdParams,
    body: closed({
      revision,
      name: Type.Optional(nameOf('recipe')),
      ...optionalTexts,
      archived: Type.Optional(flag),
    }),
    reply: KeptRow,
  }),
  addVersion: route({
    method: 'POST',
    path: '/shelf/:id/versions',
    says: 'A line becomes the newest version.',
    params: IdParams,
    body: closed({ revision, recipe }),
    reply: closed({ ...row, changes }),
    status: 201,
  }),
  versionOf: route({
    method: 'GET',
    path: '/shelf/:id/versions/:number',
    says: 'A version of a recipe.',
    params: closed({ id, number: id }),
    reply: closed({ id, keptRecipeId: id, number: whole, recipe, changes, ...stamps }),
  }),
  recipeFile: route({
    method: 'GET',
    path: '/shelf/:id/file',
    says: 'A recipe with all its versions, as an open file.',
    params: IdParams,
    reply: SharedSchema,
  }),
  previewFiles: route({
    ...files,
    method: 'POST',
    path: '/shelf/preview',
    says: 'What files hold, and what they are to the shelf.',
    reply: Type.Array(LookedFile),
  }),
  importFiles: route({
    ...files,
    method: 'POST',
    path: '/shelf/import',
    says: 'Takes files onto the shelf.',
    reply: closed({ taken: whole }),
  }),
  share: route({
    method: 'POST',
    path: '/shelf/:id/share',
    says: 'Puts a recipe into the shared folder.',
    params: IdParams,
    body: closed({ picture: SharedSchema.properties.picture }),
    reply: closed({ file: text }),
  }),
  sharedFiles: route({
    method: 'GET',
    path: '/shared',
    says: 'Files of the shared folder.',
    reply: SharedFiles,
  }),
  sharedFile: route({
    method: 'GET',
    path: '/shared/:file',
    says: 'What one of its files holds.',
    params: closed({ file: Type.String({ minLength: 1, maxLength: 255 }) }),
    reply: SharedSchema,
  }),
  favourites: route({
    method: 'GET',
    path: '/favourites',
    says: 'Keys of the recipes that stand first on the shelf.',
    reply: Type.Array(text),
  }),
  markFavourite: route({
    method: 'PUT',
    path: '/favourites/:key',
    says: 'Puts a recipe first.',
    params: FavouriteParams,
    reply: null,
  }),
  unmarkFavourite: route({
    method: 'DELETE',
    path: '/favourites/:key',
    says: 'Takes the mark off again.',
    params: FavouriteParams,
    reply: null,
  }),
  masks: route({
    method: 'GET',
    path: '/masks',
    says: 'Masks that are kept for other baths and shots, the newest first.',
    reply: Type.Array(KeptMask),
  }),
  keepMask: route({
    method: 'POST',
    path: '/masks',
    says: 'Keeps a mask.',
    body: closed({ name: nameOf('mask'), mask }),
    reply: KeptMask,
    status: 201,
  }),
  changeMask: route({
    method: 'PATCH',
    path: '/masks/:id',
    says: 'Names a mask, or puts it in the archive.',
    params: IdParams,
    body: closed({ revision, name: Type.Optional(nameOf('mask')), archived: Type.Optional(flag) }),
    reply: KeptMask,
  }),
} as const
