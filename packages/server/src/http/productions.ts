import type { Sequelize } from 'sequelize'
import { Production, Shot } from '../db/models'
import { deleteRow, findRow, newestFirst, updateRow } from '../db/rows'
import { grouped, leadingShots, wholeShots } from '../db/shots'
import { Fault } from '../errors'
import { copyProduction } from './copies'
import type { App, Context } from './context'
import { IdParams, NewProduction, Order, PageQuery, ProductionChange, RevisionQuery } from './schemas'

/** Productions on one page of the list, and shots of each that are shown there. */
const PAGE = 15
const MOST_LEADING = 10

/** Productions, each with its shots in order. */
export function productionRoutes(app: App, { db }: Context): void {
  /** A page of productions, newest first, each with its first shots. */
  app.get('/api/productions', { schema: { querystring: PageQuery } }, async (request) => {
    const { items, more } = await newestFirst(Production, request.query.before, PAGE)
    const { shots, counts } = await leadingShots(
      db,
      items.map((p) => p.id),
      MOST_LEADING,
    )
    const byProduction = grouped(shots, (s) => s.productionId)
    return {
      more,
      items: items.map((p) => ({
        ...p.toJSON(),
        shots: byProduction.get(p.id) ?? [],
        shotCount: counts.get(p.id) ?? 0,
      })),
    }
  })

  app.post('/api/productions', { schema: { body: NewProduction } }, async (request, reply) =>
    reply.status(201).send(await Production.create(request.body)),
  )

  app.get('/api/productions/:id', { schema: { params: IdParams } }, async (request) => {
    const production = await findRow(Production, Number(request.params.id), 'production')
    return { ...production.toJSON(), shots: await wholeShots({ productionId: production.id }) }
  })

  app.patch('/api/productions/:id', { schema: { params: IdParams, body: ProductionChange } }, async (request) => {
    const { revision, ...changes } = request.body
    return updateRow(Production, Number(request.params.id), revision, changes, 'production')
  })

  app.put('/api/productions/:id/order', { schema: { params: IdParams, body: Order } }, async (request, reply) => {
    await order(db, Number(request.params.id), request.body.shots)
    return reply.status(204).send()
  })

  app.post('/api/productions/:id/copy', { schema: { params: IdParams } }, async (request, reply) => {
    const production = await findRow(Production, Number(request.params.id), 'production')
    return reply.status(201).send(await copyProduction(db, production))
  })

  app.delete(
    '/api/productions/:id',
    { schema: { params: IdParams, querystring: RevisionQuery } },
    async (request, reply) => {
      await deleteRow(Production, Number(request.params.id), Number(request.query.revision), 'production')
      return reply.status(204).send()
    },
  )
}

/** Gives the shots of a production a new order, all at once. The shots themselves are not changed: no revision moves. */
function order(db: Sequelize, productionId: number, wanted: readonly number[]): Promise<void> {
  return db.transaction(async (transaction) => {
    await findRow(Production, productionId, 'production', transaction)
    const shots = await Shot.findAll({ where: { productionId }, transaction, lock: transaction.LOCK.UPDATE })
    const ids = new Set(shots.map((shot) => shot.id))
    const strangers = wanted.filter((id) => !ids.has(id))
    const missing = [...ids].filter((id) => !wanted.includes(id))
    if (strangers.length + missing.length > 0)
      throw new Fault(
        'stale',
        `The order names ${wanted.length} shots; the production has ${ids.size} by now. Load it again, then reorder.`,
        { strangers, missing },
      )
    for (const shot of shots) await shot.update({ position: wanted.indexOf(shot.id) }, { transaction })
  })
}
