import { ROUTES } from '@fogbath/contract'
import { Medium, Shot } from '../db/models'
import { findRow } from '../db/rows'
import { asRead } from '../db/shots'
import { Fault } from '../errors'
import type { App, Context } from './context'
import { serverOf } from './serve-route'

/** Shapes that are followed through a shot. */
export function trackingRoutes(app: App, { store, trackings }: Context): void {
  const serve = serverOf(app)

  serve(ROUTES.beginTracking, async ({ params, body: { id, part, frame, motions, way } }) => {
    const { first, last, mediumId, reading } = await findRow(Shot, params.id, 'shot')
    if (frame < first || frame > last)
      throw new Fault('invalid', `frame is ${frame}; it must lie in the shot, which shows frames ${first} to ${last}.`)
    const found = await findRow(Medium, mediumId, 'medium')
    await store.checkHere(found)
    const { info } = asRead(found.toJSON(), reading)
    const range = { first, last }
    return trackings.begin(id, { source: store.sourceOf(found), info, part, frame, motions, way, range })
  })

  serve(ROUTES.tracking, ({ params }) => trackings.of(params.key))

  serve(ROUTES.endTracking, ({ params }) => trackings.end(params.key))
}
