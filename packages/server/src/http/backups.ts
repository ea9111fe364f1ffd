import { writeBackup } from '../backup/write'
import { Fault } from '../errors'
import type { App, Context } from './context'
import { BackupQuery, IdParams, ImportParams } from './schemas'
import { uploadsOf } from './uploads'

/** Backups out and in: all productions, or one that is taken along; what comes in is looked at before it is taken in. */
export function backupRoutes(app: App, { db, store, imports }: Context): void {
  const send = async (production: number | null, media: boolean) =>
    writeBackup({ db, store, production, media }) as Promise<NodeJS.ReadableStream>
  const headers = (name: string) => ({
    'content-type': 'application/zip',
    'cache-control': 'no-store',
    'content-disposition': `attachment; filename="${name}.zip"`,
  })
  const today = (): string => new Date().toISOString().slice(0, 10)

  app.get('/api/backup', { schema: { querystring: BackupQuery } }, async (request, reply) =>
    reply.headers(headers(`fogbath-${today()}`)).send(await send(null, request.query.media !== '0')),
  )

  app.get(
    '/api/productions/:id/along',
    { schema: { params: IdParams, querystring: BackupQuery } },
    async (request, reply) => {
      const id = Number(request.params.id)
      return reply
        .headers(headers(`fogbath-production-${id}-${today()}`))
        .send(await send(id, request.query.media !== '0'))
    },
  )

  app.post('/api/imports', async (request, reply) => {
    for await (const part of uploadsOf(request))
      return reply.status(201).send(await imports.receive(part.file, part.filename || 'the backup'))
    throw new Fault('invalid', 'The upload holds no file.')
  })

  app.post('/api/imports/:key/accept', { schema: { params: ImportParams } }, async (request) => ({
    productions: await imports.accept(request.params.key, db, store),
  }))

  app.delete('/api/imports/:key', { schema: { params: ImportParams } }, async (request, reply) => {
    await imports.drop(request.params.key)
    return reply.status(204).send()
  })
}
