import { checkRecipe, describeChanges, newId, type Recipe } from '@fogbath/core'
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize'
import { KeptRecipe, RecipeVersion } from '../db/models'
import { findRow, updateRow } from '../db/rows'
import { grouped } from '../db/shots'
import { Fault } from '../errors'
import type { App, Context } from './context'
import { IdParams, KeptRecipeChange, NewKeptRecipe, NewRecipeVersion, VersionParams } from './schemas'

/** What a line says of where it came from: the recipe on the shelf, and its version. */
const shelfId = (key: string, number: number): string => `shelf-${key}-${number}`

/** Recipes of one's own. Their versions are never changed, and nothing is ever deleted. */
export function shelfRoutes(app: App, { db }: Context): void {
  /** All of them, the newest first, each with its newest line and what became of it from version to version. */
  app.get('/api/shelf', async () => {
    const [kept, versions] = await Promise.all([
      KeptRecipe.findAll({ order: [['id', 'DESC']] }),
      RecipeVersion.findAll({ attributes: { exclude: ['recipe'] }, order: [['number', 'DESC']] }),
    ])
    const of = grouped(versions, (v) => v.keptRecipeId)
    const lines = await newestLines(db)
    return kept.map((row) => ({
      ...row.toJSON(),
      recipe: lines.get(row.id),
      versions: (of.get(row.id) ?? []).map(({ number, changes, createdAt }) => ({ number, changes, createdAt })),
    }))
  })

  /** How often lines of a name are in use on shots, and when one was changed last. */
  app.get('/api/shelf/uses', async () => {
    const rows = await db.query<{ id: string; uses: number; last: Date }>(
      "SELECT JSON_VALUE(recipe, '$.id') AS `id`, COUNT(*) AS `uses`, MAX(updated_at) AS `last` FROM trial GROUP BY `id`",
      { type: QueryTypes.SELECT },
    )
    return rows.map(({ id, uses, last }) => ({ id, uses: Number(uses), last: new Date(last).toISOString() }))
  })

  // Answers go out behind the transaction: who is told of a row may ask for it at once.
  app.post('/api/shelf', { schema: { body: NewKeptRecipe } }, async (request, reply) => {
    const { name, sentence = '', tags = [], maker = '', notes = '', recipe } = request.body
    const line = checked(recipe)
    const kept = await db.transaction(async (transaction) => {
      const made = await KeptRecipe.create(
        { key: newId(), name, sentence, tags, maker, notes, latest: 1 },
        { transaction },
      )
      await addVersion(made, 1, line, [], transaction)
      return made
    })
    return reply.status(201).send(kept)
  })

  app.patch('/api/shelf/:id', { schema: { params: IdParams, body: KeptRecipeChange } }, async (request) => {
    const { revision, ...changes } = request.body
    return updateRow(KeptRecipe, Number(request.params.id), revision, changes, 'recipe')
  })

  /** A line becomes the newest version; the revision says which newest one its writer saw. */
  app.post(
    '/api/shelf/:id/versions',
    { schema: { params: IdParams, body: NewRecipeVersion } },
    async (request, reply) => {
      const id = Number(request.params.id)
      const line = checked(request.body.recipe)
      const made = await db.transaction(async (transaction) => {
        const before = await findRow(KeptRecipe, id, 'recipe', transaction)
        const last = await versionOf(id, before.latest, transaction)
        const changes = describeChanges(last.recipe, line)
        if (changes.length === 0)
          throw new Fault('invalid', `The line does what version ${before.latest} of '${before.name}' does already.`)
        const number = before.latest + 1
        const kept = await updateRow(KeptRecipe, id, request.body.revision, { latest: number }, 'recipe', transaction)
        await addVersion(kept, number, line, changes, transaction)
        return { ...kept.toJSON(), changes }
      })
      return reply.status(201).send(made)
    },
  )

  app.get('/api/shelf/:id/versions/:number', { schema: { params: VersionParams } }, async (request) => {
    await findRow(KeptRecipe, Number(request.params.id), 'recipe')
    return versionOf(Number(request.params.id), Number(request.params.number))
  })
}

const checked = (recipe: unknown): Recipe => checkRecipe(recipe as Recipe)

export async function addVersion(
  { id, key, name, sentence, tags }: KeptRecipe,
  number: number,
  line: Recipe,
  changes: readonly string[],
  transaction: Transaction,
): Promise<void> {
  const recipe: Recipe = { ...line, id: shelfId(key, number), name, summary: sentence, tags }
  await RecipeVersion.create({ keptRecipeId: id, number, recipe, changes }, { transaction })
}

async function versionOf(id: number, number: number, transaction?: Transaction): Promise<RecipeVersion> {
  const found = await RecipeVersion.findOne({
    where: { keptRecipeId: id, number },
    ...(transaction ? { transaction } : {}),
  })
  if (!found) throw new Fault('not-found', `The recipe ${id} has no version ${number}.`)
  return found
}

/** The line of the newest version of each recipe. */
async function newestLines(db: Sequelize): Promise<Map<number, Recipe>> {
  const newest = await RecipeVersion.findAll({
    where: db.literal('(kept_recipe_id, `number`) IN (SELECT id, latest FROM kept_recipe)'),
  })
  return new Map(newest.map((v) => [v.keptRecipeId, v.recipe]))
}
