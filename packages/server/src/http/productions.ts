import type { Sequelize } from 'sequelize'
import { Production, Shot } from '../db/models'
import { deleteRow, findRow, newestFirst, updateRow } from '../db/rows'
import { grouped, leadingShots, wholeShots } from '../db/shots'
import { Fault } from '../errors'
import { copyProduction } from './copies'
import { ROUTES } from '@fogbath/contract'
import type { App, Context } from './context'
import { serverOf } from './serve-route'

/** Productions on one page of the list, and shots of each that are shown there. */
const PAGE = 15
const MOST_LEADING = 10

/** Productions, each with its shots in order. */
export function productionRoutes(app: App, { db, store }: Context): void {
  const serve = serverOf(app)
  serve(ROUTES.productions, async ({ query }) => {
    const { items, more } = await newestFirst(Production, query.before, PAGE)
    const { shots, counts } = await leadingShots(
      db,
      items.map((p) => p.id),
      MOST_LEADING,
      store.health,
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

  serve(ROUTES.createProduction, ({ body: { name, notes = '' } }) => Production.create({ name, notes }))

  serve(ROUTES.production, async ({ params }) => {
    const production = await findRow(Production, params.id, 'production')
    return { ...production.toJSON(), shots: await wholeShots({ productionId: production.id }, store.health) }
  })

  serve(ROUTES.changeProduction, ({ params, body: { revision, ...changes } }) =>
    updateRow(Production, params.id, revision, changes, 'production'),
  )

  serve(ROUTES.orderShots, ({ params, body }) => order(db, params.id, body.shots))

  serve(ROUTES.copyProduction, async ({ params }) =>
    copyProduction(db, await findRow(Production, params.id, 'production')),
  )

  serve(ROUTES.deleteProduction, ({ params, query }) => deleteRow(Production, params.id, query.revision, 'production'))
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
