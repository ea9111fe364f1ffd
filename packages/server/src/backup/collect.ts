import type { KeptStep } from '@fogbath/core/line'
import type { Transaction } from 'sequelize'
import { Edit, KeptList, Medium, OwnEncoding, Production, Proof, Shot, Trial } from '../db/models'
import { Fault } from '../errors'
import { ownAmong } from '../shelf/encodings'
import type { Contents, ContentsShot } from './contents'
import { collectFavourites, collectMasks, collectShelf } from './shelf'

export interface Collected {
  readonly contents: Contents
  /** Ids of proofs, in the order of their pictures in the archive. */
  readonly proofs: readonly number[]
}

/**
 * What the database holds at the moment of a transaction.
 * @param only one production, or null for all of them
 * @param withMedia whether the footage goes along
 */
export async function collect(transaction: Transaction, only: number | null, withMedia: boolean): Promise<Collected> {
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
    const list = await KeptList.findByPk(id, { attributes: ['name', 'fps', 'content'], transaction })
    made.push({ name, notes, ...(list && { list: list.toJSON() }), shots: written })
  }
  const media = await Medium.findAll({ where: { id: [...used] }, order: [['id', 'ASC']], transaction })
  const taken = made.flatMap(({ shots }) => shots.flatMap((s) => [s.encoding, ...s.proofs.map((p) => p.encoding)]))
  const encodings = await ownAmong(only === null ? await allOwn(transaction) : taken, transaction)
  const contents: Contents = {
    productions: made,
    media: media.map(({ sha256, name, size, sequence, info }) => ({
      sha256,
      name,
      size,
      sequence,
      info,
      files: withMedia ? (sequence ? info.frames : 1) : 0,
    })),
    // A backup without any is read by earlier versions, too.
    ...(encodings.length > 0 && { encodings: encodings.map((e) => ({ ...e, ops: [...e.ops] })) }),
    ...(only === null && {
      shelf: await collectShelf(transaction),
      masks: await collectMasks(transaction),
      favourites: await collectFavourites(transaction),
    }),
  }
  return { contents, proofs }
}

const allOwn = async (transaction: Transaction): Promise<string[]> =>
  (await OwnEncoding.findAll({ attributes: ['id'], transaction })).map((row) => row.id)

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
  const { name, first, last, still, encoding, reading, preparation, marks, cut, tracks } = shot
  return {
    name,
    medium,
    first,
    last,
    still,
    encoding,
    reading,
    preparation,
    marks,
    ...(cut && { cut }),
    ...(tracks && { tracks: [...tracks] }),
    chosen: shot.trialId,
    trials: trials.map((t) => ({ ref: t.id, name: t.name, recipe: t.recipe, after: t.after })),
    edits: edits.map(({ stack, key, step }) => ({ stack, kept: { key, step } satisfies KeptStep })),
    proofs: kept.map((p) => {
      const picture = `proofs/${proofs.push(p.id) - 1}.png`
      const { name: own, frame, width, height, encoding: seenIn, recipe } = p
      const line = { recipe, preparation: p.preparation, after: p.after }
      return { name: own, frame, width, height, encoding: seenIn, ...line, picture }
    }),
  }
}
