import { createHash } from 'node:crypto'
import { newId, treatmentOf, type Recipe } from '@fogbath/core/line'
import { stateOfVersions, type SharedState } from '@fogbath/core/shelf'
import PQueue from 'p-queue'
import type { Transaction } from 'sequelize'
import { KeptRecipe, RecipeVersion } from '../db/models'

/** What comes onto the shelf from a file, a shared folder or a backup: a recipe with its versions, the oldest first. */
export interface Brought {
  readonly key: string
  readonly name: string
  readonly sentence: string
  readonly maker: string
  readonly notes: string
  readonly tags: readonly string[]
  readonly archived: boolean
  readonly versions: readonly { readonly recipe: Recipe; readonly changes: readonly string[] }[]
}

/** Bringing looks first and writes then; two that bring at once would both find the same thing missing. */
const turns = new PQueue({ concurrency: 1 })
export const inTurn = <T>(work: () => Promise<T>): Promise<T> => turns.add(work)

/** What a line says of where it came from: the recipe on the shelf, and its version. */
const shelfId = (key: string, number: number): string => `shelf-${key}-${number}`

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

/** What lines do, each as a short text that only lines which do the same share. */
export const marksOf = (lines: readonly Recipe[]): string[] =>
  lines.map((line) => createHash('sha256').update(treatmentOf(line)).digest('hex'))

/** Of the versions of a recipe on the shelf, the oldest first; null where it is not there. */
export async function marksOnShelf(key: string, transaction?: Transaction): Promise<string[] | null> {
  const within = transaction ? { transaction } : {}
  const kept = await KeptRecipe.findOne({ where: { key }, attributes: ['id'], ...within })
  return kept && marksOfRow(kept.id, transaction)
}

async function marksOfRow(keptRecipeId: number, transaction?: Transaction): Promise<string[]> {
  const within = transaction ? { transaction } : {}
  const versions = await RecipeVersion.findAll({ where: { keptRecipeId }, order: [['number', 'ASC']], ...within })
  return marksOf(versions.map((v) => v.recipe))
}

/**
 * Takes a recipe onto the shelf: what is new, or the versions that are missing there. What is there is never changed.
 * @param beside takes one that went another way as a recipe of its own
 * @param origin what it is said to come from then, such as `a file`
 * @returns its row where anything was added
 */
export async function takeOnto(
  brought: Brought,
  { beside, origin }: { beside: boolean; origin: string },
  transaction: Transaction,
): Promise<KeptRecipe | null> {
  const own = await marksOnShelf(brought.key, transaction)
  const marks = marksOf(brought.versions.map((v) => v.recipe))
  const state = stateOfVersions(marks, own)
  if (state === 'same' || state === 'older' || (state === 'conflict' && !beside)) return null
  const name = state === 'conflict' ? besideName(brought.name, origin) : brought.name
  // It may have been taken beside the other one before.
  if (state === 'conflict' && (await isThere(name, marks, transaction))) return null
  const kept =
    state === 'newer' ? await grow(brought, transaction) : await create(brought, name, own !== null, transaction)
  for (const [i, { recipe, changes }] of brought.versions.entries())
    if (state !== 'newer' || i >= own!.length) await addVersion(kept, i + 1, recipe, changes, transaction)
  return kept
}

export const besideName = (name: string, origin: string): string => `${name.slice(0, 62)} (from ${origin})`

export const stateOf = async (brought: Pick<Brought, 'key' | 'versions'>): Promise<SharedState> =>
  stateOfVersions(marksOf(brought.versions.map((v) => v.recipe)), await marksOnShelf(brought.key))

async function isThere(name: string, marks: readonly string[], transaction: Transaction): Promise<boolean> {
  for (const { id } of await KeptRecipe.findAll({ where: { name }, attributes: ['id'], transaction }))
    if (stateOfVersions(marks, await marksOfRow(id, transaction)) === 'same') return true
  return false
}

function create(brought: Brought, name: string, known: boolean, transaction: Transaction): Promise<KeptRecipe> {
  const { key, sentence, maker, notes, tags, archived, versions } = brought
  const row = { key: known ? newId() : key, name, sentence, maker, notes, tags, archived, latest: versions.length }
  return KeptRecipe.create(row, { transaction })
}

async function grow({ key, versions }: Brought, transaction: Transaction): Promise<KeptRecipe> {
  const kept = (await KeptRecipe.findOne({ where: { key }, transaction, lock: true }))!
  return kept.update({ latest: versions.length, revision: kept.revision + 1 }, { transaction })
}
