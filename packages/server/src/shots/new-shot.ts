import type { Cut } from '@fogbath/core/edits'
import { MOST_LETTERS, asNewLine, type Bath } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import type { InferCreationAttributes, Sequelize, Transaction } from 'sequelize'
import { Medium, Production, Shot, Trial } from '../db/models'
import { Fault } from '../errors'
import { keepNew } from '../shelf/encodings'

/** What is said of a shot that is made; what is not is as its footage has it. */
export type ShotStart = Partial<
  Pick<Shot, 'name' | 'first' | 'last' | 'encoding' | 'reading'> & {
    readonly preparation: readonly Bath[]
    readonly cut: Cut | null
  }
>

/** A production that nobody else changes until the transaction ends. */
export async function heldProduction(id: number, transaction: Transaction): Promise<Production> {
  const production = await Production.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE })
  if (!production) throw new Fault('not-found', `There is no production ${id}.`)
  return production
}

/** A shot of a medium at the end of a production, with a first trial that changes nothing but the print. */
export const createShot = (db: Sequelize, productionId: number, medium: Medium, start: ShotStart = {}): Promise<Shot> =>
  db.transaction(async (transaction) => {
    // Held until the shot is there, so that two that are made at once do not get one place.
    await heldProduction(productionId, transaction)
    return addShot(productionId, medium, start, transaction)
  })

/** The same within a transaction that holds the production. */
export async function addShot(
  productionId: number,
  medium: Medium,
  start: ShotStart,
  transaction: Transaction,
): Promise<Shot> {
  if (medium.info.profile) await keepNew(medium.info.profile, transaction)
  const last = await Shot.max<number | null, Shot>('position', { where: { productionId }, transaction })
  const label = medium.name.replace(/\.[a-z0-9]{2,4}$/i, '').replace(/[._]+/g, ' ')
  const range = { first: start.first ?? 0, last: start.last ?? medium.info.frames - 1 }
  const shot = await Shot.create(
    {
      productionId,
      mediumId: medium.id,
      position: (last ?? -1) + 1,
      still: middleOf(range),
      encoding: medium.info.encoding,
      preparation: [],
      ...start,
      ...range,
      name: (start.name ?? label).slice(0, MOST_LETTERS.shot),
    },
    { transaction },
  )
  const trial = await Trial.create(
    { shotId: shot.id, name: 'A', recipe: asNewLine(SHIPPED_RECIPES[0]!) },
    { transaction },
  )
  return shot.update({ trialId: trial.id }, { transaction })
}

const middleOf = ({ first, last }: { first: number; last: number }): number => Math.ceil((first + last) / 2)

/** A shot with its trials once more; its steps of undo and its proofs are not copied. */
export async function copyShot(
  shot: Shot,
  values: Partial<InferCreationAttributes<Shot>>,
  transaction: Transaction,
): Promise<Shot> {
  const { id: _, revision: __, createdAt: ___, updatedAt: ____, ...own } = shot.toJSON()
  const twin = await Shot.create({ ...own, ...values, trialId: null }, { transaction })
  for (const trial of await Trial.findAll({ where: { shotId: shot.id }, order: [['id', 'ASC']], transaction })) {
    const { name, recipe, after } = trial
    const made = await Trial.create({ shotId: twin.id, name, recipe, after }, { transaction })
    if (trial.id === shot.trialId) await twin.update({ trialId: made.id }, { transaction })
  }
  return twin
}

/** The still of a shot that shows other frames: where it was, if that is still seen. */
export const stillWithin = (still: number, range: { first: number; last: number }): number =>
  still >= range.first && still <= range.last ? still : middleOf(range)
