import { newId } from '@fogbath/core'
import { KeptMask } from '../db/models'
import { updateRow } from '../db/rows'
import type { App } from './context'
import { IdParams, KeptMaskChange, NewKeptMask } from './schemas'

/** Masks that are kept for other baths and shots; nothing is ever deleted. */
export function maskRoutes(app: App): void {
  app.get('/api/masks', () => KeptMask.findAll({ order: [['id', 'DESC']] }))

  app.post('/api/masks', { schema: { body: NewKeptMask } }, async (request, reply) =>
    reply.status(201).send(await KeptMask.create({ key: newId(), ...request.body })),
  )

  app.patch('/api/masks/:id', { schema: { params: IdParams, body: KeptMaskChange } }, (request) => {
    const { revision, ...changes } = request.body
    return updateRow(KeptMask, Number(request.params.id), revision, changes, 'mask')
  })
}
