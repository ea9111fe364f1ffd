import type { Transaction } from 'sequelize'
import { Favourite, KeptMask, KeptRecipe, RecipeVersion } from '../db/models'
import { grouped } from '../db/shots'
import type { ContentsMask, ContentsRecipe } from './contents'

/** The recipes of the shelf with all their versions. */
export async function collectShelf(transaction: Transaction): Promise<ContentsRecipe[]> {
  const kept = await KeptRecipe.findAll({ order: [['id', 'ASC']], transaction })
  const versions = await RecipeVersion.findAll({ order: [['number', 'ASC']], transaction })
  const of = grouped(versions, (v) => v.keptRecipeId)
  return kept.map(({ id, key, name, sentence, maker, notes, tags, archived }) => ({
    ...{ key, name, sentence, maker, notes, tags: [...tags], archived },
    versions: (of.get(id) ?? []).map(({ recipe, changes }) => ({ recipe, changes: [...changes] })),
  }))
}

/** Puts recipes on the shelf that are not there yet; one that is there stays as it is. */
export async function addShelf(recipes: readonly ContentsRecipe[], transaction: Transaction): Promise<void> {
  const there = new Set((await KeptRecipe.findAll({ attributes: ['key'], transaction })).map((row) => row.key))
  for (const { versions, favourite, ...recipe } of recipes) {
    if (there.has(recipe.key)) continue
    if (favourite) await addFavourites([recipe.key], transaction)
    const { id } = await KeptRecipe.create({ ...recipe, latest: versions.length }, { transaction })
    const rows = versions.map((v, i) => ({ ...v, keptRecipeId: id, number: i + 1 }))
    await RecipeVersion.bulkCreate(rows, { transaction })
  }
}

export const collectFavourites = async (transaction: Transaction): Promise<string[]> =>
  (await Favourite.findAll({ order: [['id', 'ASC']], transaction })).map(({ key }) => key)

/** Those that are marked here already stay so. */
export async function addFavourites(keys: readonly string[], transaction: Transaction): Promise<void> {
  await Favourite.bulkCreate(
    keys.map((key) => ({ key })),
    { transaction, ignoreDuplicates: true },
  )
}

export async function collectMasks(transaction: Transaction): Promise<ContentsMask[]> {
  const kept = await KeptMask.findAll({ order: [['id', 'ASC']], transaction })
  return kept.map(({ key, name, mask, archived }) => ({ key, name, mask, archived }))
}

/** Puts masks on the shelf that are not there yet. */
export async function addMasks(masks: readonly ContentsMask[], transaction: Transaction): Promise<void> {
  const there = new Set((await KeptMask.findAll({ attributes: ['key'], transaction })).map((row) => row.key))
  await KeptMask.bulkCreate(
    masks.filter(({ key }) => !there.has(key)).map((mask) => ({ ...mask })),
    { transaction },
  )
}
