import { NO_TRIMS, SHIPPED_RECIPES, asNewLine, checkRecipe, type Recipe } from '@fogbath/core'
import type { Sequelize, Transaction } from 'sequelize'
import { Medium, Production, Shot, Trial } from '../db/models'
import { deleteRow, findRow, updateRow } from '../db/rows'
import { heldShot, wholeShots } from '../db/shots'
import { Fault } from '../errors'
import type { App, Context } from './context'
import { MOST_LINES_BODY } from './history'
import { IdParams, LinesChange, NewShot, NewTrial, RevisionQuery, ShotChange, TrialChange } from './schemas'

/** A shot of a medium at the end of a production, with a first trial that changes nothing but the print. */
export async function createShot(db: Sequelize, productionId: number, medium: Medium, name?: string): Promise<Shot> {
  return db.transaction(async (transaction) => {
    // Held until the shot is there, so that two that are made at once do not get one place.
    const production = await Production.findByPk(productionId, { transaction, lock: transaction.LOCK.UPDATE })
    if (!production) throw new Fault('not-found', `There is no production ${productionId}.`)
    const position = ((await Shot.max('position', { where: { productionId }, transaction })) as number | null) ?? -1
    const label = name ?? medium.name.replace(/\.[a-z0-9]{2,4}$/i, '').replace(/[._]+/g, ' ')
    const shot = await Shot.create(
      {
        ...{
          productionId,
          mediumId: medium.id,
          name: label.slice(0, 120),
          position: position + 1,
          first: 0,
          last: medium.info.frames - 1,
        },
        ...{ still: Math.floor(medium.info.frames / 2), encoding: medium.info.encoding, trims: NO_TRIMS },
      },
      { transaction },
    )
    const trial = await Trial.create(
      { shotId: shot.id, name: 'A', recipe: asNewLine(SHIPPED_RECIPES[0]!) },
      { transaction },
    )
    return shot.update({ trialId: trial.id }, { transaction })
  })
}

async function wholeShot(id: number) {
  const [shot] = await wholeShots({ id })
  if (!shot) throw new Fault('not-found', `There is no shot ${id}.`)
  return shot
}

/** In and out must lie in the footage, and the chosen trial must be the shot's own. */
async function checkShot(
  shot: Shot,
  change: { first?: number; last?: number; still?: number; trialId?: number },
  transaction: Transaction,
): Promise<void> {
  const medium = await findRow(Medium, shot.mediumId, 'medium', transaction)
  const { first = shot.first, last = shot.last, still = shot.still } = change
  const end = medium.info.frames - 1
  if (first > last || last > end)
    throw new Fault(
      'invalid',
      `The shot runs from frame ${first} to ${last}; it must lie within 0 to ${end} and not run backwards.`,
    )
  if (still > end) throw new Fault('invalid', `The still is frame ${still}; the footage ends at ${end}.`)
  if (change.trialId === undefined) return
  const trial = await findRow(Trial, change.trialId, 'trial', transaction)
  if (trial.shotId !== shot.id) throw new Fault('invalid', `Trial ${trial.id} belongs to another shot.`)
}

export function shotRoutes(app: App, { db }: Context): void {
  app.post('/api/productions/:id/shots', { schema: { params: IdParams, body: NewShot } }, async (request, reply) => {
    const production = await findRow(Production, Number(request.params.id), 'production')
    const medium = await findRow(Medium, request.body.mediumId, 'medium')
    const shot = await createShot(db, production.id, medium, request.body.name)
    return reply.status(201).send(await wholeShot(shot.id))
  })

  app.get('/api/shots/:id', { schema: { params: IdParams } }, (request) => wholeShot(Number(request.params.id)))

  app.patch('/api/shots/:id', { schema: { params: IdParams, body: ShotChange } }, async (request) => {
    const { revision, ...changes } = request.body
    const id = Number(request.params.id)
    await db.transaction(async (transaction) => {
      // Held until all is written: the trial that is chosen cannot be deleted meanwhile.
      const shot = await heldShot(id, transaction)
      await checkShot(shot, changes as Parameters<typeof checkShot>[1], transaction)
      await updateRow(Shot, id, revision, changes as Partial<Shot>, 'shot', transaction)
    })
    return wholeShot(id)
  })

  app.delete('/api/shots/:id', { schema: { params: IdParams, querystring: RevisionQuery } }, async (request, reply) => {
    await deleteRow(Shot, Number(request.params.id), Number(request.query.revision), 'shot')
    return reply.status(204).send()
  })

  app.post('/api/shots/:id/trials', { schema: { params: IdParams, body: NewTrial } }, async (request, reply) => {
    const shot = await findRow(Shot, Number(request.params.id), 'shot')
    const recipe = checkRecipe(request.body.recipe as unknown as Recipe)
    return reply.status(201).send(await Trial.create({ shotId: shot.id, name: request.body.name, recipe }))
  })

  app.patch('/api/trials/:id', { schema: { params: IdParams, body: TrialChange } }, async (request) => {
    const { revision, name, recipe } = request.body
    const changes = {
      ...(name === undefined ? {} : { name }),
      ...(recipe === undefined ? {} : { recipe: checkRecipe(recipe as unknown as Recipe) }),
    }
    return updateRow(Trial, Number(request.params.id), revision, changes, 'trial')
  })

  /** Lines of many shots, changed in one transaction: either all of them or, when one was changed elsewhere, none. */
  app.put('/api/lines', { schema: { body: LinesChange }, bodyLimit: MOST_LINES_BODY }, (request) => {
    const lines = request.body.lines.map((x) => ({ ...x, recipe: checkRecipe(x.recipe as unknown as Recipe) }))
    // In the order of their ids, so that two such writes never wait for each other.
    lines.sort((a, b) => a.trialId - b.trialId)
    return db.transaction(async (transaction) => {
      const saved: Trial[] = []
      for (const { trialId, revision, recipe } of lines)
        saved.push(await updateRow(Trial, trialId, revision, { recipe }, 'trial', transaction))
      return saved
    })
  })

  app.delete(
    '/api/trials/:id',
    { schema: { params: IdParams, querystring: RevisionQuery } },
    async (request, reply) => {
      const { shotId, id } = await findRow(Trial, Number(request.params.id), 'trial')
      await db.transaction(async (transaction) => {
        const shot = await heldShot(shotId, transaction)
        if ((await Trial.count({ where: { shotId }, transaction })) === 1)
          throw new Fault('invalid', 'A shot keeps at least one trial.')
        if (shot.trialId === id)
          throw new Fault('invalid', 'This trial is the shot’s current one; choose another first.')
        await deleteRow(Trial, id, Number(request.query.revision), 'trial', transaction)
      })
      return reply.status(204).send()
    },
  )
}
