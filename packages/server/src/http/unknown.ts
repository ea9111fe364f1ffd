import { ROUTES } from '@fogbath/contract'
import { Medium, Production } from '../db/models'
import { findRow } from '../db/rows'
import { smallPicture } from '../media/picture'
import type { App, Context } from './context'
import { downloadName } from './download'
import { serverOf } from './serve-route'
import { createShot } from '../shots/new-shot'

/** What was set aside because the database does not know it: looked at, fetched, taken in again, or removed by a person. */
export function unknownRoutes(app: App, { db, store, storage }: Context): void {
  const serve = serverOf(app)
  const asPicture = { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=31536000, immutable' }

  serve(ROUTES.unknown, () => storage.aside.list())

  serve(ROUTES.unknownPicture, async ({ params }, reply) => {
    const { source, name } = await storage.aside.sourceOf(params.key)
    return reply.headers(asPicture).send(await smallPicture(source, name))
  })

  serve(ROUTES.unknownFile, async ({ params }, reply) => {
    const { name, bytes, open } = await storage.aside.fetch(params.key)
    return reply
      .headers({
        'content-type': 'application/octet-stream',
        'content-length': bytes,
        'content-disposition': downloadName('footage', name),
      })
      .send(await open())
  })

  serve(ROUTES.takeUnknown, async ({ params, body }) => {
    const production = await findRow(Production, body.productionId, 'production')
    const { medium } = await storage.aside.take(params.key)
    const { id } = await createShot(db, production.id, medium)
    return { shotId: id }
  })

  serve(ROUTES.removeUnknown, ({ params }) => storage.aside.drop(params.key))

  /** Footage that the database knows, to know it again by. */
  serverOf(app)(ROUTES.mediumPicture, async ({ params }, reply) => {
    const medium = await findRow(Medium, params.id, 'medium')
    await store.checkHere(medium)
    return reply.headers(asPicture).send(await smallPicture(store.sourceOf(medium), medium.name))
  })
}
