import { writeFile, mkdir } from 'node:fs/promises'
import { join } from 'node:path'
import { Transaction, type Sequelize } from 'sequelize'
import { Proof } from '../db/models'
import { Fault } from '../errors'
import { fullDisk } from '../files/writing'
import type { MediaStore } from '../media/store'
import { collect } from './collect'
import type { Contents } from './contents'

/** What a backup holds as of one moment, beside the footage, which never changes. */
export interface Snapshot {
  readonly contents: Contents
  /** Pictures of proofs, in the order of their names in the archive. */
  readonly pictures: readonly string[]
  /** Names of footage that cannot go along, because it is missing or damaged. */
  readonly missing: readonly string[]
}

export interface SnapshotOptions {
  readonly db: Sequelize
  readonly store: MediaStore
  /** One production, or all of them. */
  readonly production: number | null
  /** Whether the footage goes along. */
  readonly media: boolean
}

/**
 * Reads it in one transaction, so that it is as of one moment whatever is changed meanwhile, and lets the database go: how
 * long the archive then takes to be fetched is no matter of hers.
 * @param folder where pictures are put
 */
export async function takeSnapshot(
  { db, store, production, media }: SnapshotOptions,
  folder: string,
): Promise<Snapshot> {
  const transaction = await db.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ })
  try {
    const { contents, proofs } = await collect(transaction, production, media)
    await mkdir(join(folder, 'proofs'), { recursive: true })
    const pictures: string[] = []
    for (const [i, id] of proofs.entries()) {
      const path = join(folder, 'proofs', `${i}.png`)
      await writeFile(path, await pictureOf(id, transaction))
      pictures.push(path)
    }
    return { contents, pictures, missing: await leaveOutLost(contents, store) }
  } catch (error) {
    throw fullDisk(error, 'what the backup holds') ?? error
  } finally {
    // It only reads; where the database has gone meanwhile there is nothing to take back either.
    await transaction.rollback().catch(() => undefined)
  }
}

async function pictureOf(id: number, transaction: Transaction): Promise<Buffer> {
  const proof = await Proof.findByPk(id, { attributes: ['picture'], transaction })
  if (!proof) throw new Fault('not-found', `There is no proof ${id}.`)
  return proof.picture
}

/** Footage that should go along and is not here, as far as that can be told without reading it. */
async function leaveOutLost(contents: Contents, store: MediaStore): Promise<string[]> {
  const missing: string[] = []
  for (const medium of contents.media) {
    if (medium.files === 0 || (await store.health.look(medium)) === 'here') continue
    missing.push(medium.name)
    medium.files = 0
  }
  return missing
}
