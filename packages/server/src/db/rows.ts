import { Op, type Model, type ModelStatic, type Transaction, type WhereOptions } from 'sequelize'
import { Fault } from '../errors'

/** A row by id, or a 404 that names it. */
export async function findRow<M extends Model>(
  model: ModelStatic<M>,
  id: number,
  what: string,
  transaction?: Transaction,
): Promise<M> {
  const row = await model.findByPk(id, transaction ? { transaction } : {})
  if (!row) throw new Fault('not-found', `There is no ${what} ${id}.`)
  return row
}

/** A page of rows, the newest first. @param before the id that the page before ended with @returns and whether older ones follow */
export async function newestFirst<M extends Model>(
  model: ModelStatic<M>,
  before: number | undefined,
  most: number,
): Promise<{ items: M[]; more: boolean }> {
  const where = (before ? { id: { [Op.lt]: before } } : {}) as WhereOptions<M['_attributes']>
  const found = await model.findAll({ where, order: [['id', 'DESC']], limit: most + 1 })
  return { items: found.slice(0, most), more: found.length > most }
}

/**
 * Changes a row only if it still has the revision that the writer saw; otherwise 409 with the row as it is now, so that
 * nothing is lost on either side.
 */
export async function updateRow<M extends Model & { revision: number }>(
  model: ModelStatic<M>,
  id: number,
  revision: number,
  changes: Partial<M['_attributes']>,
  what: string,
  transaction?: Transaction,
): Promise<M> {
  const options = transaction ? { transaction } : {}
  const where = { id, revision } as unknown as WhereOptions<M['_attributes']>
  const [count] = await model.update({ ...changes, revision: revision + 1 }, { where, ...options })
  const row = await findRow(model, id, what, transaction)
  if (count === 0) throw stale(row, revision, what)
  return row
}

export async function deleteRow<M extends Model & { revision: number }>(
  model: ModelStatic<M>,
  id: number,
  revision: number,
  what: string,
  transaction?: Transaction,
): Promise<void> {
  const row = await findRow(model, id, what, transaction)
  const where = { id, revision } as unknown as WhereOptions<M['_attributes']>
  const count = await model.destroy({ where, ...(transaction ? { transaction } : {}) })
  if (count === 0) throw stale(row, revision, what)
}

const stale = (row: Model & { revision: number }, revision: number, what: string): Fault =>
  new Fault(
    'stale',
    `The ${what} was changed elsewhere: you have revision ${revision}, it is now at ${row.revision}.`,
    { current: row.toJSON() },
  )
