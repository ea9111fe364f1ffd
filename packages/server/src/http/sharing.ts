import { SHARED_FORM, newId, stateOfShared, type Recipe, type SharedRecipe, type SharedState } from '@fogbath/core'
import type { Transaction } from 'sequelize'
import { KeptRecipe, RecipeVersion } from '../db/models'
import { findRow } from '../db/rows'
import { Fault, sentenceOf } from '../errors'
import { parseShared } from '../validate'
import type { App, Context } from './context'
import { IdParams, SharedFiles, SharedPicture } from './schemas'
import { addVersion } from './shelf'

/** Bytes of files that are brought at once. */
const BODY = 24e6

interface Looked {
  readonly file: string
  readonly name: string | null
  readonly state: SharedState | 'broken'
  /** How many versions the file has, and the shelf. */
  readonly versions: number
  readonly own: number
  readonly problem: string | null
}

/** Recipes as open files: out, in, and a folder that a team shares. Nothing that is there is ever changed by a file. */
export function sharingRoutes(app: App, { db, shared }: Context): void {
  app.get('/api/shelf/:id/file', { schema: { params: IdParams } }, (request) => fileOf(Number(request.params.id), null))

  /** What files hold, and what they are to the shelf. */
  app.post('/api/shelf/preview', { schema: { body: SharedFiles }, bodyLimit: BODY }, async (request) => {
    const looked: Looked[] = []
    for (const { name, text } of request.body.files) looked.push(await look(name, () => parseShared(text, name)))
    return looked
  })

  app.post('/api/shelf/import', { schema: { body: SharedFiles }, bodyLimit: BODY }, async (request) => {
    const read = request.body.files.map(({ name, text, beside = false }) => ({
      shared: parseShared(text, name),
      beside,
    }))
    return db.transaction(async (transaction) => {
      let taken = 0
      for (const { shared: file, beside } of read) taken += await take(file, beside, transaction)
      return { taken }
    })
  })

  app.get('/api/shared', async () => {
    if (!shared) return { folder: null, files: [] }
    const files = await shared.list()
    const looked: (Looked & { recipe: SharedRecipe | null })[] = []
    for (const { file, recipe, problem } of files) {
      const found = await look(file, () => {
        if (recipe) return recipe
        throw new Fault('invalid', problem!)
      })
      looked.push({ ...found, recipe })
    }
    return { folder: shared.folder, files: looked }
  })

  app.post('/api/shelf/:id/share', { schema: { params: IdParams, body: SharedPicture } }, async (request) => {
    if (!shared) throw new Fault('invalid', 'No shared folder is set; start with FOGBATH_SHARED=/folder.')
    return { file: await shared.add(await fileOf(Number(request.params.id), request.body.picture)) }
  })
}

async function look(file: string, read: () => SharedRecipe): Promise<Looked> {
  try {
    const shared = read()
    const own = await linesOf(shared.key)
    const { name, versions } = shared
    return {
      ...{ file, name, state: stateOfShared(shared, own), problem: null },
      ...{ versions: versions.length, own: own?.length ?? 0 },
    }
  } catch (error) {
    return { file, name: null, state: 'broken', versions: 0, own: 0, problem: sentenceOf(error) }
  }
}

/** Lines of a recipe's versions on the shelf, the oldest first; null where it is not there. */
async function linesOf(key: string, transaction?: Transaction): Promise<Recipe[] | null> {
  const within = transaction ? { transaction } : {}
  const kept = await KeptRecipe.findOne({ where: { key }, ...within })
  if (!kept) return null
  const versions = await RecipeVersion.findAll({
    where: { keptRecipeId: kept.id },
    order: [['number', 'ASC']],
    ...within,
  })
  return versions.map((v) => v.recipe)
}

/** Takes a file onto the shelf: what is new, or the versions that are missing. @returns how many recipes were changed or added */
async function take(shared: SharedRecipe, beside: boolean, transaction: Transaction): Promise<0 | 1> {
  const own = await linesOf(shared.key, transaction)
  const state = stateOfShared(shared, own)
  if (state === 'same' || state === 'older' || (state === 'conflict' && !beside)) return 0
  const kept = state === 'newer' ? await grow(shared, transaction) : await create(shared, own !== null, transaction)
  for (const [i, { recipe, changes }] of shared.versions.entries())
    if (state !== 'newer' || i >= own!.length) await addVersion(kept, i + 1, recipe, changes, transaction)
  return 1
}

function create(
  { key, name, sentence, maker, notes, tags, versions }: SharedRecipe,
  known: boolean,
  transaction: Transaction,
) {
  const called = known ? `${name.slice(0, 64)} (from a file)` : name
  const row = { key: known ? newId() : key, name: called, sentence, maker, notes, tags, latest: versions.length }
  return KeptRecipe.create(row, { transaction })
}

async function grow({ key, versions }: SharedRecipe, transaction: Transaction): Promise<KeptRecipe> {
  const kept = (await KeptRecipe.findOne({ where: { key }, transaction, lock: true }))!
  return kept.update({ latest: versions.length, revision: kept.revision + 1 }, { transaction })
}

async function fileOf(id: number, picture: string | null): Promise<SharedRecipe> {
  const { key, name, sentence, maker, notes, tags } = await findRow(KeptRecipe, id, 'recipe')
  const versions = await RecipeVersion.findAll({ where: { keptRecipeId: id }, order: [['number', 'ASC']] })
  return {
    ...{ form: SHARED_FORM, key, name, sentence, notes, maker, tags: [...tags], picture },
    versions: versions.map(({ recipe, changes, createdAt }) => ({
      ...{ recipe, changes: [...changes], made: createdAt.toISOString() },
    })),
  }
}
