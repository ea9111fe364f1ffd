import { setTimeout as sleep } from 'node:timers/promises'
import { QueryTypes } from 'sequelize'
import { ROUTES } from '@fogbath/contract'
import type { App, Context } from './context'
import { serverOf } from './serve-route'

/** How long the database may take to answer, ms. */
const PATIENCE_MS = 2000

/** Whether everything that work needs is there: asked of the database and the queue, not of the server alone. */
export function healthRoutes(app: App, { db, queue }: Context): void {
  serverOf(app)(ROUTES.health, async (_request, reply) => {
    const asked = db.query('SELECT 1', { type: QueryTypes.SELECT }).then(
      () => true,
      () => false,
    )
    const database = await Promise.race([asked, sleep(PATIENCE_MS, false, { ref: false })])
    const rendering = queue.state()
    const ok = database && rendering !== 'waiting for the database'
    return reply.status(ok ? 200 : 503).send({ ok, database, rendering })
  })
}
