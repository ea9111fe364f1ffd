import type { ShelfPreview } from '@fogbath/contract'
import type { Transaction } from 'sequelize'
import { defineEncoding, type EncodingDraft } from '@fogbath/core/encodings'
import { newId } from '@fogbath/core/line'
import { type Mask } from '@fogbath/core/masks'
import { Favourite, KeptMask, KeptRecipe, OwnEncoding, RecipeVersion } from '../db/models'
import { grouped } from '../db/shots'
import { besideName, stateOf, takeOnto, type Brought } from '../shelf/versions'
import type { ContentsMask, ContentsRecipe } from './contents'

const ORIGIN = 'a backup'

/** The recipes of the shelf with all their versions. */
export async function collectShelf(transaction: Transaction): Promise<ContentsRecipe[]> {
  const kept = await KeptRecipe.findAll({ order: [['id', 'ASC']], transaction })
  const versions = await RecipeVersion.findAll({ order: [['number', 'ASC']], transaction })
  const of = grouped(versions, (v) => v.keptRecipeId)
  return kept.map(({ id, key, name, sentence, maker, notes, tags, archived }) => ({
    key,
    name,
    sentence,
    maker,
    notes,
    tags: [...tags],
    archived,
    versions: (of.get(id) ?? []).map(({ recipe, changes }) => ({ recipe, changes: [...changes] })),
  }))
}

const broughtBy = ({ maker = '', notes = '', ...recipe }: ContentsRecipe): Brought => ({ ...recipe, maker, notes })

export async function previewShelf(recipes: readonly ContentsRecipe[]): Promise<ShelfPreview[]> {
  const found: ShelfPreview[] = []
  for (const recipe of recipes) found.push({ name: recipe.name, state: await stateOf(broughtBy(recipe)) })
  return found
}

export async function previewMasks(masks: readonly ContentsMask[]): Promise<ShelfPreview[]> {
  const own = new Map((await KeptMask.findAll()).map((row) => [row.key, row.mask]))
  return masks.map(({ key, name, mask }) => ({ name, state: stateOfMask(mask, own.get(key)) }))
}

const stateOfMask = (mask: Mask, own: Mask | undefined): ShelfPreview['state'] =>
  own === undefined ? 'new' : same(mask, own) ? 'same' : 'conflict'
const same = (a: Mask, b: Mask): boolean => JSON.stringify(a) === JSON.stringify(b)

/** Puts recipes on the shelf: new ones, versions that are missing there, and beside it one that went another way. */
export async function addShelf(recipes: readonly ContentsRecipe[], transaction: Transaction): Promise<void> {
  for (const recipe of recipes) {
    const kept = await takeOnto(broughtBy(recipe), { beside: true, origin: ORIGIN }, transaction)
    if (kept && recipe.favourite) await addFavourites([kept.key], transaction)
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

/** Encodings that are here already keep their name. */
export async function addEncodings(encodings: readonly EncodingDraft[], transaction: Transaction): Promise<void> {
  const rows = encodings.map((draft) => {
    const definition = defineEncoding(draft)
    return { id: definition.id, name: definition.name, definition }
  })
  await OwnEncoding.bulkCreate(rows, { transaction, ignoreDuplicates: true })
}

export async function collectMasks(transaction: Transaction): Promise<ContentsMask[]> {
  const kept = await KeptMask.findAll({ order: [['id', 'ASC']], transaction })
  return kept.map(({ key, name, mask, archived }) => ({ key, name, mask, archived }))
}

/** Puts masks on the shelf that are not there yet, and beside one that has the same key and is another mask. */
export async function addMasks(masks: readonly ContentsMask[], transaction: Transaction): Promise<void> {
  const there = await KeptMask.findAll({ transaction })
  for (const mask of masks) {
    const own = there.find((row) => row.key === mask.key)
    const name = own ? besideName(mask.name, ORIGIN) : mask.name
    const known = there.some((row) => (row === own || row.name === name) && same(row.mask, mask.mask))
    if (known) continue
    await KeptMask.create({ ...mask, name, key: own ? newId() : mask.key }, { transaction })
  }
}
