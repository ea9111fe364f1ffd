import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { dirname, join } from 'node:path'
import { Readable, Transform } from 'node:stream'
import type { KeptStep } from '@fogbath/core'
import { Transaction, type Sequelize } from 'sequelize'
import yazl from 'yazl'
import { Edit, Medium, Production, Proof, Shot, Trial } from '../db/models'
import { Fault } from '../errors'
import type { MediaStore } from '../media/store'
import { collectFavourites, collectMasks, collectShelf } from './shelf'
import { FORMAT, VERSION, mediumPaths, type Contents, type ContentsShot, type Manifest } from './contents'

export interface BackupOptions {
  readonly db: Sequelize
  readonly store: MediaStore
  /** One production, or all of them. */
  readonly production: number | null
  /** Whether the footage goes along. */
  readonly media: boolean
}

/**
 * Writes a backup as a stream. All of it is read in one transaction, so that it is as of one moment, whatever is changed
 * meanwhile.
 */
export async function writeBackup({ db, store, production, media }: BackupOptions): Promise<NodeJS.ReadableStream> {
  const transaction = await db.transaction({ isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ })
  try {
    const { contents, proofs } = await collect(transaction, production, media)
    const archive = new Archive()
    archive.add('contents.json', async () => Readable.from([JSON.stringify(contents)]), true)
    proofs.forEach((id, i) =>
      archive.add(`proofs/${i}.png`, async () => Readable.from([await pictureOf(id, transaction)])),
    )
    for (const medium of contents.media) {
      const source = store.sourceOf({ ...medium, info: medium.info })
      const fileOf = (path: string): string =>
        source.type === 'file' ? source.path : join(dirname(source.pattern), path.slice(path.lastIndexOf('/') + 1))
      for (const path of mediumPaths(medium)) archive.add(path, async () => createReadStream(fileOf(path)))
    }
    const stream = archive.end()
    let open = true
    const finish = (): void => {
      if (open) void transaction.rollback().catch(() => undefined)
      open = false
    }
    stream.once('end', finish).once('close', finish).once('error', finish)
    return stream
  } catch (error) {
    await transaction.rollback()
    throw error
  }
}

async function pictureOf(id: number, transaction: Transaction): Promise<Buffer> {
  const proof = await Proof.findByPk(id, { attributes: ['picture'], transaction })
  if (!proof) throw new Fault('not-found', `There is no proof ${id}.`)
  return proof.picture
}

/** What the database holds, and the proofs whose pictures follow in that order. */
async function collect(transaction: Transaction, only: number | null, withMedia: boolean) {
  const productions = await Production.findAll({ where: only ? { id: only } : {}, order: [['id', 'ASC']], transaction })
  if (only && productions.length === 0) throw new Fault('not-found', `There is no production ${only}.`)
  const proofs: number[] = []
  const used = new Set<number>()
  const made: Contents['productions'] = []
  for (const { id, name, notes } of productions) {
    const order: [string, string][] = [
      ['position', 'ASC'],
      ['id', 'ASC'],
    ]
    const shots = await Shot.findAll({ where: { productionId: id }, order, transaction })
    shots.forEach((shot) => used.add(shot.mediumId))
    const hashes = await hashesOf(shots, transaction)
    const written: ContentsShot[] = []
    for (const shot of shots) written.push(await collectShot(shot, hashes.get(shot.mediumId)!, proofs, transaction))
    made.push({ name, notes, shots: written })
  }
  const media = await Medium.findAll({ where: { id: [...used] }, order: [['id', 'ASC']], transaction })
  const contents: Contents = {
    productions: made,
    media: media.map(({ sha256, name, size, sequence, info }) => ({
      ...{ sha256, name, size: Number(size), sequence, info },
      files: withMedia ? (sequence ? info.frames : 1) : 0,
    })),
    ...(only === null && {
      shelf: await collectShelf(transaction),
      masks: await collectMasks(transaction),
      favourites: await collectFavourites(transaction),
    }),
  }
  return { contents, proofs }
}

async function hashesOf(shots: readonly Shot[], transaction: Transaction): Promise<Map<number, string>> {
  const ids = [...new Set(shots.map((s) => s.mediumId))]
  const media = await Medium.findAll({ where: { id: ids }, attributes: ['id', 'sha256'], transaction })
  return new Map(media.map((m) => [m.id, m.sha256]))
}

async function collectShot(
  shot: Shot,
  medium: string,
  proofs: number[],
  transaction: Transaction,
): Promise<ContentsShot> {
  const of = { where: { shotId: shot.id }, transaction }
  const trials = await Trial.findAll({ ...of, order: [['id', 'ASC']] })
  const edits = await Edit.findAll({ ...of, order: [['position', 'ASC']] })
  const kept = await Proof.findAll({ ...of, order: [['id', 'ASC']], attributes: { exclude: ['picture'] } })
  const { name, first, last, still, encoding, trims, marks } = shot
  return {
    ...{ name, medium, first, last, still, encoding, trims, marks, chosen: shot.trialId },
    trials: trials.map((t) => ({ ref: t.id, name: t.name, recipe: t.recipe })),
    edits: edits.map(({ stack, key, step }) => ({ stack, kept: { key, step } satisfies KeptStep })),
    proofs: kept.map((p) => {
      const picture = `proofs/${proofs.push(p.id) - 1}.png`
      const { width, height, recipe } = p
      return { name: p.name, frame: p.frame, width, height, encoding: p.encoding, recipe, trims: p.trims, picture }
    }),
  }
}

/** A ZIP archive whose entries are read one after the other as it is sent; the last one tells the hashes of the others. */
class Archive {
  private readonly zip = new yazl.ZipFile()
  private readonly entries: Manifest['entries'] = []

  add(path: string, open: () => Promise<Readable>, compress = false): void {
    this.zip.addReadStreamLazy(path, { compress }, (done) => {
      open().then(
        (source) => done(null, this.measured(path, source)),
        (error: Error) => done(error, undefined as never),
      )
    })
  }

  private measured(path: string, source: Readable): Readable {
    const hash = createHash('sha256')
    let size = 0
    const { entries } = this
    const measure = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        hash.update(chunk)
        size += chunk.length
        done(null, chunk)
      },
      flush(done) {
        entries.push({ path, sha256: hash.digest('hex'), size })
        done()
      },
    })
    source.once('error', (error) => measure.destroy(error))
    return source.pipe(measure)
  }

  end(): NodeJS.ReadableStream {
    this.zip.addReadStreamLazy('manifest.json', { compress: true }, (done) => {
      const { entries } = this
      const manifest: Manifest = { format: FORMAT, version: VERSION, madeAt: new Date().toISOString(), entries }
      done(null, Readable.from([JSON.stringify(manifest)]))
    })
    this.zip.once('error', (error: Error) => (this.zip.outputStream as Transform).destroy(error))
    this.zip.end()
    return this.zip.outputStream
  }
}
