import { ROUTES } from '@fogbath/contract'
import { checkRecipe, describeChanges, newId, type Recipe } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize'
import { KeptRecipe, RecipeVersion } from '../db/models'
import { findRow, updateRow } from '../db/rows'
import { grouped } from '../db/shots'
import { Fault } from '../errors'
import { addVersion } from '../shelf/versions'
import type { App, Context } from './context'
import { serverOf } from './serve-route'

/** Recipes of one's own. Their versions are never changed, and nothing is ever deleted. */
export function shelfRoutes(app: App, { db }: Context): void {
  const serve = serverOf(app)
  serve(ROUTES.recipes, () => SHIPPED_RECIPES)

  serve(ROUTES.shelf, async () => {
    const [kept, versions] = await Promise.all([
      KeptRecipe.findAll({ order: [['id', 'DESC']] }),
      RecipeVersion.findAll({ attributes: { exclude: ['recipe'] }, order: [['number', 'DESC']] }),
    ])
    const of = grouped(versions, (v) => v.keptRecipeId)
    const lines = await newestLines(db)
    return kept.map((row) => ({
      ...row.toJSON(),
      recipe: lines.get(row.id)!,
      versions: (of.get(row.id) ?? []).map(({ number, changes, createdAt }) => ({ number, changes, createdAt })),
    }))
  })

  serve(ROUTES.shelfUses, async () => {
    const rows = await db.query<{ id: string; uses: number; last: Date }>(
      "SELECT JSON_VALUE(recipe, '$.id') AS `id`, COUNT(*) AS `uses`, MAX(updated_at) AS `last` FROM trial GROUP BY `id`",
      { type: QueryTypes.SELECT },
    )
    return rows.map(({ id, uses, last }) => ({ id, uses: Number(uses), last: new Date(last).toISOString() }))
  })

  // Answers go out behind the transaction: who is told of a row may ask for it at once.
  serve(ROUTES.keepRecipe, ({ body: { name, sentence = '', tags = [], maker = '', notes = '', recipe } }) => {
    const line = checkRecipe(recipe)
    return db.transaction(async (transaction) => {
      const made = await KeptRecipe.create(
        { key: newId(), name, sentence, tags, maker, notes, latest: 1 },
        { transaction },
      )
      await addVersion(made, 1, line, [], transaction)
      return made
    })
  })

  serve(ROUTES.changeKept, ({ params, body: { revision, ...changes } }) =>
    updateRow(KeptRecipe, params.id, revision, changes, 'recipe'),
  )

  /** A line becomes the newest version; the revision says which newest one its writer saw. */
  serve(ROUTES.addVersion, ({ params: { id }, body }) => {
    const line = checkRecipe(body.recipe)
    return db.transaction(async (transaction) => {
      const before = await findRow(KeptRecipe, id, 'recipe', transaction)
      const last = await versionOf(id, before.latest, transaction)
      const changes = describeChanges(last.recipe, line)
      if (changes.length === 0)
        throw new Fault('invalid', `The line does what version ${before.latest} of '${before.name}' does already.`)
      const number = before.latest + 1
      const kept = await updateRow(KeptRecipe, id, body.revision, { latest: number }, 'recipe', transaction)
      await addVersion(kept, number, line, changes, transaction)
      return { ...kept.toJSON(), changes }
    })
  })

  serve(ROUTES.versionOf, async ({ params }) => {
    await findRow(KeptRecipe, params.id, 'recipe')
    return versionOf(params.id, params.number)
  })
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
