import { plainCut } from '@fogbath/core/edits'
import type { Sequelize } from 'sequelize'
import { Shot } from '../db/models'
import { updateRow } from '../db/rows'
import { heldShot } from '../db/shots'
import { Fault } from '../errors'
import { copyShot, heldProduction, stillWithin } from '../shots/new-shot'
import { shotsInOrder } from './plan'

/**
 * Makes a shot several, one behind the other. @param starts frames at which the others begin
 * @returns ids of all of them in order
 */
export function splitShot(db: Sequelize, id: number, revision: number, starts: readonly number[]): Promise<number[]> {
  return db.transaction(async (transaction) => {
    const { productionId } = await heldShot(id, transaction)
    await heldProduction(productionId, transaction)
    const shot = await heldShot(id, transaction)
    const wrong = starts.find((start, i) => start <= (starts[i - 1] ?? shot.first) || start > shot.last)
    if (wrong !== undefined)
      throw new Fault(
        'invalid',
        `A shot cannot begin at frame ${wrong}; each must begin behind the one before, within ${shot.first + 1} to ${shot.last}.`,
      )
    const ranges = [shot.first, ...starts].map((first, i) => ({ first, last: (starts[i] ?? shot.last + 1) - 1 }))
    const valuesOf = (range: { first: number; last: number }) => ({
      ...range,
      still: stillWithin(shot.still, range),
      cut: shot.cut && plainCut(range),
    })
    const order = (await shotsInOrder(productionId, transaction)).map((s) => s.id)
    const made = [id]
    for (const [i, range] of ranges.entries()) {
      if (i === 0) continue
      const name = numbered(shot.name, i + 1)
      made.push((await copyShot(shot, { ...valuesOf(range), name }, transaction)).id)
    }
    const first = { ...valuesOf(ranges[0]!), name: numbered(shot.name, 1) }
    await updateRow(Shot, id, revision, first, 'shot', transaction)
    order.splice(order.indexOf(id), 1, ...made)
    for (const [position, one] of order.entries())
      await Shot.update({ position }, { where: { id: one }, transaction, silent: true })
    return made
  })
}

/** Longest name that leaves room for a number. */
const ROOM = 110
const numbered = (name: string, n: number): string => `${name.slice(0, ROOM)} ${String(n).padStart(2, '0')}`
