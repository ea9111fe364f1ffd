import { ROUTES } from '@fogbath/contract'
import { KeptList, Medium, Production, Shot } from '../db/models'
import { findRow } from '../db/rows'
import { asRead, wholeShots } from '../db/shots'
import { editOf } from '../edits/out'
import { planEdit } from '../edits/plan'
import { splitShot } from '../edits/split'
import { takeEdit } from '../edits/take'
import type { App, Context } from './context'
import { downloadName } from './download'
import { serverOf } from './serve-route'

/** Edits in and out, cuts that are found, shots that are made of one. */
export function editRoutes(app: App, { db, store, watched, cuts }: Context): void {
  const serve = serverOf(app)
  const places = { store, watched: watched === null ? null : { path: watched, name: 'the watched folder' } }

  serve(ROUTES.editList, async ({ params }) => {
    const { id } = await findRow(Production, params.id, 'production')
    return (await KeptList.findByPk(id, { attributes: ['name', 'fps', 'content'] }))?.toJSON() ?? null
  })

  serve(ROUTES.planEdit, async ({ params, body }) => {
    const { id } = await findRow(Production, params.id, 'production')
    return (await planEdit(id, body, places)).plan
  })

  serve(ROUTES.takeEdit, async ({ params, body: { key, remove, ...list } }) => {
    const { id } = await findRow(Production, params.id, 'production')
    return takeEdit(db, id, { list, key, remove }, places)
  })

  serve(ROUTES.editFile, async ({ params, query: { form, fps } }, reply) => {
    const production = await findRow(Production, params.id, 'production')
    return reply
      .headers({
        'content-type': form === 'otio' ? 'application/json' : 'text/plain; charset=utf-8',
        'cache-control': 'no-store',
        'content-disposition': downloadName(`edit.${form}`, `${production.name}.${form}`),
      })
      .send(Buffer.from(await editOf(production, form, fps)))
  })

  serve(ROUTES.splitShot, async ({ params, body: { revision, starts } }) => {
    await findRow(Shot, params.id, 'shot')
    const ids = await splitShot(db, params.id, revision, starts)
    return { shots: await wholeShots({ id: ids }, store.health) }
  })

  serve(ROUTES.cuts, async ({ params, query: { threshold, least, ...reading } }) => {
    const found = await findRow(Medium, params.id, 'medium')
    await store.checkHere(found)
    const medium = asRead(found.toJSON(), reading)
    const options = { ...(threshold !== undefined && { threshold }), ...(least !== undefined && { least }) }
    return cuts.of(medium, reading, store.sourceOf(medium), options)
  })

  serve(ROUTES.stopCuts, async ({ params }) => cuts.stop(await findRow(Medium, params.id, 'medium')))
}
