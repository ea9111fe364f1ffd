import { join } from 'node:path'
import type { Step } from '@fogbath/core/line'
import type { Sequelize, Transaction } from 'sequelize'
import { Edit, KeptList, Medium, Production, Proof, Restored, Shot, Trial } from '../db/models'
import { Fault } from '../errors'
import { readOwn } from '../files/own'
import { checkFrames } from '../limits'
import type { MediaStore } from '../media/store'
import { addEncodings, addFavourites, addMasks, addShelf } from './shelf'
import type { ContentsMedium, ContentsShot } from './contents'
import { missingOf } from './preview'
import { readProduction, readRest, type Proved } from './unpacked'

export interface Apply {
  readonly proved: Proved
  /** Where the backup lies, unpacked. */
  readonly folder: string
  readonly db: Sequelize
  readonly store: MediaStore
  /** Whether shots may wait for footage that neither came along nor is here. */
  readonly waiting: boolean
}

/**
 * Takes in what was proved: footage first, under its hash as always, then all rows in one transaction. What is here already
 * is never changed: productions come beside those of the same name.
 * @returns ids of the new productions
 */
export async function applyBackup({ proved, folder, db, store, waiting }: Apply): Promise<number[]> {
  const { media, shelf, masks, encodings, favourites } = await readRest(folder)
  const missing = await missingOf(media, store)
  if (missing.length > 0 && !waiting)
    throw new Fault(
      'invalid',
      `The backup has no footage of its own, and this is not here: ${missing.slice(0, 5).join(', ')}${missing.length > 5 ? ` and ${missing.length - 5} more` : ''}. Take it in first, make the backup with its footage, or let its shots wait for it.`,
    )
  const rows = new Map<string, Medium>()
  for (const medium of media) rows.set(medium.sha256, await takeIn(medium, folder, store))
  return db.transaction(async (transaction) => {
    await addEncodings(encodings, transaction)
    const made: number[] = []
    const trials = new Map<number, number>()
    const edits: { readonly shotId: number; readonly steps: ContentsShot['edits'] }[] = []
    for (const i of proved.productions.keys()) {
      const { name, notes, list, shots } = await readProduction(folder, i)
      const production = await Production.create({ name, notes }, { transaction })
      if (list) await KeptList.create({ ...list, productionId: production.id }, { transaction })
      made.push(production.id)
      let position = 0
      for await (const shot of shots) {
        const medium = rows.get(shot.medium)!
        // The file here may be of another length than the backup says.
        checkFrames(shot, medium.info)
        const place = { productionId: production.id, mediumId: medium.id, position: position++ }
        edits.push({ shotId: await addShot(shot, place, folder, trials, transaction), steps: shot.edits })
      }
    }
    // Steps of undo may name trials of other shots, so they come when all of those have their numbers.
    for (const { shotId, steps } of edits) await addEdits(shotId, steps, trials, transaction)
    await addShelf(shelf, transaction)
    await addMasks(masks, transaction)
    await addFavourites(favourites, transaction)
    await Restored.destroy({ where: { archive: proved.archive }, transaction })
    await Restored.create({ archive: proved.archive, productions: made }, { transaction })
    return made
  })
}

/** Footage that came along is moved in; what waits for its footage gets a row of what is known of it. */
async function takeIn(medium: ContentsMedium, folder: string, store: MediaStore): Promise<Medium> {
  const { sha256, name, size, sequence, info, files } = medium
  if (files > 0)
    return (await store.adopt(join(folder, 'media', sha256), { sha256, name, size, sequence, info })).medium
  const [row] = await Medium.findOrCreate({ where: { sha256 }, defaults: { sha256, name, size, sequence, info } })
  return row
}

async function addShot(
  shot: ContentsShot,
  place: { readonly productionId: number; readonly mediumId: number; readonly position: number },
  folder: string,
  trials: Map<number, number>,
  transaction: Transaction,
): Promise<number> {
  const { name, first, last, still, encoding, reading = {}, preparation, marks, cut = null, tracks = null } = shot
  const own = { name, first, last, still, encoding, reading, preparation, marks, cut, tracks }
  const row = await Shot.create({ ...place, ...own }, { transaction })
  for (const { ref, name: own, recipe, after } of shot.trials)
    trials.set(ref, (await Trial.create({ shotId: row.id, name: own, recipe, after }, { transaction })).id)
  await row.update({ trialId: trials.get(shot.chosen ?? shot.trials[0]!.ref)! }, { transaction })
  for (const { picture, ...proof } of shot.proofs)
    await Proof.create({ ...proof, shotId: row.id, picture: await readOwn(join(folder, picture)) }, { transaction })
  return row.id
}

async function addEdits(
  shotId: number,
  steps: ContentsShot['edits'],
  trials: ReadonlyMap<number, number>,
  transaction: Transaction,
): Promise<void> {
  const rows = steps.flatMap(({ stack, kept: { key, step } }, i) => {
    const own = renumbered(step, trials)
    return own ? [{ shotId, stack, key, position: i + 1, step: own }] : []
  })
  await Edit.bulkCreate(rows, { transaction })
}

/** A step whose trials have the numbers that they have here; null when none of them came along. */
function renumbered(step: Step, trials: ReadonlyMap<number, number>): Step | null {
  if (step.kind === 'parts') {
    if (step.trialId === null) return step
    const trialId = trials.get(step.trialId)
    return trialId === undefined ? null : { ...step, trialId }
  }
  const known = step.trials.filter((t) => trials.has(t.trialId))
  return known.length === 0 ? null : { ...step, trials: known.map((t) => ({ ...t, trialId: trials.get(t.trialId)! })) }
}
