import { ROUTES } from '@fogbath/contract'
import type { FastifyReply } from 'fastify'
import { Fault } from '../errors'
import type { App, Context } from './context'
import { serverOf } from './serve-route'
import { uploadsOf } from './uploads'

/** Backups out and in: all productions, or one that is taken along; what comes in is looked at before it is taken in. */
export function backupRoutes(app: App, { backups, imports }: Context): void {
  const today = (): string => new Date().toISOString().slice(0, 10)
  const send = async (reply: FastifyReply, name: string, production: number | null, media: boolean) => {
    const { stream, missing } = await backups.write(production, media)
    return reply
      .headers({
        'content-type': 'application/zip',
        'cache-control': 'no-store',
        'content-disposition': `attachment; filename="${name}.zip"`,
        // Names are text of any kind, and headers are not.
        ...(missing.length ? { 'x-missing-footage': encodeURIComponent(JSON.stringify(missing)) } : {}),
      })
      .send(stream)
  }

  const serve = serverOf(app)
  serve(ROUTES.backup, ({ query }, reply) => send(reply, `fogbath-${today()}`, null, query.media !== '0'))

  serve(ROUTES.takeAlong, ({ params: { id }, query }, reply) =>
    send(reply, `fogbath-production-${id}-${today()}`, id, query.media !== '0'),
  )

  /** What is long is answered with 202 and the state that it is in; how it goes on is asked for under its key. */
  serve(ROUTES.bringBackup, async (request, reply) => {
    for await (const part of uploadsOf(request)) {
      const { key } = await imports.receive(part.file, part.filename || 'the backup')
      const found = await imports.settled(key)
      return reply.status(found.state === 'waiting' ? 201 : 202).send(found)
    }
    throw new Fault('invalid', 'The upload holds no file.')
  })

  serve(ROUTES.imports, () => imports.list())
  serve(ROUTES.import, ({ params }) => imports.get(params.key))

  serve(ROUTES.acceptImport, async ({ params: { key }, query: { again, missing } }, reply) => {
    imports.accept(key, { again: again === '1', waiting: missing === '1' })
    const found = await imports.settled(key)
    return reply.status(found.state === 'taken' ? 200 : 202).send(found)
  })

  serve(ROUTES.dropImport, ({ params }) => imports.drop(params.key))
}
