import { NO_MARKS } from '@fogbath/core'
import type { Sequelize } from 'sequelize'
import { Medium, Production, Shot, Trial } from '../db/models'
import { deleteRow, findRow, updateRow } from '../db/rows'
import { Fault } from '../errors'
import { copyProduction } from './copies'
import type { App, Context } from './context'
import { IdParams, NewProduction, Order, ProductionChange, RevisionQuery } from './schemas'

/** Productions, each with its shots in order. */
export function productionRoutes(app: App, { db }: Context): void {
  app.get('/api/productions', async () => {
    const productions = await Production.findAll({ order: [['id', 'DESC']] })
    const shots = grouped(await shotsOf(), (s) => s.productionId)
    return productions.map((p) => ({ ...p.toJSON(), shots: shots.get(p.id) ?? [] }))
  })

  app.post('/api/productions', { schema: { body: NewProduction } }, async (request, reply) =>
    reply.status(201).send(await Production.create(request.body)),
  )

  app.get('/api/productions/:id', { schema: { params: IdParams } }, async (request) => {
    const production = await findRow(Production, Number(request.params.id), 'production')
    return { ...production.toJSON(), shots: await shotsOf(production.id) }
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

/** Shots with their medium and trials, in order. */
export async function shotsOf(productionId?: number) {
  const shots = await Shot.findAll({
    where: productionId ? { productionId } : {},
    order: [
      ['position', 'ASC'],
      ['id', 'ASC'],
    ],
  })
  const media = await Medium.findAll({ where: { id: [...new Set(shots.map((s) => s.mediumId))] } })
  const trials = await Trial.findAll({ where: { shotId: shots.map((s) => s.id) }, order: [['id', 'ASC']] })
  const mediumById = new Map(media.map((m) => [m.id, m.toJSON()]))
  const trialsByShot = grouped(
    trials.map((t) => t.toJSON()),
    (t) => t.shotId,
  )
  return shots.map((shot) => ({
    ...shot.toJSON(),
    marks: shot.marks ?? NO_MARKS,
    medium: mediumById.get(shot.mediumId)!,
    trials: trialsByShot.get(shot.id) ?? [],
  }))
}

/** Things by a number of theirs, in the order in which they come. */
function grouped<T>(things: readonly T[], by: (thing: T) => number): Map<number, T[]> {
  const groups = new Map<number, T[]>()
  for (const thing of things) {
    const group = groups.get(by(thing))
    if (group) group.push(thing)
    else groups.set(by(thing), [thing])
  }
  return groups
}
