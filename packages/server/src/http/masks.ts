import { ROUTES } from '@fogbath/contract'
import { newId } from '@fogbath/core/line'
import { KeptMask } from '../db/models'
import { updateRow } from '../db/rows'
import type { App } from './context'
import { serverOf } from './serve-route'

/** Masks that are kept for other baths and shots; nothing is ever deleted. */
export function maskRoutes(app: App): void {
  const serve = serverOf(app)
  serve(ROUTES.masks, () => KeptMask.findAll({ order: [['id', 'DESC']] }))

  serve(ROUTES.keepMask, ({ body }) => KeptMask.create({ key: newId(), ...body }))

  serve(ROUTES.changeMask, ({ params, body: { revision, ...changes } }) =>
    updateRow(KeptMask, params.id, revision, changes, 'mask'),
  )
}
