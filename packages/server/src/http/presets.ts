import { ROUTES } from '@fogbath/contract'
import { checkDelivery, type Delivery } from '@fogbath/core/delivery'
import { UniqueConstraintError } from 'sequelize'
import { KeptPreset } from '../db/models'
import { deleteRow, updateRow } from '../db/rows'
import { Fault } from '../errors'
import { encodingRefOf } from '../shelf/encodings'
import type { App } from './context'
import { serverOf } from './serve-route'

async function checked(delivery: Delivery | undefined): Promise<void> {
  if (!delivery) return
  checkDelivery(delivery)
  if (delivery.to !== undefined) await encodingRefOf(delivery.to)
}

/** Two deliveries of one name could not be told apart. */
const named = <T>(name: string | undefined, work: Promise<T>): Promise<T> =>
  work.catch((error: unknown) => {
    if (error instanceof UniqueConstraintError) throw new Fault('invalid', `There is a preset called ${name} already.`)
    throw error
  })

/** Deliveries under a name. */
export function presetRoutes(app: App): void {
  const serve = serverOf(app)
  serve(ROUTES.presets, () => KeptPreset.findAll({ order: [['name', 'ASC']] }))
  serve(ROUTES.keepPreset, async ({ body: { name, delivery } }) => {
    await checked(delivery)
    return named(name, KeptPreset.create({ name: name.trim(), delivery }))
  })
  serve(ROUTES.changePreset, async ({ params, body: { revision, ...changes } }) => {
    await checked(changes.delivery)
    return named(changes.name, updateRow(KeptPreset, params.id, revision, changes, 'preset'))
  })
  serve(ROUTES.deletePreset, ({ params, query }) => deleteRow(KeptPreset, params.id, query.revision, 'preset'))
}
