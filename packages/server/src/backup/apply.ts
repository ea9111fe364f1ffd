import { createReadStream } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Step } from '@fogbath/core'
import type { Sequelize, Transaction } from 'sequelize'
import { Edit, Medium, Production, Proof, Shot, Trial } from '../db/models'
import { Fault } from '../errors'
import type { MediaStore } from '../media/store'
import { addFavourites, addMasks, addShelf } from './shelf'
import { mediumPaths, type Contents, type ContentsShot } from './contents'

/** What taking a backup in would do. */
export interface Preview {
  readonly productions: readonly {
    readonly name: string
    readonly shots: number
    readonly proofs: number
    readonly there: boolean
  }[]
  readonly media: { readonly here: number; readonly brought: number; readonly bytes: number }
  /** Footage that neither goes along nor is here; with any of it nothing can be taken in. */
  readonly missing: readonly string[]
}

export async function previewOf({ productions, media }: Contents): Promise<Preview> {
  const here = new Set(
    (await Medium.findAll({ attributes: ['sha256'], where: { sha256: media.map((m) => m.sha256) } })).map(
      (m) => m.sha256,
    ),
  )
  const names = new Set((await Production.findAll({ attributes: ['name'] })).map((p) => p.name))
  const fresh = media.filter((m) => !here.has(m.sha256))
  const brought = fresh.filter((m) => m.files > 0)
  return {
    productions: productions.map(({ name, shots }) => ({
      ...{ name, shots: shots.length, there: names.has(name) },
      proofs: shots.reduce((sum, s) => sum + s.proofs.length, 0),
    })),
    media: {
      here: media.length - fresh.length,
      brought: brought.length,
      bytes: brought.reduce((sum, m) => sum + m.size, 0),
    },
    missing: fresh.filter((m) => m.files === 0).map((m) => m.name),
  }
}

/**
 * Takes in what was read: footage first, under its hash as always, then all rows in one transaction. What is here already
 * is never changed: productions come beside those of the same name.
 * @param folder where the backup was unpacked
 * @returns ids of the new productions
 */
export async function applyBackup(
  contents: Contents,
  folder: string,
  db: Sequelize,
  store: MediaStore,
): Promise<number[]> {
  const { missing } = await previewOf(contents)
  if (missing.length > 0)
    throw new Fault(
      'invalid',
      `The backup has no footage of its own, and this is not here: ${missing.slice(0, 5).join(', ')}${missing.length > 5 ? ` and ${missing.length - 5} more` : ''}. Take it in first, or make the backup with its footage.`,
    )
  const media = new Map<string, number>()
  for (const medium of contents.media) media.set(medium.sha256, (await takeIn(medium, folder, store)).id)
  return db.transaction(async (transaction) => {
    const made: number[] = []
    const trials = new Map<number, number>()
    const edits: { readonly shotId: number; readonly shot: ContentsShot }[] = []
    for (const { name, notes, shots } of contents.productions) {
      const production = await Production.create({ name, notes }, { transaction })
      made.push(production.id)
      for (const [position, shot] of shots.entries()) {
        const mediumId = media.get(shot.medium)!
        const shotId = await addShot(
          shot,
          { productionId: production.id, mediumId, position },
          folder,
          trials,
          transaction,
        )
        edits.push({ shotId, shot })
      }
    }
    // Steps of undo may name trials of other shots, so they come when all of those have their numbers.
    for (const { shotId, shot } of edits) await addEdits(shotId, shot, trials, transaction)
    await addShelf(contents.shelf ?? [], transaction)
    await addMasks(contents.masks ?? [], transaction)
    await addFavourites(contents.favourites ?? [], transaction)
    return made
  })
}

async function takeIn(medium: Contents['media'][number], folder: string, store: MediaStore): Promise<Medium> {
  const known = await Medium.findOne({ where: { sha256: medium.sha256 } })
  if (known) return known
  const files = mediumPaths(medium).map((path) => join(folder, path))
  return medium.sequence
    ? store.takeSequence(files, medium.name, medium.info.fps)
    : store.take(createReadStream(files[0]!), medium.name)
}

async function addShot(
  shot: ContentsShot,
  place: { readonly productionId: number; readonly mediumId: number; readonly position: number },
  folder: string,
  trials: Map<number, number>,
  transaction: Transaction,
): Promise<number> {
  const { name, first, last, still, encoding, trims, marks } = shot
  const row = await Shot.create({ ...place, name, first, last, still, encoding, trims, marks }, { transaction })
  for (const { ref, name: own, recipe } of shot.trials)
    trials.set(ref, (await Trial.create({ shotId: row.id, name: own, recipe }, { transaction })).id)
  if (shot.chosen !== null) await row.update({ trialId: trials.get(shot.chosen)! }, { transaction })
  for (const { picture, ...proof } of shot.proofs)
    await Proof.create({ ...proof, shotId: row.id, picture: await readFile(join(folder, picture)) }, { transaction })
  return row.id
}

async function addEdits(
  shotId: number,
  { edits }: ContentsShot,
  trials: ReadonlyMap<number, number>,
  transaction: Transaction,
): Promise<void> {
  const rows = edits.flatMap(({ stack, kept: { key, step } }, i) => {
    const own = renumbered(step, trials)
    return own ? [{ shotId, stack, key, position: i + 1, step: own }] : []
  })
  await Edit.bulkCreate(rows, { transaction })
}

/** A step whose trials have the numbers that they have here; null when none of them came along. */
function renumbered(step: Step, trials: ReadonlyMap<number, number>): Step | null {
  if (step.kind === 'trims') return step
  if (step.kind === 'recipe') {
    const trialId = trials.get(step.trialId)
    return trialId === undefined ? null : { ...step, trialId }
  }
  const known = step.trials.filter((t) => trials.has(t.trialId))
  return known.length === 0 ? null : { ...step, trials: known.map((t) => ({ ...t, trialId: trials.get(t.trialId)! })) }
}
