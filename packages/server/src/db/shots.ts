import { readAs, type Reading } from '@fogbath/core/footage'
import { NO_MARKS } from '@fogbath/core/line'
import { QueryTypes, type Sequelize, type Transaction, type WhereOptions } from 'sequelize'
import { Fault } from '../errors'
import type { FootageHealth } from '../media/health'
import { Medium, Shot, Trial } from './models'

/** Shots with their medium, whether its file is here, and trials, in order. */
export async function wholeShots(where: WhereOptions<Shot['_attributes']>, health: FootageHealth) {
  const shots = await Shot.findAll({
    where,
    order: [
      ['position', 'ASC'],
      ['id', 'ASC'],
    ],
  })
  const trials = await Trial.findAll({ where: { shotId: shots.map((s) => s.id) }, order: [['id', 'ASC']] })
  return joined(shots, trials, health)
}

/** The first shots of each production, with nothing of their trials but the one that is chosen, and how many there are. */
export async function leadingShots(db: Sequelize, productions: readonly number[], most: number, health: FootageHealth) {
  if (productions.length === 0) return { shots: [], counts: new Map<number, number>() }
  const rows = await db.query<{ id: number; productionId: number; place: number; count: number }>(
    `SELECT id, productionId, place, count FROM (
       SELECT id, production_id AS productionId,
         ROW_NUMBER() OVER (PARTITION BY production_id ORDER BY position, id) AS place,
         COUNT(*) OVER (PARTITION BY production_id) AS count
       FROM shot WHERE production_id IN (?)) AS ranked WHERE place <= ?`,
    { type: QueryTypes.SELECT, replacements: [productions, most] },
  )
  const shots = await Shot.findAll({
    where: { id: rows.map((r) => r.id) },
    order: [
      ['position', 'ASC'],
      ['id', 'ASC'],
    ],
  })
  const trials = await Trial.findAll({ where: { id: shots.flatMap((s) => s.trialId ?? []) } })
  // COUNT() is a BIGINT, which comes back as text or as a large integer.
  return {
    shots: await joined(shots, trials, health),
    counts: new Map(rows.map((r) => [r.productionId, Number(r.count)])),
  }
}

/** A shot that nobody else changes until the transaction ends. */
export async function heldShot(id: number, transaction: Transaction): Promise<Shot> {
  const shot = await Shot.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE })
  if (!shot) throw new Fault('not-found', `There is no shot ${id}.`)
  return shot
}

async function joined(shots: readonly Shot[], trials: readonly Trial[], health: FootageHealth) {
  const media = await Medium.findAll({ where: { id: [...new Set(shots.map((s) => s.mediumId))] } })
  const known = media.map(async (m) => [m.id, { ...withoutProfile(m.toJSON()), state: await health.look(m) }] as const)
  const mediumById = new Map(await Promise.all(known))
  const trialsByShot = grouped(
    trials.map((t) => t.toJSON()),
    (t) => t.shotId,
  )
  return shots.map((shot) => ({
    ...shot.toJSON(),
    marks: shot.marks ?? NO_MARKS,
    tracks: [...(shot.tracks ?? [])],
    medium: asRead(mediumById.get(shot.mediumId)!, shot.reading),
    trials: trialsByShot.get(shot.id) ?? [],
  }))
}

/** The profile of a still has become an encoding of one's own, which is asked for by its id. */
function withoutProfile<M extends Pick<Medium, 'info'>>(medium: M): M {
  const { profile: _, ...info } = medium.info
  return { ...medium, info }
}

/** Footage as a shot or a render reads it. */
export const asRead = <M extends Pick<Medium, 'info'>>(medium: M, reading: Reading): M => ({
  ...medium,
  info: readAs(medium.info, reading),
})

/** Things by a number of theirs, in the order in which they come. */
export function grouped<T>(things: readonly T[], by: (thing: T) => number): Map<number, T[]> {
  const groups = new Map<number, T[]>()
  for (const thing of things) {
    const group = groups.get(by(thing))
    if (group) group.push(thing)
    else groups.set(by(thing), [thing])
  }
  return groups
}
